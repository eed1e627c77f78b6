import type { Locator, Page } from '@playwright/test';
import { boxTriangles, cylinderTriangles, makeGlb } from '../../src/core/testing/fixtures';
import { card, drop, newProject, photograph, settled, upload } from '../fixtures';
import { expect, test } from '../test';

/*
 * Jobs as artists count them: a press or a drag, a filled field, a chord of keys is one step. Each is done with the
 * mouse in no more steps than are allowed, and those that keys reach also without it.
 */

class Steps {
  count = 0;
  constructor(private readonly page: Page) {}

  async press(what: Locator, how: Parameters<Locator['click']>[0] = {}): Promise<void> {
    this.count++;
    await what.click(how);
    await settled(this.page);
  }

  async fill(field: Locator, value: string): Promise<void> {
    this.count++;
    await field.fill(value);
    await field.press('Enter');
    await settled(this.page);
  }

  async choose(field: Locator, value: string | { label: string }): Promise<void> {
    this.count++;
    await field.selectOption(value);
    await settled(this.page);
  }

  async tick(box: Locator): Promise<void> {
    this.count++;
    await box.check();
  }

  async chord(keys: string): Promise<void> {
    this.count++;
    await this.page.keyboard.press(keys);
    await settled(this.page);
  }

  /** A command, a field or a material by its name: opened, typed, taken. */
  async find(words: string): Promise<void> {
    await this.chord('Control+k');
    this.count++;
    await this.page.keyboard.type(words);
    await this.page.waitForTimeout(150);
    await this.chord('Enter');
  }

  /** Typed into the field that has the focus. */
  async type(value: string): Promise<void> {
    this.count++;
    await this.page.keyboard.press('Control+a');
    await this.page.keyboard.type(value);
    await this.page.keyboard.press('Enter');
    await settled(this.page);
  }
}

interface Spec {
  material: string;
  mapping: { kind: string; around?: number | null };
  repeat: { own: { widthMm: number; heightMm: number } | null };
  start: { datum: string };
  direction: { turnDeg: number };
  pieces?: { layout: { kind: string; widthMm?: number; heightMm?: number; shift?: number } };
}
interface Surface {
  id: string;
  part: string;
  name: string;
  normal: [number, number, number];
  areaMm2: number;
  spec: Spec | null;
  zone?: { of: string; rank: number; shape: { kind: string; heightMm?: number; widthMm?: number } };
}
const surfacesOf = async (page: Page, id: string): Promise<Surface[]> =>
  Object.values(
    (
      (await (await page.request.get(`/api/projects/${id}`)).json()) as {
        project: { surfaces: Record<string, Surface> };
      }
    ).project.surfaces,
  );

const line = (page: Page) => page.getByTestId('spec-line');
/** The first of that name: other tests bring materials in again under names that there are. */
const swatch = (page: Page, name: string) =>
  page.getByRole('region', { name: 'Material', exact: true }).getByRole('button', { name, exact: true }).first();
const row = (page: Page, name: string | RegExp) =>
  page.getByRole('list', { name: 'Surfaces by group' }).getByRole('button', { name }).first();

/** A room of 4 × 3 m and 2.6 m high, walls of 100 mm, a column of 460 mm, a bath with a rim, a drum on the floor. */
async function bathroom(): Promise<Uint8Array> {
  const walls = [
    ['West wall', boxTriangles([-0.1, 0, 0], [0, 2.6, 3])],
    ['East wall', boxTriangles([4, 0, 0], [4.1, 2.6, 3])],
    ['North wall', boxTriangles([-0.1, 0, -0.1], [4.1, 2.6, 0])],
    ['South wall', boxTriangles([-0.1, 0, 3], [4.1, 2.6, 3.1])],
  ] as const;
  const round = (radius: number, height: number, [x, z]: [number, number]) =>
    cylinderTriangles(radius, height, 48).map((v, i) => (i % 3 === 0 ? v + x : i % 3 === 2 ? v + z : v));
  return makeGlb([
    { name: 'Bathroom floor', triangles: boxTriangles([-0.1, -0.2, -0.1], [4.1, 0, 3.1]) },
    ...walls.map(([name, triangles]) => ({ name, triangles: [...triangles] })),
    { name: 'Ceiling', triangles: boxTriangles([-0.1, 2.6, -0.1], [4.1, 2.8, 3.1]) },
    { name: 'Bath rim', triangles: boxTriangles([0, 0.5, 0], [1.7, 0.56, 0.75]) },
    { name: 'Column', triangles: round(0.23, 2.6, [3.2, 1.2]) },
    { name: 'Drum', triangles: round(0.3, 0.9, [2, 2.2]) },
  ]);
}

async function begin(page: Page): Promise<string> {
  await page.addInitScript(() =>
    localStorage.setItem(
      'jute-grid-room',
      JSON.stringify({ state: { light: 'draft', preview: 256, shadows: false }, version: 0 }),
    ),
  );
  const id = await newProject(page.request, 'Jobs');
  expect(
    (await drop(page.request, `/api/projects/${id}/models`, [upload('bathroom.glb', await bathroom())])).ok(),
  ).toBe(true);
  await page.goto(`/projects/${id}`);
  await settled(page);
  await expect(page.getByRole('button', { name: 'Floors', exact: true })).toBeEnabled();
  return id;
}

const pick = async (page: Page, name: string | RegExp) => {
  await row(page, name).click();
  await settled(page);
};
const lay = async (page: Page, material: string) => {
  // what other tests brought in may have its name, too
  await (await card(page, 'Material')).getByRole('button', { name: material, exact: true }).first().click();
  await settled(page);
};

test('floor: another layout, 45°, centred: 3 steps; by keys alone as well', async ({ page }) => {
  const id = await begin(page);
  await lay(page, 'Smoked oak boards');
  const steps = new Steps(page);
  await steps.choose(page.getByRole('combobox', { name: 'Layout' }), { label: 'Herringbone' });
  await steps.fill(page.getByLabel('Turned'), '45');
  await steps.choose(page.getByLabel('Datum'), 'centre');
  const floor = async () => (await surfacesOf(page, id)).find((s) => s.spec)!.spec!;
  const wanted = {
    start: { datum: 'centre' },
    direction: { turnDeg: 45 },
    pieces: { layout: { kind: 'herringbone' } },
  };
  await expect.poll(floor).toMatchObject(wanted);
  expect(steps.count).toBeLessThanOrEqual(3);

  for (let n = 0; n < 3; n++) await page.keyboard.press('Control+z');
  await settled(page);
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  for (let n = 0; n < 3; n++) await page.keyboard.press('Control+z');
  await expect.poll(floor).toMatchObject({ direction: { turnDeg: 0 } });
  const keys = new Steps(page);
  await keys.find('herringbone');
  await keys.find('rotation');
  await keys.type('45');
  await keys.find('datum');
  await keys.chord('ArrowDown');
  await expect.poll(floor).toMatchObject(wanted);
});

test('bathroom floor of 600 × 300, third bond, from the centre: 4 steps', async ({ page }) => {
  const id = await begin(page);
  const steps = new Steps(page);
  await steps.press(swatch(page, 'Ferry terrazzo'));
  await steps.choose(page.getByRole('combobox', { name: 'Layout' }), { label: 'Grid' });
  await steps.choose(page.getByLabel('Format'), { label: 'Floor tile 600 × 300, third bond' });
  await steps.choose(page.getByLabel('Datum'), 'centre');
  const floor = async () => (await surfacesOf(page, id)).find((s) => s.spec);
  await expect
    .poll(async () => (await floor())?.spec)
    .toMatchObject({
      start: { datum: 'centre' },
      pieces: { layout: { kind: 'grid', widthMm: 600, heightMm: 300, shift: 1 / 3 } },
    });
  expect((await floor())!.normal[1]).toBeCloseTo(1);
  expect(steps.count).toBeLessThanOrEqual(4);
});

test('four walls tiled to 2.1 m, plaster above: 5 steps', async ({ page }) => {
  const id = await begin(page);
  const steps = new Steps(page);
  // the walls of the room, not those outside
  await steps.press(page.getByRole('button', { name: 'Walls of Bathroom' }));
  await steps.press(swatch(page, 'Lime plaster, floated'));
  await steps.press(page.getByRole('button', { name: 'Zone', exact: true }));
  await steps.press(page.getByRole('button', { name: 'Up to it' }));
  await steps.press(swatch(page, 'Weir glazed tile'));
  const all = await surfacesOf(page, id);
  const zones = all.filter((s) => s.zone);
  expect(zones).toHaveLength(4);
  for (const z of zones) {
    expect(z.zone!.shape).toMatchObject({ kind: 'height', heightMm: 2100 });
    const below = all.find((s) => s.id === z.zone!.of)!;
    expect(below.spec!.material).not.toBe(z.spec!.material);
    // the faces inside: two are as long as the house, two stand between them
    expect(Math.min(...[4.2, 3].map((m) => Math.abs(below.areaMm2 - m * 2.6e6)))).toBeLessThan(1);
  }
  expect(steps.count).toBeLessThanOrEqual(5);
});

test('column, exactly 19 around: 3 steps', async ({ page }) => {
  const id = await begin(page);
  await pick(page, /^round face Column/);
  await lay(page, 'Weir glazed tile');
  await pick(page, /^Floor/);
  const steps = new Steps(page);
  await steps.press(row(page, /^round face Column/));
  await steps.press(page.getByRole('button', { name: 'Unfold Mapping' }));
  await steps.fill(page.getByLabel('Exactly … around'), '19');
  await expect
    .poll(async () => (await surfacesOf(page, id)).find((s) => s.spec)!.spec!.mapping)
    .toMatchObject({ kind: 'cylinder', around: 19 });
  expect(steps.count).toBeLessThanOrEqual(3);
});

test('the size alone, from one wall onto two others: 4 steps', async ({ page }) => {
  const id = await begin(page);
  await page.getByRole('button', { name: 'Walls', exact: true }).click();
  await lay(page, 'Lime plaster, floated');
  await pick(page, /^North wall/);
  await (await card(page, 'Repeat')).getByLabel('Width').fill('1234');
  await page.keyboard.press('Enter');
  await settled(page);
  await pick(page, /^Floor/);
  const steps = new Steps(page);
  await steps.press(row(page, /^North wall/));
  await steps.press(page.getByRole('button', { name: 'Lift the repeat alone' }));
  await steps.press(row(page, /^West wall/));
  await steps.press(row(page, /^East wall/));
  const sized = (await surfacesOf(page, id)).filter((s) => s.spec?.repeat.own?.widthMm === 1234);
  expect(sized).toHaveLength(3);
  expect(steps.count).toBeLessThanOrEqual(4);
});

test('all floors at once in one material: 2 steps, and no rims', async ({ page }) => {
  const id = await begin(page);
  const steps = new Steps(page);
  await steps.press(page.getByRole('button', { name: 'Floors', exact: true }));
  await steps.press(swatch(page, 'Ferry terrazzo'));
  const laid = (await surfacesOf(page, id)).filter((s) => s.spec);
  expect(laid.map((s) => [s.normal[1], Math.round(s.areaMm2 / 1e4)])).toEqual([[1, 1344]]);
  expect(steps.count).toBeLessThanOrEqual(2);
});

test('a rug on the floor, edged, the floor below whole: 6 steps', async ({ page }) => {
  const id = await begin(page);
  await lay(page, 'Smoked oak boards');
  // the library may have several of that name
  const below = (await surfacesOf(page, id)).find((s) => s.spec)!.spec!.material;
  const steps = new Steps(page);
  await steps.tick(page.getByLabel('On top'));
  await steps.press(swatch(page, 'Jute webbing'));
  await steps.press(page.getByRole('button', { name: 'Edge it' }));
  await steps.press(swatch(page, 'Skerry wool twill'));
  const all = await surfacesOf(page, id);
  const [edge, rug] = all.filter((s) => s.zone).sort((a, b) => a.zone!.rank - b.zone!.rank);
  expect(edge.zone!.shape.widthMm! - rug.zone!.shape.widthMm!).toBeCloseTo(200, 6);
  expect(edge.spec!.material).not.toBe(rug.spec!.material);
  expect(all.find((s) => s.id === rug.zone!.of)!.spec!.material).toBe(below);
  expect(steps.count).toBeLessThanOrEqual(6);
});

test('a label once round a drum: 4 steps', async ({ page }) => {
  const id = await begin(page);
  await pick(page, /^round face Drum/);
  await lay(page, 'Cleat brushed steel');
  await pick(page, /^Floor/);
  const steps = new Steps(page);
  await steps.press(row(page, /^round face Drum/));
  await steps.tick(page.getByLabel('On top'));
  await steps.press(swatch(page, 'Jute webbing'));
  const all = await surfacesOf(page, id);
  const label = all.find((s) => s.zone)!;
  expect(label.spec!.material).toBe('jute-webbing');
  expect(all.find((s) => s.id === label.zone!.of)!.spec!.mapping.kind).toBe('cylinder');
  await expect(line(page)).toContainText('Jute webbing');
  expect(steps.count).toBeLessThanOrEqual(4);
});

test('a photograph becomes a laid material: 8 steps', async ({ page }) => {
  test.setTimeout(420_000);
  const id = await begin(page);
  const steps = new Steps(page);
  // bringing the picture in is a step, by drop or by camera
  await page.getByRole('link', { name: 'Prep' }).click();
  await photograph(page, 'Granite', null);
  steps.count++;
  await steps.press(page.getByRole('button', { name: /^Begin with a photograph size/ }));
  await steps.choose(page.getByLabel('Known by'), { label: 'its width and height' });
  await steps.fill(page.getByLabel('Width', { exact: true }), '900');
  await steps.press(page.getByRole('button', { name: 'Make the material' }));
  const offer = page.getByRole('button', { name: /^Lay it on/ });
  await expect(offer).toBeVisible({ timeout: 120_000 });
  await steps.press(offer);
  await expect.poll(async () => (await surfacesOf(page, id)).filter((s) => s.spec).length, { timeout: 30_000 }).toBe(1);
  expect(steps.count).toBeLessThanOrEqual(8);
});
