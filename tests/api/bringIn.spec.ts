import sharp from 'sharp';
import { boxTriangles, makeGlb } from '../../src/core/testing/fixtures';
import { MADE_MODELS, objText } from '../../src/core/testing/models';
import type { Material } from '../../src/core/material/schema';
import type { Project } from '../../src/core/project/schema';
import { defaultSpec } from '../../src/core/specification/schema';
import { drop, newProject, room, upload } from '../fixtures';
import { expect, test } from '../test';

type Request = Parameters<typeof newProject>[0];
interface Opened {
  revision: number;
  project: Project;
}

const json = async <T>(response: { json(): Promise<unknown> }) => (await response.json()) as T;
const open = async (request: Request, id: string) => json<Opened>(await request.get(`/api/projects/${id}`));

/** Stripes that close on themselves, or a ramp that does not. */
const picture = (closes: boolean, side = 64) => {
  const data = Buffer.alloc(side * side * 3);
  for (let y = 0; y < side; y++)
    for (let x = 0; x < side; x++) {
      const v = closes
        ? 128 + 60 * Math.sin((x / side) * 8 * Math.PI) + 30 * Math.cos((y / side) * 6 * Math.PI)
        : (x * 255) / side;
      data.fill(v, (y * side + x) * 3, (y * side + x) * 3 + 3);
    }
  return sharp(data, { raw: { width: side, height: side, channels: 3 } });
};

test('a tie is said, and a model brought in without a word on it says what was taken', async ({ request }) => {
  const lump = objText([{ name: 'lump', triangles: boxTriangles([0, 0, 0], [1, 1.31, 0.87]) }], 7.3, 'y', false);
  const id = await newProject(request, 'A tie');
  const found = await json<{
    upload: string;
    evidence: { tie: boolean; certain: boolean; up: { certain: boolean } };
  }>(await drop(request, '/api/uploads', [upload('export.obj', lump)]));
  expect(found.evidence).toMatchObject({ tie: true, certain: false, up: { certain: false } });
  await request.delete(`/api/uploads/${found.upload}`);
  const { model } = await json<{ model: { remarks: { text: string }[] } }>(
    await drop(request, `/api/projects/${id}/models`, [upload('export.obj', lump)]),
  );
  expect(model.remarks.map((r) => r.text).join()).toMatch(/its unit is not certain: .* was taken/);
  const told = await json<{ model: typeof model }>(
    await drop(request, `/api/projects/${id}/models`, [upload('export.obj', lump)], { unit: 'ft', upAxis: 'y' }),
  );
  expect(told.model.remarks.map((r) => r.text).join()).not.toMatch(/not certain/);
});

test('a GLB whose numbers are millimetres is not taken for metres', async ({ request }) => {
  const office = MADE_MODELS.find(([n]) => n === 'office')![1]();
  const glb = await makeGlb(office.map((p) => ({ ...p, triangles: p.triangles.map((v) => v * 1000) })));
  const id = await newProject(request, 'Far too large');
  const { model } = await json<{ model: { unitMm: number } }>(
    await drop(request, `/api/projects/${id}/models`, [upload('office.glb', glb)]),
  );
  expect(model.unitMm).toBe(1);
});

test('smoothing angle and weld distance are the look’s, the model’s, and those of its next version', async ({
  request,
}) => {
  const id = await newProject(request, 'Joined');
  const crate = await makeGlb([{ name: 'Crate', triangles: boxTriangles([0, 0, 0], [1, 1, 1]) }]);
  const found = await json<{ upload: string; surfaces: number; joins: object }>(
    await drop(request, '/api/uploads', [upload('crate.glb', crate)]),
  );
  expect(found).toMatchObject({ surfaces: 6, joins: { creaseDeg: 35, arrises: 12, openEdges: 0, corners: [8, 36] } });
  const again = await request.post(`/api/uploads/${found.upload}`, { data: { creaseDeg: 120 } });
  expect(await again.json()).toMatchObject({ surfaces: 1, joins: { creaseDeg: 120, arrises: 0 } });
  const made = await json<{ model: { id: string; creaseDeg: number }; surfaces: object[]; revision: number }>(
    await request.post(`/api/projects/${id}/models`, { data: { upload: found.upload, creaseDeg: 120 } }),
  );
  expect(made.model.creaseDeg).toBe(120);
  expect(made.surfaces).toHaveLength(1);
  const next = await json<{ upload: string }>(await drop(request, '/api/uploads', [upload('crate.glb', crate)]));
  await request.post(`/api/projects/${id}/models/${made.model.id}/revision`, {
    data: { upload: next.upload, baseRevision: made.revision },
  });
  expect(Object.keys((await open(request, id)).project.surfaces)).toHaveLength(1);
  const wrong = await drop(request, `/api/projects/${id}/models`, [upload('crate.glb', crate)], { creaseDeg: '400' });
  expect(await wrong.json()).toMatchObject({ field: 'creaseDeg' });
});

test('a side is pushed by a typed length: sizes follow, it is listed, and undo takes it back', async ({ request }) => {
  const id = await newProject(request, 'Pushed');
  await drop(request, `/api/projects/${id}/models`, [upload('room.glb', await room())]);
  const before = await open(request, id);
  const counter = Object.values(before.project.parts).find((p) => p.name === 'Counter')!;
  const own = Object.values(before.project.surfaces).filter((s) => s.part === counter.id);
  const east = own.find((s) => s.normal[0] > 0.9)!;
  const url = `/api/projects/${id}/parts/${counter.id}/push`;
  const pushed = await json<Opened>(
    await request.post(url, { data: { baseRevision: before.revision, surface: east.id, byMm: 40 } }),
  );
  const part = pushed.project.parts[counter.id];
  expect(part.max[0] - part.min[0]).toBeCloseTo(2040, 2);
  expect(part.pushes).toMatchObject([{ name: expect.stringContaining('Counter'), byMm: 40 }]);
  const top = own.find((s) => s.normal[1] > 0.9)!;
  expect(pushed.project.surfaces[top.id].areaMm2).toBeCloseTo(2040 * 600, -1);
  const sheet = await json<{ areaMm2: number }>(await request.get(`/api/projects/${id}/surfaces/${top.id}/sheet`));
  expect(sheet.areaMm2).toBeCloseTo(2040 * 600, -1);
  // all at once is no flat side; pushed through itself nothing would be left
  const all = own.flatMap((s) => s.faces);
  const odd = await request.post(url, { data: { baseRevision: pushed.revision, faces: all, byMm: 40 } });
  expect([odd.status(), ((await odd.json()) as { detail: string }).detail]).toEqual([
    400,
    expect.stringContaining('no one plane'),
  ]);
  const gone = await request.post(url, { data: { baseRevision: pushed.revision, surface: east.id, byMm: -2040 } });
  expect(gone.status()).toBe(400);
  await request.post(`/api/projects/${id}/undo`, { data: { baseRevision: pushed.revision } });
  const after = await open(request, id);
  expect(after.project.parts[counter.id]).toEqual(counter);
  expect(after.project.surfaces).toEqual(before.project.surfaces);
});

test('pictures are looked at: seams, normals, pages, TGA and BMP, exact resolution', async ({ request }) => {
  const normals = sharp(Buffer.alloc(32 * 32 * 3, Buffer.from([128, 128, 255])), {
    raw: { width: 32, height: 32, channels: 3 },
  });
  const bmp = Buffer.alloc(54 + 4 * 12);
  bmp.write('BM');
  bmp.writeUInt32LE(54, 10);
  bmp.writeUInt32LE(40, 14);
  bmp.writeInt32LE(4, 18);
  bmp.writeInt32LE(4, 22);
  bmp.writeUInt16LE(24, 28);
  bmp.writeInt32LE(4000, 38);
  bmp.fill(90, 54);
  const pages = await sharp([await picture(true).png().toBuffer(), await picture(false).png().toBuffer()], {
    join: { animated: true },
  })
    .tiff()
    .toBuffer();
  const { materials, remarks } = await json<{ materials: Material[]; remarks: { file: string; text: string }[] }>(
    await drop(request, '/api/materials', [
      upload('closing-tide.png', await picture(true).png().toBuffer()),
      upload('open-ramp.png', await picture(false).png().toBuffer()),
      upload('IMG_7731.png', await normals.png().toBuffer()),
      upload('slip-tone.bmp', bmp),
      upload('two-leaves.tif', pages),
    ]),
  );
  const of = (name: string) => materials.find((m) => m.name === name)!;
  expect(of('Closing tide').seamless).toBe(true);
  expect(of('Open ramp').seamless).toBe(false);
  expect(Object.keys(of('Img 7731').maps)).toEqual(['normal']);
  // 4 pixels at 4000 to the metre, exactly
  expect(of('Slip tone')).toMatchObject({ widthMm: 1, heightMm: 1 });
  expect(of('Slip tone').sizeAssumed).toBeUndefined();
  expect(of('Closing tide').sizeAssumed).toBe(true);
  const said = remarks.map((r) => `${r.file}: ${r.text}`).join('\n');
  expect(said).toMatch(/open-ramp\.png: it does not close/);
  expect(said).not.toMatch(/closing-tide\.png: it does not close/);
  expect(said).toMatch(/IMG_7731\.png: .*by its look it was taken for a normal map/);
  expect(said).toMatch(/two-leaves\.tif: it has 2 pages; the first was taken/);
  // whoever says how large it is ends the guess
  const told = await request.patch(`/api/materials/${of('Closing tide').id}`, { data: { widthMm: 640 } });
  expect(await told.json()).toMatchObject({ sizeAssumed: false });
  const confirmed = await request.patch(`/api/materials/${of('Open ramp').id}`, { data: { sizeAssumed: false } });
  expect(await confirmed.json()).toMatchObject({ sizeAssumed: false, widthMm: 1000 });
});

test('new ones take what is wished, or all settings of another; a known name asks', async ({ request }) => {
  const png = await picture(true).png().toBuffer();
  const send = (name: string, fields: Record<string, string> = {}) =>
    drop(request, '/api/materials', [upload(name, png)], fields);
  const first = (
    await json<{ materials: Material[] }>(
      await send('skiff-oak.png', { finish: 'oiled', sampling: 'sharp', widthMm: '450' }),
    )
  ).materials[0];
  expect(first).toMatchObject({ finish: { kind: 'oiled', deepen: 0.45 }, sampling: 'sharp', widthMm: 450 });
  await request.patch(`/api/materials/${first.id}`, { data: { grain: 'x' } });
  const like = (await json<{ materials: Material[] }>(await send('skiff-ash.png', { like: first.id }))).materials[0];
  expect(like).toMatchObject({ finish: first.finish, sampling: 'sharp', grain: 'x', widthMm: 450, heightMm: 450 });
  const asked = await send('skiff-oak.png');
  expect(asked.status()).toBe(409);
  expect(await asked.json()).toMatchObject({ field: 'known', known: [{ id: first.id, name: 'Skiff oak' }] });
  const version = (await json<{ materials: Material[] }>(await send('skiff-oak.png', { known: 'version' })))
    .materials[0];
  expect(version).toMatchObject({ id: first.id, version: 3, grain: 'x', widthMm: 450 });
  const another = (await json<{ materials: Material[] }>(await send('skiff-oak.png', { known: 'another' })))
    .materials[0];
  expect(another).toMatchObject({ name: 'Skiff oak 2', version: 1 });
  const odd = await send('skiff-elm.png', { finish: 'waxed' });
  expect(await odd.json()).toMatchObject({ field: 'finish' });
});

test('what goes out comes in the same: geometry, size, finish by the standard’s extensions', async ({ request }) => {
  const id = await newProject(request, 'There and back');
  await drop(request, `/api/projects/${id}/models`, [upload('room.glb', await room())]);
  const library = await json<Material[]>(await request.get('/api/materials'));
  const oak = library.find((m) => m.id === 'smoked-oak')!;
  const { project, revision } = await open(request, id);
  const floor = Object.values(project.surfaces).find((s) => s.normal[1] > 0.9 && s.areaMm2 > 2e7)!;
  const spec = { ...defaultSpec(oak.id), finish: { kind: 'lacquered' } };
  const laid = await request.post(`/api/projects/${id}/changes`, {
    data: { baseRevision: revision, commands: [{ kind: 'setSpecs', specs: { [floor.id]: spec }, materials: [oak] }] },
  });
  expect(laid.status(), await laid.text()).toBe(200);
  const job = await json<{ id: string }>(
    await request.post(`/api/projects/${id}/exports`, { data: { format: 'glb', options: {} } }),
  );
  await expect
    .poll(async () => (await json<{ state: string }>(await request.get(`/api/jobs/${job.id}`))).state)
    .toBe('done');
  const glb = await (await request.get(`/api/jobs/${job.id}/file`)).body();
  const back = await newProject(request, 'Back again');
  await drop(request, `/api/projects/${back}/models`, [upload('there.glb', glb)]);
  const again = (await open(request, back)).project;
  const sizes = (p: Project) =>
    Object.values(p.parts)
      .map((x) => x.max.map((v, c) => Math.round(v - x.min[c])))
      .sort();
  expect(sizes(again)).toEqual(sizes(project));
  const areas = (p: Project) => Object.values(p.surfaces).reduce((sum, s) => sum + s.areaMm2, 0);
  expect(areas(again)).toBeCloseTo(areas(project), -2);
  const [returned] = Object.values(again.materials);
  expect(returned).toMatchObject({ widthMm: oak.widthMm, heightMm: oak.heightMm });
  expect(returned.finish.coat).toBeCloseTo(0.9, 5);
  expect(returned.finish.coatRoughness).toBeCloseTo(0.12, 5);
  // what lacquer deepens is in the picture now
  const light = (hex: string) => [1, 3, 5].reduce((n, i) => n + parseInt(hex.slice(i, i + 2), 16), 0);
  expect(light(returned.colour)).toBeLessThan(light(oak.colour) * 0.95);
});

test('a model’s material whose name the library has: as it is, a new version, or another', async ({ request }) => {
  const name = 'Weathered hull paint';
  const png = await picture(true).png().toBuffer();
  const other = await picture(true, 32).png().toBuffer();
  const crate = (bytes: Buffer) => [
    upload(
      'crate.obj',
      Buffer.from(
        'mtllib crate.mtl\no Crate\nv 0 0 0\nv 1 0 0\nv 1 0 1\nv 0 0 1\nvt 0 0\nvt 1 0\nvt 1 1\nvt 0 1\n' +
          `usemtl ${name}\nf 1/1 2/2 3/3 4/4\n`,
      ),
    ),
    upload('crate.mtl', Buffer.from(`newmtl ${name}\nmap_Kd hull.png\n`)),
    upload('hull.png', bytes),
  ];
  interface Came {
    project: Project;
    model: { remarks: { text: string }[]; missingPictures: string[] };
    surfaces: { id: string; spec: { material: string } }[];
  }
  const bring = async (id: string, bytes: Buffer | null, known?: string) => {
    const files = crate(bytes ?? png).slice(0, bytes ? 3 : 2);
    const came = await json<Came>(
      await drop(request, `/api/projects/${id}/models`, files, { unit: 'm', ...(known ? { known } : {}) }),
    );
    const [{ spec }] = came.surfaces;
    return { ...came, material: came.project.materials[spec.material], said: came.model.remarks.map((r) => r.text) };
  };
  const project = await newProject(request, 'Known paint');
  const first = await bring(project, png);
  expect(first.material).toMatchObject({ name, version: 1 });
  // the library's own settings are what is to stay
  await request.patch(`/api/materials/${first.material.id}`, { data: { widthMm: 700, heightMm: 700 } });

  const look = await json<{ upload: string; known: object[] }>(await drop(request, '/api/uploads', crate(other)));
  expect(look.known).toEqual([{ id: first.material.id, name }]);
  await request.delete(`/api/uploads/${look.upload}`);

  const second = await newProject(request, 'Known paint, second');
  const kept = await bring(second, other, 'library');
  expect(kept.material).toMatchObject({ id: first.material.id, version: 2, widthMm: 700, maps: first.material.maps });
  expect(kept.said.join()).toContain(`“${name}” is the library's; the file's pictures of it were left out`);

  // a picture that the library's material spares is not missed
  const spared = await bring(second, null, 'library');
  expect(spared.material.id).toBe(first.material.id);
  expect(spared.model.missingPictures).toEqual([]);

  const renewed = await bring(second, other, 'version');
  expect(renewed.material).toMatchObject({ id: first.material.id, version: 3, widthMm: 700 });
  expect(renewed.material.maps.baseColour!.widthPx).toBe(32);
  const library = await json<{ version: number }>(await request.get(`/api/materials/${first.material.id}`));
  expect(library.version).toBe(3);

  const another = await bring(second, other);
  expect(another.material).toMatchObject({ name: `${name} 2`, version: 1 });
  expect(another.said.join()).toContain(`the file's came in as “${name} 2”`);
  const refused = await drop(request, `/api/projects/${second}/models`, crate(png), { known: 'mine' });
  expect([refused.status(), await refused.text()]).toEqual([400, expect.stringMatching(/library, version or another/)]);
});

test('what is new in a changed model is laid as the file has it, and a known name asks; what was there stays', async ({
  request,
}) => {
  const name = `Deck paint ${Math.floor(performance.now() * 1000)}`;
  const rail = `Rail paint ${name.slice(11)}`;
  const slab = (called: string, x: number, from: number, paint: string) =>
    `o ${called}\nv ${x} 0 0\nv ${x + 1} 0 0\nv ${x + 1} 0 1\nv ${x} 0 1\nvt 0 0\nvt 1 0\nvt 1 1\nvt 0 1\n` +
    `usemtl ${paint}\nf ${[0, 1, 2, 3].map((i) => `${from + i}/${from + i}`).join(' ')}\n`;
  const files = (parts: string[], ...pictures: ReturnType<typeof upload>[]) => [
    upload('deck.obj', Buffer.from(['mtllib deck.mtl\n', ...parts].join(''))),
    upload('deck.mtl', Buffer.from(`newmtl ${name}\nmap_Kd hull.png\nnewmtl ${rail}\nmap_Kd rail.png\n`)),
    ...pictures,
  ];
  const hull = upload('hull.png', await picture(true).png().toBuffer());
  const id = await newProject(request, 'Deck');
  const first = await json<{ model: { id: string }; surfaces: { id: string; spec: { material: string } }[] }>(
    await drop(request, `/api/projects/${id}/models`, files([slab('Deck', 0, 1, name)], hull), { unit: 'm' }),
  );
  const [deck] = first.surfaces;
  // what is laid on the deck since is another material, and newer settings of the first are the library’s alone
  const own = await open(request, id);
  const granite = (await json<Material[]>(await request.get('/api/materials'))).find((m) => m.builtIn)!;
  await request.post(`/api/projects/${id}/changes`, {
    data: {
      baseRevision: own.revision,
      commands: [
        { kind: 'useMaterial', material: granite },
        { kind: 'setSpecs', specs: { [deck.id]: defaultSpec(granite.id) } },
      ],
    },
  });
  await request.patch(`/api/materials/${deck.spec.material}`, { data: { widthMm: 700 } });

  const parts = [
    slab('Deck', 0, 1, name),
    slab('Platform', 5, 5, name),
    slab('Rail', 9, 9, rail),
    slab('Step', 20, 13, rail),
  ];
  const revise = async (known?: string) => {
    const next = files(parts, upload('hull.png', await picture(true, 32).png().toBuffer()));
    const { upload: sent } = await json<{ upload: string }>(await drop(request, '/api/uploads', next));
    const url = `/api/projects/${id}/models/${first.model.id}/revision`;
    const found = await json<{ known: object[]; added: number; opened: null }>(
      await request.post(url, { data: { upload: sent } }),
    );
    expect(found).toMatchObject({ known: [{ id: deck.spec.material, name }], added: 3, opened: null });
    const { revision } = await open(request, id);
    await request.post(url, { data: { upload: sent, baseRevision: revision, ...(known ? { known } : {}) } });
    const { project } = await open(request, id);
    const laidOn = (part: string) => {
      const { spec } = Object.values(project.surfaces).find((s) => project.parts[s.part].name === part)!;
      return spec && project.materials[spec.material];
    };
    return { laidOn, project, model: project.models[first.model.id] };
  };

  const kept = await revise();
  expect(kept.laidOn('Deck')!.id).toBe(granite.id);
  expect(kept.laidOn('Platform')).toMatchObject({ id: deck.spec.material, version: 1, widthMm: 1000 });
  // no picture of the rail came: it stays bare, and that is said where missing pictures are
  expect(kept.laidOn('Rail')).toBeNull();
  expect(kept.model.missingPictures).toEqual(['rail.png']);
  expect(kept.model.missingBySlot.map((m) => m.path)).toEqual(['rail.png']);
  await request.post(`/api/projects/${id}/undo`, { data: { baseRevision: (await open(request, id)).revision } });

  const another = await revise('another');
  expect(another.laidOn('Deck')!.id).toBe(granite.id);
  expect(another.laidOn('Platform')).toMatchObject({ name: `${name} 2`, version: 1 });
  expect(another.laidOn('Platform')!.maps.baseColour!.widthPx).toBe(32);

  // brought later, the rail’s picture lies on what waited for it
  const { revision } = await open(request, id);
  await drop(
    request,
    `/api/projects/${id}/models/${first.model.id}/pictures`,
    [upload('rail.png', await picture(true).png().toBuffer())],
    { baseRevision: String(revision) },
  );
  const late = Object.values((await open(request, id)).project.surfaces).filter((s) => s.spec);
  expect(late).toHaveLength(4);
});
