import { BufferAttribute, BufferGeometry, DoubleSide, Ray, Vector3 } from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import { writePellowLanding } from '../demo/model/glb';
import { fileSetOf } from '../src/core/formats/fileSet';
import { readModel } from '../src/core/formats/readModel';
import type { Vec3 } from '../src/core/geometry/vec';
import { aboutNormal } from '../src/core/light/trace';
import { buildSheet } from '../src/core/mapping/sheet';
import { prepareModel } from '../src/core/mesh/prepare';
import { RayGrid } from '../src/core/mesh/RayGrid';
import { hashUnit, tileNoise } from '../src/core/noise/tiles';
import { bakeWear } from '../src/core/wear/bake';
import { placesOn } from '../src/core/wear/places';
import { wearKindOf } from '../src/core/wear/registry';
import { compare, type Rows } from './measure';

/** Rays over the demo's hall floor, short and without end, against a tree of boxes; then all of its wear. */
export async function benchWear(rows: Rows): Promise<void> {
  const raw = await readModel(fileSetOf({ 'pellow-landing.glb': await writePellowLanding() }));
  const { parts } = prepareModel(raw, { unitMm: 1000, upAxis: 'y' });
  const meshes = parts.map((p) => p.mesh);
  const floor = parts.find((p) => p.name === 'Hall floor')!;
  const top = floor.surfaces.find((s) => s.normal[1] > 0.9)!;
  const sheet = buildSheet(floor.mesh, top.faces, { kind: 'flat', direction: 'auto' });
  const places = placesOn(sheet, sheet.bounds, 120);
  const rays: [Vec3, Vec3][] = [];
  for (let n = 0; n < places.face.length; n++) {
    if (places.face[n] < 0) continue;
    const from: Vec3 = [places.at[n * 3], places.at[n * 3 + 1] + 1, places.at[n * 3 + 2]];
    for (let k = 0; k < 8; k++) rays.push([from, aboutNormal([0, 1, 0], hashUnit(n, k, 1), hashUnit(n, k, 2))]);
  }
  const grid = new RayGrid(meshes);
  const corners = meshes.flatMap(({ origin, positions, indices }) =>
    [...indices].flatMap((v) => [0, 1, 2].map((c) => positions[v * 3 + c] + origin[c])),
  );
  const geometry = new BufferGeometry().setAttribute('position', new BufferAttribute(Float32Array.from(corners), 3));
  const tree = new MeshBVH(geometry);
  const ray = new Ray(new Vector3(), new Vector3());
  const byTree = (most: number) => {
    for (const [from, to] of rays) {
      ray.origin.set(...from);
      ray.direction.set(...to);
      tree.raycastFirst(ray, DoubleSide, 0, most);
    }
  };
  const byGrid = (most: number) => {
    for (const [from, to] of rays) grid.nearest(from, to, most);
  };
  const count = `${rays.length.toLocaleString('en')} rays`;
  for (const [reach, most] of [
    ['of 300 mm', 300],
    ['without end', Infinity],
  ] as const) {
    const { taken, base, ratio } = await compare(
      () => byGrid(most),
      () => byTree(most),
    );
    rows.push({
      name: `${count} ${reach} in the demo`,
      value: taken,
      unit: 'ms',
      against: `a tree of boxes, ${base.toFixed(0)} ms`,
      ratio,
      budget: 2,
    });
  }

  const layers = (['dirt', 'dust', 'bleached'] as const).map((kind) => wearKindOf({ kind }).first);
  const bake = () => bakeWear(sheet, { layers, marks: [] }, { surroundings: grid, northDeg: 0, pictures: {} })!;
  const { width, height } = bake();
  const noise = () => {
    let sum = 0;
    for (let i = 0; i < width * height; i++) sum += tileNoise(i * 0.01, i * 0.02, 1 << 20, 1 << 20, 1);
    return sum;
  };
  const { taken, base, ratio } = await compare(bake, noise);
  rows.push({
    name: `dirt, dust and bleaching of the hall floor, ${width} × ${height}`,
    value: taken,
    unit: 'ms',
    against: `one noise at every pixel, ${base.toFixed(0)} ms`,
    ratio,
    budget: null,
  });
}
