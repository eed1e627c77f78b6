import { GROUNDS, plainShot, takePhotograph } from './camera';
import { findPeriod } from './period';
import type { Raster } from './raster';
import { cornersOf, findHomography, straighten, turnAndShear } from './straighten';

describe('the period of what is laid', () => {
  /** As it is while a photograph is worked on: straightened, but uneven, not quite level, and with the rule in it. */
  const straightened = (ground: keyof typeof GROUNDS, seed: number): Raster => {
    const shot = { ...plainShot, seed, turnDeg: seed - 2, ruleMm: 200 };
    const { raster, heightMm } = takePhotograph(GROUNDS[ground].ground, shot);
    const [w, h] = [1000, Math.round(heightMm)];
    const corners = shot.corners.map(([x, y]): [number, number] => [x * raster.width, y * raster.height]);
    const flat = straighten(raster, findHomography(cornersOf(w, h), corners)!, w, h);
    const turned = turnAndShear(flat, shot.turnDeg + 0.2, 0, 0);
    return straighten(flat, turned.h, turned.width, turned.height);
  };

  test.each([
    ['brick', 225, 150],
    ['cloth', 24, 24],
  ] as const)('%s: all of the bond, whatever lies in the frame', (ground, x, y) => {
    for (const seed of [1, 3]) {
      const period = findPeriod(straightened(ground, seed));
      expect(Math.abs(period.x!.pixels / x - 1)).toBeLessThan(0.01);
      expect(Math.abs(period.y!.pixels / y - 1)).toBeLessThan(0.01);
    }
  });

  test.each(['plaster', 'granite'] as const)('%s has none', (ground) => {
    expect(findPeriod(straightened(ground, 1))).toEqual({ x: null, y: null });
  });

  test('boards have one across, none along', () => {
    const { x, y } = findPeriod(straightened('boards', 1));
    expect(x).toBeNull();
    expect(Math.abs(y!.pixels / 140 - 1)).toBeLessThan(0.01);
  });
});
