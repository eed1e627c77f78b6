/** The grid of core against a search tree of other descent, which core itself may not import. */
import { BufferAttribute, BufferGeometry, DoubleSide, Ray, Vector3 } from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import type { Vec3 } from '../core/geometry/vec';
import { RayGrid } from '../core/mesh/RayGrid';
import { hashUnit } from '../core/noise/tiles';

/** Triangles strewn about, some long and thin, some along the axes; mm, relative to `origin`. */
function strewn(count: number, origin: Vec3, seed: number) {
  const positions = new Float32Array(count * 9);
  for (let f = 0; f < count; f++) {
    const middle = [0, 1, 2].map((c) => hashUnit(f, c, seed) * 8000);
    const flat = f % 3 === 0 ? f % 9 : -1;
    for (let k = 0; k < 9; k++) {
      const reach = f % 5 === 0 ? 3000 : 400;
      const off = (hashUnit(f, 10 + k, seed) - 0.5) * reach;
      positions[f * 9 + k] = middle[k % 3] + (k % 3 === flat ? 0 : off);
    }
  }
  return { origin, positions, indices: Uint32Array.from({ length: count * 3 }, (_, i) => i) };
}

/** The same by three-mesh-bvh. */
function byTree(meshes: ReturnType<typeof strewn>[]) {
  const all = meshes.flatMap(({ origin, positions }) => [...positions].map((v, i) => v + origin[i % 3]));
  const geometry = new BufferGeometry().setAttribute('position', new BufferAttribute(Float32Array.from(all), 3));
  const tree = new MeshBVH(geometry);
  return (from: Vec3, to: Vec3, most = Infinity) =>
    tree.raycastFirst(new Ray(new Vector3(...from), new Vector3(...to)), DoubleSide, 0, most)?.distance ?? Infinity;
}

const ray = (n: number): [Vec3, Vec3] => {
  const from = [0, 1, 2].map((c) => hashUnit(n, c, 91) * 12_000 - 2000) as Vec3;
  const z = hashUnit(n, 4, 91) * 2 - 1;
  const turn = hashUnit(n, 5, 91) * 2 * Math.PI;
  const axis: Vec3 = [0, 0, 0];
  axis[n % 3] = n % 2 ? 1 : -1;
  // every seventh along an axis: such rays run along the cubes' sides
  const to: Vec3 = n % 7 ? [Math.sqrt(1 - z * z) * Math.cos(turn), Math.sqrt(1 - z * z) * Math.sin(turn), z] : axis;
  return [from, to];
};

test.each([1, 40, 900])('of %i faces, the nearest is the one a search tree finds', (count) => {
  const meshes = [strewn(count, [0, 0, 0], 3), strewn(Math.ceil(count / 2), [500, -300, 900], 8)];
  const grid = new RayGrid(meshes);
  const tree = byTree(meshes);
  let hits = 0;
  for (let n = 0; n < 1500; n++) {
    const [from, to] = ray(n);
    const [own, other] = [grid.nearest(from, to), tree(from, to)];
    if (Number.isFinite(other)) hits++;
    if (Number.isFinite(own) || Number.isFinite(other)) expect(Math.abs(own - other)).toBeLessThan(0.05);
  }
  if (count > 1) expect(hits).toBeGreaterThan(count / 2);
});
