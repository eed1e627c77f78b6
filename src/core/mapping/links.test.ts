import { weldFaces } from '../mesh/weld';
import { facesOf, looseMesh } from '../testing/shapes';
import { findLinks } from './links';

const linksOf = (triangles: number[], toleranceMm = 0.5) => {
  const mesh = looseMesh(triangles);
  return findLinks(mesh, weldFaces(mesh, facesOf(mesh)), toleranceMm);
};

test('an edge that ends in the middle of another shares the stretch they have in common', () => {
  const below = [0, 0, 0, 1000, 0, 0, 500, -400, 0];
  const [link, ...more] = linksOf([...[0, 0, 0, 500, -400, 0, 1000, 0, 0], ...[300, 0, 0, 800, 0, 0, 500, 400, 0]]);
  expect(more).toEqual([]);
  // along the first one's edge from 1000, 0 back to 0, 0
  expect([link.from, link.to]).toEqual([200, 700]);
  // running round the line in the same sense, they show opposite sides
  expect(linksOf([...below, ...[300, 0, 0, 800, 0, 0, 500, 400, 0]])).toEqual([]);
});

test('edges farther apart than the tolerance, or at an angle, are not one', () => {
  const lower = [0, 0, 0, 500, -400, 0, 1000, 0, 0];
  const upper = (gap: number, lift: number) => [0, gap, 0, 1000, gap + lift, 0, 500, 400, 0];
  expect(linksOf([...lower, ...upper(2, 0)], 3)).toHaveLength(1);
  expect(linksOf([...lower, ...upper(2, 0)], 1)).toHaveLength(0);
  expect(linksOf([...lower, ...upper(2, 60)], 3)).toHaveLength(0);
});

test('a surface in very many loose pieces is looked through like any other', () => {
  const triangles: number[] = [];
  for (let n = 0; n < 50_000; n++) triangles.push(n * 20, 0, 0, n * 20 + 10, 0, 0, n * 20 + 5, 8, 0);
  expect(linksOf(triangles)).toEqual([]);
});
