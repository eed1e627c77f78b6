import { expect, test } from '../test';
import sharp from 'sharp';
import { toLinear } from '../../src/core/colour/srgb';
import type { Light, Project, Still, Surface } from '../../src/core/project/schema';
import { defaultSpec, type Spec } from '../../src/core/specification/schema';
import { drop, newProject, projectOfBoxes, room, settled, upload, useDraft } from '../fixtures';

test('a project’s card shows the last still of its room; what is no picture is refused', async ({ page, request }) => {
  const id = await newProject(request, 'Seen before');
  expect((await request.get(`/api/projects/${id}/still`)).status()).toBe(404);
  const refused = await request.put(`/api/projects/${id}/still`, {
    data: Buffer.from('no picture'),
    headers: { 'content-type': 'image/png' },
  });
  expect(await refused.json()).toMatchObject({ status: 400, field: 'body' });
  const png = await sharp({ create: { width: 800, height: 500, channels: 3, background: '#2f4b7c' } })
    .png()
    .toBuffer();
  expect(
    (await request.put(`/api/projects/${id}/still`, { data: png, headers: { 'content-type': 'image/png' } })).status(),
  ).toBe(204);
  await page.goto('/');
  await expect(page.getByRole('link', { name: 'Open Seen before' }).locator('img')).toBeVisible();
});

test('a still is traced: stopped, gone on with, good enough, kept; a region is the same part', async ({ page }) => {
  await useDraft(page);
  const id = await newProject(page.request, 'Traced');
  await drop(page.request, `/api/projects/${id}/models`, [upload('room.glb', await room())]);
  await page.goto(`/projects/${id}`);
  await settled(page);
  await page.getByRole('button', { name: /^Stills/ }).click();
  const stills = page.getByRole('group', { name: 'Stills' });
  await stills.getByLabel('Width, px').fill('96');
  await stills.getByLabel('Width, px').press('Enter');
  await stills.getByLabel('Height, px').fill('64');
  await stills.getByLabel('Height, px').press('Enter');
  await stills.getByLabel('Made').selectOption('traced');
  await stills.getByLabel('Rays for each pixel').fill('4000');
  await stills.getByLabel('Rays for each pixel').press('Enter');
  await stills.getByRole('button', { name: 'Trace the still' }).click();
  const underWay = stills.getByRole('group', { name: 'Still under way' });
  await expect(underWay).toContainText(/Ray [2-9]\d* of 4000/, { timeout: 60_000 });
  await expect(underWay.getByAltText('The still so far')).toBeVisible();
  // what is kept of it is what was whole some seconds ago
  await page.waitForTimeout(5000);
  await underWay.getByRole('button', { name: 'Stop' }).click();
  await expect(underWay).toContainText('stopped');
  await underWay.getByRole('button', { name: 'Go on' }).click();
  // stopped again before it has gathered anything: what there was goes along
  await underWay.getByRole('button', { name: 'Stop' }).click();
  await expect(underWay).toContainText('stopped');
  await underWay.getByRole('button', { name: 'Go on' }).click();
  // it does not begin anew
  await expect(underWay).toContainText(/Ray \d\d+ of 4000/, { timeout: 60_000 });
  await underWay.getByRole('button', { name: 'Good enough' }).click();
  const kept = stills.getByRole('list', { name: 'Kept stills' });
  await expect(kept).toContainText(/96 × 64, traced, \d+ rays/, { timeout: 60_000 });

  const { project } = (await (await page.request.get(`/api/projects/${id}`)).json()) as { project: Project };
  const [still] = Object.values(project.stills ?? {});
  const view = { eye: still.eye, target: still.target, ...(still.lensMm ? { lensMm: still.lensMm } : {}) };
  const traced = async (more: object) => {
    const data = { ...view, widthPx: 96, heightPx: 64, samples: 2, smooth: false, ...more };
    const begun = await page.request.post(`/api/projects/${id}/stills`, { data });
    const job = (await begun.json()) as { id: string };
    const read = async () =>
      (await (await page.request.get(`/api/jobs/${job.id}`)).json()) as { state: string; result?: { image: string } };
    await expect.poll(async () => (await read()).state, { timeout: 60_000 }).toBe('done');
    const png = await (await page.request.get(`/api/images/${(await read()).result!.image}`)).body();
    return sharp(png).raw().toBuffer({ resolveWithObject: true });
  };
  const whole = await traced({});
  const region = { x: 30, y: 20, width: 24, height: 16 };
  const part = await traced({ region });
  expect([part.info.width, part.info.height]).toEqual([24, 16]);
  const row = (of: typeof whole, x: number, y: number, n: number) => [
    ...of.data.subarray((y * of.info.width + x) * 3, (y * of.info.width + x + n) * 3),
  ];
  for (const y of [0, 7, 15]) expect(row(part, 0, y, 24)).toEqual(row(whole, 30, 20 + y, 24));
  // put into the kept one, all around stays
  const within = await traced({ region, within: still.image });
  const before = await sharp(await (await page.request.get(`/api/images/${still.image}`)).body())
    .raw()
    .toBuffer({ resolveWithObject: true });
  expect(row(within, 0, 0, 96)).toEqual(row(before, 0, 0, 96));
  expect(row(within, 30, 27, 24)).toEqual(row(whole, 30, 27, 24));
  const beyond = await page.request.post(`/api/projects/${id}/stills`, {
    data: { ...view, widthPx: 96, heightPx: 64, samples: 1, region: { x: 90, y: 0, width: 20, height: 4 } },
  });
  expect(await beyond.json()).toMatchObject({ status: 400, field: 'region' });
});

test('out in the sun, drawn and traced stills agree in the light of every surface', async ({ page, request }) => {
  const made: Record<string, string> = {};
  for (const [name, value] of [
    ['pale', 150],
    ['dark', 90],
  ] as const) {
    const background = { r: value, g: value, b: value };
    const png = await sharp({ create: { width: 16, height: 16, channels: 3, background } })
      .png()
      .toBuffer();
    const answer = await drop(request, '/api/materials', [upload(`${name}-${Date.now()}.png`, png)], {
      widthMm: '500',
    });
    made[name] = ((await answer.json()) as { materials: { id: string }[] }).materials[0].id;
  }
  const matt = (material: string): Spec => ({ ...defaultSpec(material), finish: { reflection: 0 } });
  const { id, at, read, surfaces } = await projectOfBoxes(
    request,
    'Sun and shade',
    [
      ['Slab', [0, 0, 0], [8, 0.2, 8]],
      ['Block', [3, 0.2, 3], [5, 1.7, 5]],
    ],
    (all) =>
      Object.fromEntries(all.map((s) => [s.id, matt((s as unknown as Surface).areaMm2 > 1e7 ? made.pale : made.dark)])),
  );
  expect(surfaces.length).toBeGreaterThan(6);
  const { revision } = await read();
  const light: Light = {
    bearingDeg: 150,
    altitudeDeg: 45,
    strength: 1,
    metering: 'fixed',
    curve: 'neutral',
    occlusionMm: 0,
  };
  const view = { eye: [11000, 5000, 12000], target: [4000, 600, 4000], lensMm: 35 };
  const commands = [
    { kind: 'setProject', light },
    { kind: 'saveView', view: { id: 'v', name: 'From the south-east', ...view } },
  ];
  expect((await request.post(`${at}/changes`, { data: { baseRevision: revision, commands } })).ok()).toBe(true);
  await page.goto(`/projects/${id}`);
  await settled(page);
  await page.getByRole('button', { name: /^Stills/ }).click();
  const stills = page.getByRole('group', { name: 'Stills' });
  await stills.getByLabel('From').first().selectOption({ label: 'From the south-east' });
  for (const [label, value] of [
    ['Width, px', '240'],
    ['Height, px', '150'],
  ]) {
    await stills.getByLabel(label).fill(value);
    await stills.getByLabel(label).press('Enter');
  }
  await stills.getByRole('button', { name: 'Make the still' }).click();
  const kept = async () => Object.values(((await read()) as unknown as { project: Project }).project.stills ?? {});
  await expect.poll(async () => (await kept()).length, { timeout: 120_000 }).toBe(1);
  const begun = await request.post(`${at}/stills`, {
    data: { ...view, widthPx: 240, heightPx: 150, samples: 64, bounces: 1, smooth: false },
  });
  const job = (await begun.json()) as { id: string };
  const result = async () =>
    (await (await request.get(`/api/jobs/${job.id}`)).json()) as { state: string; result?: { image: string } };
  await expect.poll(async () => (await result()).state, { timeout: 180_000 }).toBe('done');
  const numbers = async (image: Still['image']) =>
    sharp(await (await request.get(`/api/images/${image}`)).body())
      .removeAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
  const [drawn, traced] = [await numbers((await kept())[0].image), await numbers((await result()).result!.image)];
  const mean = ({ data, info }: typeof drawn, x: number, y: number, w: number, h: number) => {
    let sum = 0;
    for (let j = 0; j < h; j++)
      for (let i = 0; i < w; i++) sum += toLinear(data[((y + j) * info.width + x + i) * 3 + 1] / 255);
    return sum / (w * h);
  };
  const places: Record<string, [x: number, y: number, w: number, h: number]> = {
    'slab in the sun': [100, 118, 40, 12],
    'top of the block': [108, 50, 20, 6],
    'its side to the south': [97, 66, 18, 12],
    'its side to the east': [126, 68, 16, 12],
    ground: [4, 120, 30, 12],
  };
  for (const [what, rect] of Object.entries(places)) {
    const ratio = mean(traced, ...rect) / mean(drawn, ...rect);
    expect(Math.abs(ratio - 1), `${what}: traced ${ratio.toFixed(3)} of drawn`).toBeLessThan(0.1);
  }
});
