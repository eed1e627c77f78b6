import { expect, test } from '../test';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { drop, newProject, room, upload, zipped } from '../fixtures';

test('a folder of pictures becomes materials by name; odd shapes, sizes and bad files are told', async ({
  request,
}) => {
  const oak = (await (await request.get('/api/materials/smoked-oak')).json()) as {
    maps: Record<string, { image: string }>;
  };
  const get = async (role: string) => (await request.get(`/api/images/${oak.maps[role].image}?size=128`)).body();
  const brick = (await (await request.get('/api/materials/laid-brick')).json()) as {
    maps: Record<string, { image: string }>;
  };
  const square = await (await request.get(`/api/images/${brick.maps.height.image}?size=128`)).body();
  const response = await drop(
    request,
    '/api/materials',
    [
      upload('set/pier-oak_basecolor.png', await get('baseColour')),
      upload('set/pier-oak_nrm.png', await get('normal')),
      upload('set/pier-oak_height.png', square),
      upload('set/quay_diff.png', square),
      upload('set/readme.txt', 'hi'),
      upload('set/fake_rough.png', '<svg></svg>'),
    ],
    { source: 'Own photographs' },
  );
  expect(response.status()).toBe(201);
  const { materials, remarks } = (await response.json()) as {
    materials: {
      id: string;
      name: string;
      maps: object;
      source: string;
      widthMm: number;
      heightMm: number;
      repetition: number;
    }[];
    remarks: { file: string; text: string }[];
  };
  expect(materials.map((m) => m.name).sort()).toEqual(['Pier oak', 'Quay']);
  const made = materials.find((m) => m.name === 'Pier oak')!;
  expect(Object.keys(made.maps).sort()).toEqual(['baseColour', 'height', 'normal']);
  expect(made).toMatchObject({ source: 'Own photographs', widthMm: 1000, heightMm: 500 });
  expect(made.repetition).toBeLessThan(0.3);
  const said = remarks.map((r) => `${r.file}: ${r.text}`).join('\n');
  expect(said).toMatch(/pier-oak_height\.png: its shape differs/);
  expect(said).toMatch(/readme\.txt: left out/);
  expect(said).toMatch(/fake_rough\.png: .*no PNG, JPEG, WebP, TIFF, AVIF, TGA or BMP/);
  expect(said).toMatch(/nothing says how large it is/);

  // replacing a picture keeps every setting
  await request.patch(`/api/materials/${made.id}`, { data: { widthMm: 1234, grain: 'x' } });
  const replaced = await drop(request, `/api/materials/${made.id}/maps`, [upload('new.png', square)], {
    role: 'baseColour',
  });
  expect(await replaced.json()).toMatchObject({
    widthMm: 1234,
    grain: 'x',
    version: 3,
    maps: { baseColour: { file: 'new.png' } },
  });
  const wrong = await request.patch(`/api/materials/${made.id}`, { data: { widthMm: -1 } });
  expect(wrong.status()).toBe(400);
  expect(await wrong.json()).toMatchObject({ field: 'widthMm' });
});

test('every material that comes with the application has its maps at 1024² or more, a size and a low figure', async ({
  request,
}) => {
  const all = (await (await request.get('/api/materials')).json()) as {
    id: string;
    builtIn: boolean;
    kind: string;
    widthMm: number;
    repetition: number;
    maps: Record<string, { widthPx: number; heightPx: number }>;
  }[];
  const own = all.filter((m) => m.builtIn);
  expect(own.length).toBeGreaterThanOrEqual(15);
  for (const m of own) {
    for (const role of ['baseColour', 'normal', 'roughness', 'height']) {
      expect(m.maps[role].widthPx * m.maps[role].heightPx, `${m.id} ${role}`).toBeGreaterThanOrEqual(1024 * 1024);
    }
    // what is printed, and the test picture, are meant to be regular
    if (!['test', 'print'].includes(m.kind)) expect(m.repetition, m.id).toBeLessThan(0.35);
  }
});

test('a material is replaced wherever a project uses it, at the version the project pins', async ({ request }) => {
  const id = await newProject(request, 'Replace');
  const glb = await room();
  const { project, revision } = (await (
    await drop(request, `/api/projects/${id}/models`, [upload('r.glb', glb)])
  ).json()) as { revision: number; project: { surfaces: Record<string, object> } };
  const get = async (m: string) => (await (await request.get(`/api/materials/${m}`)).json()) as Record<string, unknown>;
  const strip = ({ usedIn: _usedIn, ...rest }: Record<string, unknown>) => rest;
  const spec = {
    material: 'sallow-stone',
    mapping: { kind: 'flat', direction: 'auto' },
    repeat: { own: null, locked: true },
    start: { datum: 'corner', xMm: 0, yMm: 0 },
    direction: { turnDeg: 0, mirrorX: false, mirrorY: false },
    finish: {},
  };
  const specs = Object.fromEntries(Object.keys(project.surfaces).map((s) => [s, spec]));
  const change = (baseRevision: number, command: object) =>
    request.post(`/api/projects/${id}/changes`, { data: { baseRevision, commands: [command] } });
  expect(
    (await change(revision, { kind: 'setSpecs', specs, materials: [strip(await get('sallow-stone'))] })).ok(),
  ).toBe(true);
  expect(
    (
      await change(revision + 1, {
        kind: 'replaceMaterial',
        from: 'sallow-stone',
        to: strip(await get('lime-plaster')),
      })
    ).ok(),
  ).toBe(true);
  const after = (await (await request.get(`/api/projects/${id}`)).json()) as {
    project: { surfaces: Record<string, { spec: { material: string } }> };
  };
  expect(new Set(Object.values(after.project.surfaces).map((s) => s.spec.material))).toEqual(new Set(['lime-plaster']));
  expect(await get('lime-plaster')).toMatchObject({
    usedIn: expect.arrayContaining([expect.objectContaining({ id, surfaces: 7 })]),
  });
  // a stale base is refused with what happened
  const stale = await change(revision, { kind: 'setProject', name: 'Late' });
  expect(stale.status()).toBe(409);
  expect(await stale.json()).toMatchObject({
    field: 'baseRevision',
    revision: revision + 2,
    changed: [expect.stringContaining('Lay'), expect.stringContaining('Replace')],
  });
  const unknown = await change(revision + 2, { kind: 'paintItBlack' });
  expect(await unknown.json()).toMatchObject({ field: 'commands.0.kind' });
  const wrong = await change(revision + 2, { kind: 'setProject', unit: 'ell' });
  expect(await wrong.json()).toMatchObject({
    field: 'commands.0.unit',
    detail: expect.stringContaining('mm, cm, m, in, ft-in'),
  });
});

test('the API describes itself, sheets are given in millimetres', async ({ request }) => {
  const api = (await (await request.get('/api/openapi.json')).json()) as {
    paths: object;
    components: { schemas: object };
  };
  expect(Object.keys(api.paths)).toContain('/api/projects/{id}/surfaces/{surface}/sheet');
  expect(Object.keys(api.components.schemas)).toContain('command.setSpecs');
  const id = await newProject(request, 'Sheets');
  const { surfaces } = (await (
    await drop(request, `/api/projects/${id}/models`, [upload('r.glb', await room())])
  ).json()) as { surfaces: { id: string; name: string }[] };
  const sheet = await (
    await request.get(`/api/projects/${id}/surfaces/${surfaces.find((s) => s.name === 'Floor')!.id}/sheet`)
  ).json();
  expect(sheet).toMatchObject({
    laid: null,
    charts: [{ outline: [expect.anything()] }],
    stretch: { most: expect.closeTo(1, 4) },
  });
  expect((sheet as { areaMm2: number }).areaMm2).toBeCloseTo(5400 * 4200, -1);
  expect((await request.get(`/api/projects/${id}/surfaces/none/sheet`)).status()).toBe(404);
});

test('a picture’s own resolution gives its size; numbers that programs write unasked do not', async ({ request }) => {
  const png = (density: number) =>
    sharp({ create: { width: 600, height: 300, channels: 3, background: '#996633' } })
      .withMetadata({ density })
      .png()
      .toBuffer();
  const make = async (density: number) => {
    const response = await drop(request, '/api/materials', [upload(`scan-${density}_col.png`, await png(density))]);
    return (await response.json()) as {
      materials: { widthMm: number; heightMm: number }[];
      remarks: { text: string }[];
    };
  };
  const scan = await make(300);
  expect(scan.materials[0]).toMatchObject({ widthMm: 50.8, heightMm: 25.4 });
  expect(scan.remarks[0].text).toContain('300 pixels per inch');
  expect((await make(72)).materials[0]).toMatchObject({ widthMm: 1000, heightMm: 500 });
});

test('a material goes out as a zip and comes in again as it was', async ({ request }) => {
  const zip = await request.get('/api/materials/smoked-oak/file');
  expect(zip.headers()['content-type']).toBe('application/zip');
  const bytes = await zip.body();
  const response = await drop(request, '/api/materials', [upload('smoked-oak.zip', bytes)]);
  expect(response.status()).toBe(201);
  const { materials, remarks } = (await response.json()) as {
    materials: Record<string, unknown>[];
    remarks: unknown[];
  };
  expect(remarks).toEqual([]);
  const before = (await (await request.get('/api/materials/smoked-oak')).json()) as Record<string, unknown>;
  for (const key of ['name', 'widthMm', 'heightMm', 'grain', 'finish', 'leaves', 'colour', 'tags'])
    expect(materials[0][key]).toEqual(before[key]);
  const images = (m: Record<string, unknown>) =>
    Object.values(m.maps as Record<string, { image: string }>).map((x) => x.image);
  expect(images(materials[0]).sort()).toEqual(images(before).sort());
  expect((await request.delete(`/api/materials/${String(materials[0].id)}`)).status()).toBe(204);

  // a JSON that names a picture which is not there says so
  const torn = await drop(request, '/api/materials', [upload('material.json', JSON.stringify({ name: 'Torn' }))]);
  expect(torn.status()).toBe(400);
});

test('a zip that calls a picture seamless is believed only where the picture is', async ({ request }) => {
  const files = unzipSync(new Uint8Array(await (await request.get('/api/materials/smoked-oak/file')).body()));
  const json = JSON.parse(Buffer.from(files['material.json']).toString()) as {
    seamless: boolean;
    maps: { baseColour: string };
  };
  const ramp = Uint8Array.from({ length: 256 * 256 }, (_, i) => i % 256);
  const grey = await sharp(ramp, { raw: { width: 256, height: 256, channels: 1 } })
    .png()
    .toBuffer();
  for (const [picture, told, is] of [
    [grey, true, false],
    [files[json.maps.baseColour], false, true],
  ] as const) {
    const said = {
      ...files,
      'material.json': Buffer.from(JSON.stringify({ ...json, seamless: told })),
      [json.maps.baseColour]: picture,
    };
    const response = await drop(request, '/api/materials', [upload('told.zip', zipped(said))]);
    const { materials } = (await response.json()) as { materials: { id: string; seamless: boolean }[] };
    expect(materials[0].seamless).toBe(is);
    expect((await request.delete(`/api/materials/${materials[0].id}`)).status()).toBe(204);
  }
});

test('a zip’s pictures are written and named as is asked, with their true size, and come in again', async ({
  request,
}) => {
  const at = '/api/materials/smoked-oak/file';
  const { widthMm } = (await (await request.get('/api/materials/smoked-oak')).json()) as { widthMm: number };
  for (const [query, first, format] of [
    ['pictures=jpeg&quality=60&names=capitals', 'SmokedOakBoards_BaseColor.jpg', 'jpeg'],
    ['pictures=tiff&names=small', 'smoked_oak_boards_basecolor.tif', 'tiff'],
  ]) {
    const zip = await (await request.get(`${at}?${query}`)).body();
    const files = unzipSync(new Uint8Array(zip));
    expect(Object.keys(files)).toContain(first);
    const meta = await sharp(files[first]).metadata();
    expect(meta.format).toBe(format);
    // whole numbers of pixels to the inch are what this reader knows
    expect(Math.abs(meta.density! - (meta.width / widthMm) * 25.4)).toBeLessThanOrEqual(0.5);
    const back = await drop(request, '/api/materials', [upload('oak.zip', Buffer.from(zip))]);
    expect(back.status()).toBe(201);
    const { materials } = (await back.json()) as { materials: { id: string; name: string; maps: object }[] };
    expect(Object.keys(materials[0].maps)).toContain('baseColour');
    expect((await request.delete(`/api/materials/${materials[0].id}`)).status()).toBe(204);
  }
  for (const wrong of ['pictures=gif', 'pictures=jpeg&quality=101', 'names=mine'])
    expect((await request.get(`${at}?${wrong}`)).status(), wrong).toBe(400);
});
