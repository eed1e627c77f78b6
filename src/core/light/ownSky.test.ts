import fc from 'fast-check';
import type { Vec3 } from '../geometry/vec';
import { luminance } from './sky';
import { levelOf, packSky, shrinkSky, skyFromPicture, type SkyPicture, takeOutSun, turned, unpackSky } from './ownSky';

/** A sky of one colour, brighter above, with a disc of `sun` at a place if asked. */
function sky(width: number, sun?: { towards: Vec3; value: number; radius: number }): SkyPicture {
  const height = width / 2;
  const numbers = new Float32Array(width * height * 3);
  for (let row = 0; row < height; row++)
    for (let column = 0; column < width; column++) {
      const turn = ((column + 0.5) / width) * 2 * Math.PI - Math.PI;
      const up = (((row + 0.5) / height) * 2 - 1) * (Math.PI / 2);
      const d = [Math.cos(turn) * Math.cos(up), Math.sin(up), Math.sin(turn) * Math.cos(up)];
      const away = sun
        ? Math.acos(
            Math.min(
              1,
              d.reduce((s, v, i) => s + v * sun.towards[i], 0),
            ),
          )
        : 9;
      const base = up > 0 ? 0.5 + 0.5 * Math.sin(up) : 0.2;
      const value = sun && away < sun.radius ? sun.value : base;
      numbers.set([value * 0.8, value * 0.9, value], (row * width + column) * 3);
    }
  return { width, height, numbers };
}

describe('a sky of one’s own', () => {
  const towards: Vec3 = [0.6, 0.48, -0.64];

  it('gives up its sun: where it stands, how much light it has, and what is left is sky', () => {
    const { sky: left, sun } = takeOutSun(sky(512, { towards, value: 5000, radius: 0.05 }));
    expect(sun).not.toBeNull();
    sun!.towards.forEach((v, c) => expect(v).toBeCloseTo(towards[c], 2));
    // a disc of 0.05 radians of 5000: 2 π (1 − cos 0.05) × 5000 = 39.3
    expect(sun!.light[2] / 39.3).toBeGreaterThan(0.9);
    expect(sun!.light[2] / 39.3).toBeLessThan(1.1);
    expect(left.numbers.reduce((most, v) => Math.max(most, v), 0)).toBeLessThan(10);
  });

  it('has none where nothing is far brighter than the rest', () => {
    const plain = sky(256);
    expect(takeOutSun(plain)).toEqual({ sky: plain, sun: null });
    expect(takeOutSun(sky(256, { towards, value: 4, radius: 0.3 })).sun).toBeNull();
  });

  it('is as light as skies are, however bright its file', () => {
    for (const times of [0.01, 1, 300]) {
      const one = sky(128);
      const brighter = { ...one, numbers: one.numbers.map((v) => v * times) };
      const gain = levelOf(brighter);
      let level = 0;
      const at = skyFromPicture(brighter, 0, gain);
      for (let i = 0; i < 60; i++)
        for (let j = 0; j < 120; j++) {
          const y = (i + 0.5) / 60;
          const turn = (j / 60) * Math.PI;
          const flat = Math.sqrt(1 - y * y);
          level += (luminance(at([flat * Math.cos(turn), y, flat * Math.sin(turn)])) * y * 2) / 7200;
        }
      expect(level).toBeCloseTo(0.2, 2);
    }
  });

  it('turns clockwise seen from above, and is mixed between its places', () => {
    expect(turned([0, 0, -1], 90).map((v) => Math.round(v) + 0)).toEqual([1, 0, 0]);
    const bright = sky(64, { towards: [0, 0.5, -Math.sqrt(0.75)], value: 30, radius: 0.3 });
    const at = skyFromPicture(bright, 90, 1);
    expect(at([Math.sqrt(0.75), 0.5, 0])[2]).toBeGreaterThan(20);
    expect(at([0, 0.5, -Math.sqrt(0.75)])[2]).toBeLessThan(2);
    const around = Array.from({ length: 2000 }, (_, n) => at([Math.cos(n / 318.3), 0, Math.sin(n / 318.3)])[1]);
    for (let n = 1; n < around.length; n++) expect(Math.abs(around[n] - around[n - 1])).toBeLessThan(0.05);
  });

  it('keeps its light when it is made smaller', () => {
    const large = sky(512, { towards, value: 5000, radius: 0.02 });
    const gain = levelOf(large);
    expect(levelOf(shrinkSky(large, 64, 32)) / gain).toBeCloseTo(1, 1);
    expect(shrinkSky(sky(16), 64, 32).numbers.every((v) => v > 0)).toBe(true);
  });

  it('comes back from plain pixels within a two-hundredth of its brightest number', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0, max: 1e5, noNaN: true }), { minLength: 24, maxLength: 24 }),
        (values) => {
          const one = { width: 4, height: 2, numbers: Float32Array.from(values) };
          const back = unpackSky(packSky(one), 8, 2);
          for (let n = 0; n < 8; n++) {
            const most = Math.max(...values.slice(n * 3, n * 3 + 3), 1e-30);
            for (let c = 0; c < 3; c++)
              expect(Math.abs(back.numbers[n * 3 + c] - one.numbers[n * 3 + c])).toBeLessThanOrEqual(most / 200);
          }
        },
      ),
    );
  });
});
