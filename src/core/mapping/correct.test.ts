import { placeSpec } from '../setout/placement';
import { defaultSpec } from '../specification/schema';
import { FIRST_MAPPING } from './schema';
import { frustum, looseMesh, patch } from '../testing/shapes';
import { oak } from '../testing/surfaces';
import { noCorrection } from './correctionSchema';
import { buildSheet, type Sheet } from './sheet';

const wall = looseMesh(patch(20, 10, (u, v) => [u * 4000, v * 2000, 0]));
const lay = (correction: Partial<ReturnType<typeof noCorrection>>, mesh = wall) =>
  buildSheet(mesh, [0, mesh.indices.length / 3], {
    ...FIRST_MAPPING.flat,
    correction: { ...noCorrection(), ...correction },
  });
/** Where the corner that the model has at x, y lies on the sheet. */
const at = (sheet: Sheet, x: number, y: number): [number, number] => {
  const { positions: p, indices } = sheet.mesh;
  const e = indices.findIndex((v) => Math.abs(p[v * 3] - x) < 1 && Math.abs(p[v * 3 + 1] - y) < 1);
  return [sheet.corners[e * 2], sheet.corners[e * 2 + 1]];
};

test('nothing corrected is nothing moved', () => {
  expect(lay({}).corners).toEqual(buildSheet(wall, [0, 400], FIRST_MAPPING.flat).corners);
});

test('a shear leans uprights and states what it costs', () => {
  const sheet = lay({ shearDeg: 10 });
  const lean = Math.tan((10 * Math.PI) / 180);
  expect(at(sheet, 0, 2000)[0]).toBeCloseTo(2000 * lean, 3);
  expect(at(sheet, 1000, 0)).toEqual([1000, 0]);
  // singular values of [1 t; 0 1]
  const most = Math.sqrt(1 + (lean * lean) / 2 + lean * Math.sqrt(1 + (lean * lean) / 4));
  expect(sheet.stretch.most).toBeCloseTo(most, 4);
  expect(sheet.stretch.least).toBeCloseTo(1 / most, 4);
  expect(sheet.area).toBeCloseTo(sheet.trueArea, 0);
});

test('a taper widens the top about the middle', () => {
  const sheet = lay({ taperPercent: 20 });
  expect(at(sheet, 0, 2000)[0]).toBeCloseTo(-400, 3);
  expect(at(sheet, 4000, 2000)[0]).toBeCloseTo(4400, 3);
  expect(at(sheet, 4000, 0)[0]).toBeCloseTo(4000, 3);
});

test('a pulled point moves by what it is pulled, others less and less, and nothing beyond the reach', () => {
  const sheet = lay({ pulls: [{ kind: 'point', xMm: 2000, yMm: 1000, rightMm: 30, upMm: -20, reachMm: 900 }] });
  expect(at(sheet, 2000, 1000)[0]).toBeCloseTo(2030, 3);
  expect(at(sheet, 2000, 1000)[1]).toBeCloseTo(980, 3);
  const near = at(sheet, 2400, 1000)[0] - 2400;
  expect(near).toBeGreaterThan(0);
  expect(near).toBeLessThan(30);
  expect(at(sheet, 3000, 1000)).toEqual([3000, 1000]);
  const row = lay({ pulls: [{ kind: 'row', yMm: 1000, upMm: 25, reachMm: 500 }] });
  for (const x of [0, 2000, 4000]) expect(at(row, x, 1000)[1]).toBeCloseTo(1025, 3);
  expect(at(row, 2000, 1600)[1]).toBeCloseTo(1600, 6);
});

test('a wall of two triangles bends as one of many does, and keeps its outline closed', () => {
  const plain = looseMesh(patch(1, 1, (u, v) => [u * 4000, v * 2000, 0]));
  const pull = { kind: 'point' as const, xMm: 2000, yMm: 1000, rightMm: 30, upMm: -20, reachMm: 900 };
  const sheet = lay({ pulls: [pull], taperPercent: 5 }, plain);
  expect(sheet.trueArea).toBeCloseTo(4000 * 2000, 0);
  expect(at(sheet, 2000, 1000)[1]).toBeCloseTo(980, 2);
  expect(at(sheet, 4000, 2000)[0]).toBeCloseTo(4100, 2);
  // 1.54 is the steepest the fade gets: what a finer pull costs at most
  expect(sheet.stretch.most).toBeLessThan(1.05 + (1.54 * 36.1) / 900);
  expect(sheet.charts[0].outline).toHaveLength(1);
  expect(new Set(sheet.source)).toEqual(new Set([0, 1]));
  const row = lay({ pulls: [{ kind: 'row', yMm: 1000, upMm: 40, reachMm: 500 }] }, plain);
  expect(row.stretch.least).toBeGreaterThan(0.85);
  expect(at(row, 0, 1000)[1]).toBeCloseTo(1040, 2);
});

test('rows that waver come level, those further apart stay rows of their own', () => {
  const wavy = looseMesh(patch(20, 4, (u, v) => [u * 4000, v * 800 + 6 * Math.sin(u * 9), 0]));
  const sheet = lay({ alignMm: 15 }, wavy);
  const heights = new Set(
    Array.from(sheet.corners)
      .filter((_, i) => i % 2)
      .map((y) => Math.round(y * 100) / 100),
  );
  expect(heights.size).toBe(5);
});

test('a corrected sheet is dressed face by face: no frame in space is claimed', () => {
  for (const c of lay({ shearDeg: 3 }).charts) expect(Math.hypot(...c.frame.x)).toBe(0);
});

test('a band of a picture is exactly as high as what it lies on, and true along it', () => {
  const skirting = looseMesh(frustum(500, 500, 120, 64));
  const sheet = buildSheet(skirting, [0, 128], FIRST_MAPPING.cylinder);
  const spec = { ...defaultSpec('oak'), repeat: { own: null, locked: true, band: { from: 0.25, to: 0.5 } } };
  const p = placeSpec(spec, oak({ widthMm: 2000, heightMm: 900 }), sheet, [0, 0, 0]);
  expect(p.widthMm).toBe(2000);
  expect(p.heightMm * 0.25).toBeCloseTo(120, 3);
  // the picture's quarter lies on the foot, its half on the top
  expect(p.at[1] + 0.25 * p.heightMm).toBeCloseTo(sheet.bounds.minY, 3);
  // standing, the band lies over the width
  const upright = placeSpec(
    { ...spec, direction: { turnDeg: 90, mirrorX: false, mirrorY: false } },
    oak({ widthMm: 2000, heightMm: 900 }),
    sheet,
    [0, 0, 0],
  );
  expect(upright.heightMm * 0.25).toBeCloseTo(sheet.bounds.maxX - sheet.bounds.minX, 3);
  // turned by 90° the picture's up is the sheet's left
  expect(upright.at[0] - 0.25 * upright.heightMm).toBeCloseTo(sheet.bounds.maxX, 3);
  expect(upright.at[0] - 0.5 * upright.heightMm).toBeCloseTo(sheet.bounds.minX, 3);
});
