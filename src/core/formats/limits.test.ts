import { ImportError } from '../mesh/types';
import { nameFrom } from '../schema/nameFrom';
import { boxTriangles, makeGlb } from '../testing/fixtures';
import { fileSetOf } from './fileSet';
import { openContainer } from './gltf/container';
import { readModel } from './readModel';

/** Files that ask for more than a model can need are refused by what is in them, before it is worked on. */

const bytes = (text: string) => new TextEncoder().encode(text);
const obj = (text: string) => readModel(fileSetOf({ 'a.obj': bytes(text) }));
const gltf = (json: object) => readModel(fileSetOf({ 'a.gltf': bytes(JSON.stringify(json)) }));
const numbers = (n: number) => Array.from({ length: n }, (_, i) => i + 1).join(' ');
const points = (n: number) => Array.from({ length: n }, (_, i) => `v ${Math.cos(i)} ${Math.sin(i)} 0`).join('\n');
const two = { asset: { version: '2.0' } };

describe('OBJ', () => {
  test.each<[string, () => string, RegExp]>([
    [
      'a face of 6000 corners',
      () => `${points(6000)}\nf ${numbers(6000)}\n`,
      /line 6001: a face has 6000 corners; at most 5000/,
    ],
    ['many large faces', () => `${points(4000)}\n${`f ${numbers(4000)}\n`.repeat(40)}`, /few of so many/],
    [
      'a line that goes on for ever',
      () => `v 0 0 0\nf 1 ${'\\\n1 '.repeat(400_000)}`,
      /goes on for more than 1000000 characters/,
    ],
    ['one endless line', () => `v ${'0 '.repeat(600_000)}`, /line 1: it has more than/],
  ])('%s', async (_what, text, said) => {
    await expect(obj(text())).rejects.toThrow(said);
  });

  test('what is merely large is read: a face of 500 corners, a line that goes on 500 times, 2000 groups', async () => {
    const ring = Array.from({ length: 500 }, (_, i) => `v ${Math.cos(i / 79.6)} ${Math.sin(i / 79.6)} 0`).join('\n');
    expect((await obj(`${ring}\nf ${numbers(500).replaceAll(' ', ' \\\n')}\n`)).parts[0].indices).toHaveLength(498 * 3);
    const groups = Array.from({ length: 2000 }, (_, n) => `g g${n}\nf 1 2 3`).join('\n');
    expect((await obj(`v 0 0 0\nv 1 0 0\nv 0 1 0\n${groups}`)).parts).toHaveLength(2000);
  });

  test('more parts than can be listed', async () => {
    const groups = Array.from({ length: 20_001 }, (_, n) => `g g${n}\nf 1 2 3`).join('\n');
    await expect(obj(`v 0 0 0\nv 1 0 0\nv 0 1 0\n${groups}`)).rejects.toThrow(/20001 parts; at most 20000/);
  });
});

describe('glTF', () => {
  const chain = (n: number) => ({
    ...two,
    scenes: [{ nodes: [0] }],
    nodes: Array.from({ length: n }, (_, i) => (i + 1 < n ? { children: [i + 1] } : {})),
  });

  test.each<[string, object, RegExp]>([
    ['a chain of 50,000 nodes', chain(50_000), /lie \d+ deep in one another; at most 256/],
    ['nodes in a ring', { ...two, nodes: [{ children: [1] }, { children: [2] }, { children: [0] }] }, /form a loop/],
    ['a node under itself', { ...two, nodes: [{ children: [0] }] }, /form a loop/],
    ['a node under two', { ...two, nodes: [{ children: [2] }, { children: [2] }, {}] }, /under two others/],
    ['too many nodes', { ...two, nodes: Array.from({ length: 200_001 }, () => ({})) }, /at most 200000/],
    ['nodes that are no list', { ...two, nodes: {} }, /“nodes” is no list/],
    ['scenes of text', { ...two, scenes: ['a'] }, /“scenes.0” is no object/],
    ['meshes without primitives as a list', { ...two, meshes: [{ primitives: 7 }] }, /“meshes.0.primitives” must be/],
    [
      'attributes of no kind',
      { ...two, meshes: [{ primitives: [{ attributes: 7 }] }] },
      /attributes” must be an object/,
    ],
    ['children as text', { ...two, nodes: [{ children: 'abc' }] }, /“nodes.0.children” must be a list of numbers/],
    ['a turn of three numbers', { ...two, nodes: [{ rotation: [1, 2, 3] }] }, /must be four numbers/],
    ['a place of words', { ...two, nodes: [{ translation: ['a', 'b', 'c'] }] }, /must be three numbers/],
    ['a uri of numbers', { ...two, buffers: [{ uri: 7, byteLength: 3 }] }, /“buffers.0.uri” must be text/],
    ['extensions that are none', { ...two, extensionsRequired: 'all' }, /must be a list of names/],
    ['a version of nothing', { asset: { version: null } }, /no asset version/],
  ])('%s', async (_what, json, said) => {
    await expect(gltf(json)).rejects.toThrow(said);
    await expect(gltf(json)).rejects.toBeInstanceOf(ImportError);
  });

  test('256 deep is read', () => {
    expect(() => openContainer(fileSetOf({ 'a.gltf': bytes(JSON.stringify(chain(256))) }), 'a.gltf')).not.toThrow();
  });

  test('a version written as a number is read, with a remark', async () => {
    const glb = await makeGlb([{ name: 'Box', triangles: boxTriangles([0, 0, 0], [1, 1, 1]) }]);
    const text = Buffer.from(glb).toString('latin1').replace('"version":"2.0"', '"version":2.0  ');
    const { remarks, parts } = await readModel(fileSetOf({ 'a.glb': Buffer.from(text, 'latin1') }));
    expect(parts).toHaveLength(1);
    expect(remarks).toContainEqual({ kind: 'repaired', text: 'the version of its format is written as a number' });
  });
});

test('an OBJ, its library and a picture with an umlaut belong together, however each of them writes it', async () => {
  const mtl = 'newmtl Boden\nmap_Kd Fu\u00dfboden.png\n';
  const obj = 'mtllib Fu\u00df.mtl\nusemtl Boden\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nf 1/1 2/1 3/1\n';
  const windows = (text: string) => Uint8Array.from(text, (c) => c.charCodeAt(0));
  for (const write of [bytes, windows]) {
    const files = { 'a.obj': write(obj), 'Fu\u00df.mtl': write(mtl), 'Fu\u00dfboden.png': Uint8Array.of(1) };
    const { slots, pictures, missingPictures } = await readModel(fileSetOf(files));
    expect(slots[0].pictures).toEqual({ baseColour: 'Fu\u00dfboden.png' });
    expect([pictures.length, missingPictures]).toEqual([1, []]);
  }
});

test('what no library defines and no material names is said', async () => {
  const files = {
    'a.obj': bytes('mtllib a.mtl\nusemtl Oak\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\nusemtl Slate\nf 3 2 1\nf 1 3 2\n'),
    'a.mtl': bytes('newmtl Oak\nmap_Kd oak.png\n'),
    'oak.png': Uint8Array.of(1),
    'spare.jpg': Uint8Array.of(1),
  };
  const { remarks } = await readModel(fileSetOf(files));
  expect(remarks).toContainEqual({ kind: 'missing', text: 'no material file defines “Slate”; they have names only' });
  expect(remarks).toContainEqual({ kind: 'left out', text: 'no material names “spare.jpg”' });
});

describe('names that files give', () => {
  test.each<[unknown, string]>([
    ['Fu\u00dfboden', 'Fu\u00dfboden'],
    ['Gru\u0308n', 'Gr\u00fcn'],
    ['a\u0000b\nc', 'a b c'],
    ['  ', 'Part'],
    [7, '7'],
    [{ a: 1 }, 'Part'],
    [null, 'Part'],
    ['\ud800x', 'x'],
    ['x'.repeat(5000), `${'x'.repeat(199)}…`],
  ])('%j is %j', (given, name) => expect(nameFrom(given, 'Part')).toBe(name));

  test('are never cut in the middle of a character', () => {
    const name = nameFrom(`${'x'.repeat(198)}🧱🧱`, 'Part');
    expect(name).toBe(`${'x'.repeat(198)}…`);
  });

  test('a part with a name of 5000 characters comes in by a name that can be stored', async () => {
    const glb = await makeGlb([{ name: 'n'.repeat(5000), triangles: boxTriangles([0, 0, 0], [1, 1, 1]) }]);
    const { parts } = await readModel(fileSetOf({ 'a.glb': glb }));
    expect(parts[0].name).toHaveLength(200);
  });
});
