import { reachOf } from '../../mesh/types';
import { Document, WebIO } from '@gltf-transform/core';
import { KHRMeshQuantization } from '@gltf-transform/extensions';
import { boxTriangles, makeGlb } from '../../testing/fixtures';
import { fileSetOf } from '../fileSet';
import { readModel } from '../readModel';

const read = (bytes: Uint8Array, name = 'a.glb') => readModel(fileSetOf({ [name]: bytes }));
const box = () => makeGlb([{ name: 'Box', triangles: boxTriangles([0, 0, 0], [1, 1, 1]) }]);

async function withMode(mode: 4 | 5 | 6, positions: number[], indices?: number[]) {
  const document = new Document();
  const buffer = document.createBuffer();
  const primitive = document
    .createPrimitive()
    .setMode(mode)
    .setAttribute(
      'POSITION',
      document.createAccessor().setType('VEC3').setArray(Float32Array.from(positions)).setBuffer(buffer),
    );
  if (indices)
    primitive.setIndices(
      document.createAccessor().setType('SCALAR').setArray(Uint16Array.from(indices)).setBuffer(buffer),
    );
  const node = document.createNode('N').setMesh(document.createMesh().addPrimitive(primitive));
  document.createScene().addChild(node);
  return new WebIO().writeBinary(document);
}

/** Sum of face normals: a strip or fan laid out wrongly would cancel itself. */
function normalSum(part: { positions: Float32Array; indices: Uint32Array }): number {
  let z = 0;
  for (let i = 0; i < part.indices.length; i += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => part.indices[i + k] * 3);
    const p = part.positions;
    z += ((p[b] - p[a]) * (p[c + 1] - p[a + 1]) - (p[b + 1] - p[a + 1]) * (p[c] - p[a])) / 2;
  }
  return z;
}

test('strips and fans become triangles of one sense', async () => {
  const strip = await read(await withMode(5, [0, 0, 0, 1, 0, 0, 0, 1, 0, 1, 1, 0, 0, 2, 0]));
  expect(strip.parts[0].indices).toHaveLength(9);
  expect(normalSum(strip.parts[0])).toBeCloseTo(1.5);
  const fan = await read(await withMode(6, [0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0]));
  expect(normalSum(fan.parts[0])).toBeCloseTo(1);
});

test('instances are parts of their own, names made distinct', async () => {
  const document = new Document();
  const buffer = document.createBuffer();
  const positions = document
    .createAccessor()
    .setType('VEC3')
    .setArray(new Float32Array([0, 0, 0, 1, 0, 0, 0, 1, 0]))
    .setBuffer(buffer);
  const mesh = document
    .createMesh('Chair')
    .addPrimitive(document.createPrimitive().setAttribute('POSITION', positions));
  const scene = document.createScene();
  const group = document.createNode('Row').setTranslation([0, 0, 3]);
  scene.addChild(group);
  for (let i = 0; i < 3; i++)
    group.addChild(
      document
        .createNode('Chair')
        .setMesh(mesh)
        .setTranslation([i * 2, 0, 0]),
    );
  const { parts } = await read(await new WebIO().writeBinary(document));
  expect(parts.map((p) => p.name)).toEqual(['Chair', 'Chair 2', 'Chair 3']);
  expect(parts.map((p) => p.origin[0] + p.positions[0])).toEqual([0, 2, 4]);
  expect(parts[2].origin[2] + p0(parts[2])).toBe(3);
  expect(parts[0].path).toEqual(['Row']);
});
const p0 = (part: { positions: Float32Array }) => part.positions[2];

test('quantised positions come out at their real size', async () => {
  const document = new Document();
  document.createExtension(KHRMeshQuantization).setRequired(true);
  const buffer = document.createBuffer();
  const positions = document
    .createAccessor()
    .setType('VEC3')
    .setNormalized(true)
    .setArray(new Int16Array([0, 0, 0, 32767, 0, 0, 0, 32767, 0]))
    .setBuffer(buffer);
  const mesh = document.createMesh().addPrimitive(document.createPrimitive().setAttribute('POSITION', positions));
  document.createScene().addChild(document.createNode().setMesh(mesh).setScale([3, 3, 3]));
  const io = new WebIO().registerExtensions([KHRMeshQuantization]);
  const { parts } = await read(await io.writeBinary(document));
  const xs = [0, 1, 2].map((v) => parts[0].origin[0] + parts[0].positions[v * 3]);
  expect(Math.max(...xs) - Math.min(...xs)).toBeCloseTo(3, 5);
});

test('sparse accessors are read', async () => {
  const document = new Document();
  const buffer = document.createBuffer();
  const positions = document
    .createAccessor()
    .setType('VEC3')
    .setArray(new Float32Array(300))
    .setBuffer(buffer)
    .setSparse(true);
  positions.setElement(1, [2, 0, 0]).setElement(2, [0, 2, 0]);
  const indices = document
    .createAccessor()
    .setType('SCALAR')
    .setArray(new Uint16Array([0, 1, 2]))
    .setBuffer(buffer);
  const primitive = document.createPrimitive().setAttribute('POSITION', positions).setIndices(indices);
  document.createScene().addChild(document.createNode().setMesh(document.createMesh().addPrimitive(primitive)));
  const { parts } = await read(await new WebIO().writeBinary(document));
  expect(normalSum(parts[0])).toBeCloseTo(2);
});

test('several scenes can be chosen from; what is no geometry is listed', async () => {
  const document = new Document();
  const buffer = document.createBuffer();
  for (const [name, size] of [
    ['Summer', 1],
    ['Winter', 2],
  ] as const) {
    const positions = document
      .createAccessor()
      .setType('VEC3')
      .setArray(new Float32Array([0, 0, 0, size, 0, 0, 0, size, 0]))
      .setBuffer(buffer);
    const mesh = document.createMesh(name).addPrimitive(document.createPrimitive().setAttribute('POSITION', positions));
    document.createScene(name).addChild(document.createNode(name).setMesh(mesh));
  }
  document.createCamera('Cam').setType('perspective');
  const bytes = await new WebIO().writeBinary(document);
  const files = fileSetOf({ 'a.glb': bytes });
  const first = await readModel(files);
  expect(first.scenes).toEqual(['Summer', 'Winter']);
  expect(first.remarks).toContainEqual({ kind: 'left out', text: '1 camera' });
  expect(normalSum((await readModel(files, { scene: 1 })).parts[0])).toBeCloseTo(2);
  await expect(readModel(files, { scene: 5 })).rejects.toThrow(/scene 5/);
});

test('a picture’s name that is no proper reference is listed as missing, not stumbled over', async () => {
  const triangle = new Float32Array([0, 0, 0, 1, 0, 0, 0, 1, 0]);
  const uri = `data:application/octet-stream;base64,${btoa(String.fromCharCode(...new Uint8Array(triangle.buffer)))}`;
  const json = {
    asset: { version: '2.0' },
    scenes: [{ nodes: [0] }],
    nodes: [{ mesh: 0 }],
    buffers: [{ byteLength: 36, uri }],
    bufferViews: [{ buffer: 0, byteLength: 36 }],
    accessors: [{ bufferView: 0, componentType: 5126, count: 3, type: 'VEC3', min: [0, 0, 0], max: [1, 1, 0] }],
    meshes: [{ primitives: [{ attributes: { POSITION: 0 }, material: 0 }] }],
    materials: [{ pbrMetallicRoughness: { baseColorTexture: { index: 0 } } }],
    textures: [{ source: 0 }],
    images: [{ uri: '100%oak.png' }],
  };
  const model = await read(new TextEncoder().encode(JSON.stringify(json)), 'a.gltf');
  expect(model.missingPictures).toEqual(['100%oak.png']);
});

test('separate buffers and pictures are found beside the file; missing pictures are listed', async () => {
  const document = new Document();
  const buffer = document.createBuffer().setURI('mesh data.bin');
  const positions = document
    .createAccessor()
    .setType('VEC3')
    .setArray(new Float32Array([0, 0, 0, 1, 0, 0, 0, 1, 0]))
    .setBuffer(buffer);
  const texture = document
    .createTexture('oak')
    .setImage(new Uint8Array(200))
    .setMimeType('image/png')
    .setURI('maps/oak.png');
  const material = document.createMaterial('Oak').setBaseColorTexture(texture);
  const primitive = document.createPrimitive().setAttribute('POSITION', positions).setMaterial(material);
  document.createScene().addChild(document.createNode().setMesh(document.createMesh().addPrimitive(primitive)));
  const { json, resources } = await new WebIO().writeJSON(document, { basename: 'x' });
  const gltf = new TextEncoder().encode(JSON.stringify(json));
  const bin = Object.values(resources)[0];
  const model = await readModel(fileSetOf({ 'job/x.gltf': gltf, 'job/mesh data.bin': bin }));
  expect(model.missingPictures).toEqual(['maps/oak.png']);
  expect(model.slots[0].pictures).toEqual({ baseColour: 'maps/oak.png' });
  const whole = await readModel(
    fileSetOf({ 'job/x.gltf': gltf, 'job/mesh data.bin': bin, 'pictures/OAK.png': new Uint8Array(200) }),
  );
  expect(whole.missingPictures).toEqual([]);
  await expect(readModel(fileSetOf({ 'x.gltf': gltf }))).rejects.toThrow(/mesh data\.bin.*missing|missing/);
});

describe('broken files get one clear message', () => {
  const edit = async (change: (json: Record<string, never>) => void) => {
    const glb = await box();
    const view = new DataView(glb.buffer, glb.byteOffset);
    const length = view.getUint32(12, true);
    const json = JSON.parse(new TextDecoder().decode(glb.subarray(20, 20 + length)));
    change(json);
    let text = JSON.stringify(json);
    while (text.length % 4) text += ' ';
    const head = new TextEncoder().encode(text);
    const rest = glb.subarray(20 + length);
    const out = new Uint8Array(20 + head.length + rest.length);
    out.set(glb.subarray(0, 20));
    out.set(head, 20);
    out.set(rest, 20 + head.length);
    const o = new DataView(out.buffer);
    o.setUint32(8, out.length, true);
    o.setUint32(12, head.length, true);
    return out;
  };
  type Loose = Record<string, Record<string, number>[]>;
  test.each<[string, () => Promise<Uint8Array>, RegExp]>([
    ['empty', async () => new Uint8Array(0), /empty/],
    ['cut off', async () => (await box()).subarray(0, 300), /cut off/],
    ['header only', async () => (await box()).subarray(0, 14), /cut off/],
    ['not a model', async () => new TextEncoder().encode('hello, this is a letter'), /not a glTF/],
    ['broken JSON', async () => new TextEncoder().encode('{"asset": {"version": "2.0"'), /JSON/],
    ['other version', async () => new TextEncoder().encode('{"asset": {"version": "1.0"}}'), /glTF 1\.0/],
    ['no scene', async () => new TextEncoder().encode('{"asset": {"version": "2.0"}}'), /no scene/],
    ['accessor too long', () => edit((j) => void ((j as unknown as Loose).accessors[0].count = 9999)), /more data/],
    [
      'view past its buffer',
      () => edit((j) => void ((j as unknown as Loose).bufferViews[0].byteLength = 99999)),
      /past the end|more data/,
    ],
    ['mesh that is not there', () => edit((j) => void ((j as unknown as Loose).nodes[0].mesh = 7)), /number 7/],
    ['indices out of range', () => withMode(4, [0, 0, 0, 1, 0, 0, 0, 1, 0], [0, 1, 9]), /vertex 9/],
    ['NaN positions', () => withMode(4, [0, 0, 0, NaN, 0, 0, 0, 1, 0]), /not a finite number/],
    [
      'unknown extension',
      () => edit((j) => void ((j as unknown as Record<string, string[]>).extensionsRequired = ['XX_unknown'])),
      /XX_unknown/,
    ],
    [
      'nodes in a loop',
      () => edit((j) => void Object.assign((j as unknown as Loose).nodes[0], { children: [0] })),
      /loop/,
    ],
  ])('%s', async (_name, make, message) => {
    await expect(read(await make(), _name === 'broken JSON' ? 'a.gltf' : 'a.glb')).rejects.toThrow(message);
  });
});

test('meshes that share their positions are each placed from the file’s own numbers', async () => {
  const document = new Document();
  const buffer = document.createBuffer();
  const positions = document
    .createAccessor()
    .setType('VEC3')
    .setArray(new Float32Array([0, 0, 0, 1, 0, 0, 0, 1, 0, 1, 1, 0]))
    .setBuffer(buffer);
  const scene = document.createScene();
  for (const [scale, corners] of [
    [2, [0, 1, 2]],
    [3, [1, 3, 2]],
    [5, [0, 1, 2]],
  ] as const) {
    const indices = document.createAccessor().setType('SCALAR').setArray(Uint32Array.from(corners)).setBuffer(buffer);
    const primitive = document.createPrimitive().setAttribute('POSITION', positions).setIndices(indices);
    const mesh = document.createMesh(`Times ${scale}`).addPrimitive(primitive);
    scene.addChild(
      document.createNode(`Times ${scale}`).setMesh(mesh).setScale([scale, scale, scale]).setTranslation([7, 0, 0]),
    );
  }
  const { parts } = await read(await new WebIO().writeBinary(document));
  expect(parts.map((p) => normalSum(p))).toEqual([2, 4.5, 12.5].map((area) => expect.closeTo(area, 5)));
  for (const part of parts) expect(reachOf(part)).toBeCloseTo(Math.max(...part.positions.map(Math.abs)), 5);
});
