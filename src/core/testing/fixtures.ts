import { Document, type Node, WebIO } from '@gltf-transform/core';
import type { Vec3 } from '../geometry/vec';
import { fileSetOf } from '../formats/fileSet';
import { readModel } from '../formats/readModel';
import { type PreparedModel, prepareModel } from '../mesh/prepare';
import type { RawModel } from '../mesh/types';

/** Small models for tests, in metres with y up unless said. */

/** Triangles of a box between two corners, nine numbers each. */
export function boxTriangles([x0, y0, z0]: Vec3, [x1, y1, z1]: Vec3): number[] {
  const q = (...p: Vec3[]) => [p[0], p[1], p[2], p[0], p[2], p[3]].flat();
  return [
    q([x0, y1, z1], [x1, y1, z1], [x1, y1, z0], [x0, y1, z0]),
    q([x0, y0, z0], [x1, y0, z0], [x1, y0, z1], [x0, y0, z1]),
    q([x0, y0, z1], [x1, y0, z1], [x1, y1, z1], [x0, y1, z1]),
    q([x1, y0, z0], [x0, y0, z0], [x0, y1, z0], [x1, y1, z0]),
    q([x1, y0, z1], [x1, y0, z0], [x1, y1, z0], [x1, y1, z1]),
    q([x0, y0, z0], [x0, y0, z1], [x0, y1, z1], [x0, y1, z0]),
  ].flat();
}

/** Barrel and caps of an upright cylinder. */
export function cylinderTriangles(radius: number, height: number, sides: number): number[] {
  const out: number[] = [];
  const at = (i: number, y: number): Vec3 => {
    const a = (i / sides) * 2 * Math.PI;
    return [Math.cos(a) * radius, y, -Math.sin(a) * radius];
  };
  for (let i = 0; i < sides; i++) {
    out.push(...at(i, 0), ...at(i + 1, 0), ...at(i + 1, height), ...at(i, 0), ...at(i + 1, height), ...at(i, height));
    out.push(0, height, 0, ...at(i, height), ...at(i + 1, height), 0, 0, 0, ...at(i + 1, 0), ...at(i, 0));
  }
  return out;
}

/** Walls of an upright prism over a plan (counter-clockwise seen from above, [east, south]), and its top. */
export function prismWalls(plan: [number, number][], height: number): number[] {
  const out: number[] = [];
  plan.forEach(([x, z], i) => {
    const [u, w] = plan[(i + 1) % plan.length];
    out.push(x, 0, z, u, 0, w, u, height, w, x, 0, z, u, height, w, x, height, z);
  });
  return out;
}

/** A floor of one quad at level 0. */
export const floorTriangles = (width: number, depth: number): number[] => [
  0,
  0,
  depth,
  width,
  0,
  depth,
  width,
  0,
  0,
  0,
  0,
  depth,
  width,
  0,
  0,
  0,
  0,
  0,
];

export interface NodeOptions {
  scale?: Vec3;
  translation?: Vec3;
  rotation?: [number, number, number, number];
}

/** A GLB with one node per list of triangles. */
export async function makeGlb(parts: { name: string; triangles: number[]; node?: NodeOptions }[]): Promise<Uint8Array> {
  const document = new Document();
  const scene = document.createScene('Test');
  const buffer = document.createBuffer();
  for (const { name, triangles, node = {} } of parts) {
    const positions = document
      .createAccessor()
      .setType('VEC3')
      .setArray(Float32Array.from(triangles))
      .setBuffer(buffer);
    const mesh = document.createMesh(name).addPrimitive(document.createPrimitive().setAttribute('POSITION', positions));
    const made: Node = document.createNode(name).setMesh(mesh);
    if (node.scale) made.setScale(node.scale);
    if (node.translation) made.setTranslation(node.translation);
    if (node.rotation) made.setRotation(node.rotation);
    scene.addChild(made);
  }
  return new WebIO().writeBinary(document);
}

export async function rawFrom(parts: Parameters<typeof makeGlb>[0]): Promise<RawModel> {
  return readModel(fileSetOf({ 'test.glb': await makeGlb(parts) }));
}

/** Read and prepared as an import would. */
export async function preparedFrom(parts: Parameters<typeof makeGlb>[0]): Promise<PreparedModel> {
  return prepareModel(await rawFrom(parts), { unitMm: 1000, upAxis: 'y' });
}
