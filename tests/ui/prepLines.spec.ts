import sharp from 'sharp';
import type { Prep } from '../../src/core/prep/schema';
import { addStep, settled } from '../fixtures';
import { expect, test } from '../test';

/** Upright stripes of grain, 400 × 300 pixels. */
const grain = () =>
  sharp(
    Uint8Array.from({ length: 400 * 300 * 3 }, (_, i) => {
      const [x, y] = [Math.floor(i / 3) % 400, Math.floor(i / 1200)];
      return 140 + 50 * Math.sin(x / 3 + Math.sin(y / 40)) + ((i * 7919) % 23);
    }),
    { raw: { width: 400, height: 300, channels: 3 } },
  )
    .png()
    .toBuffer();

test('a line is drawn for the seam, a step works in patches, a map is read from them', async ({ page, request }) => {
  await page.goto('/projects/pellow-landing/prep');
  await page
    .getByLabel('Pictures to prepare')
    .setInputFiles([{ name: 'striped.png', mimeType: 'image/png', buffer: await grain() }]);
  await settled(page);
  const read = async () => ((await (await request.get('/api/preps')).json()) as Prep[])[0];
  const seam = async () => (await read()).steps.find((s) => s.kind === 'seamless')!;

  await addStep(page, 'Seamless');
  await page.getByRole('button', { name: 'Draw a line for the seam' }).click();
  await settled(page);
  const table = (await page.getByTestId('light-table').boundingBox())!;
  // near the left edge of the picture, top to bottom
  const x = table.x + table.width * 0.22;
  await page.mouse.move(x, table.y + 40);
  await page.mouse.down();
  await page.mouse.move(x + 8, table.y + table.height / 2, { steps: 8 });
  await page.mouse.move(x - 4, table.y + table.height - 20, { steps: 8 });
  await page.mouse.up();
  await settled(page);
  await expect(page.getByRole('group', { name: 'Led along' }).getByText(/Line 1, \d+ places/)).toBeVisible();
  const [line] = (await seam()).lines!;
  expect(line[0][1]).toBeLessThan(0.05);
  expect(line.at(-1)![1]).toBeGreaterThan(0.9);

  // a place of it by keys, alone
  const place = page.getByRole('button', { name: 'Seam line 1, place 1', exact: true });
  await place.focus();
  await page.keyboard.press('Shift+ArrowRight');
  await settled(page);
  const moved = (await seam()).lines![0];
  expect(moved[0][0]).toBeCloseTo(line[0][0] + 0.01, 4);
  expect(moved.slice(1)).toEqual(line.slice(1));
  await page.getByRole('button', { name: 'Show it closed' }).click();
  await settled(page);
  await expect(page.getByTestId('light-table').getByRole('button', { name: 'After' })).toBeVisible();

  await addStep(page, 'Colour');
  await page.getByRole('combobox', { name: 'Where' }).selectOption('in patches');
  const cover = page.getByRole('textbox', { name: 'Cover', exact: true });
  await cover.fill('30');
  await cover.press('Enter');
  await settled(page);
  expect((await read()).steps.find((s) => s.kind === 'colour')!.mask).toMatchObject({ kind: 'patches', cover: 0.3 });

  // a map is read from noise instead of the picture
  await page.getByRole('button', { name: 'Unfold Maps' }).click();
  const maps = page.getByRole('region', { name: 'Maps' });
  await maps.getByRole('checkbox', { name: 'Height' }).click();
  await maps.getByRole('combobox', { name: 'Read from' }).selectOption('noise');
  const patch = maps.getByRole('textbox', { name: 'Patch size' });
  await patch.fill('2 cm');
  await patch.press('Enter');
  await settled(page);
  expect((await read()).derived.height!.patches).toMatchObject({ sizeMm: 20, octaves: 4 });
  await maps.getByRole('combobox', { name: 'Read from' }).selectOption('the picture');
  await settled(page);
  expect((await read()).derived.height!.patches).toBeNull();
});
