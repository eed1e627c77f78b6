import { expect, test } from '../test';
import { card, newProject, drop, settled, upload, useDraft } from '../fixtures';
import { boxTriangles, makeGlb } from '../../src/core/testing/fixtures';
import { defaultJoint } from '../../src/core/layout/joint';
import { noMix } from '../../src/core/layout/mix';
import { defaultSpec, type Spec } from '../../src/core/specification/schema';
import { plainVariation } from '../../src/core/variation/schema';

interface Opened {
  revision: number;
  project: { surfaces: Record<string, { id: string; name: string; normal: number[]; spec: Spec | null }> };
}

const bricks = (lengthMm: number, joint: number, shuffle: number): Spec => ({
  ...defaultSpec('facing-brick'),
  pieces: {
    layout: { kind: 'stretcher', lengthMm, heightMm: 65, lap: 0.5, raking: false },
    joint: defaultJoint(joint),
    mix: noMix(),
  },
  variation: { ...plainVariation(), shuffle, tone: { ...plainVariation().tone, lightness: { from: -shuffle, to: 4 } } },
});

test('a field changes that field on each of several surfaces, and nothing else; a mixed one steps each', async ({
  page,
  request,
}) => {
  await useDraft(page);
  const id = await newProject(request, 'Several');
  const glb = await makeGlb([{ name: 'Pier', triangles: boxTriangles([0, 0, 0], [2, 2.4, 1.2]) }]);
  await drop(request, `/api/projects/${id}/models`, [upload('pier.glb', glb)]);
  const at = `/api/projects/${id}`;
  const read = async () => (await (await request.get(at, { maxRetries: 3 })).json()) as Opened;
  const before = await read();
  const facing = (z: number) => Object.values(before.project.surfaces).find((s) => s.normal[2] * z > 0.9)!;
  const [south, north] = [facing(1).id, facing(-1).id];
  const materials = (await (await request.get('/api/materials')).json()) as { id: string }[];
  const specs = { [south]: bricks(215, 10, 3), [north]: bricks(290, 6, 8) };
  const laid = await request.post(`${at}/changes`, {
    data: {
      baseRevision: before.revision,
      commands: [{ kind: 'setSpecs', specs, materials: materials.filter((m) => m.id === 'facing-brick') }],
    },
  });
  expect(laid.ok()).toBe(true);

  await page.goto(`/projects/${id}`);
  await settled(page);
  const rows = page.getByRole('list', { name: 'Surfaces by group' });
  await rows.getByRole('button', { name: facing(1).name }).click();
  await rows.getByRole('button', { name: facing(-1).name }).click({ modifiers: ['Control'] });
  await settled(page);

  // the lap of both; lengths, joints and prints stay as they were
  const pieces = await card(page, 'Pieces');
  await pieces.getByRole('button', { name: 'Longer' }).click();
  await page.getByRole('combobox', { name: /^Lap/ }).selectOption('0.25');
  const specOf = async (surface: string) => (await read()).project.surfaces[surface].spec!;
  await expect.poll(async () => (await specOf(north)).pieces!.layout).toMatchObject({ lap: 0.25, lengthMm: 290 });
  expect((await specOf(south)).pieces!.layout).toMatchObject({ lap: 0.25, lengthMm: 215 });
  expect((await specOf(north)).pieces!.joint.acrossMm).toBe(6);
  expect((await specOf(north)).variation!.shuffle).toBe(8);

  // joints differ: mixed, and an arrow key moves each
  const joints = pieces.getByLabel('Joints', { exact: true });
  await expect(joints).toHaveAttribute('placeholder', 'mixed');
  await joints.press('ArrowUp');
  await expect.poll(async () => (await specOf(south)).pieces!.joint.acrossMm).toBe(11);
  expect((await specOf(north)).pieces!.joint.acrossMm).toBe(7);

  // variation: another turn of prints leaves shuffle numbers and tones alone
  await page.keyboard.press('Escape');
  const variation = await card(page, 'Variation');
  await variation.getByRole('button', { name: 'Longer' }).click();
  await page.getByRole('combobox', { name: /^Prints turned/ }).selectOption('180');
  await expect.poll(async () => (await specOf(north)).variation!.turnStepDeg).toBe(180);
  const [a, b] = [(await specOf(south)).variation!, (await specOf(north)).variation!];
  expect([a.turnStepDeg, a.shuffle, a.tone.lightness.from]).toEqual([180, 3, -3]);
  expect([b.turnStepDeg, b.shuffle, b.tone.lightness.from]).toEqual([180, 8, -8]);

  // one step of history each
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect.poll(async () => (await specOf(north)).variation!.turnStepDeg).toBe(0);
  expect((await specOf(south)).variation!.turnStepDeg).toBe(0);
});

test('four walls are tiled to 2.1 m in one step; a height of several zones changes in all', async ({
  page,
  request,
}) => {
  await useDraft(page);
  const id = await newProject(request, 'Tiled');
  const glb = await makeGlb([{ name: 'Kiosk', triangles: boxTriangles([0, 0, 0], [3, 2.6, 2]) }]);
  await drop(request, `/api/projects/${id}/models`, [upload('kiosk.glb', glb)]);
  const read = async () => {
    const opened = (await (await request.get(`/api/projects/${id}`)).json()) as {
      project: { surfaces: Record<string, Zone> };
    };
    return Object.values(opened.project.surfaces);
  };
  interface Zone {
    id: string;
    name: string;
    normal: number[];
    areaMm2: number;
    spec: Spec | null;
    zone?: { of: string; shape: { kind: string; heightMm: number } };
  }
  const walls = (await read()).filter((s) => Math.abs(s.normal[1]) < 0.1);
  expect(walls).toHaveLength(4);
  await page.goto(`/projects/${id}`);
  await settled(page);
  const rows = page.getByRole('list', { name: 'Surfaces by group' });
  await rows.getByRole('button', { name: walls[0].name }).click();
  for (const wall of walls.slice(1))
    await rows.getByRole('button', { name: wall.name }).click({ modifiers: ['Control'] });
  await page.getByRole('button', { name: 'Lime plaster, floated' }).first().click();
  await settled(page);
  await page.getByRole('button', { name: 'Zone', exact: true }).click();
  await page.getByRole('button', { name: 'Up to it' }).click();
  await expect.poll(async () => (await read()).filter((s) => s.zone).length).toBe(4);
  await settled(page);
  await page.getByRole('button', { name: 'Weir glazed tile' }).first().click();
  const zones = async () => (await read()).filter((s) => s.zone);
  await expect.poll(async () => (await zones()).every((z) => z.spec?.material === 'glazed-tile')).toBe(true);
  for (const z of await zones()) {
    const wall = walls.find((w) => w.id === z.zone!.of)!;
    expect(z.areaMm2 / wall.areaMm2).toBeCloseTo(2.1 / 2.6, 3);
  }
  // all four are picked still: one height, one step
  const height = page.getByRole('group', { name: 'Zone' }).getByLabel('From the foot');
  await height.fill('1.3 m');
  await height.press('Enter');
  await expect.poll(async () => (await zones()).map((z) => z.zone!.shape.heightMm)).toEqual([1300, 1300, 1300, 1300]);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(async () => (await zones()).map((z) => z.zone!.shape.heightMm)).toEqual([2100, 2100, 2100, 2100]);
});

test('two swatches chosen together are laid in equal shares; soldiers stand on four walls in one step', async ({
  page,
  request,
}) => {
  await useDraft(page);
  const id = await newProject(request, 'Soldiers');
  const glb = await makeGlb([{ name: 'Kiosk', triangles: boxTriangles([0, 0, 0], [3, 2.6, 2]) }]);
  await drop(request, `/api/projects/${id}/models`, [upload('kiosk.glb', glb)]);
  type Wall = Opened['project']['surfaces'][string] & {
    areaMm2: number;
    zone?: { of: string; shape: { kind: string; courses?: number } };
  };
  const read = async () => {
    const opened = (await (await request.get(`/api/projects/${id}`)).json()) as {
      project: { surfaces: Record<string, Wall> };
    };
    return Object.values(opened.project.surfaces);
  };
  const walls = (await read()).filter((s) => Math.abs(s.normal[1]) < 0.1);
  await page.goto(`/projects/${id}`);
  await settled(page);
  const rows = page.getByRole('list', { name: 'Surfaces by group' });
  await rows.getByRole('button', { name: walls[0].name }).click();
  for (const wall of walls.slice(1))
    await rows.getByRole('button', { name: wall.name }).click({ modifiers: ['Control'] });

  const library = page.getByRole('list', { name: 'Library' });
  const [first, second] = [
    library.getByRole('button', { name: 'Weir glazed tile' }),
    library.getByRole('button', { name: 'Lime plaster, floated' }),
  ];
  await first.click({ modifiers: ['Control'] });
  await second.click({ modifiers: ['Control'] });
  await first.click();
  const specs = async () => (await read()).filter((s) => s.spec && !s.zone).map((s) => s.spec!);
  await expect.poll(async () => (await specs()).length).toBe(4);
  for (const spec of await specs()) {
    expect([spec.material, spec.pieces!.layout.kind]).toEqual(['glazed-tile', 'grid']);
    expect(spec.pieces!.mix.entries.map((e) => e.share)).toEqual([0.5]);
  }

  await (await card(page, 'Pieces')).getByRole('combobox', { name: 'Layout' }).selectOption('stretcher');
  await settled(page);
  await page.getByRole('button', { name: 'Zone', exact: true }).click();
  const height = page.getByRole('group', { name: 'By height' }).getByLabel('Height');
  await height.fill('12 x 75');
  await height.press('Enter');
  await page.getByRole('button', { name: 'A course of soldiers on it' }).click();
  const zones = async () => (await read()).filter((s) => s.zone);
  await expect.poll(async () => (await zones()).length).toBe(4);
  for (const z of await zones()) {
    expect([z.name, z.spec!.pieces!.layout.kind, z.zone!.shape.courses]).toEqual(['Soldiers', 'soldier', 1]);
    // a brick of 215 and its joint of 10
    const wall = walls.find((w) => w.id === z.zone!.of)!;
    expect((z.areaMm2 / wall.areaMm2) * 2600).toBeCloseTo(225, 1);
  }
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(async () => (await zones()).length).toBe(0);
});
