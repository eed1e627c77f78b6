import { boxTriangles } from '../testing/fixtures';
import { archFace, facesOf, frustum, looseMesh, patch, plateFace, sphereBand } from '../testing/shapes';
import { polygon, rectangle } from '../testing/surfaces';
import type { MappingSpec } from './schema';
import { suggestMapping } from './suggest';

/** All that is suggested, best first, in words. */
const said = (triangles: number[], uvs?: number[]) => {
  const mesh = looseMesh(triangles);
  if (uvs) mesh.uvs = [Float32Array.from(uvs)];
  return suggestMapping(mesh, facesOf(mesh)).map((s) => `${s.mapping.kind}: ${s.reason}`);
};
const first = (triangles: number[]): MappingSpec => {
  const mesh = looseMesh(triangles);
  return suggestMapping(mesh, facesOf(mesh))[0].mapping;
};
const ring = (outer: number, inner: number) => plateFace([polygon(outer, 64), [...polygon(inner, 64)].reverse()]);
const BENDS = 'box: it bends both ways: each face from the side it faces';

test('flat ones: a plane, rings by how large their middle is', () => {
  expect(said(plateFace([rectangle(3000, 2000)]))).toEqual(['flat: all of it lies in one plane']);
  expect(said(ring(665, 450))).toEqual([
    'fan: a ring, radius 450 mm to 665 mm, 100% of its outline agrees',
    'flat: all of it lies in one plane',
  ]);
  // a disc and one with a pin-hole are rounds; their middle is no ring
  for (const round of [plateFace([polygon(500, 64)]), ring(500, 20)]) {
    expect(said(round)).toEqual(['flat: all of it lies in one plane', 'fan: a round of radius 500 mm']);
  }
  const mesh = looseMesh(plateFace([polygon(500, 64)]));
  expect(suggestMapping(mesh, facesOf(mesh))[1].mapping).toMatchObject({ kind: 'fan', reference: 'outer' });
  expect(said(archFace(1000, 1215, 0.4, 2.6, 32))[0]).toBe(
    'fan: a ring, radius 1,000 mm to 1,215 mm, 100% of its outline agrees',
  );
});

test('a wall is flat though a round hole is in it', () => {
  const wall = plateFace([rectangle(6000, 3000), [...polygon(450, 64, 0, 2500, 1500)].reverse()]);
  expect(said(wall)).toEqual(['flat: all of it lies in one plane']);
});

test('round ones: upright axes are kept upright, leaning ones found', () => {
  const column = frustum(230, 230, 3400, 64);
  expect(said(column)[0]).toBe('cylinder: round, radius 230 mm, 100% of faces agree');
  expect(said(column)).toContain(BENDS);
  // a long cut is too much, a short one is said
  expect(said(column).some((s) => s.startsWith('unroll'))).toBe(false);
  expect(said(frustum(230, 230, 1000, 64))[1]).toBe('unroll: unfolded with 1,000 mm of cuts: every size stays true');
  expect(first(column)).toMatchObject({ kind: 'cylinder', axis: 'vertical' });
  const lying = patch(48, 1, (u, v) => [v * 2000, 300 * Math.cos(u * 2 * Math.PI), -300 * Math.sin(u * 2 * Math.PI)]);
  expect(first(lying)).toMatchObject({ kind: 'cylinder', axis: 'found' });
  expect(said(frustum(500, 500, 900, 32, Math.PI))[0]).toBe('cylinder: round, radius 500 mm, 100% of faces agree');
});

test('cones are unrolled first, and can be laid round', () => {
  expect(said(frustum(300, 150, 700, 48)).slice(0, 2)).toEqual([
    'unroll: a cone, 100% of faces agree: unrolled it lies true',
    'cylinder: a cone: stretched round, but courses run level',
  ]);
  // so slight a taper is none
  expect(first(frustum(300, 295, 700, 48)).kind).toBe('cylinder');
});

test('a ball, and the last resort after it', () => {
  const all = said(sphereBand(180, -1.5, 1.5, 48, 24));
  expect(all[0]).toMatch(/^sphere: a ball, radius 180(\.\d)? mm, (9\d|100)% of faces agree$/);
  expect(all.at(-1)).toBe(BENDS);
});

test('square ones, however they stand in plan, are boxes; what leans is none', () => {
  const crate = boxTriangles([0, 0, 0], [900, 400, 600]);
  expect(said(crate)[0]).toBe('box: square sides, 100% of faces agree');
  expect(said(crate)).not.toContain(BENDS);
  const turned = (deg: number) => {
    const [c, s] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)];
    return crate.map((v, i) => (i % 3 === 0 ? c * v - s * crate[i + 2] : i % 3 === 2 ? s * crate[i - 2] + c * v : v));
  };
  for (const deg of [17, 45, 80]) expect(said(turned(deg))[0]).toBe('box: square sides, 100% of faces agree');
  const leaning = crate.map((v, i) => (i % 3 === 0 ? v + 0.2 * crate[i + 1] : v));
  expect(said(leaning).some((s) => s.includes('square sides'))).toBe(false);
});

test('what bends one way can lie flat; what bends both ways cannot', () => {
  expect(said(patch(40, 1, (u, v) => [u * 3000, v * 900, 250 * Math.sin(u * 5)]))[0]).toBe(
    'unroll: it bends but can lie flat: every size stays true',
  );
  const saddle = patch(20, 20, (u, v) => [u * 2000, 400 * (u - 0.5) ** 2 - 500 * (v - 0.5) ** 2, -v * 2000]);
  expect(said(saddle)).toEqual([BENDS]);
});

test('the model’s own coordinates are offered where they are sound', () => {
  const bend = patch(12, 1, (u, v) => [u * 3000, v * 900, 250 * Math.sin(u * 5)]);
  const uvs = patch(12, 1, (u, v) => [u * 3, v, 0]).flatMap((v, i) => (i % 3 === 2 ? [] : [v]));
  expect(said(bend, uvs).find((s) => s.startsWith('own'))).toMatch(
    /^own: one unit of the model’s coordinates measures \d.* × \d.* here$/,
  );
  const empty = uvs.map(() => 0);
  expect(said(bend, empty).some((s) => s.startsWith('own'))).toBe(false);
});
