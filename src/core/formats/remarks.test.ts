import { OVERLAP_LIMIT } from '../mesh/overlaps';
import { MANY_SURFACES, prepareModel } from '../mesh/prepare';
import { boxTriangles } from '../testing/fixtures';
import { objText } from '../testing/models';
import { fileSetOf } from './fileSet';
import { readModel } from './readModel';

/*
 * A file for every remark that reading or preparing a model can make: whoever adds a remark adds the file that
 * provokes it.
 */

const bytes = (text: string) => new TextEncoder().encode(text);

/** What is said of some files, read and prepared in metres. */
async function saidOf(files: Record<string, string | Uint8Array>): Promise<string[]> {
  const set = Object.fromEntries(Object.entries(files).map(([n, f]) => [n, typeof f === 'string' ? bytes(f) : f]));
  const raw = await readModel(fileSetOf(set));
  return prepareModel(raw, { unitMm: 1000, upAxis: 'y' }).remarks.map((r) => `${r.kind}: ${r.text}`);
}

const SQUARE = 'v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\n';
const FACE = `${SQUARE}f 1 2 3\n`;
const obj = (text: string) => ({ 'a.obj': text });
const boxes = (...triangles: number[][]) =>
  obj(
    objText(
      triangles.map((t, n) => ({ name: `Part ${n}`, triangles: t })),
      1,
      'y',
    ),
  );
const oneBody = (...triangles: number[][]) => boxes(triangles.flat());

/** A glTF of one triangle; `more` is laid over its JSON. */
function gltf(more: Record<string, unknown>, normals = [0, 0, 1, 0, 0, 1, 0, 0, 1]) {
  const data = Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0, ...normals);
  const uri = `data:application/octet-stream;base64,${Buffer.from(data.buffer).toString('base64')}`;
  const view = (bufferView: number) => ({ bufferView, componentType: 5126, count: 3, type: 'VEC3' });
  const primitive = { attributes: { POSITION: 0, NORMAL: 1 } };
  return {
    'a.gltf': JSON.stringify({
      asset: { version: '2.0' },
      scene: 0,
      scenes: [{ nodes: [0] }],
      nodes: [{ mesh: 0 }],
      meshes: [{ primitives: [primitive] }],
      accessors: [{ ...view(0), min: [0, 0, 0], max: [1, 1, 0] }, view(1)],
      bufferViews: [
        { buffer: 0, byteLength: 36 },
        { buffer: 0, byteOffset: 36, byteLength: 36 },
      ],
      buffers: [{ byteLength: 72, uri }],
      ...more,
    }),
  };
}

const primitives = (...all: object[]) => ({
  meshes: [{ primitives: [{ attributes: { POSITION: 0, NORMAL: 1 } }, ...all] }],
});
const ONE_MATERIAL = 'newmtl Oak\nKd 1 1 1\n';
const far = boxTriangles([2e6, 0, 0], [2e6 + 3, 2, 3]);

const grid = (side: number, at: (x: number, y: number) => number) => {
  const rows: string[] = [];
  for (let y = 0; y <= side; y++) for (let x = 0; x <= side; x++) rows.push(`v ${x} ${at(x, y)} ${y}`);
  for (let y = 0; y < side; y++)
    for (let x = 0; x < side; x++) {
      const a = y * (side + 1) + x + 1;
      rows.push(`f ${a} ${a + side + 1} ${a + side + 2} ${a + 1}`);
    }
  return rows.join('\n');
};

const CASES: [remark: string, files: () => Record<string, string | Uint8Array>][] = [
  ['left out: 1 line', () => obj(`${FACE}l 1 2`)],
  ['left out: 1 set of loose points', () => obj(`${FACE}p 1`)],
  ['left out: 1 free-form curve or surface', () => obj(`${FACE}curv 0 1 1 2`)],
  ['repaired: 1 face with fewer than three corners left out', () => obj(`${FACE}f 1 2`)],
  ['repaired: 1 part had no normals; they were made', () => obj(FACE)],
  ['missing: the material file “m.mtl” did not come along', () => obj(`mtllib m.mtl\nusemtl Oak\n${FACE}`)],
  [
    'missing: no material file defines “Lime”',
    () => ({ 'a.obj': `mtllib m.mtl\nusemtl Lime\n${FACE}`, 'm.mtl': ONE_MATERIAL }),
  ],
  [
    'left out: no material names “odd.png”',
    () => ({ 'a.obj': `mtllib m.mtl\nusemtl Oak\n${FACE}`, 'm.mtl': ONE_MATERIAL, 'odd.png': 'x' }),
  ],
  ['left out: “b.obj”: one model comes in at a time', () => ({ 'a.obj': `${FACE}# the larger one`, 'b.obj': FACE })],
  ['repaired: the version of its format is written as a number', () => gltf({ asset: { version: 2 } })],
  ['left out: 1 camera', () => gltf({ cameras: [{ type: 'perspective', perspective: { yfov: 1, znear: 1 } }] })],
  [
    'left out: 1 light',
    () =>
      gltf({
        extensionsUsed: ['KHR_lights_punctual'],
        extensions: { KHR_lights_punctual: { lights: [{ type: 'point' }] } },
      }),
  ],
  ['left out: 1 skin', () => gltf({ skins: [{ joints: [0] }] })],
  ['left out: 1 animation', () => gltf({ animations: [{ channels: [], samplers: [] }] })],
  ['left out: 1 set of curves', () => gltf(primitives({ attributes: { POSITION: 0 }, mode: 1 }))],
  ['left out: 1 set of loose points', () => gltf(primitives({ attributes: { POSITION: 0 }, mode: 0 }))],
  [
    'left out: 1 set of morph shapes',
    () => gltf({ meshes: [{ primitives: [{ attributes: { POSITION: 0, NORMAL: 1 }, targets: [{ POSITION: 0 }] }] }] }),
  ],
  [
    'repaired: 1 part had no normals; they were made',
    () => gltf({ meshes: [{ primitives: [{ attributes: { POSITION: 0 } }] }] }),
  ],
  ['repaired: 1 normal or coordinate that was no number', () => gltf({}, [NaN, 0, 1, 0, 0, 1, 0, 0, 1])],
  ['repaired: 1 face of zero area left out', () => obj(`${FACE}v 2 0 0\nf 1 2 5`)],
  ['repaired: 1 duplicate face removed', () => obj(`${FACE}f 1 2 3`)],
  [
    'note: 1 corner lies on the middle of another face’s edge',
    () => obj('v 0 0 0\nv 2 0 0\nv 2 1 0\nv 0 1 0\nv 1 0 0\nv 1 -1 0\nv 0 -1 0\nf 1 2 3 4\nf 7 6 5 1'),
  ],
  [
    'note: 1 edge is shared by three or more faces; surfaces end there',
    () => obj('v 0 0 0\nv 0 1 0\nv 1 0 0\nv -1 0 0\nv 0 0 1\nf 1 2 3\nf 1 2 4\nf 2 1 5'),
  ],
  ['note: 1 edge joins faces turned opposite ways; one of them is inside-out', () => obj(`${SQUARE}f 1 2 3\nf 1 4 3`)],
  [
    'note: 1 face overlaps another in the same plane; areas count both',
    () => obj('v 0 0 0\nv 2 0 0\nv 0 2 0\nv 0.2 0.2 0\nv 1 0.2 0\nv 0.2 1 0\nf 1 2 3\nf 4 5 6'),
  ],
  [
    'note: 1 large part was not searched for overlapping faces',
    () => obj(grid(Math.ceil(Math.sqrt(OVERLAP_LIMIT / 2)) + 1, (x) => (x % 2 ? 2 : 0))),
  ],
  [
    `note: “Part 0” has ${MANY_SURFACES + 1} loose flat areas in one slot; they were kept together`,
    () => oneBody(...Array.from({ length: MANY_SURFACES + 1 }, (_, n) => [n * 3, 0, 0, n * 3 + 1, 0, 0, n * 3, 0, -1])),
  ],
  ['note: the model lies 2000 km from its origin', () => boxes(far)],
];

test.each(CASES)(
  '%s',
  async (remark, files) => {
    const said = await saidOf(files());
    expect(said.find((s) => s.startsWith(remark)) ?? said).toEqual(expect.stringContaining(remark));
  },
  30_000,
);

test('a clean box is remarked on for nothing but its normals', async () => {
  expect(await saidOf(boxes(boxTriangles([0, 0, 0], [1, 1, 1])))).toEqual([
    'repaired: 1 part had no normals; they were made',
  ]);
});
