import type { Page } from '@playwright/test';
import { addStep, dragHandle, photograph, settled, useDraft } from '../fixtures';
import { expect, test } from '../test';

const field = async (page: Page, name: string, value: string) => {
  const box = page.getByRole('textbox', { name, exact: true });
  await box.fill(value);
  await box.press('Enter');
  await settled(page);
};

test('a small sample becomes a large picture of the same, and a material of that size', async ({ page }) => {
  test.setTimeout(300_000);
  await useDraft(page);
  await photograph(page, 'Granite');
  await addStep(page, 'Size');
  await page.getByLabel('Known by').selectOption('its width and height');
  await field(page, 'Width', '300');
  await field(page, 'Height', '225');
  await addStep(page, 'Extend');
  await field(page, 'Width', '45 cm');
  await field(page, 'Height', '150 + 150');
  await expect(page.getByTestId('picture-size')).toContainText('450 mm × 300 mm');
  await expect(page.getByTestId('step-line')).toContainText('extended to 450 mm × 300 mm');
  await expect(page.getByTestId('figures')).toContainText('Copies');

  // the sample is laid elsewhere by its middle
  const pixels = () =>
    page
      .locator('[data-testid="repeated"] canvas')
      .first()
      .evaluate((c: HTMLCanvasElement) => c.toDataURL());
  const middle = await pixels();
  const at = (await page.getByLabel('Where the sample lies').boundingBox())!;
  await dragHandle(page, 'Where the sample lies', [at.x - 60, at.y - 40]);
  await settled(page);
  expect(await pixels()).not.toBe(middle);
  const moved = (await page.getByLabel('Where the sample lies').boundingBox())!;
  expect(moved.x - at.x).toBeLessThan(-50);

  // something of it is left out: marked on the sample, told what becomes of it
  await page.getByRole('button', { name: 'Mark something' }).click();
  await settled(page);
  await expect(page.getByLabel('Middle of mark 1')).toBeVisible();
  const once = await pixels();
  await page.getByLabel('Mark 1 is shown').selectOption('not at all');
  await settled(page);
  expect(await pixels()).not.toBe(once);
  await page.getByRole('button', { name: 'Remove mark 1' }).click();

  // closed in one go, at the size that was typed
  await page.getByLabel('Closes on itself').check();
  await settled(page);
  await expect(page.getByTestId('figures')).toContainText('Seamless: nobody finds where it closes.');
  const name = page.getByRole('textbox', { name: 'Name of the material' });
  await name.fill('Quarry granite');
  await name.press('Enter');
  await page.getByRole('button', { name: 'Make the material' }).click();
  await expect(page.getByText('“Quarry granite” is in the library.')).toBeVisible({ timeout: 120_000 });
  const made = (
    (await (await page.request.get('/api/materials')).json()) as {
      name: string;
      widthMm: number;
      heightMm: number;
    }[]
  ).find((m) => m.name === 'Quarry granite')!;
  expect([made.widthMm, made.heightMm]).toEqual([450, 300]);

  // smaller than the sample: said, and nothing lost
  await field(page, 'Width', '200');
  await expect(
    page.getByRole('alert').filter({ hasText: 'the sample is 300 mm × 225 mm already' }).first(),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Undo in prep' }).click();
  await settled(page);
  await expect(page.getByTestId('step-line')).toContainText('extended to 450 mm × 300 mm');
});
