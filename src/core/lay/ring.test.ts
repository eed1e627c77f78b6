import { sayFinding } from '../finding/finding';
import { placeSpec } from '../setout/placement';
import { LAYOUTS } from '../layout/registry';
import type { LayoutSpec } from '../layout/schema';
import type { Layout } from '../layout/types';
import { buildSheet } from '../mapping/sheet';
import { type Spec } from '../specification/schema';
import { FIRST_MAPPING } from '../mapping/schema';
import { frustum, looseMesh, patch, plateFace } from '../testing/shapes';
import { arrangeOn, laidSpec, oak, listOn, polygon } from '../testing/surfaces';
import { goAround } from '../setout/around';

const column = looseMesh(frustum(230, 230, 1500, 64));
const cylinder = (around: number | null) => ({ ...FIRST_MAPPING.cylinder, around });
const layouts: Record<string, [LayoutSpec, number]> = {
  tiles: [{ kind: 'grid', widthMm: 147, heightMm: 147, shift: 0, diagonal: false, across: null, up: null }, 1],
  bricks: [{ kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false }, 1],
  'Flemish bond': [{ kind: 'flemish', stretcherMm: 215, headerMm: 102.5, heightMm: 65, closers: true }, 2],
  hexagons: [{ kind: 'hexagon', acrossFlatsMm: 100, pointUp: true }, 1],
};

function piecesOn(layout: LayoutSpec, around: number, turnDeg = 0) {
  const mapping = cylinder(around);
  const sheet = buildSheet(column, [0, 128], mapping);
  const spec: Spec = { ...laidSpec({ layout, joint: 3, turnDeg, start: [0, 0] }), mapping };
  return { sheet, pieces: listOn(spec, sheet) };
}

test.each(Object.entries(layouts))('%s exactly 24 around close without a step', (name, [layout, each]) => {
  const { sheet, pieces } = piecesOn(layout, 24);
  expect(sheet.ring).toBeCloseTo(Math.PI * 460, 2);
  const courses = new Map<number, typeof pieces>();
  for (const p of pieces) courses.set(p.course, [...(courses.get(p.course) ?? []), p]);
  for (const [, row] of courses) {
    // each piece once, whichever side of the seam it begins on
    expect(row.map((p) => p.index).sort((a, b) => a - b)).toEqual(Array.from({ length: 24 * each }, (_, i) => i));
    // a whole row of whole pieces, but for those the upper or lower edge cuts
    const whole = row.filter((p) => p.whole);
    if (whole.length) {
      expect(whole).toHaveLength(24 * each);
      const joints = 24 * each * 3;
      if (name !== 'hexagons') expect(row.reduce((sum, p) => sum + p.length, 0) + joints).toBeCloseTo(sheet.ring!, 3);
    }
  }
});

test('what cannot be sized to close keeps its size, and says why', () => {
  const ring = Math.PI * 460;
  const why = (spec: Spec, ringMm: number | null = ring) => {
    const found = goAround(spec, ringMm)!.why;
    return found && sayFinding(found);
  };
  const asked = (layout: LayoutSpec, turnDeg = 0) =>
    why({ ...laidSpec({ layout, joint: 3, turnDeg }), mapping: cylinder(24) });
  expect(asked(layouts.tiles[0])).toBeNull();
  expect(asked(layouts.tiles[0], 30)).toContain('turn it by quarters');
  expect(asked({ kind: 'herringbone', lengthMm: 490, widthMm: 70, strands: 1 })).toContain(
    'Herringbone cannot be sized',
  );
  expect(asked({ ...layouts.hexagons[0], pointUp: false } as LayoutSpec)).toContain('laid this way, cannot be sized');
  expect(why({ ...laidSpec({ layout: layouts.tiles[0] }), mapping: cylinder(24) }, null)).toContain('does not close');
  expect(goAround(laidSpec({ layout: layouts.tiles[0] }), ring)).toBeNull();
  // and is laid in its own size
  const { pieces } = piecesOn({ ...layouts.tiles[0], diagonal: true } as LayoutSpec, 24);
  expect(Math.max(...pieces.map((p) => p.length))).toBeCloseTo(147, 6);
});

test('standing, courses go round and close as well', () => {
  const { sheet, pieces } = piecesOn(layouts.bricks[0], 24, 90);
  const courses = new Set(pieces.map((p) => p.course));
  expect([...courses].sort((a, b) => a - b)).toEqual(Array.from({ length: 24 }, (_, i) => i));
  expect(pieces[0].width + 3).toBeCloseTo(sheet.ring! / 24, 4);
});

test('over the seam a piece keeps its print, and touching pieces still differ', () => {
  const { pieces } = piecesOn(layouts.bricks[0], 7);
  const over = pieces.filter((p) => p.outline.length > 1);
  expect(over.length).toBeGreaterThan(3);
  for (const p of over) expect(p.whole).toBe(true);
});

test('one picture, or a few, once round: as wide as the ring allows, its height in proportion', () => {
  const mapping = cylinder(2);
  const sheet = buildSheet(column, [0, 128], mapping);
  const spec: Spec = { ...laidSpec({ layout: { kind: 'whole' } }), mapping };
  const placed = placeSpec(spec, oak({ widthMm: 480, heightMm: 120 }), sheet, [0, 0, 0]);
  expect(placed.widthMm * 2).toBeCloseTo(sheet.ring!, 6);
  expect(placed.heightMm / placed.widthMm).toBeCloseTo(0.25, 9);
});

test('bricks round a window taper: a fan of 38 closes, each as deep as the ring', () => {
  const ring = looseMesh(plateFace([polygon(665, 64), [...polygon(450, 64)].reverse()]));
  const mapping = { ...FIRST_MAPPING.fan, around: 38 };
  const sheet = buildSheet(ring, [0, ring.indices.length / 3], mapping);
  const spec: Spec = {
    ...laidSpec({
      layout: { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0, raking: false },
      joint: 10,
      turnDeg: 90,
    }),
    mapping,
  };
  const pieces = listOn(spec, sheet).filter((p) => p.area > 500);
  expect(pieces).toHaveLength(38);
  for (const p of pieces) expect(p.width + 10).toBeCloseTo((2 * Math.PI * 450) / 38, 3);
});

test('two walls at levels 0 and −600 with one level datum: bed joints in line', () => {
  const brick: LayoutSpec = { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false };
  const bedsOf = (foot: number, mapping: Spec['mapping'], x = 0) => {
    const wall =
      mapping.kind === 'cylinder'
        ? looseMesh(frustum(230, 230, 2600, 64).map((v, i) => (i % 3 === 1 ? v + foot : v)))
        : looseMesh(patch(1, 1, (u, v) => [x + 3000 * u, foot + 2600 * v, 0]));
    const sheet = buildSheet(wall, [0, wall.indices.length / 3], mapping);
    const spec: Spec = {
      ...laidSpec({ layout: brick, joint: 10 }),
      mapping,
      start: { datum: 'level', level: { id: 'l', heightMm: 40 }, xMm: 0, yMm: 0 },
    };
    const pieces = listOn(spec, sheet);
    return new Set(pieces.filter((p) => p.whole).map((p) => Math.round((p.middle[1] - 32.5) * 10) / 10));
  };
  const [upper, lower] = [bedsOf(0, FIRST_MAPPING.flat), bedsOf(-600, FIRST_MAPPING.flat, 3300)];
  // every bed that both walls have is at the same height, within 0.1 mm, and they are courses from the level
  for (const y of upper) if (y < 1900) expect(lower.has(y)).toBe(true);
  for (const y of [...upper, ...lower])
    expect(Math.abs((y - 40) / 75 - Math.round((y - 40) / 75))).toBeLessThan(0.1 / 75);
  // a column between them keeps the same courses
  for (const y of bedsOf(-600, FIRST_MAPPING.cylinder)) if (y < 1900) expect(lower.has(y)).toBe(true);
});

describe('every count closes', () => {
  const ringed: Record<string, [LayoutSpec, number]> = {
    ...layouts,
    planks: [
      {
        kind: 'planks',
        lengths: { kind: 'one', mm: 300 },
        widths: { kind: 'one', mm: 90 },
        stagger: { kind: 'share', share: 1 / 3 },
      },
      1,
    ],
  };
  test.each(Object.entries(ringed))('%s, lying and standing', (_name, [layout, each]) => {
    for (let count = 3; count <= 40; count += count < 12 ? 1 : 7) {
      for (const turnDeg of [0, 90]) {
        const spec: Spec = { ...laidSpec({ layout, joint: 3, turnDeg }), mapping: cylinder(count) };
        const around = goAround(spec, Math.PI * 460)!;
        if (!around.layout) continue;
        const { sheet, pieces } = piecesOn(layout, count, turnDeg);
        const keys = pieces.map((p) => `${p.course},${p.index}`);
        expect(new Set(keys).size).toBe(keys.length);
        const round = new Set(pieces.map((p) => (turnDeg ? p.course : p.index)));
        expect(round.size).toBe(turnDeg ? count : count * each);
        // what is counted is the whole of the sheet, each cell once
        const cells = pieces.reduce((sum, p) => sum + p.cellArea, 0);
        expect(cells / sheet.area).toBeGreaterThan(0.97);
        expect(cells / sheet.area).toBeLessThan(1.0001);
      }
    }
  });
});

describe('every layout that can be sized closes', () => {
  const laid = (LAYOUTS as readonly unknown[] as readonly Layout<LayoutSpec>[]).filter((l) => l.round);
  test.each(laid.map((l) => [l.label, l] as const))(
    '%s: 9 around, each piece once, none like its neighbour',
    (_l, l) => {
      const spec: Spec = { ...laidSpec({ layout: l.preset.spec, joint: 3, start: [0, 0] }), mapping: cylinder(9) };
      const around = goAround(spec, Math.PI * 460)!;
      if (!around.layout) return;
      const sheet = buildSheet(column, [0, 128], spec.mapping);
      const { layout } = arrangeOn(spec, sheet);
      const pieces = listOn(spec, sheet);
      const count = 9 * (l.perPitch?.(around.layout, spec.pieces!.joint) ?? 1);
      for (const p of pieces) expect(p.index >= 0 && p.index < count).toBe(true);
      expect(new Set(pieces.map((p) => `${p.course},${p.index}`)).size).toBe(pieces.length);
      const cells = pieces.reduce((sum, p) => sum + p.cellArea, 0);
      expect(cells / sheet.area).toBeGreaterThan(0.97);
      expect(cells / sheet.area).toBeLessThan(1.0001);
      // all round a course in the middle, the seam with it
      const out = new Int32Array(2 * layout.mostNeighbours);
      const middle = pieces.map((p) => p.course).sort((a, b) => a - b)[pieces.length >> 1];
      for (const p of pieces.filter((q) => q.course === middle)) {
        const n = layout.neighbours(p.course, p.index, out);
        for (let k = 0; k < n; k++) {
          const other = [out[k * 2], out[k * 2 + 1]] as const;
          expect([p.index, ...other, layout.classOf(...other) !== layout.classOf(p.course, p.index)]).toEqual([
            p.index,
            ...other,
            true,
          ]);
        }
      }
    },
  );
});
