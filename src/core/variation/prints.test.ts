import fc from 'fast-check';
import { oak } from '../testing/surfaces';
import type { Material } from '../material/schema';
import { type DealtRows, openPrints, turnsOfPrints } from './prints';
import { plainVariation, type VariationSpec } from './schema';

const rowsOf = (prints: number[], seeds: number[]): DealtRows => ({
  count: prints.length,
  material: new Uint8Array(prints.length),
  seed: Uint32Array.from(seeds),
  print: Int32Array.from(prints),
  u: new Float64Array(prints.length),
  v: new Float64Array(prints.length),
});
const open = (
  material: Partial<Material>,
  largest: [number, number],
  variation: Partial<VariationSpec> = {},
  neighbours = 6,
) => {
  const m = oak({ widthMm: 2000, heightMm: 1000, ...material });
  return openPrints(m, m, { ...plainVariation(), ...variation }, largest, neighbours);
};
/** Middles of all prints, for one seed. */
const middles = (prints: ReturnType<typeof open>, seed = 5) => {
  const rows = rowsOf([...Array(prints.count).keys()], Array(prints.count).fill(seed) as number[]);
  prints.place(rows, 0);
  return [...rows.u].map((u, n): [number, number] => [u, rows.v[n]]);
};

describe('places in a picture', () => {
  test('as many as fit beside each other: round one that closes on itself, within one that does not', () => {
    // 200 × 100 with a quarter overlapping: 150 and 75 apart
    expect(open({}, [200, 100])).toMatchObject({ count: 13 * 13, leaves: 1, byLeaf: false, enlarged: 1 });
    expect(open({ seamless: false }, [200, 100]).count).toBe(13 * 13);
    expect(open({ seamless: false }, [1000, 500]).count).toBe(2 * 2);
    expect(open({}, [1000, 500]).count).toBe(2 * 2);
    expect(open({}, [2000, 1000]).count).toBe(1);
    expect(open({}, [200, 100], { overlapShare: 0 }).count).toBe(10 * 10);
    expect(open({}, [200, 100], { overlapShare: 0.5 }).count).toBe(20 * 20);
  });

  test('two never come nearer than is allowed, and none leaves a picture that does not close', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 40, max: 1900, noNaN: true }),
        fc.double({ min: 40, max: 900, noNaN: true }),
        fc.double({ min: 0, max: 0.9, noNaN: true }),
        fc.boolean(),
        fc.nat(1e6),
        (w, h, overlapShare, seamless, seed) => {
          const prints = open({ seamless }, [w, h], { overlapShare });
          const all = middles(prints, seed);
          const [sx, sy] = [w * (1 - overlapShare), h * (1 - overlapShare)];
          const near = 1e-6;
          const beyond = all.filter(
            ([x, y]) => x < w / 2 - near || x > 2000 - w / 2 + near || y < h / 2 - near || y > 1000 - h / 2 + near,
          );
          if (!seamless) expect(beyond).toEqual([]);
          const round = (d: number, side: number) => (seamless ? Math.min(d, side - d) : d);
          const some = all.slice(0, 60);
          const tooNear = some.flatMap((a, n) =>
            some
              .slice(n + 1)
              .filter((b) => {
                const [x, y] = [round(Math.abs(a[0] - b[0]), 2000), round(Math.abs(a[1] - b[1]), 1000)];
                return x < sx - near && y < sy - near;
              })
              .map((b) => [a, b]),
          );
          expect(tooNear).toEqual([]);
        },
      ),
    );
  });

  test('what is left over is play: the same print lies a little otherwise from piece to piece', () => {
    const prints = open({}, [1200, 600]);
    expect(prints.count).toBe(2 * 2);
    const [a, b] = [middles(prints, 1)[0], middles(prints, 2)[0]];
    expect(a).not.toEqual(b);
    expect(Math.abs(a[0] - b[0])).toBeLessThan(2000 / 2 - 900 + 1e-6);
    // without any left over, they lie the same
    const full = open({}, [1000, 500], { overlapShare: 0 });
    expect(middles(full, 1)).toEqual(middles(full, 2));
  });

  test('other materials’ pieces are left alone', () => {
    const rows = rowsOf([0, 0], [1, 1]);
    rows.material[1] = 1;
    rows.u.fill(-7);
    open({}, [200, 100]).place(rows, 0);
    expect(rows.u[0]).not.toBe(-7);
    expect(rows.u[1]).toBe(-7);
    expect(rows.v[1]).toBe(0);
  });

  test('smaller pictures within a piece, and turned prints, take more of the picture', () => {
    expect(open({}, [200, 100], { sizePercent: { from: 50, to: 100 } }).count).toBe(6 * 6);
    expect(open({}, [200, 100], { sizePercent: { from: 100, to: 200 } }).count).toBe(13 * 13);
    // by quarters the longer side decides; by anything else the diagonal
    expect(open({}, [200, 100], { turnStepDeg: 180 }).count).toBe(13 * 13);
    expect(open({}, [200, 100], { turnStepDeg: 90 }).count).toBe(13 * 6);
    expect(open({}, [300, 400], { turnStepDeg: 45 }).count).toBe(5 * 2);
    // grain that runs up the picture swaps the sides
    expect(open({ grain: 'y' }, [200, 100]).count).toBe(26 * 6);
  });
});

describe('slides', () => {
  test('null takes all there is; a slide takes what it spans', () => {
    const prints = open({}, [200, 100], { slideAlong: { fromMm: 0, toMm: 300, stepMm: 0 } });
    expect(prints.count).toBe(3 * 13);
    const xs = middles(prints).map(([x]) => x);
    expect(Math.min(...xs)).toBeGreaterThanOrEqual(100);
    expect(Math.max(...xs)).toBeLessThanOrEqual(400 + 1e-9);
    const still = open({}, [200, 100], { slideAlong: { fromMm: 40, toMm: 40, stepMm: 0 } });
    expect(still.count).toBe(13);
    for (const [x] of middles(still)) expect(x).toBeCloseTo(140, 9);
  });

  test('in steps: places lie on whole steps from its beginning', () => {
    const prints = open({}, [200, 100], { slideAlong: { fromMm: 10, toMm: 910, stepMm: 90 } });
    for (const seed of [1, 2, 3]) {
      for (const [x] of middles(prints, seed)) expect(((x - 110) / 90) % 1).toBeCloseTo(0, 6);
    }
    // eleven places, each second far enough from the one before
    expect(prints.count).toBe(6 * 13);
    expect(open({}, [80, 100], { slideAlong: { fromMm: 10, toMm: 910, stepMm: 90 } }).count).toBe(11 * 13);
  });

  test('either way round, and across the grain as along it', () => {
    const there = open({}, [200, 100], { slideAcross: { fromMm: 20, toMm: 320, stepMm: 0 } });
    const back = open({}, [200, 100], { slideAcross: { fromMm: 320, toMm: 20, stepMm: 0 } });
    expect(back.count).toBe(there.count);
    expect(middles(back)).toEqual(middles(there));
    const upright = open({ grain: 'y' }, [200, 100], { slideAcross: { fromMm: 20, toMm: 20, stepMm: 0 } });
    for (const [x] of middles(upright)) expect(x).toBeCloseTo(70, 9);
  });

  test('beyond a picture that does not close they stop at its edge', () => {
    const prints = open({ seamless: false }, [200, 100], { slideAlong: { fromMm: -500, toMm: 9000, stepMm: 0 } });
    for (const [x] of middles(prints)) {
      expect(x).toBeGreaterThanOrEqual(100);
      expect(x).toBeLessThanOrEqual(1900 + 1e-9);
    }
  });
});

describe('leaves', () => {
  const leafy = { seamless: false, leaves: { columns: 2, rows: 4, insetMm: 10 } };

  test('each is a picture of its own, within its inset', () => {
    const prints = open(leafy, [900, 200]);
    expect(prints).toMatchObject({ leaves: 8, enlarged: 1, byLeaf: true, distinct: 8 });
    const rows = rowsOf([0, 1, 2, 7], [3, 3, 3, 3]);
    prints.place(rows, 0);
    // counted from the upper left, measured from the lower left
    const inside = (n: number, x: [number, number], y: [number, number]) => {
      expect(rows.u[n] - 450).toBeGreaterThanOrEqual(x[0] + 10 - 1e-9);
      expect(rows.u[n] + 450).toBeLessThanOrEqual(x[1] - 10 + 1e-9);
      expect(rows.v[n] - 100).toBeGreaterThanOrEqual(y[0] + 10 - 1e-9);
      expect(rows.v[n] + 100).toBeLessThanOrEqual(y[1] - 10 + 1e-9);
    };
    inside(0, [0, 1000], [750, 1000]);
    inside(1, [1000, 2000], [750, 1000]);
    inside(2, [0, 1000], [500, 750]);
    inside(3, [1000, 2000], [0, 250]);
  });

  test('too few for the neighbours, prints tell them apart; with more, leaves alone do', () => {
    expect(open(leafy, [300, 200], {}, 7)).toMatchObject({ byLeaf: true, distinct: 8 });
    const few = open(leafy, [300, 200], {}, 8);
    expect(few).toMatchObject({ byLeaf: false, leaves: 8 });
    expect(few.distinct).toBe(few.count);
    expect(few.count).toBe(8 * 4);
  });

  test('one that is chosen is the only one; beyond the last it is the last', () => {
    expect(open(leafy, [900, 200], { leaf: { column: 1, row: 3 } }).leaves).toBe(1);
    const [[x, y]] = middles(open(leafy, [980, 230], { leaf: { column: 1, row: 3 } }));
    expect([x, y]).toEqual([1500, 125]);
    expect(middles(open(leafy, [980, 230], { leaf: { column: 9, row: 9 } }))).toEqual([[1500, 125]]);
  });

  test('a piece larger than any is shown enlarged, and by how much is told', () => {
    const prints = open(leafy, [1470, 230]);
    expect(prints.enlarged).toBeCloseTo(1.5, 9);
    expect(open(leafy, [980, 460]).enlarged).toBeCloseTo(2, 9);
    expect(open({ seamless: false }, [4000, 100]).enlarged).toBeCloseTo(2, 9);
    // a picture that closes has no end
    expect(open({}, [4000, 3000]).enlarged).toBe(1);
  });

  test('uneven ones: those too small are not dealt', () => {
    const uneven = { seamless: false, leaves: { columns: 1, rows: 3, insetMm: 0, rowLines: [0.2, 0.6] } };
    // 200, 400 and 400 high
    expect(open(uneven, [500, 380]).leaves).toBe(2);
    expect(open(uneven, [500, 180]).leaves).toBe(3);
    const high = open(uneven, [500, 800]);
    expect(high.leaves).toBe(2);
    expect(high.enlarged).toBeCloseTo(2, 9);
  });
});

test('turns: the grain along the piece, and steps on it', () => {
  const degrees = (m: Partial<Material>, v: Partial<VariationSpec> = {}) =>
    turnsOfPrints(oak(m), { ...plainVariation(), ...v }).map(([c, s]) =>
      Math.round((Math.atan2(s, c) * 180) / Math.PI),
    );
  expect(degrees({ grain: 'x' })).toEqual([0]);
  expect(degrees({ grain: 'none' })).toEqual([0]);
  expect(degrees({ grain: 'y' })).toEqual([90]);
  expect(degrees({ grain: 'x' }, { turnStepDeg: 90 })).toEqual([0, 90, 180, -90]);
  expect(degrees({ grain: 'y' }, { turnStepDeg: 180 })).toEqual([90, -90]);
  expect(degrees({}, { turnStepDeg: 120 })).toEqual([0, 120, -120]);
});

test('leaves that lie in no grid: a piece comes from one in which it has room, or the one that is chosen', () => {
  const places = [
    { x: 0.05, y: 0.1, width: 0.3, height: 0.2 },
    { x: 0.4, y: 0.1, width: 0.5, height: 0.2 },
    { x: 0.05, y: 0.5, width: 0.4, height: 0.4 },
  ];
  const leaves = { columns: 1, rows: 1, insetMm: 5, places };
  // mm from the picture's lower left
  const boxes = places.map(({ x, y, width, height }) => ({
    x: [x * 2000 + 5, (x + width) * 2000 - 5],
    y: [(1 - y - height) * 1000 + 5, (1 - y) * 1000 - 5],
  }));
  const lieIn = (prints: ReturnType<typeof open>, w: number, h: number, among: number[]) =>
    middles(prints).every(([u, v]) =>
      among.some((n) => {
        const { x, y } = boxes[n];
        return (
          u - w / 2 >= x[0] - 1e-6 && u + w / 2 <= x[1] + 1e-6 && v - h / 2 >= y[0] - 1e-6 && v + h / 2 <= y[1] + 1e-6
        );
      }),
    );
  const small = open({ leaves }, [300, 100]);
  expect(small.leaves).toBe(3);
  expect(lieIn(small, 300, 100, [0, 1, 2])).toBe(true);
  // only the second is so long
  const long = open({ leaves }, [900, 100]);
  expect([long.leaves, long.enlarged]).toEqual([1, 1]);
  expect(lieIn(long, 900, 100, [1])).toBe(true);
  const chosen = open({ leaves }, [300, 100], { leaf: { column: 2, row: 0 } });
  expect([chosen.leaves, lieIn(chosen, 300, 100, [2])]).toEqual([1, true]);
});
