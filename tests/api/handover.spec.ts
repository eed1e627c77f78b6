import type { APIRequestContext } from '@playwright/test';
import { expect, test } from '../test';
import { unzipSync } from 'fflate';
import { validateBytes } from 'gltf-validator';
import { readdirSync } from 'node:fs';
import { request as httpRequest } from 'node:http';
import path from 'node:path';
import { drop, newProject, room, upload } from '../fixtures';

interface Job {
  id: string;
  state: string;
  message: string;
  result: { file: string; bytes: number } | null;
}

async function exported(
  request: APIRequestContext,
  project: string,
  format: string,
): Promise<{ job: Job; bytes: Uint8Array }> {
  const started = await request.post(`/api/projects/${project}/exports`, {
    data: { format, options: { pictureSize: 256 } },
  });
  expect(started.status()).toBe(202);
  const { id } = (await started.json()) as Job;
  // the event stream ends when the job does
  const events = await (await request.get(`/api/jobs/${id}/events`, { timeout: 150_000 })).text();
  const job = JSON.parse(events.trim().split('\n\n').pop()!.replace('data: ', '')) as Job;
  expect(job.state).toBe('done');
  return { job, bytes: new Uint8Array(await (await request.get(`/api/jobs/${id}/file`)).body()) };
}

type Opened = { project: { parts: Record<string, { name: string; path: string[]; min: number[]; max: number[] }> } };

test('the demo goes out as glTF with pictures: valid, names kept, every picture once; back in it is as large', async ({
  request,
}) => {
  test.setTimeout(300_000);
  const { job, bytes } = await exported(request, 'pellow-landing', 'gltf-zip');
  expect(job.result!.bytes).toBe(bytes.length);
  const files = unzipSync(bytes);
  const main = Object.keys(files).find((n) => n.endsWith('.gltf'))!;
  const { issues } = await validateBytes(files[main], {
    externalResourceFunction: async (uri) => files[decodeURIComponent(uri)],
  });
  expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);
  const json = JSON.parse(new TextDecoder().decode(files[main])) as {
    images: { uri: string }[];
    nodes: { name: string; children?: number[] }[];
    extensionsUsed: string[];
  };
  expect(json.extensionsUsed).toContain('KHR_texture_transform');
  const pictures = json.images.map((i) => i.uri);
  expect(new Set(pictures).size).toBe(pictures.length);
  expect(Object.keys(files).filter((n) => n.endsWith('.png'))).toHaveLength(pictures.length);

  const before = (await (await request.get('/api/projects/pellow-landing')).json()) as Opened;
  const id = await newProject(request, 'Back again');
  const response = await drop(request, `/api/projects/${id}/models`, [upload('back.zip', bytes)]);
  expect(response.status()).toBe(201);
  const after = (await response.json()) as Opened;
  const byName = new Map(Object.values(after.project.parts).map((p) => [`${p.path.join('/')}/${p.name}`, p]));
  for (const part of Object.values(before.project.parts)) {
    const same = byName.get(`${part.path.join('/')}/${part.name}`);
    expect(same, part.name).toBeDefined();
    part.min.forEach((v, c) => expect(Math.abs(same!.min[c] - v), part.name).toBeLessThan(0.05));
    part.max.forEach((v, c) => expect(Math.abs(same!.max[c] - v), part.name).toBeLessThan(0.05));
  }
});

test('a job can be cancelled; an empty project says why there is nothing to write', async ({ request, server }) => {
  const started = (await (
    await request.post('/api/projects/pellow-landing/exports', { data: { format: 'glb' } })
  ).json()) as Job;
  const job = async () => (await (await request.get(`/api/jobs/${started.id}`)).json()) as Job;
  // parts are told, and what is not finished lies among the uploads
  await expect.poll(async () => (await job()).message, { intervals: [20] }).toMatch(/, part \d+ of \d+$/);
  const unfinished = () => readdirSync(path.join(server.data, 'uploads')).filter((f) => f.startsWith('export-'));
  expect(unfinished()).toEqual([`export-${started.id}`]);
  expect((await request.delete(`/api/jobs/${started.id}`)).status()).toBe(204);
  await expect.poll(async () => (await job()).state, { intervals: [50] }).toBe('cancelled');
  await expect.poll(unfinished).toEqual([]);
  expect((await request.get(`/api/jobs/${started.id}/file`)).status()).toBe(404);

  const id = await newProject(request, 'Nothing yet');
  const empty = (await (await request.post(`/api/projects/${id}/exports`, { data: { format: 'glb' } })).json()) as Job;
  await expect
    .poll(async () => (await (await request.get(`/api/jobs/${empty.id}`)).json()) as Job)
    .toMatchObject({ state: 'failed', message: expect.stringContaining('no model yet') });
  const wrong = await request.post(`/api/projects/${id}/exports`, { data: { format: 'fbx' } });
  expect(await wrong.json()).toMatchObject({ field: 'format', detail: expect.stringContaining('glb, gltf-zip') });
});

test('a drop above the stated size is refused before it is sent', async ({ baseURL }) => {
  const url = new URL('/api/uploads', baseURL);
  const status = await new Promise<number>((resolve, reject) => {
    const sent = httpRequest(
      url,
      {
        method: 'POST',
        headers: { 'content-type': 'multipart/form-data; boundary=x', 'content-length': String(600 * 1024 * 1024) },
      },
      (r) => {
        resolve(r.statusCode!);
        sent.destroy();
      },
    );
    sent.on('error', reject);
    sent.write('--x\r\n');
  });
  expect(status).toBe(413);
});

test('names that try to leave their folder stay in it', async ({ request }) => {
  const id = await newProject(request, 'Paths');
  const response = await drop(
    request,
    `/api/projects/${id}/models`,
    [upload('../../../evil.obj', 'v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n')],
    { unit: 'm' },
  );
  expect(response.status()).toBe(201);
  expect((await response.json()) as { model: { file: string } }).toMatchObject({
    model: { file: expect.not.stringContaining('..') },
  });
});

test('OBJ brings roughness as a picture of its own, and says what has no place in it', async ({ request }) => {
  const id = await newProject(request, 'As OBJ');
  const placed = await drop(request, `/api/projects/${id}/models`, [upload('room.glb', await room())]);
  const { project, revision } = (await placed.json()) as {
    revision: number;
    project: { surfaces: Record<string, { id: string }> };
  };
  const materials = (await (await request.get('/api/materials')).json()) as { id: string; maps: object }[];
  const oak = materials.find((m) => m.id === 'smoked-oak')!;
  expect(Object.keys(oak.maps)).toContain('roughness');
  const [floor] = Object.keys(project.surfaces);
  const spec = {
    material: oak.id,
    mapping: { kind: 'flat', direction: 'auto' },
    repeat: { own: null, locked: true },
    start: { datum: 'corner', xMm: 0, yMm: 0 },
    direction: { turnDeg: 0, mirrorX: false, mirrorY: false },
    finish: {},
  };
  const changed = await request.post(`/api/projects/${id}/changes`, {
    data: { baseRevision: revision, commands: [{ kind: 'setSpecs', specs: { [floor]: spec }, materials: [oak] }] },
  });
  expect(changed.status()).toBe(200);
  const files = unzipSync((await exported(request, id, 'obj-zip')).bytes);
  const mtl = new TextDecoder().decode(files[Object.keys(files).find((n) => n.endsWith('.mtl'))!]);
  const [, picture] = /^map_Pr (\S+)$/m.exec(mtl)!;
  expect(Object.keys(files)).toContain(picture);
  // grey: one channel of eight bits (PNG, colour type 0)
  expect([files[picture][24], files[picture][25]]).toEqual([8, 0]);
  expect(mtl).toMatch(/^map_Kd /m);
});
