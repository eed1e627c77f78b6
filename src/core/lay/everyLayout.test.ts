import fc from 'fast-check';
import { dressPieces } from '../dress/dressPieces';
import { exportPieces } from '../dress/exportPieces';
import { holdsPoint, type Loop, loopArea } from '../geometry/loop';
import { isSimple } from '../geometry/polygon';
import { areaOf } from '../layout/area';
import { defaultJoint } from '../layout/joint';
import { LAYOUTS } from '../layout/registry';
import type { LayoutSpec } from '../layout/schema';
import type { AnyLayoutSpec, Layout } from '../layout/types';
import { FIRST_MAPPING } from '../mapping/schema';
import { buildSheet, type Sheet } from '../mapping/sheet';
import { areaOfTriangles } from '../mesh/area';
import { listCells } from '../testing/cells';
import { frustum, looseMesh } from '../testing/shapes';
import { arrangeOn, laidSpec, listOn, polygon, rectangle, wallMesh, wallSheet } from '../testing/surfaces';
import { evaluateAt } from './evaluate';

/*
 * What holds of every layout there is, through the registry: a new one is tested by being there.
 */

const laid = (LAYOUTS as readonly unknown[] as readonly Layout<AnyLayoutSpec>[]).filter((l) => l.cells === 'laid');
const cases = laid.map((l) => [l.label, l] as const);

const ELL: Loop = [
  [0, 0],
  [2300, 0],
  [2300, 900],
  [1100, 900],
  [1100, 1700],
  [0, 1700],
];
const hole = polygon(230, 9, 0.3, 600, 700).reverse();
const column = looseMesh(frustum(230, 230, 900, 48));
const cone = looseMesh(frustum(300, 420, 500, 40, Math.PI));
const sheets: Record<string, { sheet: Sheet; flat: boolean }> = {
  'an L with a hole': { sheet: wallSheet(wallMesh([ELL, hole])), flat: true },
  'a slanted sliver': {
    sheet: wallSheet(
      wallMesh([
        [
          [0, 0],
          [1500, 310],
          [1480, 380],
          [30, 90],
        ],
      ]),
    ),
    flat: true,
  },
  'a tiny square': { sheet: wallSheet(wallMesh([rectangle(37, 21)])), flat: true },
  'a column': { sheet: buildSheet(column, [0, 96], FIRST_MAPPING.cylinder), flat: false },
  'a cone': { sheet: buildSheet(cone, [0, 80], FIRST_MAPPING.unroll), flat: false },
};
const specOf = (layout: Layout<AnyLayoutSpec>, turnDeg: number, joint?: number) =>
  laidSpec({
    layout: layout.preset.spec as LayoutSpec,
    joint: joint ?? layout.preset.joint.acrossMm,
    turnDeg,
    start: [13, -7],
  });

describe.each(cases)('%s', (_label, layout) => {
  test.each(Object.entries(sheets))('on %s: drawn, handed over and listed alike', (_name, { sheet, flat }) => {
    for (const turnDeg of flat ? [0, 31.7] : [0]) {
      const spec = specOf(layout, turnDeg);
      const arrangement = arrangeOn(spec, sheet);
      const pieces = listOn(spec, sheet);
      const cells = dressPieces(sheet, arrangement).reduce((sum, b) => sum + areaOfTriangles(b), 0);
      const made = exportPieces(arrangement, { tangents: false });
      const handed = made.pieces.reduce((sum, p) => sum + areaOfTriangles(p.dressed), 0);
      const joints = made.joints.reduce((sum, p) => sum + areaOfTriangles(p.dressed), 0);
      // a bent surface has the area of its facets; sheets of rounds that of the round
      const room = (flat ? 5e-4 : 5e-3) * sheet.area + 1;
      expect(Math.abs(cells - sheet.area)).toBeLessThan(room);
      expect(Math.abs(handed + joints - sheet.area)).toBeLessThan(room);
      const listed = pieces.reduce((sum, p) => sum + p.area, 0);
      expect(Math.abs(listed - handed)).toBeLessThan(room + pieces.length * 0.05);
      // each piece lies in its own cell, and none is larger than is said
      const [length, width] = arrangement.layout.largest;
      expect(pieces.filter((p) => p.area > p.cellArea + 0.5)).toEqual([]);
      expect(pieces.filter((p) => p.length > length + 1e-6 || p.width > width + 1e-6)).toEqual([]);
      const roles = layout.rolesOf?.(layout.preset.spec) ?? layout.roles;
      for (const role of new Set(pieces.map((p) => p.role))) expect(roles).toContain(role);
    }
  });

  test('what lies at a point is the piece that holds it', () => {
    const { sheet } = sheets['an L with a hole'];
    const spec = specOf(layout, 17.3);
    const arrangement = arrangeOn(spec, sheet);
    const pieces = listOn(spec, sheet);
    const { minX, minY, maxX, maxY } = sheet.bounds;
    // not in the corners, where dust is left out
    const share = fc.double({ min: 0.005, max: 0.995, noNaN: true });
    fc.assert(
      fc.property(share, share, (u, v) => {
        const at: [number, number] = [minX + u * (maxX - minX) + 0.0137, minY + v * (maxY - minY) + 0.0071];
        if (!holdsPoint(sheet.charts[0].outline, at)) return;
        const found = evaluateAt(arrangement, at)!;
        const holding = pieces.filter((p) => holdsPoint(p.outline, at));
        expect(holding.length).toBeLessThanOrEqual(1);
        expect(found.share).toBe(holding.length);
        for (const p of holding) expect([found.course, found.index]).toEqual([p.course, p.index]);
      }),
      { numRuns: 60 },
    );
  });

  test('neighbours know each other, and pieces are simple and as far from their cells as the joint asks', () => {
    const { spec } = layout.preset;
    const joint = { ...defaultJoint(4), alongMm: 6 };
    const area = areaOf([rectangle(3000, 2400)]);
    const opened = layout.open!(spec, joint, area);
    const cells = listCells(opened, { minX: 900, minY: 700, maxX: 1500, maxY: 1200 });
    const out = new Int32Array(opened.mostNeighbours * 2);
    const back = new Int32Array(opened.mostNeighbours * 2);
    for (const c of cells.slice(0, 40)) {
      const n = opened.neighbours(c.course, c.index, out);
      for (let k = 0; k < n; k++) {
        const [course, index] = [out[k * 2], out[k * 2 + 1]];
        const m = opened.neighbours(course, index, back);
        const known = Array.from({ length: m }, (_, i) => `${back[i * 2]},${back[i * 2 + 1]}`);
        expect(known).toContain(`${c.course},${c.index}`);
      }
      expect(loopArea(c.piece)).toBeGreaterThan(0);
      expect(isSimple(c.piece.flat())).toBe(true);
      if (!c.shape) continue;
      const { pieceArea, cellArea, pieceParts, ringParts } = c.shape;
      const total = (parts: readonly Float64Array[]) =>
        parts.reduce(
          (sum, p) => sum + loopArea(Array.from({ length: p.length / 2 }, (_, i) => [p[i * 2], p[i * 2 + 1]])),
          0,
        );
      expect(total(pieceParts)).toBeCloseTo(pieceArea, 4);
      expect(total(ringParts)).toBeCloseTo(cellArea - pieceArea, 4);
      expect(total(c.shape.parts().map((p) => p.corners)) / cellArea).toBeCloseTo(1, 4);
    }
  });
});

test.each(cases)('%s: whatever lengths and joints are typed, it covers the plane', (_label, layout) => {
  const keys = Object.entries(layout.preset.spec).filter(([key, v]) => key.endsWith('Mm') && typeof v === 'number');
  const lengths = fc.constantFrom(1, 7, 60, 333, 2600, 100_000);
  fc.assert(
    fc.property(
      fc.tuple(...keys.map(() => lengths)),
      fc.constantFrom(0, 0.5, 8, 70),
      fc.constantFrom(0, 3, 40),
      (values, alongMm, acrossMm) => {
        const own = Object.fromEntries(keys.map(([key], k) => [key, values[k]]));
        const spec = { ...layout.preset.spec, ...own } as AnyLayoutSpec;
        const joint = { ...defaultJoint(2), alongMm, acrossMm };
        // as large as some hundreds of the smallest pieces
        const side = Math.min(900, 12 * Math.min(900, ...values.map((v) => v + acrossMm)));
        const area = areaOf([rectangle(side, side)]);
        const opened = layout.open!(spec, joint, area);
        const at = { minX: 0.31 * side, minY: 0.29 * side, maxX: 0.63 * side, maxY: 0.61 * side };
        const cells = listCells(opened, at);
        for (const [u, v] of [
          [0.5, 0.5],
          [0.37, 0.41],
          [0.58, 0.33],
        ]) {
          const [x, y] = [u * side + 0.0137, v * side + 0.0071];
          expect([own, alongMm, acrossMm, cells.filter((c) => holdsPoint([c.cell], [x, y])).length]).toEqual([
            own,
            alongMm,
            acrossMm,
            1,
          ]);
        }
        for (const size of opened.largest) expect(size).toBeGreaterThan(-1e-9);
      },
    ),
    { numRuns: 25 },
  );
});

/*
 * Pieces to a square metre, by hand: the joint is 2 mm, of bricks 10 mm; a dash is “with its joint”.
 *   chevron 600 × 90 at 45°    1 / (L′ · w′), L′ = 600 + 2 / sin 45° = 602.83, w′ = 92
 *   squares of 5 × 32          1 / (34 · 170)
 *   ladder 70, rungs of 350    7 / (6 · 72 · (72 + 352))
 *   endless weave 50 and 100   4 / (2 · (52 + 102)²)
 *   octagon 150                2 / 152²
 *   long hexagon 300 × 75      1 / ((300 + 2√2 − 77 / 2) · 77)
 *   pinwheel 300 and 150       2 / (302² + 152²)
 *   windmill 200 × 100         5 / (202 + 102)²
 *   several sizes, unit 100    4 in 13 · 100², 3 in 7 · 100², 3 in 14 · 100²: the joint is within the unit
 *   basket 25, dot 12          3 / (54² + 14²)
 *   rounds of 25               1 / (27² · √3 / 2)
 *   scales of 120              1 / (2 · 61²)
 *   rhombus 150 at 60°         1 / (s² · sin 60°), s = 150 + 2 / sin 60° = 152.309; cubes the same
 *   triangles 150              4 / (√3 · s²), s = 150 + 2√3 = 153.464
 *   lanterns 150 × 180         2 / (152 · 182)
 *   pentagons 150              1 / (2u²), u = (150 + 2 / tan 57.1475°) / (2 · 0.548584) = 137.893
 *   setts of 90                17 to an arc of 1400: 17 / (1400 · 92)
 *   setts of 90 in fans        8 rings of 88.24 about a middle; 143 to a fan of 2 · 750²: ring by ring the arch has
 *                              5, 9, 14, 16, 17, 19, 21, 24 and the tail 2, 3, 5, 4, 2, 1: its angle between the
 *                              hollows, 270° − 2φ above and 90° − 2φ below, cos φ = (ρ² + r²) / (2√2 ρ r)
 *   English, cross             3 in 225 × 150; garden wall of three courses 5 in 225 × 300
 *   Flemish garden, monk       4 in 787.5 × 75; 3 in 562.5 × 75
 *   headers, soldiers          1 in 112.5 × 75; 1 in 75 × 225
 *   an ell round a square       2 in 400 × 400: the joint is within the cell
 *   squared 320 × 180          1 / (322 · 182); crazy 350: 1 / 352²; rings of 150 × 100: 1 / (152 · 102)
 */
const COUNTS: [string, object, number, number][] = [
  ['chevron', { angleDeg: 45 }, 2, 18.031],
  ['squares', {}, 2, 173.01],
  ['ladder', {}, 2, 38.216],
  ['woven', { blocks: 0, stripMm: 50, blockMm: 100 }, 2, 84.331],
  ['octagon', {}, 2, 86.565],
  ['longHexagon', {}, 2, 49.132],
  ['pinwheel', {}, 2, 17.497],
  ['windmill', {}, 2, 54.103],
  ['modular', { unitMm: 100, set: 'four' }, 2, 30.769],
  ['modular', { unitMm: 100, set: 'three' }, 2, 42.857],
  ['modular', { unitMm: 100, set: 'squares' }, 2, 21.429],
  ['basket', {}, 2, 964.01],
  ['penny', {}, 2, 1583.95],
  ['scales', {}, 2, 134.37],
  ['rhombus', {}, 2, 49.776],
  ['cubes', {}, 2, 49.776],
  ['triangles', {}, 2, 98.057],
  ['lantern', {}, 2, 72.296],
  ['pentagons', {}, 2, 26.296],
  ['arcs', {}, 2, 131.99],
  ['fans', {}, 2, 127.11],
  ['english', {}, 10, 88.889],
  ['englishCross', {}, 10, 88.889],
  ['englishGarden', {}, 10, 74.074],
  ['flemishGarden', {}, 10, 67.725],
  ['monk', {}, 10, 71.111],
  ['header', {}, 10, 118.519],
  ['soldier', {}, 10, 59.259],
  ['own', {}, 2, 12.5],
  ['squared', {}, 2, 17.064],
  ['crazy', {}, 2, 8.071],
  ['rings', {}, 2, 64.499],
];

test.each(COUNTS)('%s: as many to a square metre as by hand', (kind, rest, joint, perM2) => {
  const layout = laid.find((l) => l.kind === kind)!;
  const spec = { ...layout.preset.spec, ...rest } as AnyLayoutSpec;
  const [width, height] = [7000, 6000];
  const area = areaOf([rectangle(width, height)]);
  const opened = layout.open!(spec, defaultJoint(joint), area);
  expect(1e6 / opened.cellArea / perM2).toBeCloseTo(1, 3);
  // and counted, by where their middles lie; rings have a middle of their own and are whole only round it
  if (kind === 'rings') return;
  const found = listCells(opened, { minX: 0, minY: 0, maxX: width, maxY: height });
  const within = found.filter((c) => c.x >= 0 && c.x < width && c.y >= 0 && c.y < height).length;
  expect(Math.abs(within / 42 / perM2 - 1)).toBeLessThan(0.04);
});
