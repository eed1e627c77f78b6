import fc from 'fast-check';
import polygonClipping, { type MultiPolygon } from 'polygon-clipping';
import { type Loop, loopArea } from '../geometry/loop';
import { polygon, rectangle, wallMesh, wallSheet } from '../testing/surfaces';
import { borderStrips, listEdges, loopsOf, polygonsOf, tidied, zonePolygons } from './outlines';
import type { BorderShape, ZoneShape } from './schema';

const sheetOf = (...loops: Loop[]) => wallSheet(wallMesh(loops));
const room = sheetOf(rectangle(5000, 4000));
/** Closed, as the library leaves its rings. */
const closed = (region: MultiPolygon) => loopsOf(polygonClipping.union(region));
const areaOf = (region: MultiPolygon) => closed(region).reduce((sum, l) => sum + loopArea(l), 0);
const border = (rest: Partial<BorderShape> = {}): BorderShape => ({
  kind: 'border',
  widthMm: 300,
  courses: null,
  edges: null,
  corners: 'mitred',
  ...rest,
});
const boundsOf = (region: MultiPolygon) => {
  const points = closed(region).flat();
  const xs = points.map(([x]) => x);
  const ys = points.map(([, y]) => y);
  return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
};

describe('edges', () => {
  test('a rectangle has four, each with those beside it, the surface to the left', () => {
    const edges = listEdges(room);
    expect(edges).toHaveLength(4);
    for (const [n, { from, to, before, after }] of edges.entries()) {
      expect(edges[after].from).toEqual(to);
      expect(edges[before].to).toEqual(from);
      expect(edges[after].before).toBe(n);
      const middle = [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2];
      const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
      const l = Math.hypot(dx, dy);
      // a step to the left is inside
      const inside = [middle[0] - dy / l, middle[1] + dx / l];
      expect(inside[0] > 0 && inside[0] < 5000 && inside[1] > 0 && inside[1] < 4000).toBe(true);
    }
  });

  test('corners that hardly turn are none; those of a hole are numbered on', () => {
    const bent = sheetOf([
      [0, 0],
      [2500, 10],
      [5000, 0],
      [5000, 4000],
      [0, 4000],
    ]);
    expect(listEdges(bent)).toHaveLength(4);
    const clearly = sheetOf([
      [0, 0],
      [2500, 100],
      [5000, 0],
      [5000, 4000],
      [0, 4000],
    ]);
    expect(listEdges(clearly)).toHaveLength(5);
    const holed = listEdges(
      sheetOf(rectangle(5000, 4000), [
        [1000, 1000],
        [2000, 1000],
        [2000, 2000],
        [1000, 2000],
      ]),
    );
    expect(holed).toHaveLength(8);
    for (const e of holed.slice(4)) expect(e.before >= 4 && e.after >= 4).toBe(true);
  });
});

test('points are put on a grid of a hundred-thousandth of a millimetre', () => {
  expect(tidied([[1.0000049, -2.0000051]])).toEqual([[1, -2.00001]]);
});

test('loops nest: outer ones less their holes, with what lies in those again', () => {
  const square = (from: number, to: number, clockwise = false): Loop => {
    const loop: Loop = [
      [from, from],
      [to, from],
      [to, to],
      [from, to],
    ];
    return clockwise ? loop.reverse() : loop;
  };
  expect(areaOf(polygonsOf([square(0, 100), square(20, 80, true), square(40, 60)]))).toBeCloseTo(10000 - 3600 + 400, 6);
  expect(areaOf(polygonsOf([square(0, 10), square(50, 60)]))).toBeCloseTo(200, 6);
});

describe('what a zone covers', () => {
  test('rectangles and polygons lie from the sheet’s lower left corner', () => {
    const moved = sheetOf(rectangle(5000, 4000).map(([x, y]) => [x + 700, y - 300]));
    const shape: ZoneShape = { kind: 'rectangle', xMm: 100, yMm: 200, widthMm: 300, heightMm: 400 };
    const at = ([x, y]: number[]) => [x - moved.bounds.minX, y - moved.bounds.minY];
    const [x0, y0, x1, y1] = boundsOf(zonePolygons(shape, moved));
    expect([...at([x0, y0]), ...at([x1, y1])]).toEqual([100, 200, 400, 600]);
    expect(areaOf(zonePolygons(shape, moved))).toBeCloseTo(120_000, 3);
    const triangle: ZoneShape = {
      kind: 'polygon',
      points: [
        [0, 0],
        [600, 0],
        [0, 800],
      ],
    };
    expect(areaOf(zonePolygons(triangle, room))).toBeCloseTo(240_000, 3);
  });

  test('what lies below and above a height is all of it, and nothing twice', () => {
    const moved = sheetOf(rectangle(5000, 4000).map(([x, y]) => [x + 700, y - 300]));
    fc.assert(
      fc.property(fc.integer({ min: -500, max: 4800 }), fc.constantFrom('foot', 'level'), (heightMm, from) => {
        const shape = { kind: 'height', heightMm, from, levelMm: -150 } as const;
        const [below, above] = (['below', 'above'] as const).map((side) => zonePolygons({ ...shape, side }, moved));
        expect(areaOf(below) + areaOf(above)).toBeCloseTo(5000 * 4000, 0);
        expect(areaOf(polygonClipping.intersection(below, above))).toBeCloseTo(0, 3);
      }),
    );
  });

  test('a height counts from the foot of each, or from a level of the world', () => {
    const moved = sheetOf(rectangle(5000, 4000).map(([x, y]) => [x, y - 300]));
    const shape = { kind: 'height', heightMm: 2100, levelMm: 0, side: 'below' } as const;
    expect(areaOf(zonePolygons({ ...shape, from: 'foot' }, moved))).toBeCloseTo(5000 * 2100, 0);
    // its foot lies 300 below the level
    expect(areaOf(zonePolygons({ ...shape, from: 'level' }, moved))).toBeCloseTo(5000 * 2400, 0);
  });

  test('a band begins at its height and ends after as much, or at the edge', () => {
    const at = (side: 'below' | 'above', heightMm: number) =>
      boundsOf(zonePolygons({ kind: 'height', heightMm, from: 'foot', levelMm: 0, side, bandMm: 225 }, room));
    expect(at('above', 900)).toEqual([0, 900, 5000, 1125]);
    expect(at('below', 900)).toEqual([0, 675, 5000, 900]);
    expect(at('above', 3900)).toEqual([0, 3900, 5000, 4000]);
    expect(at('below', 100)).toEqual([0, 0, 5000, 100]);
  });

  test('a circle is one of 96 sides about its centre', () => {
    const region = zonePolygons({ kind: 'circle', xMm: 1000, yMm: 2000, radiusMm: 500 }, room);
    expect(boundsOf(region)).toEqual([500, 1500, 1500, 2500]);
    expect(closed(region)[0]).toHaveLength(96);
    expect(areaOf(region)).toBeCloseTo((96 / 2) * 500 ** 2 * Math.sin((2 * Math.PI) / 96), 0);
  });

  test('a line that crosses itself encloses what it goes round an odd number of times', () => {
    const bow: ZoneShape = {
      kind: 'polygon',
      points: [
        [0, 0],
        [1000, 1000],
        [1000, 0],
        [0, 1000],
      ],
    };
    const region = zonePolygons(bow, room);
    expect(loopsOf(region)).toHaveLength(2);
    expect(loopsOf(region).reduce((sum, l) => sum + Math.abs(loopArea(l)), 0)).toBeCloseTo(500_000, 3);
  });

  test('an inset and the border of the same width are the whole between them', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 10, max: 1900 }),
        fc.constantFrom('mitred' as const, 'butted' as const),
        (w, corners) => {
          const left = areaOf(zonePolygons({ kind: 'inset', byMm: w }, room));
          const band = areaOf(zonePolygons(border({ widthMm: w, corners }), room));
          expect(left).toBeCloseTo((5000 - 2 * w) * (4000 - 2 * w), 0);
          expect(left + band).toBeCloseTo(20e6, 0);
        },
      ),
      { numRuns: 25 },
    );
  });

  test('an inset that leaves nothing leaves nothing', () => {
    expect(areaOf(zonePolygons({ kind: 'inset', byMm: 2100 }, room))).toBeCloseTo(0, 3);
  });

  test('around a hole as along the outside', () => {
    const hole: Loop = [
      [2000, 1500],
      [3000, 1500],
      [3000, 2500],
      [2000, 2500],
    ];
    const holed = sheetOf(rectangle(5000, 4000), hole);
    const left = areaOf(zonePolygons({ kind: 'inset', byMm: 100 }, holed));
    expect(left).toBeCloseTo(4800 * 3800 - 1200 * 1200, 0);
  });
});

describe('bands along edges', () => {
  test('mitred, each takes half of a square corner', () => {
    const strips = borderStrips(border(), room);
    expect(strips).toHaveLength(4);
    const areas = strips.map((s) => areaOf(s.region)).sort((a, b) => a - b);
    const [short, long] = [4000 * 300 - 300 ** 2, 5000 * 300 - 300 ** 2];
    [short, short, long, long].forEach((a, n) => expect(areas[n]).toBeCloseTo(a, 0));
  });

  test('butted, the longer run through and the shorter stop at them', () => {
    const areas = borderStrips(border({ corners: 'butted' }), room)
      .map((s) => areaOf(s.region))
      .sort((a, b) => a - b);
    const [short, long] = [(4000 - 600) * 300, 5000 * 300];
    [short, short, long, long].forEach((a, n) => expect(areas[n]).toBeCloseTo(a, 0));
  });

  test('equal edges: every other one runs through', () => {
    const square = sheetOf(rectangle(4000, 4000));
    const areas = borderStrips(border({ corners: 'butted' }), square).map((s) => Math.round(areaOf(s.region)));
    expect(areas.sort((a, b) => a - b)).toEqual([1_020_000, 1_020_000, 1_200_000, 1_200_000]);
  });

  test('corners that are not square are mitred whatever is asked', () => {
    const hexagon = sheetOf(polygon(2000, 6));
    const areas = (corners: 'mitred' | 'butted') =>
      borderStrips(border({ corners }), hexagon).map((s) => Math.round(areaOf(s.region)));
    expect(areas('butted')).toEqual(areas('mitred'));
    // the inner line is shorter by tan 30° of the width at both ends
    const expected = 2000 * 300 - 300 ** 2 * Math.tan(Math.PI / 6);
    for (const a of areas('mitred')) expect(Math.abs(a - expected)).toBeLessThan(2);
  });

  test('alone, a band runs on to the outline', () => {
    for (const [n, { from, to }] of listEdges(room).entries()) {
      const [strip] = borderStrips(border({ edges: [n] }), room);
      const length = Math.hypot(to[0] - from[0], to[1] - from[1]);
      expect(areaOf(strip.region)).toBeCloseTo(length * 300, 0);
    }
    const two = borderStrips(border({ edges: [0, 2] }), room);
    expect(two.reduce((sum, s) => sum + areaOf(s.region), 0)).toBeCloseTo(
      2 *
        300 *
        Math.hypot(
          listEdges(room)[0].to[0] - listEdges(room)[0].from[0],
          listEdges(room)[0].to[1] - listEdges(room)[0].from[1],
        ),
      0,
    );
  });

  test('where the surface goes round a corner, a band alone stops square', () => {
    const ell = sheetOf([
      [0, 0],
      [4000, 0],
      [4000, 1500],
      [1500, 1500],
      [1500, 4000],
      [0, 4000],
    ]);
    const edges = listEdges(ell);
    const inner = edges.findIndex(({ from, to }) => from[1] === 1500 && to[1] === 1500);
    const [strip] = borderStrips(border({ edges: [inner] }), ell);
    const areaPlace = areaOf(strip.region);
    // 2500 long, on to the outline at its outer end, and square at the inner corner
    expect(areaPlace).toBeCloseTo(2500 * 300, 0);
    const all = borderStrips(border(), ell);
    const sum = all.reduce((n, s) => n + areaOf(s.region), 0);
    expect(sum).toBeCloseTo(areaOf(zonePolygons(border(), ell)), 0);
  });

  test('in a narrow place none lies over another: the earlier keeps it', () => {
    const narrow = sheetOf(rectangle(4000, 400));
    const strips = borderStrips(border(), narrow);
    const sum = strips.reduce((n, s) => n + areaOf(s.region), 0);
    expect(sum).toBeCloseTo(4000 * 400, 0);
  });

  test('each knows its edge, and how far along the border it begins', () => {
    const edges = listEdges(room);
    const strips = borderStrips(border(), room);
    let along = 0;
    strips.forEach((s, n) => {
      const { from, to } = edges[n];
      const length = Math.hypot(to[0] - from[0], to[1] - from[1]);
      expect(s.from).toEqual(from);
      expect(s.direction).toEqual([(to[0] - from[0]) / length, (to[1] - from[1]) / length]);
      expect(s.along).toBe(along);
      along += length;
    });
    // edges that are left out do not count
    expect(borderStrips(border({ edges: [1, 3] }), room)[1].along).toBe(
      Math.hypot(edges[1].to[0] - edges[1].from[0], edges[1].to[1] - edges[1].from[1]),
    );
  });
});
