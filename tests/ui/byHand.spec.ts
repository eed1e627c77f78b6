import type { Locator, Page } from '@playwright/test';
import { expect, test } from '../test';
import { card, drop, newProject, room, settled, upload, useDraft } from '../fixtures';

const line = (page: Page) => page.getByTestId('spec-line');
/** What a card opens above itself. */
const more = (page: Page, name: string) => page.getByRole('group', { name: `${name}, rarely used`, exact: true });
const get = async <T>(page: Page, url: string) => (await (await page.request.get(url, { maxRetries: 3 })).json()) as T;

interface Pull {
  kind: 'row' | 'point';
  upMm: number;
}
interface Spec {
  mapping: { kind: string; from?: number; cuts?: number[][]; correction?: { shearDeg: number; pulls: Pull[] } };
  start: { datum: string; xMm: number; yMm: number; level?: { heightMm: number } };
  repeat: { own: { widthMm: number; heightMm: number } | null };
}
interface Surface {
  id: string;
  name: string;
  areaMm2: number;
  zone?: { shape: { kind: string; [number: string]: unknown } };
  spec: Spec | null;
}
interface SheetAnswer {
  areaMm2: number;
  stretch: { least: number; most: number };
  boundsMm: { minX: number; maxX: number; minY: number; maxY: number };
  laid: { widthMm: number; heightMm: number } | null;
}

/** A floor of 5.4 by 4.2 m and a counter of 2 by 0.6 m, 1 m high; the counter's sides merged where asked. */
async function begin(page: Page, name: string, counterAsOne: boolean): Promise<string> {
  const id = await newProject(page.request, name);
  expect((await drop(page.request, `/api/projects/${id}/models`, [upload('room.glb', await room())])).ok()).toBe(true);
  await useDraft(page);
  await page.goto(`/projects/${id}`);
  await settled(page);
  if (!counterAsOne) return id;
  await page.getByRole('button', { name: 'Counter', exact: true }).click();
  await page.getByRole('button', { name: 'Merge' }).click();
  await settled(page);
  return id;
}

const surfacesOf = async (page: Page, id: string) =>
  Object.values(
    (await get<{ project: { surfaces: Record<string, Surface> } }>(page, `/api/projects/${id}`)).project.surfaces,
  );
const surface = async (page: Page, id: string, find: (s: Surface) => boolean) =>
  (await surfacesOf(page, id)).find(find)!;
const sheetOf = (page: Page, id: string, of: string) =>
  get<SheetAnswer>(page, `/api/projects/${id}/surfaces/${of}/sheet`);

async function lay(page: Page, material: string): Promise<void> {
  await page.getByRole('button', { name: material }).first().click();
  await expect(line(page)).toContainText(`is laid in ${material.split(',')[0]}`);
  await settled(page);
}
async function type(page: Page, of: Locator, label: string, value: string): Promise<void> {
  await of.getByLabel(label, { exact: true }).fill(value);
  await of.getByLabel(label, { exact: true }).press('Enter');
  await settled(page);
}
async function drag(page: Page, over: string, from: [number, number], to: [number, number]): Promise<void> {
  const box = (await page.getByTestId(over).boundingBox())!;
  await page.mouse.move(box.x + box.width * from[0], box.y + box.height * from[1]);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * to[0], box.y + box.height * to[1], { steps: 6 });
  await page.mouse.up();
  await settled(page);
}

test('a sheet is sheared and pulled by hand, and says what that costs', async ({ page }) => {
  const id = await begin(page, 'Corrected', false);
  await lay(page, 'Lime plaster, floated');
  await (await card(page, 'Mapping')).getByRole('button', { name: 'Longer' }).click();
  await type(page, more(page, 'Mapping'), 'Shear', '10');
  const floor = await surface(page, id, (s) => !!s.spec);
  // singular values of a shear by tan 10°
  expect((await sheetOf(page, id, floor.id)).stretch.most).toBeCloseTo(1.0921, 3);
  await expect(page.getByText('It costs: sizes 91.6 to 109.2% of true.')).toBeVisible();
  await page.getByRole('button', { name: 'Let go of all' }).click();
  await settled(page);

  await page.getByRole('button', { name: 'Pull a row…' }).click();
  await drag(page, 'pull-drawing', [0.5, 0.5], [0.5, 0.49]);
  await page.keyboard.press('Escape');
  const pulled = (await surface(page, id, (s) => s.id === floor.id)).spec!.mapping.correction!.pulls;
  expect(pulled).toHaveLength(1);
  expect(pulled[0].kind).toBe('row');
  expect(pulled[0].upMm).toBeGreaterThan(0);
  const { stretch, areaMm2 } = await sheetOf(page, id, floor.id);
  // the floor is two triangles: it bends all the same, and no more than a pull of this reach must
  expect(stretch.least).toBeLessThan(0.999);
  expect(stretch.least).toBeGreaterThan(0.7);
  expect(areaMm2).toBeCloseTo(5400 * 4200, -4);
  await page.getByRole('button', { name: 'Let go of pull 1' }).click();
  await settled(page);
  expect((await surface(page, id, (s) => s.id === floor.id)).spec!.mapping.correction).toBeUndefined();
});

test(
  'round a counter: pieces break at arrises, a band is as high ' +
    'as the strip, unrolling starts and is cut where one clicks',
  async ({ page }) => {
    const id = await begin(page, 'Arrises', true);
    await lay(page, 'Quayside facing brick');
    await (await card(page, 'Mapping')).getByRole('button', { name: 'Box', exact: true }).click();
    await (await card(page, 'Pieces')).getByRole('combobox', { name: 'Layout' }).selectOption('stretcher');
    await settled(page);
    const counter = await surface(page, id, (s) => !!s.spec);
    const pieces = async () =>
      JSON.stringify(
        (await get<{ pieces: unknown[] }>(page, `/api/projects/${id}/surfaces/${counter.id}/pieces`)).pieces,
      );
    const ways = [await pieces()];
    await (await card(page, 'Pieces')).getByRole('button', { name: 'Longer' }).click();
    for (const way of ['break', 'return']) {
      await page.getByLabel('At an arris they').selectOption(way);
      await settled(page);
      ways.push(await pieces());
    }
    expect(new Set(ways).size).toBe(3);

    // a band of the picture over the whole height of what it lies on
    await (await card(page, 'Pieces')).getByRole('combobox', { name: 'Layout' }).selectOption('whole');
    await settled(page);
    await (await card(page, 'Repeat')).getByRole('button', { name: 'Longer' }).click();
    await page.getByLabel('A band of it, exactly as high as the strip').check();
    await expect(line(page)).toContainText('a band of its picture, 0 to 100% of the height');
    await type(page, more(page, 'Repeat'), 'To, of the height', '50');
    const { laid, boundsMm } = await sheetOf(page, id, counter.id);
    expect(laid!.heightMm / 2).toBeCloseTo(boundsMm.maxY - boundsMm.minY, 2);
    expect(laid!.widthMm).toBe(860);

    // unrolled from a face, cut along an edge
    await (await card(page, 'Mapping')).getByRole('button', { name: 'Unroll', exact: true }).click();
    await settled(page);
    await page.keyboard.press('f');
    await settled(page);
    const mapping = async () => (await surface(page, id, (s) => s.id === counter.id)).spec!.mapping;
    expect((await mapping()).from).toBeUndefined();
    await (await card(page, 'Mapping')).getByRole('button', { name: 'Start at…' }).click();
    const canvas = (await page.getByTestId('room-canvas').boundingBox())!;
    await page.mouse.click(canvas.x + canvas.width / 2, canvas.y + canvas.height / 2);
    await settled(page);
    expect((await mapping()).from).toBeDefined();
    await (await card(page, 'Mapping')).getByRole('button', { name: 'Scribe a cut…' }).click();
    await page.mouse.click(canvas.x + canvas.width / 2, canvas.y + canvas.height / 2);
    await settled(page);
    expect((await mapping()).cuts?.length).toBeGreaterThan(0);
    await (await card(page, 'Mapping')).getByRole('button', { name: 'Let go', exact: true }).click();
    await settled(page);
    expect(await mapping()).toEqual({ kind: 'unroll' });
  },
);

test('zones are drawn as circle, outline and margin, and areas add up', async ({ page }) => {
  const id = await begin(page, 'Zones', false);
  await lay(page, 'Lime plaster, floated');
  const zoneBar = page.getByRole('group', { name: 'Zone' });
  const back = async () => {
    await zoneBar.getByRole('button', { name: 'Floor' }).click();
    await settled(page);
  };
  const draw = async (kind: string) => {
    await page.getByRole('button', { name: 'Zone', exact: true }).click();
    await page.getByRole('button', { name: kind }).click();
  };
  await draw('Circle');
  await drag(page, 'zone-drawing', [0.4, 0.5], [0.44, 0.5]);
  await expect(line(page)).toContainText('Floor, circle');
  await zoneBar.getByLabel('Radius').fill('0.5 m');
  await zoneBar.getByLabel('Radius').press('Enter');
  await settled(page);
  await back();
  await draw('Outline, corner by corner');
  const box = (await page.getByTestId('zone-drawing').boundingBox())!;
  const corners: [number, number][] = [
    [0.6, 0.45],
    [0.7, 0.45],
    [0.7, 0.5],
    [0.6, 0.5],
  ];
  for (const [x, y] of corners) await page.mouse.click(box.x + box.width * x, box.y + box.height * y);
  await page.keyboard.press('Enter');
  await expect(line(page)).toContainText('outline');
  await settled(page);
  await back();
  // what is drawn is seen before it is stored
  const drawn = async () => (await surfacesOf(page, id)).filter((s) => s.zone);
  await expect.poll(async () => (await drawn()).map((z) => z.zone!.shape.kind).sort()).toEqual(['circle', 'polygon']);
  const zones = await drawn();
  const round = zones.find((z) => z.zone!.shape.kind === 'circle')!;
  expect(round.areaMm2 / (Math.PI * 500 ** 2)).toBeCloseTo(1, 2);
  // what the list says of the floor is what its zones leave
  const left = (5400 * 4200 - zones.reduce((sum, z) => sum + z.areaMm2, 0)) / 1e6;
  const row = page.locator('li').filter({ has: page.locator('button[data-surface]', { hasText: /^Floor$/ }) });
  await expect(row.last()).toContainText(`${Math.round(left * 100) / 100} m²`);

  await draw('Field within a margin');
  await settled(page);
  await expect(line(page)).toContainText('Floor, field');
  await zoneBar.getByLabel('Margin').fill('600');
  await zoneBar.getByLabel('Margin').press('Enter');
  await settled(page);
  const field = await surface(page, id, (s) => s.zone?.shape.kind === 'inset');
  const { boundsMm } = await sheetOf(page, id, field.id);
  expect(boundsMm.maxX - boundsMm.minX).toBeCloseTo(4200, 1);
  expect(field.areaMm2 / (4200 * 3000)).toBeCloseTo(1, 4);
  await page.getByRole('button', { name: 'Remove zone' }).click();
  await settled(page);
  expect((await surfacesOf(page, id)).filter((s) => s.zone)).toHaveLength(2);
});

test('several surfaces share a picture, a density and a level', async ({ page }) => {
  const id = await begin(page, 'Shared', false);
  const rows = page.locator('button[data-surface]');
  const sides = ['Side south', 'Side east'];
  for (const [i, name] of sides.entries()) {
    await rows
      .filter({ hasText: new RegExp(`^${name}$`) })
      .first()
      .click();
    await lay(page, i ? 'Quayside facing brick' : 'Lime plaster, floated');
  }
  await rows
    .filter({ hasText: /^Side south$/ })
    .first()
    .click();
  await rows
    .filter({ hasText: /^Side east$/ })
    .first()
    .click({ modifiers: ['Control'] });
  await settled(page);
  const picked = async () => (await surfacesOf(page, id)).filter((s) => s.spec).map((s) => s.spec!);

  await (await card(page, 'Repeat')).getByRole('button', { name: 'Longer' }).click();
  await page.getByRole('button', { name: 'Even out to the first picked' }).click();
  await expect(page.getByText(/^\d+\.\d\d pixels per mm over 2 surfaces$/)).toBeVisible();
  expect((await picked()).every((s) => s.repeat.own !== null)).toBe(true);
  await page.getByRole('button', { name: 'Undo' }).click();
  await settled(page);

  await (await card(page, 'Start')).getByLabel('Datum').selectOption('A new level…');
  await settled(page);
  expect((await picked()).map((s) => s.start.datum)).toEqual(['level', 'level']);
  await (await card(page, 'Start')).getByRole('button', { name: 'Longer' }).click();
  await type(page, more(page, 'Start'), 'Height', '0.3 m');
  expect((await picked()).map((s) => s.start.level!.heightMm)).toEqual([300, 300]);

  await (await card(page, 'Mapping')).getByRole('button', { name: 'Longer' }).click();
  await page.getByRole('button', { name: 'One picture through all 2' }).click();
  await settled(page);
  const [a, b] = await picked();
  expect(a.mapping).toEqual(b.mapping);
  expect(a.start).toEqual(b.start);
  expect(a.repeat.own).toEqual(b.repeat.own);
  expect(a.start.datum).toBe('world');

  await page.getByRole('button', { name: 'Show', exact: true }).click();
  await page.getByRole('button', { name: 'Stretch', exact: true }).click();
  await expect(page.getByText('squeezed, 67%')).toBeVisible();

  // shown alone, as a step of history
  await page.keyboard.press('i');
  await expect(page.getByRole('button', { name: 'Show all again' })).toBeVisible();
  await settled(page);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('button', { name: 'Show all again' })).toHaveCount(0);
});
