import fc from 'fast-check';
import { exportPieces } from '../dress/exportPieces';
import { regionsOf } from '../project/regions';
import { emptyProject } from '../project/schema';
import { openSheet } from '../lay/region';
import type { LayoutSpec } from '../layout/schema';
import type { MarginsSpec } from '../layout/margins';
import { areaOfTriangles } from '../mesh/area';
import { part, surface } from '../testing/project';
import { arrangeOn, laidSpec, listOn, oak, rectangle, wallMesh } from '../testing/surfaces';
import { startOfField, wholeField, wholeOf } from './wholeField';

const tiles: LayoutSpec = {
  kind: 'grid',
  widthMm: 300,
  heightMm: 200,
  shift: 0,
  diagonal: false,
  across: null,
  up: null,
};
const bricks: LayoutSpec = { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false };

function laid(layout: LayoutSpec, margins: MarginsSpec, width: number, height: number, joint = 5, turnDeg = 0) {
  const spec = laidSpec({ layout, joint, turnDeg, start: [41, 17] });
  const mesh = wallMesh([rectangle(width, height)]);
  const wall = surface('wall', {
    faces: [0, mesh.indices.length / 3],
    spec: { ...spec, pieces: { ...spec.pieces!, margins } },
  });
  const project = {
    ...emptyProject('p', 'P'),
    parts: { part: part() },
    materials: { oak: oak(), lime: oak({ id: 'lime' }) },
    surfaces: { wall },
  };
  const [field, beside] = regionsOf(project, wall);
  return { field, beside, inField: openSheet([mesh], field), besides: beside && openSheet([mesh], beside) };
}

test('a wall of 1640 × 1000 in tiles of 300 × 200 with 5 mm: five by four whole ones, the rest on both sides', () => {
  const { field, beside, inField, besides } = laid(tiles, { along: 'both', across: 'both' }, 1640, 1000);
  const pieces = listOn(field.spec!, inField);
  // 5 · 305 − 5 = 1520 of 1640, 4 · 205 − 5 = 815 of 1000
  expect(pieces).toHaveLength(20);
  expect(pieces.every((p) => p.whole)).toBe(true);
  expect(inField.area).toBeCloseTo(1520 * 815, 1);
  expect(besides.area).toBeCloseTo(1640 * 1000 - 1520 * 815, 1);
  const xs = pieces.flatMap((p) => p.outline.flat().map((c) => c[0] - inField.bounds.minX));
  expect([Math.min(...xs), Math.max(...xs)]).toEqual([expect.closeTo(60, 6), expect.closeTo(1580, 6)]);
  expect(beside.spec).toBeNull();
});

test('at one edge alone, with a material of its own, along or across', () => {
  const { field, inField, beside } = laid(tiles, { along: 'low', material: 'lime' }, 1640, 1000);
  const pieces = listOn(field.spec!, inField);
  const xs = pieces.flatMap((p) => p.outline.flat().map((c) => c[0] - inField.bounds.minX));
  expect([Math.min(...xs), Math.max(...xs)]).toEqual([expect.closeTo(120, 6), expect.closeTo(1640, 6)]);
  // across they are cut at the edges still
  expect(pieces.some((p) => !p.whole)).toBe(true);
  expect(beside.spec!.material).toBe('lime');
  const high = laid(tiles, { across: 'high' }, 1640, 1000);
  expect(high.inField.area).toBeCloseTo(1640 * 815, 1);
});

test('whole courses of bricks begin at the foot, turned by quarters and mirrored too', () => {
  for (const turnDeg of [0, 90, 180, 270]) {
    const { field, inField } = laid(bricks, { along: 'both', across: 'both' }, 3000, 2480, 10, turnDeg);
    const made = exportPieces(arrangeOn(field.spec!, inField), { tangents: false });
    expect(made.pieces.length).toBeGreaterThan(0);
    const stands = turnDeg % 180 !== 0;
    const [along, across] = stands ? [2480, 3000] : [3000, 2480];
    const of = (mm: number, pitch: number) => Math.floor((mm + 10) / pitch) * pitch - 10;
    expect(inField.area).toBeCloseTo(of(along, 225) * of(across, 75), 0);
    // in every other course halves stand at the ends, all courses are whole
    const pieces = listOn(field.spec!, inField);
    expect(pieces.filter((p) => p.whole).every((p) => Math.abs(p.width - 65) < 1e-6)).toBe(true);
    const total = pieces.reduce((sum, p) => sum + p.area, 0);
    const dressed = made.pieces.reduce((sum, p) => sum + areaOfTriangles(p.dressed), 0);
    expect(dressed).toBeCloseTo(total, -1);
  }
});

test('the field is as many as there is room for, and begins where its pieces do', () => {
  const side = fc.integer({ min: 50, max: 5000 });
  fc.assert(
    fc.property(
      fc.tuple(side, side),
      fc.constantFrom(0, 90, 180, 270),
      fc.boolean(),
      fc.boolean(),
      fc.constantFrom('both' as const, 'low' as const, 'high' as const),
      ([w, h], turnDeg, mirrorX, mirrorY, leftover) => {
        const whole = { along: { pitch: 305, joint: 5, leftover }, across: null };
        const direction = { turnDeg, mirrorX, mirrorY };
        const field = wholeField(whole, direction, { minX: 10, minY: -20, maxX: 10 + w, maxY: -20 + h });
        const stands = turnDeg % 180 !== 0;
        const [room, taken] = stands ? [h, field[2][1] - field[0][1]] : [w, field[2][0] - field[0][0]];
        const count = Math.floor((room + 5) / 305);
        expect(taken).toBeCloseTo(count ? count * 305 - 5 : room, 6);
        // every corner lies ahead of the start, along and across
        const [x, y] = startOfField(field, direction);
        const near = field.map((p) => Math.hypot(p[0] - x, p[1] - y));
        expect(Math.min(...near)).toBeLessThan(1e-6);
      },
    ),
  );
});

test('nothing is asked of what lies aslant, has no courses, or courses of many heights', () => {
  const of = (layout: LayoutSpec, turnDeg = 0) => {
    const spec = laidSpec({ layout, turnDeg });
    return wholeOf({ ...spec, pieces: { ...spec.pieces!, margins: { along: 'both', across: 'both' } } });
  };
  expect(of(tiles)).toEqual({
    along: { pitch: 302, joint: 2, leftover: 'both' },
    across: { pitch: 202, joint: 2, leftover: 'both' },
  });
  expect(of(tiles, 30)).toBeNull();
  expect(of({ kind: 'hexagon', acrossFlatsMm: 200, pointUp: true })).toBeNull();
  expect(wholeOf(laidSpec({ layout: tiles }))).toBeNull();
});
