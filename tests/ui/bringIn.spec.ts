import sharp from 'sharp';
import { MADE_MODELS, objText } from '../../src/core/testing/models';
import { drop, newProject, room, settled, upload, useDraft } from '../fixtures';
import { expect, test } from '../test';

const chair = MADE_MODELS.find(([n]) => n === 'chair')![1]();

test('a tie is asked: nothing comes in before the unit is chosen, and joins are seen', async ({ page }) => {
  await useDraft(page);
  const id = await newProject(page.request, 'A chair');
  await page.goto(`/projects/${id}`);
  const file = Buffer.from(objText(chair, 1000, 'z', false));
  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles({ name: 'export.obj', mimeType: 'text/plain', buffer: file });
  await expect(page.getByText('Nothing in the file settles it')).toBeVisible();
  const bring = page.getByRole('button', { name: 'Bring it in' });
  await expect(bring).toBeDisabled();
  await page.getByRole('radio', { name: /Millimetre/ }).check();
  await expect(page.getByLabel('Height', { exact: true })).toHaveValue('880 mm');
  await expect(bring).toBeEnabled();
  // each leg, the seat and the rail are closed boxes of six sides
  const joined = page.getByRole('region', { name: 'What is joined' });
  await expect(joined).toContainText('36 surfaces; they end at 72 edges');
  const angle = joined.getByLabel('Smoothing angle');
  await angle.fill('100');
  await angle.press('Enter');
  await expect(joined).toContainText('6 surfaces; they end at 0 edges');
  await bring.click();
  await settled(page);
  const { project } = (await (await page.request.get(`/api/projects/${id}`)).json()) as {
    project: { surfaces: object; models: Record<string, { unitMm: number; creaseDeg: number }> };
  };
  expect(Object.keys(project.surfaces)).toHaveLength(6);
  expect(Object.values(project.models)).toMatchObject([{ unitMm: 1, creaseDeg: 100 }]);
});

test('several materials at once: each keeps what is not touched; a guess is confirmed', async ({ page }) => {
  const id = await newProject(page.request, 'Several materials');
  const png = await sharp({ create: { width: 40, height: 20, channels: 3, background: '#806040' } })
    .png()
    .toBuffer();
  await drop(page.request, '/api/materials', [upload('mooring-elm.png', png)], { widthMm: '300', finish: 'gloss' });
  await drop(page.request, '/api/materials', [upload('mooring-fir.png', png)]);
  await page.goto(`/projects/${id}/materials`);
  await page.getByLabel('Search materials').fill('mooring');
  const fir = page.getByRole('button', { name: 'Mooring fir' });
  await expect(fir).toContainText('a guess');
  await page.getByRole('button', { name: 'Mooring elm' }).click();
  await fir.click({ modifiers: ['Control'] });
  const several = page.getByRole('complementary', { name: '2 materials' });
  await expect(several.getByLabel('Roughness')).toHaveAttribute('placeholder', 'mixed');
  await several.getByLabel('Clear coat').fill('0.4');
  await several.getByLabel('Clear coat').press('Enter');
  const read = async () => {
    const all = (await (await page.request.get('/api/materials')).json()) as {
      name: string;
      widthMm: number;
      sizeAssumed?: boolean;
      finish: { kind: string; coat: number };
    }[];
    return ['Mooring elm', 'Mooring fir'].map((n) => all.find((m) => m.name === n)!);
  };
  await expect.poll(async () => (await read()).map((m) => m.finish.coat)).toEqual([0.4, 0.4]);
  expect((await read()).map((m) => [m.finish.kind, m.widthMm])).toEqual([
    ['gloss', 300],
    ['matt', 1000],
  ]);
  await several.getByRole('button', { name: 'They are right' }).click();
  await expect(fir).not.toContainText('a guess');
  expect((await read())[1]).toMatchObject({ sizeAssumed: false, widthMm: 1000 });
  // a swatch dropped on the chosen one takes its settings
  await page.getByRole('button', { name: 'Mooring elm' }).click();
  await fir.dragTo(page.getByRole('complementary', { name: 'Mooring elm' }));
  await expect.poll(async () => (await read())[1]).toMatchObject({ widthMm: 300, finish: { kind: 'gloss' } });
});

test('a picture is pasted; a name that is known asks what it is', async ({ page }) => {
  const id = await newProject(page.request, 'Pasted');
  await page.goto(`/projects/${id}/materials`);
  const png = await sharp({ create: { width: 30, height: 30, channels: 3, background: '#48606a' } })
    .png()
    .toBuffer();
  const paste = () =>
    page.evaluate(
      (bytes) => {
        const data = new DataTransfer();
        data.items.add(new File([new Uint8Array(bytes)], 'image.png', { type: 'image/png' }));
        window.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true }));
      },
      [...png],
    );
  await page.getByRole('button', { name: 'Lime plaster, floated' }).first().waitFor();
  await paste();
  await expect(page.getByRole('button', { name: 'Pasted picture' })).toBeVisible();
  await paste();
  await expect(page.getByText('The library has “Pasted picture” already')).toBeVisible();
  await page.getByRole('button', { name: 'Another material' }).click();
  await expect(page.getByRole('button', { name: 'Pasted picture 2' })).toBeVisible();
});

test('a side of the counter is pushed in the studio, and listed for the designer', async ({ page }) => {
  await useDraft(page);
  const id = await newProject(page.request, 'Try a dimension');
  await drop(page.request, `/api/projects/${id}/models`, [upload('room.glb', await room())]);
  await page.goto(`/projects/${id}`);
  await settled(page);
  await page
    .getByRole('button', { name: /Top|top/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'Push' }).click();
  const by = page.getByLabel('Out by (below zero: in)');
  await by.fill('2 * 20 mm');
  await by.press('Enter');
  await page.getByRole('button', { name: 'Push it' }).click();
  await expect(page.getByText('It is listed for the designer')).toBeVisible();
  await settled(page);
  await page
    .getByRole('button', { name: /^Try a dimension/ })
    .first()
    .click();
  await expect(page.getByRole('region', { name: 'For the designer' })).toContainText('40 mm further up');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'History' }).click();
  await expect(page.getByText(/Push Counter, .* out by 40 mm/)).toBeVisible();
});

test('a material’s new size reaches what is laid by one press in the library', async ({ page }) => {
  await useDraft(page);
  const id = await newProject(page.request, 'New size');
  const png = await sharp({ create: { width: 40, height: 40, channels: 3, background: '#705840' } })
    .png()
    .toBuffer();
  await drop(page.request, '/api/materials', [upload('tarred-larch.png', png)], { widthMm: '400' });
  await drop(page.request, `/api/projects/${id}/models`, [upload('room.glb', await room())]);
  await page.goto(`/projects/${id}`);
  await settled(page);
  await page.getByLabel('Find a material').fill('larch');
  await page.getByRole('button', { name: 'Tarred larch' }).click();
  const line = page.getByTestId('spec-line');
  await expect(line).toContainText('400 × 400 mm as the material');
  await page.getByRole('link', { name: 'Materials' }).click();
  await page.getByRole('region', { name: 'Library' }).getByRole('button', { name: 'Tarred larch' }).click();
  const sheet = page.getByRole('complementary', { name: 'Tarred larch' });
  await sheet.getByLabel('Width', { exact: true }).fill('520');
  await sheet.getByLabel('Width', { exact: true }).press('Enter');
  await sheet.getByRole('button', { name: 'Use it in this project' }).click();
  await page.getByRole('link', { name: 'Studio' }).click();
  await expect(line).toContainText('520 × 520 mm as the material');
});
