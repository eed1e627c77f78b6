import type { Page } from '@playwright/test';
import { expect, test } from '../test';
import { card, settled, stepHistory, useDraft } from '../fixtures';

const PROJECT = '/api/projects/pellow-landing';
const line = (page: Page) => page.getByTestId('spec-line');
const counts = (page: Page) => page.getByTestId('piece-counts');

interface Described {
  fingerprint: string;
  summary: { pieces: number; whole: number; cut: number };
  pieces: { id: string; print: { number: number; originMm: number[] }; tone: number[] }[];
}

/** The server lets go of connections that stand idle; a request that meets one is sent again. */
const get = (page: Page, url: string) => page.request.get(url, { maxRetries: 3 });

async function watchRoom(page: Page): Promise<string> {
  const { project } = (await (await get(page, PROJECT)).json()) as {
    project: {
      parts: Record<string, { name: string }>;
      surfaces: Record<string, { id: string; name: string; part: string }>;
    };
  };
  const floor = Object.values(project.surfaces).find(
    (s) => s.name === 'Floor' && project.parts[s.part].name === 'Watch room floor',
  );
  return floor!.id;
}
const pieces = async (page: Page, id: string) =>
  (await (await get(page, `${PROJECT}/surfaces/${id}/pieces`)).json()) as Described;

async function pickWatchRoom(page: Page, layout: 'both' | 'sheet'): Promise<string> {
  await useDraft(page, layout);
  await page.goto('/projects/pellow-landing');
  await settled(page);
  await page.getByLabel('Find surfaces').fill('watch room floor');
  const id = await watchRoom(page);
  // by its own row: a list that is not filtered yet has other floors
  await page.locator(`[data-surface="${id}"]`).click();
  await settled(page);
  return id;
}

test('herringbone by hand: layout, size, joints, shuffle, pin, shuffle, undo all', async ({ page }) => {
  const id = await pickWatchRoom(page, 'sheet');
  const before = await line(page).textContent();
  // away from herringbone first, so that choosing it is a choice
  await (await card(page, 'Pieces')).getByRole('combobox', { name: 'Layout' }).selectOption('grid');
  await expect(line(page)).toContainText('in Tallow walnut boards, a grid of tiles 150 × 150 mm, joints 3 mm');
  await settled(page);
  const asGrid = await counts(page).textContent();
  await (await card(page, 'Pieces')).getByRole('combobox', { name: 'Layout' }).selectOption('herringbone');
  const size = (await card(page, 'Pieces')).getByRole('textbox', { name: 'Plank' });
  // other than it comes with, so that it is a step of its own
  await size.fill('80 x 560');
  await size.press('Enter');
  await expect(size).toHaveValue('560 × 80 mm');
  const joints = (await card(page, 'Pieces')).getByLabel('Joints');
  await joints.fill('2');
  await joints.press('Enter');
  await expect(line(page)).toContainText('herringbone of planks 560 × 80 mm, joints 2 mm');
  await settled(page);
  await expect(counts(page)).not.toHaveText(asGrid!);
  // 22.68 m² less a border of 2.65 and a medallion of 1.21 at 21.70 a square metre, and what is cut at the walls
  const [total] = /[\d,]+(?= pieces)/.exec((await counts(page).textContent())!)!;
  expect(Number(total.replace(',', ''))).toBeGreaterThan((22.68 - 2.65 - 1.21) * 21.7);

  await (await card(page, 'Variation')).getByRole('button', { name: 'Anew' }).click();
  await expect(line(page)).toContainText('shuffle 2');

  // pin a piece beside the medallion
  await (await card(page, 'Variation')).getByRole('button', { name: 'Pin pieces' }).click();
  const sheet = (await page.getByTestId('slide-area').boundingBox())!;
  await page.mouse.click(sheet.x + sheet.width / 2 + sheet.height * 0.25, sheet.y + sheet.height * 0.47);
  await expect(line(page)).toContainText('1 pinned');
  const pins = async () => {
    const { project } = (await (await get(page, PROJECT)).json()) as {
      project: { surfaces: Record<string, { spec: { variation: { pins: { course: number; index: number }[] } } }> };
    };
    return project.surfaces[id].spec.variation.pins;
  };
  // what is pinned is seen before it is stored
  await expect.poll(async () => (await pins()).length).toBe(1);
  const [pin] = await pins();
  const first = await pieces(page, id);
  await page.keyboard.press('Escape');
  await page.locator('body').click({ position: { x: 640, y: 20 } });
  await page.keyboard.press('r');
  await expect(line(page)).toContainText('shuffle 3, 1 pinned');
  await expect.poll(async () => (await pieces(page, id)).fingerprint).not.toBe(first.fingerprint);
  const later = await pieces(page, id);
  const of = (d: Described) => d.pieces.find((p) => p.id === `${pin.course},${pin.index}`)!;
  expect(of(later)).toEqual(of(first));
  const changed = later.pieces.filter((p, i) => p.print.originMm[0] !== first.pieces[i].print.originMm[0]);
  expect(changed.length).toBeGreaterThan(first.pieces.length * 0.9);

  // grid, herringbone, size, joints, shuffle, pin, shuffle
  for (let n = 0; n < 7; n++) await stepHistory(page, 'Undo', PROJECT);
  await expect(line(page)).toHaveText(before!);
});

test('the same pieces in the browser and on the server', async ({ page }) => {
  await pickWatchRoom(page, 'sheet');
  for (const part of ['watch room floor', 'hall floor', 'column 1', 'long wall', 'bollard base']) {
    await page.getByLabel('Find surfaces').fill(part);
    await page.locator('[data-surface]').first().click();
    await settled(page);
    const surface = await page.locator('[data-surface]').first().getAttribute('data-surface');
    const described = await pieces(page, surface!);
    await expect(counts(page)).toHaveAttribute('data-fingerprint', described.fingerprint);
    await expect(counts(page)).toContainText(`${described.summary.pieces.toLocaleString('en')} pieces`);
  }
});

test('a layout is slid and sized by its handles, dealt again piece by piece, and mixed', async ({ page }) => {
  const id = await pickWatchRoom(page, 'both');
  await (await card(page, 'Pieces')).getByRole('combobox', { name: 'Layout' }).selectOption('grid');
  await page.getByLabel('Turned').fill('0');
  await page.getByLabel('Turned').press('Enter');
  await settled(page);
  // the handle holds one tile: pulling it makes tiles larger
  const handle = (await page.getByTestId('size-handle').boundingBox())!;
  await page.mouse.move(handle.x + 6, handle.y + 6);
  await page.mouse.down();
  await page.mouse.move(handle.x + 40, handle.y - 20, { steps: 5 });
  await page.mouse.up();
  await expect(line(page)).not.toContainText('tiles 150 × 150 mm');
  await expect(line(page)).toContainText('a grid of tiles');
  await settled(page);

  const before = await pieces(page, id);
  await (await card(page, 'Variation')).getByRole('button', { name: 'New print' }).click();
  // in the room this time; the roof is in the way
  await page.locator('body').click({ position: { x: 640, y: 20 } });
  await page.keyboard.press('i');
  await page.getByRole('button', { name: 'Views' }).click();
  await page.getByRole('button', { name: 'Picked face, straight on' }).click();
  await settled(page);
  const canvas = (await page.getByTestId('room-canvas').boundingBox())!;
  // beside the medallion
  await page.mouse.click(canvas.x + canvas.width * 0.7, canvas.y + canvas.height / 2);
  await expect.poll(async () => (await pieces(page, id)).fingerprint).not.toBe(before.fingerprint);
  await page.keyboard.press('Escape');

  await (await card(page, 'Pieces')).getByRole('button', { name: 'Longer' }).click();
  const more = page.getByRole('group', { name: 'Pieces, rarely used' });
  await more.getByRole('button', { name: 'Add a material' }).click();
  await expect(line(page)).toContainText('with 1 more material');
  await more.getByLabel('Share', { exact: true }).fill('30');
  await more.getByLabel('Share', { exact: true }).press('Enter');
  await expect(more).toContainText('has the other 70%');
  await more.getByRole('checkbox', { name: 'laid' }).uncheck();
  await expect(more).toContainText('fills its place');
  // whole counts: exactly so many across, whatever the size
  await more.getByLabel('Exactly … across', { exact: true }).fill('12');
  await more.getByLabel('Exactly … across', { exact: true }).press('Enter');
  await expect(line(page)).toContainText('exactly 12 across');
  await settled(page);
  const across = await pieces(page, id);
  // in courses that the medallion leaves whole, which the lowest is
  const courses = across.pieces.map((p) => Number(p.id.split(',')[0]));
  const lowest = Math.min(...courses);
  expect(courses.filter((c) => c === lowest)).toHaveLength(12);
});
