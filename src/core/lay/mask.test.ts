import fc from 'fast-check';
import { boundsOfLoops, holdsPoint, type Loop } from '../geometry/loop';
import { polygon, rectangle } from '../testing/surfaces';
import { INSIDE, ON_EDGE, openMask, OUTSIDE } from './mask';

const star = fc.array(fc.integer({ min: 200, max: 900 }), { minLength: 5, maxLength: 16 }).map((radii): Loop =>
  radii.map((r, i) => {
    const a = (i / radii.length) * 2 * Math.PI;
    return [1000 + r * Math.cos(a), 1000 + r * Math.sin(a)];
  }),
);
const hole: Loop = [...polygon(150, 9, 0.2, 1000, 1000)].reverse();

describe('the outline’s mask', () => {
  test('is never wrong about inside and outside, whatever the grain and however it is asked', () => {
    fc.assert(
      fc.property(
        star,
        fc.boolean(),
        fc.integer({ min: 5, max: 400 }),
        fc.array(fc.tuple(fc.integer({ min: 0, max: 2000 }), fc.integer({ min: 0, max: 2000 })), {
          minLength: 20,
          maxLength: 40,
        }),
        fc.integer({ min: 3, max: 160 }),
        (outer, pierced, grain, places, side) => {
          const loops = pierced ? [outer, hole] : [outer];
          const mask = openMask(loops, boundsOfLoops(loops), grain);
          // row by row, as layouts ask, so that remembered stretches come into it
          for (const [x, y] of places.sort((a, b) => a[1] - b[1] || a[0] - b[0])) {
            const said = mask.classify(x, y, x + side, y + side / 2);
            if (said === ON_EDGE) continue;
            for (const u of [0.02, 0.35, 0.65, 0.98]) {
              for (const v of [0.02, 0.5, 0.98]) {
                expect(holdsPoint(loops, [x + u * side, y + (v * side) / 2])).toBe(said === INSIDE);
              }
            }
          }
        },
      ),
      { numRuns: 120 },
    );
  });

  test('remembers only what is true: rows asked from end to end, and again, in any order', () => {
    fc.assert(
      fc.property(
        star,
        fc.boolean(),
        fc.integer({ min: 20, max: 120 }),
        fc.array(fc.integer({ min: 0, max: 12 }), { minLength: 3, maxLength: 6 }),
        fc.integer({ min: 20, max: 200 }),
        (outer, pierced, grain, rows, step) => {
          const loops = pierced ? [outer, hole] : [outer];
          const mask = openMask(loops, boundsOfLoops(loops), grain);
          for (const row of rows) {
            const [y, height] = [row * 160, 70];
            for (let x = -100; x < 2100; x += step) {
              const said = mask.classify(x, y, x + step, y + height);
              if (said === ON_EDGE) continue;
              for (const u of [0.01, 0.5, 0.99])
                for (const v of [0.01, 0.5, 0.99])
                  expect(holdsPoint(loops, [x + u * step, y + v * height])).toBe(said === INSIDE);
            }
          }
        },
      ),
      { numRuns: 80 },
    );
  });

  test('knows most of a large wall at once', () => {
    const wall = rectangle(10_000, 3000);
    const mask = openMask([wall], boundsOfLoops([wall]), 35);
    let sure = 0;
    let all = 0;
    for (let y = 0; y < 3000; y += 75) {
      for (let x = 0; x < 10_000; x += 225) {
        all++;
        if (mask.classify(x, y, x + 225, y + 75) !== ON_EDGE) sure++;
      }
    }
    expect(sure / all).toBeGreaterThan(0.9);
    expect(mask.classify(-500, 0, -200, 75)).toBe(OUTSIDE);
    expect(mask.classify(-100, 1000, 100, 1075)).toBe(ON_EDGE);
  });
});
