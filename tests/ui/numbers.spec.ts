import { card, drop, newProject, room, settled, upload, useDraft } from '../fixtures';
import { expect, test } from '../test';

test('a number that can be read in two ways is asked about once; percent is percent', async ({ page }) => {
  await useDraft(page);
  const id = await newProject(page.request, 'Numbers');
  await drop(page.request, `/api/projects/${id}/models`, [upload('room.glb', await room())]);
  await page.goto(`/projects/${id}`);
  await settled(page);
  await page.getByRole('button', { name: 'Lime plaster, floated' }).first().click();
  const repeat = await card(page, 'Repeat');
  const width = repeat.getByLabel('Width', { exact: true });
  await width.fill('1,200');
  await width.press('Enter');
  await expect(repeat.getByText('“1,200” can be 1200 or 1.2')).toBeVisible();
  await repeat.getByRole('button', { name: '1200 mm' }).click();
  await expect(width).toHaveValue('1200 mm');
  // from now on it is known
  await width.fill('1,500.5');
  await width.press('Enter');
  await expect(width).toHaveValue('1500.5 mm');
  await width.fill('1,400');
  await width.press('Enter');
  await expect(width).toHaveValue('1400 mm');
  // the other habit, chosen in the project's menu: the program writes so, too
  await page
    .getByRole('button', { name: /^Numbers/ })
    .first()
    .click();
  await page.getByLabel('Decimals are parted by').selectOption(',');
  await page.keyboard.press('Escape');
  await width.fill('1.234,5');
  await width.press('Enter');
  await expect(width).toHaveValue('1234,5 mm');
  const finish = await card(page, 'Finish');
  const roughness = finish.getByLabel('Roughness');
  await roughness.fill('33%');
  await roughness.press('Enter');
  await expect(roughness).toHaveValue('0,33');
});
