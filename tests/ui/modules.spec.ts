import { validateBytes } from 'gltf-validator';
import { card, settled, upload, useDraft } from '../fixtures';
import { expect, test } from '../test';

/** A drawing of one's own becomes a module of the library, and is laid like any other layout. */

const DRAWING = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 20">
  <rect class="board" width="27" height="20"/><rect class="key" x="28" width="12" height="20"/></svg>`;

test('a drawing comes in true to size, is kept, laid on the floor and handed over piece by piece', async ({
  page,
  request,
}) => {
  await useDraft(page, 'sheet');
  await page.goto('/projects/pellow-landing/modules');
  await expect(page.getByRole('button', { name: 'Tide star' })).toBeVisible();

  // something else is told what is wrong with it
  await page.getByLabel('Drawing').setInputFiles(upload('plan.svg', '<svg><script>a()</script></svg>'));
  await expect(page.getByText('plan.svg: it holds a script')).toBeVisible();
  await page.getByRole('button', { name: 'Leave it' }).click();

  await page.getByLabel('Drawing').setInputFiles(upload('Slip and key.svg', DRAWING));
  const keep = page.getByRole('button', { name: 'Keep in the library' });
  const bench = page.getByRole('region', { name: 'A drawing comes in' });
  await expect(bench.getByText('2 shapes: board, key')).toBeVisible();
  await expect(page.getByText('Nothing in the file says how large it is.')).toBeVisible();
  await expect(keep).toBeDisabled();
  const every = bench.getByLabel('Repeats every');
  await every.fill('1.2 m / 3');
  await every.press('Enter');
  await expect(every).toHaveValue('400 mm');

  // 10 mm between the two: as cells that is a gap, shown where it is
  await bench.getByLabel('Its shapes are').selectOption('cells');
  await expect(bench.getByRole('list', { name: 'Flaws' })).toContainText('Gap 10 mm × 200 mm at 275 mm, 100 mm');
  await expect(bench.locator('[data-flaw="gap"]')).toHaveCount(1);
  await expect(keep).toBeDisabled();
  await bench.getByLabel('Accept it as it is').check();
  await expect(keep).toBeEnabled();
  await keep.click();
  const sheet = page.getByRole('complementary', { name: 'Slip and key' });
  await expect(sheet.getByText('400 mm × 200 mm')).toBeVisible();

  // out again it is a drawing that says everything itself
  const [saved] = await Promise.all([
    page.waitForEvent('download'),
    sheet.getByRole('link', { name: 'Save as SVG' }).click(),
  ]);
  expect(saved.suggestedFilename()).toBe('slip-and-key.svg');

  await page.getByRole('link', { name: 'Studio' }).click();
  await settled(page);
  await (await card(page, 'Pieces')).getByTitle('Choose a layout from drawings').click();
  await page.getByRole('searchbox', { name: 'Find a layout' }).fill('key');
  await page.getByRole('button', { name: 'Slip and key' }).click();
  const line = page.getByTestId('spec-line');
  await expect(line).toContainText('“Slip and key” repeated every 400 mm');
  await settled(page);
  // 82.79 m² of two pieces to 400 × 200 mm
  const [total] = /[\d,]+(?= pieces)/.exec((await page.getByTestId('piece-counts').textContent())!)!;
  expect(Number(total.replace(',', ''))).toBeGreaterThan(82.79e6 / 40_000);

  await (await card(page, 'Pieces')).getByLabel('Repeats every').fill('300 x 150');
  await (await card(page, 'Pieces')).getByLabel('Repeats every').press('Enter');
  await expect(line).toContainText('repeated every 300 mm');
  await settled(page);

  // the library tells where it is laid
  await expect(async () => {
    const modules = (await (await request.get('/api/modules')).json()) as {
      module: { name: string };
      usedIn: { id: string; surfaces: number }[];
    }[];
    expect(modules.find((m) => m.module.name === 'Slip and key')!.usedIn).toEqual([
      { id: 'pellow-landing', name: 'Pellow Landing', surfaces: 1 },
    ]);
  }).toPass();

  const started = await request.post('/api/projects/pellow-landing/exports', {
    data: { format: 'glb', options: { pictureSize: 64 } },
  });
  const { id } = (await started.json()) as { id: string };
  await (await request.get(`/api/jobs/${id}/events`)).text();
  const bytes = new Uint8Array(await (await request.get(`/api/jobs/${id}/file`)).body());
  const { issues } = await validateBytes(bytes);
  expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);

  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(line).not.toContainText('Slip and key');
});
