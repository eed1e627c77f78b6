import { card, projectOfBoxes, settled, stepHistory, useDraft } from '../fixtures';
import { defaultSpec } from '../../src/core/specification/schema';
import { expect, test } from '../test';

/** Layouts chosen from their drawings, on the demo’s hall floor, which is picked when the studio opens. */

const PROJECT = '/api/projects/pellow-landing';

test('a layout is seen on the floor before it is taken; its angle is typed; both are taken back', async ({ page }) => {
  await useDraft(page);
  await page.goto('/projects/pellow-landing');
  await settled(page);
  const line = page.getByTestId('spec-line');
  const counts = page.getByTestId('piece-counts');
  const before = (await line.textContent())!;
  const boards = (await counts.textContent())!;
  const undo = page.getByRole('button', { name: 'Undo', exact: true });

  const drawings = (await card(page, 'Pieces')).getByTitle('Choose a layout from drawings');
  await drawings.click();
  const chevron = page.getByRole('button', { name: 'Chevron' });
  await chevron.hover();
  await expect(line).toContainText('chevron of boards 600 × 90 mm at 45°');
  await settled(page);
  await expect(counts).not.toHaveText(boards);
  // only shown: leaving puts back what lies there
  await page.keyboard.press('Escape');
  await expect(line).toHaveText(before);

  await drawings.click();
  const find = page.getByRole('searchbox', { name: 'Find a layout' });
  await find.fill('cobbles');
  await expect(page.getByRole('button', { name: 'Setts in arcs' })).toBeVisible();
  await expect(chevron).toHaveCount(0);
  await find.fill('no such thing');
  await expect(page.getByText('No layout is called that.')).toBeVisible();
  await find.fill('point parquet');
  await chevron.click();
  await expect(find).toHaveCount(0);
  await expect(line).toContainText('chevron of boards 600 × 90 mm at 45°');

  await (await card(page, 'Pieces')).getByRole('button', { name: 'Longer' }).click();
  const angle = (await card(page, 'Pieces')).getByLabel('Angle to the spine');
  await angle.fill('52');
  await angle.press('Enter');
  await expect(line).toContainText('chevron of boards 600 × 90 mm at 52°');
  await settled(page);
  const at52 = (await counts.textContent())!;
  // 82.79 m² at 1 / (L′ · w′) = 1 / ((600 + 1 / sin 52°) · 91), and what is cut at the walls
  const [total] = /[\d,]+(?= pieces)/.exec(at52)!;
  expect(Number(total.replace(',', ''))).toBeGreaterThan((82.79 * 1e6) / (601.27 * 91));

  await expect(undo).toBeEnabled();
  for (let n = 0; n < 2; n++) await stepHistory(page, 'Undo', PROJECT);
  await expect(line).toHaveText(before);
  await expect(counts).toHaveText(boards);
});

test('every layout comes from its worker: the picture settles with pieces of each', async ({ page, request }) => {
  await useDraft(page);
  const { id } = await projectOfBoxes(request, 'Slab', [['Slab', [0, -0.2, 0], [6, 0, 4]]], (all) => ({
    [all.find((s) => s.normal[1] > 0.9)!.id]: defaultSpec('tallow-walnut'),
  }));
  await page.goto(`/projects/${id}`);
  await settled(page);
  const failed: string[] = [];
  page.on('pageerror', (error) => failed.push(error.message));
  const choose = (await card(page, 'Pieces')).getByRole('combobox', { name: 'Layout' });
  const counts = page.getByTestId('piece-counts');
  await choose.selectOption('grid');
  await settled(page);
  for (const kind of ['octagon', 'scales', 'crazy', 'rings', 'englishCross', 'woven']) {
    const was = (await counts.textContent())!;
    await choose.selectOption(kind);
    await settled(page);
    await expect(counts).not.toHaveText(was);
  }
  expect(failed).toEqual([]);
});
