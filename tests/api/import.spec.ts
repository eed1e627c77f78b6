import { expect, test } from '../test';
import { readdirSync } from 'node:fs';
import path from 'node:path';
import { drop, newProject, room, upload, zipped } from '../fixtures';

const obj = 'v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n';

test('twenty broken drops: twenty clear answers, nothing left behind, the next good one comes in', async ({
  request,
  server,
}) => {
  const id = await newProject(request, 'Broken drops');
  const glb = await room();
  const broken: [string, { name: string; bytes: Uint8Array | string }[], RegExp][] = [
    ['truncated GLB', [{ name: 'a.glb', bytes: glb.subarray(0, glb.length / 2) }], /a\.glb.*cut off/],
    ['GLB header only', [{ name: 'a.glb', bytes: glb.subarray(0, 12) }], /cut off/],
    ['empty GLB', [{ name: 'a.glb', bytes: '' }], /empty/],
    ['letter as GLB', [{ name: 'a.glb', bytes: 'Dear Sir' }], /not a glTF/],
    ['HTML as glTF', [{ name: 'a.gltf', bytes: '<html></html>' }], /not a glTF/],
    ['broken JSON', [{ name: 'a.gltf', bytes: '{"asset":' }], /JSON/],
    ['old glTF', [{ name: 'a.gltf', bytes: '{"asset":{"version":"1.0"}}' }], /1\.0/],
    ['no geometry', [{ name: 'a.gltf', bytes: '{"asset":{"version":"2.0"},"scenes":[{}]}' }], /no triangles/],
    [
      'missing buffer',
      [{ name: 'a.gltf', bytes: '{"asset":{"version":"2.0"},"buffers":[{"uri":"b.bin","byteLength":12}]}' }],
      /b\.bin.*missing/,
    ],
    ['empty OBJ', [{ name: 'a.obj', bytes: '' }], /empty/],
    ['prose as OBJ', [{ name: 'a.obj', bytes: 'once upon a time' }], /not an OBJ/],
    ['points only', [{ name: 'a.obj', bytes: 'v 0 0 0\nv 1 0 0\n' }], /no faces/],
    ['index out of range', [{ name: 'a.obj', bytes: obj.replace('1 2 3', '1 2 9') }], /line 4.*vertex 9/],
    ['not a number', [{ name: 'a.obj', bytes: obj.replace('1 0 0', 'NaN 0 0') }], /line 2/],
    ['infinite', [{ name: 'a.obj', bytes: obj.replace('1 0 0', '1e999 0 0') }], /line 2/],
    ['zero area', [{ name: 'a.obj', bytes: 'v 0 0 0\nv 1 0 0\nv 2 0 0\nf 1 2 3\n' }], /zero area/],
    ['no model at all', [{ name: 'a.txt', bytes: 'x' }], /not a model/],
    [
      'broken zip',
      [{ name: 'a.zip', bytes: zipped({ 'a.obj': Buffer.from(obj) }).subarray(0, 60) }],
      /a\.zip.*zip cannot be read/,
    ],
    ['zip bomb', [{ name: 'a.zip', bytes: zipped({ 'a.obj': new Uint8Array(40 * 1024 * 1024) }) }], /bomb/],
    ['zip without a model', [{ name: 'a.zip', bytes: zipped({ 'a.txt': Buffer.from('x') }) }], /not a model/],
  ];
  expect(broken).toHaveLength(20);
  for (const [what, files, message] of broken) {
    await test.step(what, async () => {
      const response = await drop(
        request,
        `/api/projects/${id}/models`,
        files.map((f) => upload(f.name, f.bytes)),
      );
      expect(response.status(), what).toBe(422);
      expect(response.headers()['content-type']).toContain('application/problem+json');
      const problem = (await response.json()) as { detail: string; field: string };
      expect(problem.detail).toMatch(message);
      expect(problem.field).toBe('files');
    });
  }
  const after = (await (await request.get(`/api/projects/${id}`)).json()) as {
    revision: number;
    project: { parts: object };
  };
  expect(after.revision).toBe(0);
  expect(Object.keys(after.project.parts)).toHaveLength(0);
  expect(readdirSync(path.join(server.data, 'uploads'))).toEqual([]);
  const good = await drop(request, `/api/projects/${id}/models`, [upload('room.glb', glb)]);
  expect(good.status()).toBe(201);
  expect(((await good.json()) as { surfaces: unknown[] }).surfaces).toHaveLength(7);
});

test('whoever goes while a model is read stops the reading, and nothing is kept', async ({ request, server }) => {
  const id = await newProject(request, 'Left early');
  const n = 700;
  const lines: string[] = [];
  for (let i = 0; i < n * n; i++) lines.push(`v ${i % n} ${Math.sin(i) / 9} ${Math.floor(i / n)}`);
  for (let i = 0; i < n * (n - 1); i++) if ((i + 1) % n) lines.push(`f ${i + 1} ${i + 2} ${i + n + 2} ${i + n + 1}`);
  const form = new FormData();
  form.append('files', new Blob([lines.join('\n')]), 'large.obj');
  const leaving = new AbortController();
  const sent = fetch(`${server.url}/api/projects/${id}/models`, { method: 'POST', body: form, signal: leaving.signal });
  const uploads = () => readdirSync(path.join(server.data, 'uploads'), { recursive: true }).map(String);
  await expect.poll(() => uploads().some((f) => f.endsWith('.fields.json')), { intervals: [20] }).toBe(true);
  leaving.abort();
  await expect(sent).rejects.toThrow(/abort/);
  await expect.poll(uploads).toEqual([]);
  // longer than the reading would have taken
  await new Promise((done) => setTimeout(done, 6000));
  expect(await (await request.get(`/api/projects/${id}`)).json()).toMatchObject({ revision: 0 });
});

test('a choice of unit that cannot be is refused by its field', async ({ request }) => {
  const id = await newProject(request, 'Units');
  for (const [fields, field] of [
    [{ unit: 'cubit' }, 'unit'],
    [{ unitMm: '-3' }, 'unitMm'],
    [{ upAxis: 'x' }, 'upAxis'],
    [{ scene: '1.5' }, 'scene'],
  ] as const) {
    const response = await drop(request, `/api/projects/${id}/models`, [upload('a.obj', obj)], fields);
    expect(response.status()).toBe(400);
    expect(await response.json()).toMatchObject({ field });
  }
  const inches = await drop(request, `/api/projects/${id}/models`, [upload('a.obj', obj)], { unit: 'in', upAxis: 'y' });
  const { parts } = (await inches.json()) as { parts: { min: number[]; max: number[] }[] };
  expect(parts[0].max[0] - parts[0].min[0]).toBeCloseTo(25.4, 3);
});

test('a zip with OBJ, MTL and a picture brings its material; a missing picture is brought later', async ({
  request,
}) => {
  const id = await newProject(request, 'With pictures');
  const base = (await (await request.get('/api/materials/smoked-oak')).json()) as {
    maps: { baseColour: { image: string } };
  };
  const png = await (await request.get(`/api/images/${base.maps.baseColour.image}?size=128`)).body();
  const text =
    'mtllib m.mtl\nv 0 0 0\nv 2 0 0\nv 2 2 0\nv 0 2 0\nvt 0 0\nvt 4 0\nvt ' +
    '4 4\nvt 0 4\nusemtl Oak\nf 1/1 2/2 3/3 4/4\nusemtl Lime\nf 1/1 3/3 2/2\n';
  const zip = zipped({
    'job/a.obj': Buffer.from(text),
    'job/m.mtl': Buffer.from('newmtl Oak\nmap_Kd oak.png\nnewmtl Lime\nmap_Kd lime.png\n'),
    'job/oak.png': png,
  });
  const response = await drop(request, `/api/projects/${id}/models`, [upload('job.zip', zip)], {
    unit: 'm',
    upAxis: 'y',
  });
  expect(response.status()).toBe(201);
  const body = (await response.json()) as {
    revision: number;
    model: { id: string; missingPictures: string[] };
    project: {
      materials: Record<string, { name: string; widthMm: number }>;
      surfaces: Record<string, { spec: unknown }>;
    };
  };
  // four repeats on two metres: one picture is 500 mm
  expect(Object.values(body.project.materials)).toMatchObject([{ name: 'Oak', widthMm: 500 }]);
  expect(body.model.missingPictures).toEqual(['lime.png']);
  const url = `/api/projects/${id}/models/${body.model.id}/pictures`;
  const wrong = await drop(request, url, [upload('other.png', png)], { baseRevision: String(body.revision) });
  expect((await wrong.json()) as { detail: string }).toMatchObject({ detail: expect.stringContaining('lime.png') });
  const late = await drop(request, url, [upload('Lime.png', png)], { baseRevision: String(body.revision) });
  expect(await late.json()).toMatchObject({ found: ['lime.png'], stillMissing: [] });
});
