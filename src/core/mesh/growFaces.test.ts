import { boxTriangles } from '../testing/fixtures';
import { frustum, looseMesh, patch, plateFace } from '../testing/shapes';
import { rectangle } from '../testing/surfaces';
import { flipFaces } from './flip';
import { followEdge } from './followEdge';
import { growFaces, invertFaces } from './growFaces';
import { faceCount, listFaces } from './types';

const count = faceCount;

test('a face grows over its plane, on over small turns, and over everything that hangs together', () => {
  const box = looseMesh(boxTriangles([0, 0, 0], [900, 400, 600]));
  expect(count(growFaces(box, [0, 1], { how: 'plane' }))).toBe(2);
  expect(count(growFaces(box, [0, 1], { how: 'body' }))).toBe(12);
  const barrel = looseMesh(frustum(230, 230, 1000, 48));
  expect(count(growFaces(barrel, [5, 1], { how: 'plane' }))).toBe(2);
  // 48 sides turn by 7.5° each
  expect(count(growFaces(barrel, [5, 1], { how: 'angle', deg: 7.5 }))).toBe(96);
  expect(count(growFaces(barrel, [5, 1], { how: 'angle', deg: 7.4 }))).toBe(2);
  // two walls that do not touch
  const apart = looseMesh([
    ...plateFace([rectangle(1000, 1000)]),
    ...plateFace([rectangle(500, 500)]).map((v, i) => v + (i % 3 === 0 ? 3000 : 0)),
  ]);
  expect(count(growFaces(apart, [0, 1], { how: 'body' }))).toBe(2);
  expect(count(growFaces(apart, [0, 1], { how: 'facing', deg: 5 }))).toBe(4);
});

test('a strip is swept both ways, in the direction that two faces give', () => {
  // a sheet of 12 by 5 four-sided faces, bent along its length
  const sheet = looseMesh(patch(12, 5, (u, v) => [u * 2400, v * 500, 200 * Math.sin(u * 3)]));
  const at = (column: number, row: number) => (column * 5 + row) * 2;
  expect(count(growFaces(sheet, [at(3, 2), 1], { how: 'strip' }))).toBe(24);
  const across = growFaces(sheet, [at(3, 2), 1, at(3, 3), 1], { how: 'strip' });
  expect(count(across)).toBe(10);
  expect([...listFaces(across)].every((f) => Math.floor(f / 10) === 3)).toBe(true);
  // round a barrel it comes back to where it began, once
  expect(count(growFaces(looseMesh(frustum(230, 230, 1000, 48, 2 * Math.PI, 4)), [6, 1], { how: 'strip' }))).toBe(96);
});

test('by height, and alike', () => {
  const shelf = (y: number, w: number) => boxTriangles([0, y, 0], [w, y + 20, 300]);
  const shelves = looseMesh([
    ...shelf(400, 900),
    ...shelf(400, 600).map((v, i) => v + (i % 3 === 0 ? 2000 : 0)),
    ...shelf(800, 900),
  ]);
  // the first two faces of a box are its top
  expect(count(growFaces(shelves, [0, 2], { how: 'level' }))).toBe(4);
  expect(count(growFaces(shelves, [0, 2], { how: 'alike' }))).toBe(4);
  expect([...listFaces(growFaces(shelves, [0, 2], { how: 'alike' }))]).toEqual([0, 1, 24, 25]);
});

test('inverting and flipping', () => {
  expect(invertFaces([0, 10], [2, 3, 8, 1])).toEqual([0, 2, 5, 3, 9, 1]);
  const box = looseMesh(boxTriangles([0, 0, 0], [900, 400, 600]));
  const flipped = flipFaces(box, [0, 2]);
  const normal = (m: typeof box, f: number) => {
    const [a, b, c] = [0, 1, 2].map((k) => [0, 1, 2].map((n) => m.positions[m.indices[f * 3 + k] * 3 + n]));
    const [u, v] = [b.map((x, i) => x - a[i]), c.map((x, i) => x - a[i])];
    return u[2] * v[0] - u[0] * v[2];
  };
  expect(Math.sign(normal(flipped, 0))).toBe(-Math.sign(normal(box, 0)));
  expect(flipped.normals[flipped.indices[0] * 3 + 1]).toBe(-1);
  // the others are as they were, and flipping twice leads back
  expect([...flipped.indices.slice(6)]).toEqual([...box.indices.slice(6)]);
  expect(Math.sign(normal(flipFaces(flipped, [0, 2]), 0))).toBe(Math.sign(normal(box, 0)));
});

test('an arris is followed as far as it runs straight; the diagonal of a flat face is none', () => {
  // 12 sides in four rings: upright arrises of four edges each
  const barrel = looseMesh(frustum(300, 300, 800, 12, 2 * Math.PI, 4));
  const faces = Uint32Array.from({ length: 96 }, (_, i) => i);
  const cut = followEdge(barrel, faces, 8, [300 * Math.cos(Math.PI / 6), 100, -300 * Math.sin(Math.PI / 6)]);
  expect(cut).toHaveLength(4);
  for (const e of cut) {
    const [a, b] = [e, e % 3 === 2 ? e - 2 : e + 1].map((c) => barrel.indices[c] * 3);
    expect(barrel.positions[a]).toBeCloseTo(barrel.positions[b], 3);
  }
  const plate = looseMesh(plateFace([rectangle(1000, 500)]));
  expect(followEdge(plate, Uint32Array.from([0, 1]), 0, [500, 250, 0])).toEqual([]);
});
