import fc from 'fast-check';
import { holdsPoint, type Loop } from '../geometry/loop';
import { listCells, type ListedCell } from '../testing/cells';
import { areaOf } from './area';
import { pieceShare } from './coverage';
import { defaultJoint } from './joint';
import { halfOf, sidesOfRectangle, sidesSeenAt } from './modules';
import { openLayout } from './registry';
import { own } from './own/own';
import type { AnyLayoutSpec } from './types';

/** Share of a stretch that lies on pieces, by looking at many points of it; rectangles are pieces both ways. */
function supersampled(isPiece: (x: number) => boolean, x: number, f: number, n = 4000): number {
  let hits = 0;
  for (let i = 0; i < n; i++) if (isPiece(x + ((i + 0.5) / n - 0.5) * f)) hits++;
  return hits / n;
}

const ofRectangle = (l: number, w: number, half: [number, number], inset: [number, number], f: [number, number]) =>
  pieceShare(
    sidesOfRectangle(half, inset, [true, true]),
    l,
    w,
    f,
    (half[0] * half[1]) / ((half[0] + inset[0]) * (half[1] + inset[1])),
  );

describe('how much of a footprint is piece', () => {
  test('rectangles: what a supersampled picture shows, at any distance', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 20, max: 300 }),
        fc.integer({ min: 20, max: 120 }),
        fc.integer({ min: 0, max: 20 }),
        fc.double({ min: -1, max: 1, noNaN: true }),
        fc.double({ min: -1, max: 1, noNaN: true }),
        fc.double({ min: 0.5, max: 900, noNaN: true }),
        (length, width, joint, u, v, footprint) => {
          const [h, w] = [length / 2, width / 2];
          const [px, py] = [length + joint, width + joint];
          const near = (value: number, pitch: number) => value - Math.round(value / pitch) * pitch;
          const [x, y] = [(u * px) / 2, (v * py) / 2];
          // a footprint longer than a piece shows what one as long as a piece shows
          const across = supersampled((at) => Math.abs(near(at, px)) <= h, x, Math.min(footprint, px));
          const up = supersampled((at) => Math.abs(near(at, py)) <= w, y, Math.min(footprint, py));
          const share = ofRectangle(x, y, [h, w], [joint / 2, joint / 2], [footprint, footprint]);
          // the joints at both ends of one piece are taken one after the other
          const both = (joint / 2 / px) ** 2 + (joint / 2 / py) ** 2;
          expect(Math.abs(share - across * up)).toBeLessThan(0.004 + both);
        },
      ),
      { numRuns: 60 },
    );
  });

  test('without a footprint it is one or the other', () => {
    expect(ofRectangle(49.9, 0, [50, 20], [2, 2], [0, 0])).toBeCloseTo(1, 6);
    expect(ofRectangle(50.1, 0, [50, 20], [2, 2], [0, 0])).toBeCloseTo(0, 6);
  });

  test('on the very edge half of a small footprint is piece, in the middle of a joint none', () => {
    expect(ofRectangle(50, 0, [50, 20], [2, 2], [1, 1])).toBeCloseTo(0.5, 9);
    expect(ofRectangle(52, 0, [50, 20], [2, 2], [1, 1])).toBe(0);
  });

  const specs: [string, AnyLayoutSpec, number][] = [
    ['bricks', { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false } as AnyLayoutSpec, 10],
    ['hexagons', { kind: 'hexagon', acrossFlatsMm: 200, pointUp: true } as AnyLayoutSpec, 4],
    ['chevron staves', { kind: 'chevron', lengthMm: 600, widthMm: 90, angleDeg: 52 } as AnyLayoutSpec, 3],
    ['octagons', { kind: 'octagon', acrossMm: 150, insertMm: 60 } as AnyLayoutSpec, 4],
    ['fish scales', { kind: 'scales', acrossMm: 160 } as AnyLayoutSpec, 4],
    ['paving', { kind: 'crazy', acrossMm: 350, evened: 2, layoutNumber: 1 } as AnyLayoutSpec, 8],
    ['penny rounds', { kind: 'penny', acrossMm: 50 } as AnyLayoutSpec, 4],

    ['ells', own.preset.spec as AnyLayoutSpec, 6],
  ];

  /** What a place looks at, as a view does. */
  function sidesAt(
    cell: ListedCell,
    inset: readonly [number, number],
    runOn: readonly [boolean, boolean],
    at: [number, number],
  ) {
    const { shape } = cell;
    if (shape) return sidesSeenAt(shape, at);
    return { sides: sidesOfRectangle(halfOf(null, cell.a, cell.b, inset), inset, runOn), least: 0 };
  }

  /** How many of a row of points lie within a loop, by where its sides cross the row. */
  function pointsWithin(loop: Loop, from: number, step: number, y: number): number {
    const crossings: number[] = [];
    loop.forEach(([ax, ay], i) => {
      const [bx, by] = loop[(i + 1) % loop.length];
      if (ay > y !== by > y) crossings.push(((bx - ax) * (y - ay)) / (by - ay) + ax);
    });
    const before = (x: number) => Math.max(0, Math.min(ROW, Math.ceil((x - from) / step)));
    return crossings.sort((a, b) => a - b).reduce((sum, x, i) => sum + (i % 2 ? before(x) : -before(x)), 0);
  }

  /** The mean of |formula − supersampled| over points of the plane. */
  function meanError(spec: AnyLayoutSpec, joint: number, f: number, g = f): number {
    const size = 1200;
    const layout = openLayout(spec, { ...defaultJoint(joint), alongMm: 3 }, areaOf([square(size)]));
    const cells = listCells(layout, { minX: -size, minY: -size, maxX: size, maxY: size });
    let sum = 0;
    let count = 0;
    for (let i = 0; i < 12; i++) {
      for (let j = 0; j < 12; j++) {
        const [x, y] = [(i * 37.31) % 300, (j * 53.77) % 300];
        const cell = cells.find((c) => holdsPoint([c.cell], [x, y]));
        if (!cell) continue;
        const near = cells.filter((c) => Math.hypot(c.x - x, c.y - y) < f + g + c.a + c.b);
        let hits = 0;
        for (let k = 0; k < ROW; k++) {
          const level = y + ((k + 0.5) / ROW - 0.5) * g;
          for (const { piece } of near) hits += pointsWithin(piece, x + (0.5 / ROW - 0.5) * f, f / ROW, level);
        }
        const [ax, ay] = layout.axes[cell.axis];
        const [l, w] = [(x - cell.x) * ax + (y - cell.y) * ay, (y - cell.y) * ax - (x - cell.x) * ay];
        const half = halfOf(cell.shape, cell.a, cell.b, layout.inset);
        const { sides, least } = sidesAt(cell, layout.inset, layout.runOn ?? [false, false], [l, w]);
        const share = cell.shape ? cell.shape.pieceArea / cell.shape.cellArea : (half[0] * half[1]) / (cell.a * cell.b);
        sum += Math.abs(pieceShare(sides, l, w, [f, g], share, least) - hits / (ROW * ROW));
        count++;
      }
    }
    return sum / count;
  }

  // the footprints of a pixel at 0.5, 3, 10 and 40 m, straight on, and at 70° either way
  const footprints = [0.46, 2.8, 9.3, 37].flatMap((f) => [
    [f, f],
    [f, 2.9 * f],
    [2.9 * f, f],
  ]);
  // small tiles from far, and slanted sides seen aslant, are taken for what they are on the mean
  test.each(specs)('%s: on the mean within 2% of what is there, near by and from far', (name, spec, joint) => {
    for (const [f, g] of footprints) {
      const most = f !== g || f > 10 ? (ROUGHER[name] ?? 0.02) : 0.02;
      expect([f, g, meanError(spec, joint, f, g) < most]).toEqual([f, g, true]);
    }
  });

  /** How light a square of so many pixels is on the mean, its first one at (x, y). */
  function meanLightness(spec: AnyLayoutSpec, joint: number) {
    const size = 1900;
    const layout = openLayout(spec, { ...defaultJoint(joint), alongMm: 3 }, areaOf([square(size)]));
    const cells = listCells(layout, { minX: -size, minY: -size, maxX: size, maxY: size });
    const buckets = new Map<string, ListedCell[]>();
    for (const c of cells) {
      const xs = c.cell.map(([x]) => Math.floor(x / BUCKET));
      const ys = c.cell.map(([, y]) => Math.floor(y / BUCKET));
      for (let i = Math.min(...xs); i <= Math.max(...xs); i++)
        for (let j = Math.min(...ys); j <= Math.max(...ys); j++) {
          const key = `${i} ${j}`;
          buckets.set(key, [...(buckets.get(key) ?? []), c]);
        }
    }
    return (f: number, pixels: number, x0: number, y0: number): number => {
      let sum = 0;
      for (let i = 0; i < pixels; i++) {
        for (let j = 0; j < pixels; j++) {
          const [x, y] = [x0 + i * f, y0 + j * f];
          const near = buckets.get(`${Math.floor(x / BUCKET)} ${Math.floor(y / BUCKET)}`) ?? [];
          const cell = near.find((c) => holdsPoint([c.cell], [x, y]));
          if (!cell) continue;
          const [ax, ay] = layout.axes[cell.axis];
          const [l, w] = [(x - cell.x) * ax + (y - cell.y) * ay, (y - cell.y) * ax - (x - cell.x) * ay];
          const half = halfOf(cell.shape, cell.a, cell.b, layout.inset);
          const { sides, least } = sidesAt(cell, layout.inset, layout.runOn ?? [false, false], [l, w]);
          const { shape } = cell;
          const share = shape ? shape.pieceArea / shape.cellArea : (half[0] * half[1]) / (cell.a * cell.b);
          sum += pieceShare(sides, l, w, [f, f], share, least);
        }
      }
      return sum / pixels ** 2;
    };
  }

  test.each(specs)(
    '%s: a camera that moves by tenths of a pixel changes the mean by less than 1%',
    (_n, spec, joint) => {
      const lightness = meanLightness(spec, joint);
      // 3, 10 and 40 m away, over as much as lets what enters at one side count for little
      for (const [f, pixels] of [
        [2.8, 120],
        [9.3, 90],
        [37, 40],
      ]) {
        const means = [0, 1, 2, 3, 4, 5, 6, 7, 8, 9].map((k) =>
          lightness(f, pixels, 31 + k * 0.1 * f, 47 + k * 0.07 * f),
        );
        const [least, most] = [Math.min(...means), Math.max(...means)];
        expect(least).toBeGreaterThan(0.5);
        expect([f, most / least - 1 < 0.01]).toEqual([f, true]);
      }
    },
  );
});

/** Side of a square in which cells are looked up, mm. */
const BUCKET = 80;

/** Of these up to so much at 70°, and from 40 m: slanted and round sides are straight ones to a footprint. */
const ROUGHER: Record<string, number> = {
  'chevron staves': 0.045,
  octagons: 0.045,
  'fish scales': 0.045,
  'penny rounds': 0.055,
};
/** Points of a footprint that are looked at, in a row. */
const ROW = 40;

const square = (side: number): Loop => [
  [0, 0],
  [side, 0],
  [side, side],
  [0, side],
];
