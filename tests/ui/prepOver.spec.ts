import { expect, test } from '../test';
import { addStep, photograph, settled, useDraft } from '../fixtures';

test('dirt and colour by height lie over a picture, and its height map does not take them in', async ({ page }) => {
  test.setTimeout(300_000);
  await useDraft(page);
  await photograph(page, 'Brick wall');
  await addStep(page, 'Size');
  await page.getByLabel('Known by').selectOption('its width and height');
  await page.getByRole('textbox', { name: 'Width', exact: true }).fill('1000');
  await page.getByRole('textbox', { name: 'Width', exact: true }).press('Enter');
  await page.getByRole('textbox', { name: 'Height', exact: true }).fill('750');
  await page.getByRole('textbox', { name: 'Height', exact: true }).press('Enter');
  await settled(page);
  const maps = async () => {
    const unfold = page.getByRole('button', { name: 'Unfold Maps' });
    if (await unfold.isVisible()) await unfold.click();
    await settled(page);
  };
  await maps();
  await page.getByLabel('Start from').selectOption('Sunk joints');
  await settled(page);
  const pixels = (of: string) =>
    page
      .locator(of)
      .first()
      .evaluate((c: HTMLCanvasElement) => c.toDataURL());
  const repeated = () => pixels('[data-testid="repeated"] canvas');
  const height = () => pixels('[aria-label="Edit Height"] canvas');
  const [before, low] = [await repeated(), await height()];

  await addStep(page, 'Dirt');
  await page.getByLabel('Where it lies').selectOption('in joints');
  await settled(page);
  const dirty = await repeated();
  expect(dirty).not.toBe(before);
  await expect(page.getByTestId('step-line')).toContainText('with dirt in its joints');

  await addStep(page, 'Colour by height');
  await settled(page);
  const coloured = await repeated();
  expect(coloured).not.toBe(dirty);
  await page.getByLabel('Loud and alone').check();
  await settled(page);
  await expect(page.getByText(/Its scale is seen alone/)).toBeVisible();
  expect(await repeated()).not.toBe(coloured);
  await page.getByLabel('Loud and alone').uncheck();
  await page.getByRole('textbox', { name: 'Colours', exact: true }).fill('3');
  await page.getByRole('textbox', { name: 'Colours', exact: true }).press('Enter');
  await expect(page.getByRole('textbox', { name: 'Height 3', exact: true })).toBeVisible();
  await settled(page);

  await maps();
  expect(await height()).toBe(low);

  // metal where heights are great, by a curve through two points, then three
  await page.getByLabel('Metallic', { exact: true }).check();
  await page.getByLabel('Read from').selectOption('heights');
  const where = page.getByRole('textbox', { name: 'Where low or high', exact: true });
  const metallic = page.getByRole('textbox', { name: 'Metallic there', exact: true });
  await expect(where).toHaveValue('0 %');
  await settled(page);
  const straight = await pixels('[aria-label="Edit Metallic"] canvas');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(where).toHaveValue('50 %');
  await expect(metallic).toHaveValue('50 %');
  await settled(page);
  expect(await pixels('[aria-label="Edit Metallic"] canvas')).toBe(straight);
  await metallic.fill('100');
  await metallic.press('Enter');
  await settled(page);
  const bent = await pixels('[aria-label="Edit Metallic"] canvas');
  expect(bent).not.toBe(straight);
  // dragged as far as its neighbour, by whole steps of the keys back
  const point = page.getByRole('button', { name: 'Point 2 of the curve' });
  const box = (await point.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + 400, box.y + box.height / 2 + 40, { steps: 4 });
  await page.mouse.up();
  await expect(where).toHaveValue('100 %');
  await point.press('Shift+ArrowLeft');
  await expect(where).toHaveValue('99 %');
  await page.getByRole('button', { name: 'Take out', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Point 3 of the curve' })).toHaveCount(0);
  await settled(page);
  const metal = await pixels('[aria-label="Edit Metallic"] canvas');
  expect(metal).toBe(straight);
  await page.getByRole('textbox', { name: 'Less in joints', exact: true }).fill('0');
  await page.getByRole('textbox', { name: 'Less in joints', exact: true }).press('Enter');
  await settled(page);
  expect(await pixels('[aria-label="Edit Metallic"] canvas')).not.toBe(metal);
  await expect(page.getByTestId('step-line')).toContainText('metallic');

  // a step in the middle switched off: what comes after follows
  await page.getByRole('button', { name: 'with dirt in its joints' }).click();
  await page.getByLabel('On', { exact: true }).uncheck();
  await settled(page);
  expect(await repeated()).not.toBe(coloured);
});
