import { sayFinding } from '../finding/finding';
import { FIRST_MAPPING, type MappingSpec } from './schema';
import { frustum, looseMesh, patch, sphereBand } from '../testing/shapes';
import { buildSheet } from './sheet';

const whole = { ...FIRST_MAPPING.unroll, inOnePiece: true };
const lay = (triangles: number[], mapping: MappingSpec = whole) => {
  const mesh = looseMesh(triangles);
  return buildSheet(mesh, [0, mesh.indices.length / 3], mapping);
};
const faceAreas = (s: ReturnType<typeof lay>) =>
  Array.from(s.faces, (_, i) => {
    const c = s.corners.subarray(i * 6, i * 6 + 6);
    return ((c[2] - c[0]) * (c[5] - c[1]) - (c[3] - c[1]) * (c[4] - c[0])) / 2;
  });

const saddle = patch(24, 24, (u, v) => [u * 2000, 300 * (u - 0.5) ** 2 - 300 * (v - 0.5) ** 2, -v * 2000]);
const cap = patch(24, 24, (u, v) => {
  const [a, b] = [(u - 0.5) * 1.2, (v - 0.5) * 1.2];
  return [1000 * Math.sin(a), 1000 * Math.cos(a) * Math.cos(b), -1000 * Math.cos(a) * Math.sin(b)];
});

test.each([
  ['a saddle', saddle],
  ['a piece of a ball', cap],
])('%s lies in one piece, folds nowhere, and states a small stretch', (_name, triangles) => {
  const sheet = lay(triangles);
  expect(sheet.charts).toHaveLength(1);
  expect(sheet.breaks).toEqual([]);
  expect(sheet.charts[0].outline).toHaveLength(1);
  for (const a of faceAreas(sheet)) expect(a).toBeGreaterThan(0);
  expect(sheet.stretch.most).toBeLessThan(1.12);
  expect(sheet.stretch.least).toBeGreaterThan(0.88);
  expect(Math.abs(sheet.area / sheet.trueArea - 1)).toBeLessThan(0.02);
  // cut instead, it is true but in shreds
  const cut = lay(triangles, FIRST_MAPPING.unroll);
  expect(cut.stretch.most).toBeCloseTo(1, 4);
  expect(cut.breaks.length).toBeGreaterThan(0);
});

test('less stretch than thrown on from above', () => {
  const thrown = lay(saddle, FIRST_MAPPING.flat);
  const spread = lay(saddle);
  const cost = (s: typeof thrown) => Math.max(s.stretch.most, 1 / s.stretch.least);
  expect(cost(spread)).toBeLessThan(cost(thrown));
});

test('what folds seen from one side is laid from its edge inwards', () => {
  // a hood that turns back under itself
  const hood = patch(30, 12, (u, v) => {
    const [a, b] = [u * 4.4, (v - 0.5) * 0.8];
    return [600 * Math.cos(a) * Math.cos(b), 600 * Math.sin(a) * Math.cos(b), -600 * Math.sin(b)];
  });
  const sheet = lay(hood);
  for (const a of faceAreas(sheet)) expect(a).toBeGreaterThan(0);
  expect(sheet.stretch.most).toBeLessThan(1.2);
  expect(sheet.breaks).toEqual([]);
});

test('what can lie flat is true; what closes round says that it must be cut first', () => {
  expect(lay(patch(40, 1, (u, v) => [u * 3000, v * 900, 250 * Math.sin(u * 5)])).stretch.most).toBeCloseTo(1, 4);
  const ball = lay(sphereBand(400, -0.6, 0.6, 32, 8));
  expect(ball.notes.map((n) => sayFinding(n)).join()).toMatch(/choose where it is cut/);
  // cut along one meridian, it can
  const meridian = Array.from({ length: 8 }, (_, j) => j * 6 + 5);
  const opened = lay(sphereBand(400, -0.6, 0.6, 32, 8), { ...whole, cuts: meridian });
  expect(opened.notes.map((n) => sayFinding(n)).join()).not.toMatch(/choose/);
  for (const a of faceAreas(opened)) expect(a).toBeGreaterThan(0);
  expect(lay(frustum(300, 200, 700, 48), { ...whole }).stretch.most).toBeCloseTo(1, 3);
});
