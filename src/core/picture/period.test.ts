import { UNSEEN } from '../testing/grounds';
import { photograph } from '../testing/walls';
import { GROUNDS, plainShot, takePhotograph } from './camera';
import { findPeriod } from './period';
import { blankRaster, type Raster } from './raster';
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

  // what hardly changes along is alike after any shift; fine noise that comes round says nothing of it
  test('upright stripes over noise that comes round: one across, none along', () => {
    const stripes = blankRaster(400, 300, 3);
    for (let i = 0; i < stripes.data.length; i++) {
      const [x, y] = [Math.floor(i / 3) % 400, Math.floor(i / 1200)];
      stripes.data[i] = Math.round(140 + 50 * Math.sin(x / 3 + Math.sin(y / 40)) + ((i * 7919) % 23)) * 257;
    }
    const { x, y } = findPeriod(stripes);
    expect(Math.abs(x!.pixels / (6 * Math.PI) - 1)).toBeLessThan(0.01);
    expect(y).toBeNull();
  });

  test.each([
    ['larch', 90, 0],
    ['larch', 250, 0],
    ['larch', 250, 90],
    ['rush', 90, 0],
    ['rush', 250, 90],
    ['boards', 600, 90],
    ['boards', 1500, 1],
  ] as const)('%s, %d mm of it, turned by %d°: none along the grain', (name, seenMm, turnDeg) => {
    const { ground } = { ...GROUNDS, ...UNSEEN }[name];
    const period = findPeriod(photograph(ground, { widthPx: 600, heightPx: 450, seenMm, turnDeg, seed: seenMm }));
    expect(turnDeg === 90 ? period.y : period.x).toBeNull();
  });

  test('a few pixels are no period only because nothing lies far from its like', () => {
    const corners: [number, number][] = [
      [0, 0],
      [1, 0.01],
      [0.99, 1],
      [0.01, 0.99],
    ];
    const { ground } = GROUNDS.boards;
    const { y } = findPeriod(photograph(ground, { widthPx: 600, heightPx: 450, seenMm: 1500, seed: 1500, corners }));
    expect(y === null || y.pixels > 28).toBe(true);
  });
});
