import fc from 'fast-check';
import { leastBetween } from './plankRows';
import { before, common, holds, joined, keptApart, type Places, placeAt, reachable } from './reach';
import { fitExactly, type RowRule } from './exactRow';

const intervals = fc
  .array(fc.tuple(fc.integer({ min: 0, max: 500 }), fc.integer({ min: 0, max: 60 })), { maxLength: 12 })
  .map((list) => list.flatMap(([from, length]): [number, number] => [from, from + length]));
/** Whole and half places, so that borders are met and missed. */
const probes = Array.from({ length: 1300 }, (_, i) => i / 2 - 20);
const inside = (places: Places, x: number) => {
  for (let i = 0; i < places.length; i += 2) if (x >= places[i] && x <= places[i + 1]) return true;
  return false;
};

/** A course laid from one wall to the other. */
const stretch = (course: number, to: number) => ({ course, at: 0, from: 0, to });

describe('sets of places', () => {
  test('joined, they ascend, lie apart, and hold what they held', () => {
    fc.assert(
      fc.property(intervals, (list) => {
        const made = joined(list);
        for (let i = 2; i < made.length; i += 2) expect(made[i]).toBeGreaterThan(made[i - 1]);
        expect(probes.filter((x) => inside(made, x) !== inside(list, x))).toEqual([]);
      }),
      { numRuns: 40 },
    );
  });

  test('what is common lies in both, and nothing else does; looking up finds the same', () => {
    fc.assert(
      fc.property(intervals, intervals, (a, b) => {
        const [p, q] = [joined(a), joined(b)];
        const both = common(p, q);
        expect(probes.filter((x) => inside(both, x) !== (inside(p, x) && inside(q, x)))).toEqual([]);
        expect(probes.filter((x) => holds(p, x) !== inside(p, x))).toEqual([]);
      }),
      { numRuns: 40 },
    );
  });

  test('kept apart: far enough from every other, all the way from one end to the other', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 600 }), { maxLength: 9 }),
        fc.integer({ min: 0, max: 80 }),
        (others, apart) => {
          const list = [...others].sort((a, b) => a - b);
          const places = keptApart(10, 590, [list], apart);
          const wanted = (x: number) => x >= 10 && x <= 590 && list.every((y) => Math.abs(x - y) >= apart);
          expect(probes.filter((x) => holds(places, x) !== wanted(x))).toEqual([]);
        },
      ),
      { numRuns: 40 },
    );
  });

  test('before: exactly the places from which a step leads into the set', () => {
    fc.assert(
      fc.property(intervals, (list) => {
        const places = joined(list);
        const steps = [
          [20, 20],
          [45, 60],
        ] as const;
        const found = before(places, steps);
        const leads = (x: number) => inside(places, x + 20) || common(places, [x + 45, x + 60]).length > 0;
        expect(probes.filter((x) => holds(found, x) !== leads(x))).toEqual([]);
      }),
      { numRuns: 30 },
    );
  });

  test('reachable: whatever whole steps lead on to the goal from, and nothing else', () => {
    const step = fc.tuple(fc.integer({ min: 3, max: 12 }), fc.integer({ min: 0, max: 9 }));
    fc.assert(
      fc.property(intervals, intervals, fc.array(step, { minLength: 1, maxLength: 3 }), (allowedAny, goalAny, raw) => {
        const [allowed, goal] = [joined(allowedAny), joined(goalAny)];
        const steps = raw.map(([least, more]) => [least, least + more] as const);
        const reach = reachable(allowed, goal, steps);
        // step after step from the goal, until nothing new is found
        let all = goal;
        for (let newest = goal; newest.length;) {
          newest = common(allowed, before(newest, steps));
          all = joined([...all, ...newest]);
        }
        expect(reach).toEqual(all);
      }),
    );
  });

  test('a place by its share lies in the set', () => {
    expect(placeAt([0, 10, 20, 40], 0)).toBe(0);
    expect(placeAt([0, 10, 20, 40], 0.5)).toBe(25);
    expect(placeAt([0, 10, 20, 40], 1)).toBe(40);
    expect(placeAt([7, 7], 0.3)).toBe(7);
    expect(placeAt([], 0.3)).toBeNaN();
  });
});

describe('a row by rule', () => {
  const rule = (rest: Partial<RowRule> = {}): RowRule => ({
    lengths: { kind: 'range', fromMm: 600, toMm: 1500 },
    joint: 2,
    leastEnd: 300,
    leastApart: 200,
    layoutNumber: 5,
    ...rest,
  });

  test('boards are as long as they are sold, but for the ends and one that gave way to the last', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1600, max: 12_000 }), fc.integer({ min: 0, max: 999 }), (width, course) => {
        const first = fitExactly(rule(), stretch(course, width), [], 0)!;
        const inner = first.borders.slice(1, -1);
        const row = fitExactly(rule(), stretch(course + 1, width), [inner], 0)!;
        expect(row.borders[0]).toBe(-1);
        expect(row.borders[row.borders.length - 1]).toBe(width + 1);
        expect(leastBetween(inner, row.borders.slice(1, -1))).toBeGreaterThanOrEqual(200 - 1e-6);
        const lengths = row.borders.slice(1).map((b, i) => b - row.borders[i] - 2);
        lengths.forEach((length, i) => {
          expect(length).toBeGreaterThanOrEqual(300 - 1e-6);
          expect(length).toBeLessThanOrEqual(1500 + 1e-6);
          if (!row.sawn.includes(i)) expect(length).toBeGreaterThanOrEqual(600 - 1e-6);
        });
        // only ends are sawn, and the board before the last
        for (const k of row.sawn) expect([0, lengths.length - 2, lengths.length - 1]).toContain(k);
      }),
      { numRuns: 80 },
    );
  });

  test('what is sawn off the last board is what is left over of it', () => {
    const lengths = { kind: 'one', mm: 1000 } as const;
    const row = fitExactly(rule({ lengths, leastApart: 0 }), stretch(3, 4210), [], 0)!;
    const last = row.borders[row.borders.length - 1] - row.borders[row.borders.length - 2] - 2;
    expect(row.offcut).toBeCloseTo(1000 - last - 2, 6);
  });

  test('an off-cut begins the row where it serves, and not where it does not', () => {
    expect(fitExactly(rule(), stretch(0, 5000), [], 444)!.borders[1]).toBe(-1 + 444 + 2);
    // 444 would bring its joint too near to one of the row beside
    const beside = [[500, 1700, 3000]];
    expect(fitExactly(rule(), stretch(0, 5000), beside, 444)!.borders[1]).not.toBe(445);
  });

  test('one board does where it is long enough; nothing is made where nothing keeps the distance', () => {
    expect(fitExactly(rule(), stretch(0, 1400), [], 0)).toMatchObject({ borders: [-1, 1401], sawn: [0] });
    const everywhere = [Array.from({ length: 60 }, (_, i) => i * 100)];
    expect(fitExactly(rule(), stretch(0, 5000), everywhere, 0)).toBeNull();
  });

  test('the same numbers give the same row', () => {
    const beside = [[700, 1900, 3300]];
    expect(fitExactly(rule(), stretch(7, 5000), beside, 0)).toEqual(fitExactly(rule(), stretch(7, 5000), beside, 0));
    const other = fitExactly(rule({ layoutNumber: 6 }), stretch(7, 5000), beside, 0);
    expect(other).not.toEqual(fitExactly(rule(), stretch(7, 5000), beside, 0));
  });
});
