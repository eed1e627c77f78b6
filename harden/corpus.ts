import { zipSync } from 'fflate';
import sharp from 'sharp';
import { boxTriangles, makeGlb } from '../src/core/testing/fixtures';
import { drawingMakers, greedyDrawings } from './drawings';
import { bytesOf, type Hostile, mutate, pick, type Random } from './hostile';
import { type Answer, type Found, seeded, type Served } from './server';

/** Hostile files, the same in each run: whatever comes, a sentence each, and nothing is left. */
const ODD: unknown[] = [
  null,
  -1,
  1e308,
  1.5,
  'text',
  '',
  [],
  {},
  [[]],
  true,
  4294967295,
  'a'.repeat(6000),
  '\u0000',
  { length: 1e9 },
];

/** One place of a JSON tree becomes something it must not be. */
function spoil(random: Random, tree: unknown, depth = 0): unknown {
  const entries = typeof tree === 'object' && tree !== null ? Object.entries(tree) : [];
  if (!entries.length || (depth > 1 && random() < 0.25)) return pick(random, ODD);
  const [key] = pick(random, entries);
  const copy = (Array.isArray(tree) ? [...(tree as unknown[])] : { ...(tree as object) }) as Record<string, unknown>;
  copy[key] = spoil(random, copy[key], depth + 1);
  return copy;
}

function packGlb(json: unknown, chunk: Uint8Array): Uint8Array {
  const text = Buffer.from(JSON.stringify(json));
  const padded = Buffer.concat([text, Buffer.alloc((4 - (text.length % 4)) % 4, 0x20)]);
  const head = Buffer.alloc(20);
  const total = 20 + padded.length + 8 + chunk.length;
  [0x46546c67, 2, total, padded.length, 0x4e4f534a].forEach((v, i) => head.writeUInt32LE(v, i * 4));
  const middle = Buffer.alloc(8);
  middle.writeUInt32LE(chunk.length, 0);
  middle.writeUInt32LE(0x004e4942, 4);
  return Buffer.concat([head, padded, middle, chunk]);
}

function unpackGlb(glb: Uint8Array): { json: Record<string, unknown>; chunk: Uint8Array } {
  const length = Buffer.from(glb).readUInt32LE(12);
  return {
    json: JSON.parse(Buffer.from(glb.subarray(20, 20 + length)).toString()) as Record<string, unknown>,
    chunk: glb.subarray(28 + length),
  };
}

const OBJ =
  'mtllib box.mtl\no Box\nv 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 1 1\nvn 0 0 1\n' +
  'usemtl Oak\nf 1/1/1 2/2/1 3/3/1 4\n';
const MTL = 'newmtl Oak\nKd 0.5 0.4 0.3\nmap_Kd oak.png\nd 1\n';

/** Files that are small and ask for much. */
function greedy(): Hostile[] {
  const obj = (what: string, text: string): Hostile => ({
    what,
    files: { 'a.obj': bytesOf(text) },
    at: '/api/uploads',
  });
  const ring = Array.from({ length: 100_000 }, (_, n) => `v ${Math.cos(n)} ${Math.sin(n)} ${n % 2}`).join('\n');
  const chain = (n: number) =>
    bytesOf(
      JSON.stringify({
        asset: { version: '2.0' },
        scenes: [{ nodes: [0] }],
        nodes: Array.from({ length: n }, (_, i) => (i + 1 < n ? { children: [i + 1] } : {})),
      }),
    );
  const gltf = (what: string, json: unknown): Hostile => ({
    what,
    files: { 'a.gltf': bytesOf(JSON.stringify(json)) },
    at: '/api/uploads',
  });
  const two = { asset: { version: '2.0' } };
  const many = Object.fromEntries(Array.from({ length: 5000 }, (_, n) => [`f${n}.txt`, bytesOf('x')]));
  return [
    obj('a face of 100,000 corners', `${ring}\nf ${Array.from({ length: 100_000 }, (_, n) => n + 1).join(' ')}\n`),
    obj(
      'many faces of 4000 corners',
      `${ring}\n${`f ${Array.from({ length: 4000 }, (_, n) => n + 1).join(' ')}\n`.repeat(200)}`,
    ),
    obj('100,000 lines that go on', `v 0 0 0\nf 1 ${'\\\n1 '.repeat(100_000)}\n`),
    obj(
      '100,000 groups',
      `v 0 0 0\nv 1 0 0\nv 0 1 0\n${Array.from({ length: 100_000 }, (_, n) => `g g${n}\nf 1 2 3`).join('\n')}\n`,
    ),
    obj(
      '100,000 materials',
      `v 0 0 0\nv 1 0 0\nv 0 1 0\n${Array.from({ length: 100_000 }, (_, n) => `usemtl m${n}\nf 1 2 3`).join('\n')}\n`,
    ),
    obj('one line of 3 MB', `v ${'0 '.repeat(1_500_000)}\n`),
    { what: 'a chain of 50,000 nodes', files: { 'a.gltf': chain(50_000) }, at: '/api/uploads' },
    { what: 'a chain of 300 nodes', files: { 'a.gltf': chain(300) }, at: '/api/uploads' },
    gltf('300,000 nodes', { ...two, nodes: Array.from({ length: 300_000 }, () => ({})) }),
    gltf('nodes in a ring', { ...two, scenes: [{ nodes: [0] }], nodes: [{ children: [1] }, { children: [0] }] }),
    gltf('a billion elements without data', {
      ...two,
      accessors: [{ componentType: 5126, count: 1e9, type: 'VEC3' }],
      meshes: [{ primitives: [{ attributes: { POSITION: 0 } }] }],
      nodes: [{ mesh: 0 }],
    }),
    gltf('a buffer of 4 GB in words', { ...two, buffers: [{ byteLength: 4e9, uri: 'data:;base64,AAAA' }] }),
    { what: '5000 files in a zip', files: { 'a.zip': zipSync(many) }, at: '/api/uploads' },
    {
      what: 'a zip that grows by small members',
      files: {
        'a.zip': zipSync(
          Object.fromEntries(Array.from({ length: 200 }, (_, n) => [`${n}.obj`, new Uint8Array(1 << 20)])),
          { level: 9 },
        ),
      },
      at: '/api/uploads',
    },
    {
      what: 'a file and a folder of one name',
      files: { 'a.zip': zipSync({ a: bytesOf('x'), 'a/b.obj': bytesOf(OBJ) }) },
      at: '/api/uploads',
    },
    ...[null, [], 7, 'text', {}, { maps: { baseColour: '' }, name: 'A' }, { maps: null }].map((json): Hostile => ({
      what: `material.json ${JSON.stringify(json)}`,
      files: { 'm.zip': zipSync({ 'material.json': bytesOf(JSON.stringify(json)) }) },
      at: '/api/materials',
    })),
    ...['漢'.repeat(80), 'a'.repeat(400), '..', 'CON', 'a\u202ebmp.exe', ' ', '\ud800'].map((name): Hostile => ({
      what: `a file called ${name.slice(0, 12)}`,
      files: { [`${name}.obj`]: bytesOf(OBJ) },
      at: '/api/uploads',
    })),
    {
      what: 'a picture that is a page',
      files: { 'a.png': bytesOf('<html><script>alert(1)</script></html>') },
      at: '/api/images',
    },
    {
      what: 'an SVG with a script',
      files: { 'a.svg': bytesOf('<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>') },
      at: '/api/materials',
    },
  ];
}

function bmpOf(rgb: Buffer, width: number, height: number): Buffer {
  const head = Buffer.alloc(54);
  head.write('BM');
  head.writeUInt32LE(54, 10);
  head.writeUInt32LE(40, 14);
  head.writeInt32LE(width, 18);
  head.writeInt32LE(-height, 22);
  head.writeUInt16LE(24, 28);
  return Buffer.concat([head, rgb]);
}

function tgaOf(rgb: Buffer, width: number, height: number): Buffer {
  const head = Buffer.alloc(18);
  head[2] = 2;
  head.writeUInt16LE(width, 12);
  head.writeUInt16LE(height, 14);
  head[16] = 24;
  return Buffer.concat([head, rgb]);
}

/** So many files, by a seed. */
export async function makeCorpus(count: number, seed = 20261126): Promise<Hostile[]> {
  const random = seeded(seed);
  const glb = await makeGlb([{ name: 'Box', triangles: boxTriangles([0, 0, 0], [1, 1, 1]) }]);
  const { json, chunk } = unpackGlb(glb);
  const noise = Buffer.from(Array.from({ length: 32 * 24 * 3 }, () => Math.floor(random() * 256)));
  const image = () => sharp(noise, { raw: { width: 32, height: 24, channels: 3 } });
  const pictures: Record<string, Buffer> = {
    png: await image().png().toBuffer(),
    jpg: await image().jpeg().toBuffer(),
    webp: await image().webp().toBuffer(),
    tif: await image().tiff().toBuffer(),
    bmp: bmpOf(noise, 32, 24),
    tga: tgaOf(noise, 32, 24),
  };
  const zip = zipSync({ 'box.obj': bytesOf(OBJ), 'box.mtl': bytesOf(MTL), 'oak.png': pictures.png });
  const words = [
    'v 1 2',
    'f 1 2 3',
    'f -1 -2 -3',
    'f 1/1/1',
    'f 0 0 0',
    'f 9999999 1 2',
    'vn nan nan nan',
    'usemtl',
    'g',
    'o',
    '\\',
    'mtllib ../../x',
    'curv2 1',
    'f 1 2 3 1 2 3 1 2 3',
    'v 1e400 0 0',
  ];
  const makers: (() => Hostile)[] = [
    () => ({ what: 'GLB, bytes', files: { 'a.glb': mutate(random, glb) }, at: '/api/uploads' }),
    () => ({ what: 'GLB, structure', files: { 'a.glb': packGlb(spoil(random, json), chunk) }, at: '/api/uploads' }),
    () => ({
      what: 'glTF, structure',
      files: { 'a.gltf': bytesOf(JSON.stringify(spoil(random, spoil(random, json)))) },
      at: '/api/uploads',
    }),
    () => ({
      what: 'OBJ, bytes',
      files: { 'a.obj': mutate(random, bytesOf(OBJ)), 'box.mtl': mutate(random, bytesOf(MTL)) },
      at: '/api/uploads',
    }),
    () => ({
      what: 'OBJ, words',
      files: { 'a.obj': bytesOf(OBJ + Array.from({ length: 6 }, () => pick(random, words)).join('\n')) },
      at: '/api/uploads',
    }),
    () => ({ what: 'zip, bytes', files: { 'a.zip': mutate(random, zip) }, at: '/api/uploads' }),
    () => {
      const kind = pick(random, Object.keys(pictures));
      return {
        what: `${kind}, bytes`,
        files: { [`a.${kind}`]: mutate(random, pictures[kind]) },
        at: pick(random, ['/api/images', '/api/materials', '/api/preps'] as const),
      };
    },
    ...drawingMakers(random),
  ];
  return [...greedy(), ...greedyDrawings(), ...Array.from({ length: count }, (_, n) => makers[n % makers.length]())];
}

/** Sizes of a file, MB, with what it may take: work limits are on what is in it, not on the clock. */
const mostMs = (files: Record<string, Uint8Array>) =>
  30_000 + Object.values(files).reduce((sum, b) => sum + b.length, 0) / 100;

/** 409: its name is known by then. */
const RIGHT = [200, 201, 400, 409, 413, 415, 422];

/** A drawing goes as text, as the browser sends it; the rest as files. */
function sendOne(served: Served, at: Hostile['at'], files: Hostile['files']): Promise<Answer> {
  if (at !== '/api/modules/read') return served.drop(at, files, {}, 300_000);
  const [file, bytes] = Object.entries(files)[0];
  return served.json('POST', at, { file, text: new TextDecoder().decode(bytes) }, 300_000);
}

export async function sendCorpus(served: Served, corpus: readonly Hostile[], atOnce = 3): Promise<Found> {
  const faults: string[] = [];
  const byStatus = new Map<number, number>();
  const slowest = { what: '', ms: 0 };
  const before = await counts(served);
  const keep: string[] = [];
  const queue = corpus.entries();
  const send = async (n: number, { what, files, at }: Hostile) => {
    const { status, body, ms } = await sendOne(served, at, files);
    byStatus.set(status, (byStatus.get(status) ?? 0) + 1);
    if (ms > slowest.ms) Object.assign(slowest, { what, ms });
    const told = `${n} ${what}: ${status} ${body.slice(0, 200)}`;
    if (!RIGHT.includes(status)) faults.push(told);
    else if (status >= 400 && !/"detail":"[^"]{10,}/.test(body)) faults.push(`${told} – no sentence`);
    if (ms > mostMs(files)) faults.push(`${told} – ${Math.round(ms)} ms`);
    // what came in all the same is put away again
    const made = status < 300 ? (JSON.parse(body) as { upload?: string }) : {};
    if (made.upload) keep.push(made.upload);
  };
  await Promise.all(
    Array.from({ length: atOnce }, async () => {
      for (const [n, hostile] of queue) await send(n, hostile);
    }),
  );
  for (const upload of keep) await served.send('DELETE', `/api/uploads/${upload}`);
  const left = served.left('uploads');
  if (left.length) faults.push(`left among the uploads: ${left.slice(0, 5).join(', ')}`);
  const after = await counts(served);
  if (after.projects !== before.projects) faults.push('a project came of it');
  const told = [...byStatus].sort((a, b) => a[0] - b[0]).map(([s, n]) => `${n} × ${s}`);
  return {
    told: [`${corpus.length} files: ${told.join(', ')}; slowest ${Math.round(slowest.ms)} ms (${slowest.what})`],
    faults,
  };
}

const counts = async (served: Served) => ({
  projects: (await served.ask<unknown[]>('GET', '/api/projects')).length,
});

/**
 * The long form: after one pass to warm up, memory comes back and somebody who has nothing to do with it waits little.
 */
export async function sendCorpusLong(served: Served, corpus: readonly Hostile[]): Promise<Found> {
  const project = await served.newProject();
  const innocent = () => served.json('GET', `/api/projects/${project}`);
  const idle: number[] = [];
  await sendCorpus(served, corpus.slice(0, 300));
  for (let n = 0; n < 200; n++) idle.push((await innocent()).ms);
  await settle();
  const memoryBefore = served.residentMb;
  let over = false;
  const busy: number[] = [];
  const watching = (async () => {
    while (!over) {
      busy.push((await innocent()).ms);
      await new Promise((r) => setTimeout(r, 50));
    }
  })();
  const found = await sendCorpus(served, corpus);
  over = true;
  await watching;
  await settle();
  const memoryAfter = served.residentMb;
  const [calm, loaded] = [at95(idle), at95(busy)];
  found.told.push(`memory ${memoryBefore} MB before, ${memoryAfter} MB after`);
  found.told.push(
    `an innocent request: ${calm.toFixed(1)} ms idle, ${loaded.toFixed(1)} ms meanwhile (95th percentile)`,
  );
  if (memoryAfter > memoryBefore * 1.3) found.faults.push('memory did not come back within 30%');
  if (loaded > calm * 5) found.faults.push('an innocent request took more than five times as long');
  return found;
}

/** Worker threads that have nothing to do end after 20 s. */
const settle = () => new Promise((r) => setTimeout(r, 40_000));
export const at95 = (list: number[]): number => [...list].sort((a, b) => a - b)[Math.floor(list.length * 0.95)] ?? 0;
