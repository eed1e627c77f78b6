import { expect, test } from '../test';
import { readdirSync } from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import { deflateSync } from 'node:zlib';
import { drop, upload } from '../fixtures';

/** A small picture with something in it. */
const base = () =>
  sharp(Buffer.from(Array.from({ length: 64 * 48 * 3 }, (_, i) => (i * 37) % 251)), {
    raw: { width: 64, height: 48, channels: 3 },
  });
const filesIn = (folder: string): number => {
  try {
    return readdirSync(folder, { recursive: true, withFileTypes: true }).filter((f) => f.isFile()).length;
  } catch {
    return 0;
  }
};

/** A PNG that says it is huge and brings next to nothing. */
function bomb(width: number, height: number): Buffer {
  const chunk = (type: string, body: Buffer) => {
    const out = Buffer.alloc(12 + body.length);
    out.writeUInt32BE(body.length, 0);
    out.write(type, 4, 'latin1');
    body.copy(out, 8);
    return out;
  };
  const head = Buffer.alloc(13);
  head.writeUInt32BE(width, 0);
  head.writeUInt32BE(height, 4);
  head.set([8, 2, 0, 0, 0], 8);
  return Buffer.concat([
    Buffer.from('\x89PNG\r\n\x1a\n', 'latin1'),
    chunk('IHDR', head),
    chunk('IDAT', deflateSync(Buffer.alloc(1000))),
    chunk('IEND', Buffer.alloc(0)),
  ]);
}

test('fifty broken or hostile pictures: clear answers, the server alive, nothing left behind', async ({
  request,
  server,
}) => {
  const good: Record<string, Buffer> = {
    png: await base().png().toBuffer(),
    jpg: await base().jpeg().toBuffer(),
    webp: await base().webp({ lossless: true }).toBuffer(),
    tif: await base().tiff({ compression: 'lzw' }).toBuffer(),
    avif: await base().avif().toBuffer(),
  };
  const bad: [string, Buffer][] = [];
  for (const [kind, bytes] of Object.entries(good)) {
    for (const share of [0, 0.02, 0.1, 0.3, 0.5])
      bad.push([`cut-${share}.${kind}`, bytes.subarray(0, Math.floor(bytes.length * share))]);
    const torn = Buffer.from(bytes);
    torn.fill(0x11, 3, 24);
    bad.push([`torn.${kind}`, torn]);
  }
  const svg = Buffer.from(
    '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><script>alert(1)</script></svg>',
  );
  const html = Buffer.from('<!doctype html><html><body><img src=x onerror=alert(1)></body></html>');
  for (const kind of ['png', 'jpg', 'webp', 'tif', 'svg']) bad.push([`drawing.${kind}`, svg], [`page.${kind}`, html]);
  bad.push(
    ['still.png', await base().gif().toBuffer()],
    ['bomb-1.png', bomb(60_000, 60_000)],
    ['bomb-2.png', bomb(100_000, 2)],
    ['bomb-3.png', bomb(16_385, 16_384)],
    ['none.png', bomb(0, 0)],
    ['text.png', Buffer.from('not a picture at all')],
    ['zip.png', Buffer.from('PK\x03\x04 and so on', 'latin1')],
    ['bytes.jpg', Buffer.alloc(5000, 7)],
    ['zeros.tif', Buffer.alloc(5000)],
    ['head-only.webp', Buffer.from('RIFF\x10\x00\x00\x00WEBPVP8 ', 'latin1')],
  );
  expect(bad.length).toBeGreaterThanOrEqual(50);
  const before = {
    preps: ((await (await request.get('/api/preps')).json()) as unknown[]).length,
    blobs: filesIn(path.join(server.data, 'blobs')),
    uploads: filesIn(path.join(server.data, 'uploads')),
  };
  for (const [name, bytes] of bad) {
    const response = await drop(request, '/api/preps', [upload(name, bytes)]);
    const { title, detail } = (await response.json()) as { title: string; detail: string };
    expect(response.status(), `${name}: ${title} ${detail}`).toBeGreaterThanOrEqual(400);
    expect(response.status(), `${name}: ${title} ${detail}`).toBeLessThan(500);
    expect(detail).toContain(name);
  }
  expect((await request.get('/api/health')).ok()).toBe(true);
  expect(((await (await request.get('/api/preps')).json()) as unknown[]).length).toBe(before.preps);
  expect(filesIn(path.join(server.data, 'blobs'))).toBe(before.blobs);
  expect(filesIn(path.join(server.data, 'uploads'))).toBe(before.uploads);

  // the good ones come in, whatever their names say; what browsers do not show comes to PNG
  for (const [kind, bytes] of Object.entries(good)) {
    const response = await drop(request, '/api/preps', [upload(`misnamed-${kind}.jpg`, bytes)]);
    expect(response.status()).toBe(201);
    const [prep] = (await response.json()) as { id: string; picture: { image: string; widthPx: number } }[];
    expect(prep.picture.widthPx).toBe(64);
    const shown = await request.get(`/api/images/${prep.picture.image}`);
    expect(shown.headers()['content-type']).toMatch(/^image\/(png|jpeg|webp)$/);
    expect((await request.delete(`/api/preps/${prep.id}`)).status()).toBe(204);
  }
});

test('a deep picture keeps its depth, a turned one stands upright, and a stale change is refused', async ({
  request,
}) => {
  const deep = Uint16Array.from({ length: 40 * 30 * 3 }, (_, i) => (i * 211) % 65536);
  const tiff = await sharp(deep, { raw: { width: 40, height: 30, channels: 3 } })
    .pipelineColourspace('rgb16')
    .toColourspace('rgb16')
    .tiff({ compression: 'lzw' })
    .toBuffer();
  const [prep] = (await (await drop(request, '/api/preps', [upload('deep.tif', tiff)])).json()) as {
    id: string;
    picture: { image: string };
  }[];
  const back = await sharp(await (await request.get(`/api/images/${prep.picture.image}`)).body()).metadata();
  expect(back.depth).toBe('ushort');
  const avif = await sharp(deep, { raw: { width: 40, height: 30, channels: 3 } })
    .avif({ bitdepth: 10 })
    .toBuffer();
  const [ten] = (await (await drop(request, '/api/preps', [upload('ten.avif', avif)])).json()) as {
    picture: { image: string };
  }[];
  expect((await sharp(await (await request.get(`/api/images/${ten.picture.image}`)).body()).metadata()).depth).toBe(
    'ushort',
  );

  // the same colours written with another profile come back as they were
  const red = { create: { width: 32, height: 32, channels: 3 as const, background: { r: 200, g: 60, b: 50 } } };
  const wide = sharp(red).withIccProfile('p3');
  const other = await sharp(await wide.clone().png().toBuffer(), { ignoreIcc: true })
    .raw()
    .toBuffer();
  expect(Math.abs(other[0] - 200)).toBeGreaterThan(8);
  for (const [name, bytes] of [
    ['wide.png', await wide.clone().png().toBuffer()],
    ['wide.jpg', await wide.clone().jpeg({ quality: 100 }).toBuffer()],
  ] as const) {
    const [{ picture }] = (await (await drop(request, '/api/preps', [upload(name, bytes)])).json()) as {
      picture: { image: string };
    }[];
    const shown = await (await request.get(`/api/images/${picture.image}`)).body();
    const [r, g, b] = await sharp(shown, { ignoreIcc: true }).raw().toBuffer();
    for (const off of [r - 200, g - 60, b - 50]) expect(Math.abs(off), name).toBeLessThan(4);
  }

  const turned = await base().withMetadata({ orientation: 6 }).jpeg().toBuffer();
  const [upright] = (await (await drop(request, '/api/preps', [upload('turned.jpg', turned)])).json()) as {
    picture: { widthPx: number; heightPx: number };
  }[];
  expect([upright.picture.widthPx, upright.picture.heightPx]).toEqual([48, 64]);

  const url = `/api/preps/${prep.id}`;
  const turn = { id: 's', kind: 'turn', on: true, mask: null, turnDeg: 3, leanDeg: 0, slopeDeg: 0 };
  const change = (baseRevision: number, command: object) =>
    request.post(`${url}/changes`, { data: { baseRevision, commands: [command] } });
  expect((await change(0, { kind: 'setSteps', steps: [turn] })).status()).toBe(200);
  const stale = await change(0, { kind: 'setStep', step: turn });
  expect(stale.status()).toBe(409);
  expect(((await stale.json()) as { changed: string[] }).changed).toEqual(['Add Turn and lean']);
  const wrong = await change(1, { kind: 'setSteps', steps: [{ ...turn, turnDeg: 999 }] });
  expect(wrong.status()).toBe(400);
  expect(((await wrong.json()) as { field: string }).field).toContain('steps.0');
  const gone = await change(1, { kind: 'setStep', step: { ...turn, id: 'gone' } });
  expect(gone.status()).toBe(422);
  // what was done is listed, undone and done again as a project's
  const undone = (await (await request.post(`${url}/undo`, { data: { baseRevision: 1 } })).json()) as {
    patch: unknown[];
  };
  expect(undone.patch).toEqual([{ path: ['steps'], value: [] }]);
  await request.post(`${url}/redo`, { data: { baseRevision: 2 } });
  const history = (await (await request.get(`${url}/history`)).json()) as { label: string; current: boolean }[];
  expect(history.map((h) => [h.label, h.current])).toEqual([['Add Turn and lean', true]]);
  // nothing says how large it is: no material, and the reason why
  const job = (await (await request.post(`${url}/material`)).json()) as { id: string };
  await expect
    .poll(async () => ((await (await request.get(`/api/jobs/${job.id}`)).json()) as { state: string }).state)
    .toBe('failed');
  expect(((await (await request.get(`/api/jobs/${job.id}`)).json()) as { message: string }).message).toContain(
    'Nothing says how large',
  );
});
