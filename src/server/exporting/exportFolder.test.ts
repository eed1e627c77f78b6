import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { WebIO } from '@gltf-transform/core';
import { strFromU8, unzipSync } from 'fflate';
import { EXPORT_FORMATS, writeScene } from '@/core/formats/exportFormats';
import type { ExportScene } from '@/core/formats/exportScene';
import { ExportFolder } from './exportFolder';

let at: string;
beforeEach(() => (at = mkdtempSync(path.join(tmpdir(), 'jute-grid-export-'))));
afterEach(() => rmSync(at, { recursive: true, force: true }));
const target = () => path.join(at, 'target');
const open = () => new ExportFolder(path.join(at, 'work'));
const text = (s: string) => new TextEncoder().encode(s);

test('one file is moved to its place as it is', async () => {
  const folder = open();
  const file = await folder.create('a.txt');
  await file.write(text('one '));
  await file.write(text('two'));
  expect(file.length).toBe(7);
  expect(await folder.pack(target())).toBe(7);
  expect(readFileSync(target(), 'utf8')).toBe('one two');
  await folder.clear();
  expect(readdirSync(at)).toEqual(['target']);
});

test('several come in a zip, whatever their length', async () => {
  const folder = open();
  // longer than what is read at a time, and empty
  const long = new Uint8Array(9_000_001).map((_, i) => (i * 31) % 251);
  for (const [name, bytes] of [
    ['a.bin', long],
    ['b.png', text('picture')],
    ['c.txt', text('')],
  ] as const)
    await (await folder.create(name)).write(bytes);
  const size = await folder.pack(target());
  const zipped = readFileSync(target());
  expect(size).toBe(zipped.length);
  const files = unzipSync(zipped);
  expect(Object.keys(files)).toEqual(['a.bin', 'b.png', 'c.txt']);
  expect(Buffer.compare(files['a.bin'], long)).toBe(0);
  expect(strFromU8(files['b.png'])).toBe('picture');
  expect(files['c.txt']).toHaveLength(0);
  await folder.clear();
});

test('a file put at the end of another is gone, and can be read in parts there', async () => {
  const folder = open();
  const [a, b] = [await folder.create('a'), await folder.create('b')];
  await a.write(text('head '));
  await b.write(text('body'));
  await folder.append(a, b);
  expect(folder.sizes).toEqual({ a: 9 });
  expect(strFromU8(await folder.read('a', 3, 4))).toBe('d bo');
  expect(strFromU8(await folder.read('a', 7, 100))).toBe('dy');
  expect(existsSync(path.join(at, 'work', 'b'))).toBe(false);
  await folder.clear();
  expect(existsSync(path.join(at, 'work'))).toBe(false);
});

/** A scene of two parts under one group, with vertices enough for wide indices in the second. */
function scene(): ExportScene {
  const grid = (n: number) => {
    const positions = new Float32Array((n + 1) * 2 * 3);
    for (let i = 0; i <= n; i++) positions.set([i * 10, 0, 0, i * 10, 100, 0], i * 6);

    const list = new Uint32Array(n * 3);
    for (let i = 0; i < n; i++) list.set([i * 2, i * 2 + 2, i * 2 + 1], i * 3);
    const normals = new Float32Array(positions.length).map((_, i) => (i % 3 === 2 ? 1 : 0));
    return { positions, normals, uvs: new Float32Array(0), tangents: new Float32Array(0), indices: list };
  };
  const part = (name: string, n: number) => ({
    name,
    path: ['House', 'Hall'],
    origin: [1000, 2000, 3000] as [number, number, number],
    pivot: [1000, 2000, 3000] as [number, number, number],
    surfaces: [{ name: `${name} face`, dressed: grid(n), material: '#804020' }],
  });
  return { name: 'Scene', materials: [], parts: [part('Low', 10), part('High', 40_000)] };
}

test.each(EXPORT_FORMATS.slice(0, 2))('$label written to the disk is what it is in memory', async (format) => {
  const folder = open();
  const { parts, ...head } = scene();
  const out = await format.open(head, 'scene', folder);
  for (const part of parts) await out.put(part);
  await out.finish();
  const inMemory = await writeScene(format, scene(), 'scene');
  expect(Object.keys(folder.sizes).sort()).toEqual(Object.keys(inMemory).sort());
  for (const [name, bytes] of Object.entries(inMemory))
    expect(Buffer.compare(await folder.read(name, 0, bytes.length + 1), bytes)).toBe(0);
  await folder.clear();
});

test('another reader finds nodes, faces and sizes of indices as they were put', async () => {
  const document = await new WebIO().readBinary((await writeScene(EXPORT_FORMATS[0], scene(), 'scene'))['scene.glb']);
  const [house] = document.getRoot().getDefaultScene()!.listChildren();
  expect(house.getName()).toBe('House');
  const [hall] = house.listChildren();
  expect(hall.listChildren().map((n) => [n.getName(), n.getTranslation()])).toEqual([
    ['Low', [1, 2, 3]],
    ['High', [1, 2, 3]],
  ]);
  const [low, high] = hall.listChildren().map((n) => n.getMesh()!.listPrimitives()[0]);
  expect(low.getIndices()!.getArray()).toBeInstanceOf(Uint16Array);
  expect(high.getIndices()!.getArray()).toBeInstanceOf(Uint32Array);
  expect([...low.getIndices()!.getArray()!]).toEqual([...scene().parts[0].surfaces[0].dressed.indices]);
  const highest = high.getAttribute('POSITION')!.getMax([]);
  expect(highest[0]).toBeCloseTo(400, 3);
  expect(low.getMaterial()!.getName()).toBe('Plain #804020');
  expect(low.getExtras()).toEqual({ surface: 'Low face' });
});
