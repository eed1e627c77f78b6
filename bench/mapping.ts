import { BufferAttribute, BufferGeometry, Ray, Vector3 } from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import { cylinder } from '@/core/mapping/cylinder';
import { unroll } from '@/core/mapping/unroll';
import type { PartMesh } from '@/core/mesh/types';
import { type NewPart, proposeParts } from '@/core/project/revise';
import type { Part } from '@/core/project/schema';
import { FIRST_MAPPING } from '@/core/mapping/schema';
import { compare, type Rows, time } from './measure';

/** A barrel of 500 by 500 four-sided faces that share their corners. */
function barrel(sides: number, rings: number): PartMesh {
  const positions = new Float32Array((sides + 1) * (rings + 1) * 3);
  const normals = new Float32Array(positions.length);
  for (let j = 0; j <= rings; j++) {
    for (let i = 0; i <= sides; i++) {
      const a = (i / sides) * 2 * Math.PI;
      const v = (j * (sides + 1) + i) * 3;
      positions.set([1500 * Math.cos(a), j * 12, -1500 * Math.sin(a)], v);
      normals.set([Math.cos(a), 0, -Math.sin(a)], v);
    }
  }
  const indices = new Uint32Array(sides * rings * 6);
  let n = 0;
  for (let j = 0; j < rings; j++) {
    for (let i = 0; i < sides; i++) {
      const v = j * (sides + 1) + i;
      const up = v + sides + 1;
      indices.set([v, v + 1, up + 1, v, up + 1, up], n);
      n += 6;
    }
  }
  return { origin: [0, 0, 0], positions, normals, uvs: [], indices, slots: new Uint16Array(indices.length / 3) };
}

/** One pass over the same arrays: every corner of every face read, two coordinates written. */
function onePass({ positions: p, indices }: PartMesh): Float64Array {
  const out = new Float64Array(indices.length * 2);
  for (let e = 0; e < indices.length; e++) {
    const v = indices[e] * 3;
    out[e * 2] = p[v] + p[v + 2];
    out[e * 2 + 1] = p[v + 1];
  }
  return out;
}

export async function benchMapping(rows: Rows): Promise<void> {
  const mesh = barrel(500, 500);
  const faces = Uint32Array.from({ length: mesh.slots.length }, (_, i) => i);
  const count = faces.length.toLocaleString('en');
  // neighbours are kept with the mesh and not counted
  for (const [name, work, budget] of [
    ['cylinder', () => cylinder.lay(mesh, faces, FIRST_MAPPING.cylinder), 8],
    ['unroll', () => unroll.lay(mesh, faces, FIRST_MAPPING.unroll), 12],
  ] as const) {
    const { taken, base, ratio } = await compare(work, () => onePass(mesh));
    rows.push({
      name: `${name} mapping of ${count} triangles`,
      value: taken,
      unit: 'ms',
      against: `one pass over the same arrays, ${base.toFixed(1)} ms`,
      ratio,
      budget,
    });
  }

  // a frame is 16.7 ms; the tree is made in the worker
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(mesh.positions, 3));
  geometry.setIndex(new BufferAttribute(mesh.indices, 1));
  const tree = new MeshBVH(geometry, { indirect: true });
  const picks = 200;
  const taken = await time(() => {
    let hits = 0;
    for (let i = 0; i < picks; i++) {
      const from = new Vector3(9000 * Math.cos(i), 200 + i * 25, 9000 * Math.sin(i));
      const ray = new Ray(from, new Vector3(-from.x, 3000 - from.y, -from.z).normalize());
      if (tree.raycastFirst(ray)) hits++;
    }
    if (hits < picks / 2) throw new Error('the rays miss the barrel');
  });
  rows.push({
    name: `picking a face of ${count} triangles`,
    value: taken / picks,
    unit: 'ms',
    against: 'a frame, 16.7 ms',
    ratio: taken / picks / 16.7,
    budget: 1,
  });

  const parts = Array.from({ length: 500 }, (_, n): Part => {
    const [x, z] = [(n % 25) * 3000, Math.floor(n / 25) * 3000];
    return {
      id: `p${n}`,
      model: 'm',
      name: `Part ${n}`,
      path: ['House'],
      mesh: n,
      origin: [x, 0, z],
      min: [x, 0, z],
      max: [x + 1000 + n, 900, z + 400],
      locked: false,
    };
  });
  // every third renamed and moved, every tenth grown
  const next = parts.map((p, n): NewPart => {
    const shift = n % 3 ? 0 : 700;
    const grown = n % 10 ? 0 : 300;
    return {
      name: n % 3 ? p.name : `Body ${n}`,
      path: p.path,
      origin: p.origin,
      min: [p.min[0] + shift, 0, p.min[2]],
      max: [p.max[0] + shift + grown, 900, p.max[2]],
      surfaces: [],
    };
  });
  const found = proposeParts(parts, next).parts.filter((m) => m.old === `p${m.next}`).length;
  if (found < 450) throw new Error(`only ${found} of 500 parts are found again`);
  const {
    taken: proposed,
    base: text,
    ratio,
  } = await compare(
    () => proposeParts(parts, next),
    () => JSON.parse(JSON.stringify({ parts, next })) as unknown,
  );
  rows.push({
    name: 'the proposal for 500 parts of a changed model',
    value: proposed,
    unit: 'ms',
    against: `writing and reading them as JSON, ${text.toFixed(1)} ms`,
    ratio,
    budget: null,
  });
}
