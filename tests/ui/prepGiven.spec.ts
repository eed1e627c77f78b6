import sharp from 'sharp';
import type { Prep } from '../../src/core/prep/schema';
import { addStep, settled } from '../fixtures';
import { expect, test } from '../test';

const plain = (red: number, green: number, blue: number) =>
  sharp({ create: { width: 320, height: 240, channels: 3, background: { r: red, g: green, b: blue } } })
    .png()
    .toBuffer();

test('maps come with their picture, go through a step, are made anew, brought and taken out', async ({ page }) => {
  const noise = Uint8Array.from({ length: 320 * 240 * 3 }, (_, i) => 90 + ((i * 7919) % 67));
  const colour = await sharp(noise, { raw: { width: 320, height: 240, channels: 3 } })
    .png()
    .toBuffer();
  const file = (name: string, buffer: Buffer) => ({ name, mimeType: 'image/png', buffer });
  await page.goto('/projects/pellow-landing/prep');
  await page
    .getByLabel('Pictures to prepare')
    .setInputFiles([
      file('harbour_colour.png', colour),
      file('harbour_normal.png', await plain(128, 128, 255)),
      file('harbour_roughness.png', await plain(180, 180, 180)),
    ]);
  await expect(page.getByText('Along with “Harbour”')).toBeVisible();
  const maps = page.getByRole('region', { name: 'Maps' });
  await expect(maps.getByText('as it came')).toHaveCount(2);

  // they stay as they came when a step is added
  await addStep(page, 'Size');
  await settled(page);
  await maps.getByRole('button', { name: 'Edit Roughness' }).click();
  await expect(maps.getByText('harbour_roughness.png')).toBeVisible();

  // made of the picture instead, and not any more
  const tick = maps.getByRole('checkbox', { name: 'Roughness' });
  await tick.click();
  await expect(maps.getByText('not used while one is made')).toBeVisible();
  await expect(maps.getByText('as it came')).toHaveCount(1);
  await tick.click();
  await expect(maps.getByText('as it came')).toHaveCount(2);

  // one is taken out, comes back with a step back, and another is brought
  await maps.getByRole('button', { name: 'Take the roughness map out' }).click();
  await expect(maps.getByText('as it came')).toHaveCount(1);
  const stored = async () => ((await (await page.request.get('/api/preps')).json()) as Prep[])[0].given;
  await expect.poll(async () => Object.keys((await stored()).maps)).toEqual(['normal']);
  await page.getByRole('button', { name: 'Undo in prep' }).click();
  await expect(maps.getByText('as it came')).toHaveCount(2);
  await maps.getByRole('button', { name: 'Edit Height' }).click();
  await maps.getByLabel('A file for the height map').setInputFiles([file('relief.png', await plain(99, 99, 99))]);
  await expect(maps.getByText('relief.png')).toBeVisible();
  const relief = maps.getByRole('textbox', { name: 'Relief' });
  await relief.fill('1 + 2.5');
  await relief.press('Enter');
  await expect.poll(async () => (await stored()).reliefMm).toBe(3.5);
  // slopes are made of it: no height is derived for them
  await maps.getByRole('checkbox', { name: 'Occlusion' }).click();
  await expect(maps.getByRole('checkbox', { name: 'Height' })).not.toBeChecked();

  // a map names the step after which it is taken
  await maps.getByRole('checkbox', { name: 'Opacity' }).click();
  await maps.getByLabel('Taken from').selectOption('after 1 Size');
  const prep = async () => ((await (await page.request.get('/api/preps')).json()) as Prep[])[0];
  await expect.poll(async () => (await prep()).derived.taken).toEqual({ opacity: (await prep()).steps[0].id });

  // one of another shape is no map of it
  const square = await sharp(colour).resize(200, 200, { fit: 'fill' }).png().toBuffer();
  await maps.getByRole('button', { name: 'Edit Metallic' }).click();
  await maps.getByLabel('A file for the metallic map').setInputFiles([file('square.png', square)]);
  await expect(page.getByText(/so it is no map of it/)).toBeVisible();
  expect(Object.keys((await stored()).maps).sort()).toEqual(['height', 'normal', 'roughness']);
});
