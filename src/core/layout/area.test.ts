import fc from 'fast-check';
import type { Loop } from '../geometry/loop';
import { holdsPoint } from '../geometry/loop';
import { rectangle } from '../testing/surfaces';
import { areaOf } from './area';

const door: Loop = [
  [1000, 0],
  [1000, 2100],
  [1900, 2100],
  [1900, 0],
];
const hole: Loop = [
  [2500, 900],
  [2500, 1800],
  [3300, 1800],
  [3300, 900],
];

describe('spans of a course', () => {
  test('run through where outlines lie over one another, whichever way all of them go round', () => {
    const box = (x0: number, x1: number): [number, number][] => [
      [x0, 0],
      [x1, 0],
      [x1, 500],
      [x0, 500],
    ];
    const loops = [box(0, 300), box(100, 200), box(250, 600), box(900, 1000)];
    for (const all of [loops, loops.map((l) => [...l].reverse())])
      expect(
        areaOf(all)
          .spans(100, 200)
          .map((s) => [s.from, s.to]),
      ).toEqual([
        [0, 600],
        [900, 1000],
      ]);
    // a hole is one only where nothing else lies
    const hole = [...box(120, 160)].reverse();
    expect(areaOf([box(0, 300), hole]).spans(100, 200)).toHaveLength(2);
    expect(areaOf([box(0, 300), hole, box(100, 200)]).spans(100, 200)).toHaveLength(1);
  });

  test('between openings too, each with what its ends are', () => {
    const wall = areaOf([rectangle(4000, 2600), hole]);
    expect(wall.spans(100, 175)).toEqual([{ from: 0, to: 4000, uprightFrom: true, uprightTo: true }]);
    expect(wall.spans(1000, 1075)).toEqual([
      { from: 0, to: 2500, uprightFrom: true, uprightTo: true },
      { from: 3300, to: 4000, uprightFrom: true, uprightTo: true },
    ]);
    // an opening that begins within the course leaves it in one
    expect(wall.spans(860, 935)).toHaveLength(1);
  });

  test('a door cuts the courses it reaches through', () => {
    const outline: Loop = [[0, 0], door[0], door[1], door[2], door[3], [4000, 0], [4000, 2600], [0, 2600]];
    const wall = areaOf([outline]);
    expect(wall.spans(0, 75).map((s) => [s.from, s.to])).toEqual([
      [0, 1000],
      [1900, 4000],
    ]);
    expect(wall.spans(2200, 2275)).toHaveLength(1);
    expect(wall.spans(3000, 3075)).toEqual([]);
  });

  test('a slanted end is not upright, and the span reaches as far as any of it', () => {
    const gable = areaOf([
      [
        [0, 0],
        [2000, 0],
        [1000, 1000],
      ],
    ]);
    const [span, ...others] = gable.spans(400, 500);
    expect(others).toEqual([]);
    expect([span.from, span.to]).toEqual([400, 1600]);
    expect([span.uprightFrom, span.uprightTo]).toEqual([false, false]);
  });

  test('together they are the places over which something of the surface lies', () => {
    const star = (radii: number[]): Loop =>
      radii.map((r, i) => {
        const a = (i / radii.length) * 2 * Math.PI;
        return [500 + r * Math.cos(a), 500 + r * Math.sin(a)];
      });
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 60, max: 480 }), { minLength: 5, maxLength: 14 }),
        fc.integer({ min: 40, max: 900 }),
        (radii, y) => {
          const loop = star(radii);
          const spans = areaOf([loop]).spans(y, y + 60);
          for (let i = 1; i < spans.length; i++) expect(spans[i].from).toBeGreaterThan(spans[i - 1].to);
          for (let x = 5; x < 1000; x += 23) {
            let seen = false;
            for (let k = 1; k < 60 && !seen; k++) seen = holdsPoint([loop], [x, y + k]);
            const held = spans.some((s) => x >= s.from && x <= s.to);
            // what is seen lies in a span; a span may hold a sliver that the probes step over
            if (seen) expect(held).toBe(true);
          }
          const whole = areaOf([loop]).span(y, y + 60);
          if (whole && spans.length) {
            expect(spans[0].from).toBeCloseTo(whole.from, 6);
            expect(spans[spans.length - 1].to).toBeCloseTo(whole.to, 6);
          } else expect(spans).toHaveLength(0);
        },
      ),
      { numRuns: 60 },
    );
  });
});
