import type { Page } from '@playwright/test';
import { expect, test } from '../test';
import type { Prep } from '../../src/core/prep/schema';
import type { Step } from '../../src/core/prep/steps/registry';
import { addStep, dragHandle, photograph, picturePlaces, settled, stepHistory, useDraft } from '../fixtures';

const get = async <T>(page: Page, url: string) => (await (await page.request.get(url, { maxRetries: 3 })).json()) as T;
/** The prep as it is stored; the newest comes first. */
const stored = async (page: Page) => (await get<Prep[]>(page, '/api/preps'))[0];
const step = async <K extends Step['kind']>(page: Page, kind: K) =>
  (await stored(page)).steps.findLast((s) => s.kind === kind) as Extract<Step, { kind: K }>;
const table = (page: Page) => page.getByTestId('light-table');
const figures = (page: Page) => page.getByTestId('figures');

async function type(page: Page, label: string, value: string): Promise<void> {
  const field = page.getByRole('textbox', { name: label, exact: true });
  await field.fill(value);
  await field.press('Enter');
  await settled(page);
}

/** A stroke over the light table, from and to as shares of it. */
async function stroke(page: Page, from: [number, number], to: [number, number]): Promise<void> {
  const r = (await table(page).boundingBox())!;
  const at = ([x, y]: [number, number]): [number, number] => [r.x + r.width * x, r.y + r.height * y];
  await page.mouse.move(...at(from));
  await page.mouse.down();
  await page.mouse.move(...at(to), { steps: 6 });
  await page.mouse.up();
  await settled(page);
}

/** A number for what the light table shows: equal pictures have equal ones. */
const shown = (page: Page) =>
  table(page)
    .locator('canvas')
    .evaluate((c: HTMLCanvasElement) => {
      const { data } = c.getContext('2d')!.getImageData(0, 0, c.width, c.height);
      let sum = 7;
      for (const v of data) sum = (Math.imul(sum, 31) + v) | 0;
      return sum;
    });

test('a rule left in a photograph is found and mended; brushes, masks, colour and size by hand', async ({ page }) => {
  test.setTimeout(420_000);
  await useDraft(page);
  await photograph(page, 'Rough plaster');
  await addStep(page, 'Size');
  await page.getByLabel('Known by').selectOption('its width and height');
  await type(page, 'Width', '3*300');
  await type(page, 'Height', '675');
  await addStep(page, 'Crop');

  // a mask with handles: dragged, it works elsewhere
  await addStep(page, 'Even out');
  await page.getByLabel('Where').selectOption('less and less along a line');
  await settled(page);
  const whole = await shown(page);
  const r = (await page.getByLabel('None of the step here').boundingBox())!;
  await dragHandle(page, 'None of the step here', [r.x - 150, r.y - 60]);
  await settled(page);
  expect(await shown(page)).not.toBe(whole);
  await expect.poll(async () => (await step(page, 'even')).mask).toMatchObject({ kind: 'gradient' });
  await page.getByLabel('Where').selectOption('outside an ellipse');
  await settled(page);
  await page.getByLabel('Width of the ellipse').press('ArrowLeft');
  await expect
    .poll(async () => (await step(page, 'even')).mask)
    .toMatchObject({ kind: 'ellipse', outside: true, radius: [expect.closeTo(0.299, 6), 0.3] });
  await page.getByLabel('Where').selectOption('everywhere');
  await settled(page);
  await page.getByRole('button', { name: 'Make it seamless' }).click();
  await settled(page);

  // heat: the rule recurs; what is clicked is mended, then all the rest
  await expect(figures(page)).toContainText('it will recur');
  await page.getByRole('button', { name: 'Heat' }).click();
  const box = (await page.getByTestId('repeated').boundingBox())!;
  const heal = page.getByRole('heading', { name: /Mend$/ });
  const tile = box.width / 4;
  for (let n = 0; n < 400 && !(await heal.isVisible()); n++) {
    await page.mouse.click(box.x + ((n % 20) + 0.5) * (tile / 20), box.y + (Math.floor(n / 20) + 0.5) * (tile / 20));
  }
  await settled(page);
  await expect.poll(async () => (await step(page, 'heal')).strokes.length).toBe(1);
  await page.getByRole('button', { name: /^Cover what stands out/ }).click();
  await settled(page);
  await expect(figures(page)).not.toContainText('it will recur');
  await page.getByRole('button', { name: 'Heat' }).click();

  // every brush changes the picture, and the last stroke comes off
  let clean = 0;
  for (const brush of ['Paint', 'Copy', 'Sharpen', 'Cover']) {
    await page.getByRole('button', { name: brush, exact: true }).click();
    await type(page, 'Radius', '6');
    // a brush with more to set leaves the picture a little less room
    clean = await shown(page);
    if (brush === 'Copy') {
      const t = (await table(page).boundingBox())!;
      await page.getByRole('button', { name: 'Set the pin' }).click();
      await page.mouse.click(t.x + t.width * 0.4, t.y + t.height * 0.3);
    }
    await stroke(page, [0.45, 0.55], [0.55, 0.6]);
    expect(await shown(page), brush).not.toBe(clean);
    await page.getByRole('button', { name: 'Last stroke off' }).click();
    await settled(page);
    await page.mouse.move(5, 5);
    expect(await shown(page), `${brush} off`).toBe(clean);
  }

  await addStep(page, 'Colour');
  await expect(page.getByRole('img', { name: 'How many pixels have each lightness' })).toBeVisible();
  await type(page, 'Exposure', '0.7');
  expect(await shown(page)).not.toBe(clean);
  await page.getByRole('button', { name: 'Undo in prep' }).click();
  await settled(page);
  await expect.poll(async () => (await step(page, 'colour')).exposure).toBe(0);

  // larger than the picture's own detail: that is said, and the true size stays
  const size = async () =>
    (await page.getByTestId('picture-size').innerText())
      .split(' · ')[0]
      .match(/[\d.]+/g)!
      .map(Number);
  await addStep(page, 'Resize');
  await page.locator('select').filter({ hasText: 'a power of two' }).selectOption('pixels per mm');
  await settled(page);
  const before = await size();
  await expect(page.getByText(/beyond the picture’s own detail/)).toBeHidden();
  await type(page, 'Pixels per mm', '3');
  await expect(page.getByText(/beyond the picture’s own detail/)).toBeVisible();
  const after = await size();
  for (const n of [0, 1]) expect(Math.abs(after[n] / before[n] - 1)).toBeLessThan(0.002);
  await type(page, 'Pixels per mm', '1');

  // three strips of uneven height
  await page.getByRole('button', { name: 'Unfold Maps' }).click();
  await type(page, 'by', '3');
  const line = (await page.getByLabel('Line 1 between rows').boundingBox())!;
  await dragHandle(page, 'Line 1 between rows', [line.x + 5, line.y - 40]);
  await expect.poll(async () => (await stored(page)).leaves?.rowLines?.[0] ?? 1).toBeLessThan(0.3);
  await page.getByLabel('Line 2 between rows').press('Shift+ArrowDown');
  await expect.poll(async () => (await stored(page)).leaves?.rowLines?.[1]).toBeCloseTo(2 / 3 + 0.01, 4);

  // stopped in the middle of a step, and gone on with
  await page.getByRole('button', { name: 'Unfold Even out' }).click();
  const on = page.getByLabel('On', { exact: true });
  // the step can be done before the hand is at the button: then it is tried again
  await expect(async () => {
    await on.check();
    await settled(page);
    await on.uncheck();
    await page.getByRole('button', { name: 'Stop', exact: true }).click({ timeout: 4000 });
    await expect(page.getByText('Stopped: what you see is older than the steps.')).toBeVisible({ timeout: 4000 });
  }).toPass({ timeout: 90_000 });
  await page.getByRole('button', { name: 'Go on' }).click();
  await settled(page);
  await expect(page.getByText('Stopped: what you see')).toBeHidden();
  await page.getByRole('button', { name: 'Undo in prep' }).click();
  await settled(page);

  await type(page, 'Name of the material', 'Tideway plaster');
  await page.getByRole('button', { name: 'Make the material' }).click();
  await expect(page.getByText('“Tideway plaster” is in the library.')).toBeVisible({ timeout: 90_000 });
  const made = (
    await get<{ name: string; leaves?: { rows: number; rowLines?: number[] } }[]>(page, '/api/materials')
  ).find((m) => m.name === 'Tideway plaster')!;
  expect(made.leaves).toMatchObject({ rows: 3, rowLines: [expect.any(Number), expect.any(Number)] });

  // a line that does not lie between its neighbours is refused by name
  const now = await stored(page);
  const { revision: baseRevision } = await get<{ revision: number }>(page, `/api/preps/${now.id}`);
  const values = { leaves: { columns: 1, rows: 3, insetMm: 0, rowLines: [0.7, 0.3] } };
  const refused = await page.request.post(`/api/preps/${now.id}/changes`, {
    data: { baseRevision, commands: [{ kind: 'setPrep', values }] },
  });
  expect(refused.status()).toBe(400);
  expect(await refused.json()).toMatchObject({ field: 'leaves.rowLines' });

  // two materials side by side
  await page.getByRole('link', { name: 'Materials' }).click();
  await page.getByLabel('Search materials').fill('Tideway');
  await page.getByRole('button', { name: 'Tideway plaster', exact: true }).click();
  await page.getByLabel('Compare with').selectOption('Tallow walnut boards');
  await expect(page.getByText(/^Tallow walnut boards, \d.* × \d/)).toBeVisible();
});

test('brick is cropped to whole periods of what is laid', async ({ page }) => {
  await useDraft(page);
  await photograph(page, 'Brick wall');
  await addStep(page, 'Four corners');
  const corners = ['Upper left corner', 'Upper right corner', 'Lower right corner', 'Lower left corner'];
  const at = await picturePlaces(
    [page.getByLabel(corners[0]), [0.06, 0.06]],
    [page.getByLabel(corners[2]), [0.94, 0.94]],
  );
  const truth = [
    [0.05, 0.06],
    [0.95, 0.03],
    [0.98, 0.96],
    [0.03, 0.93],
  ];
  for (const [i, label] of corners.entries()) await dragHandle(page, label, at(truth[i]));
  // the frame that the simulated camera stands before
  await type(page, 'Width', '1000');
  await type(page, 'Height', '750');
  await addStep(page, 'Turn and lean');
  await page.getByRole('button', { name: 'Find the grain' }).click();
  await expect(page.getByText(/It runs at .*% of it agrees/)).toBeVisible();
  await settled(page);
  await addStep(page, 'Crop');
  await page.getByLabel('To whole periods of what is laid').check();
  await settled(page);
  await expect(page.getByText(/^[2-9] × 22\d(\.\d)? mm across\.$/)).toBeVisible();
  // what comes out, not what goes in
  await page.getByRole('button', { name: 'Before', exact: true }).click();
  await settled(page);
  await expect(page.getByTestId('picture-size')).toContainText('mm ×');
  const [width, height] = /([\d.,]+) mm × ([\d.,]+) mm/
    .exec(await page.getByTestId('picture-size').innerText())!
    .slice(1)
    .map(Number);
  // bricks of 215 by 65 with joints of 10, in a bond of two courses
  for (const periods of [width / 225, height / 150]) {
    expect(periods).toBeGreaterThan(1.9);
    expect(Math.abs(periods - Math.round(periods))).toBeLessThan(0.05);
  }
  await page.getByRole('button', { name: 'Make it seamless' }).click();
  await settled(page);
});

test('what no surface uses is cleared from the project', async ({ page }) => {
  await useDraft(page, 'sheet');
  await page.goto('/projects/pellow-landing');
  await settled(page);
  await page.getByLabel('Find surfaces').fill('Hall floor');
  await page
    .locator('button[data-surface]')
    .filter({ hasText: /^Floor$/ })
    .first()
    .click();
  await settled(page);
  const line = page.getByTestId('spec-line');
  const before = await line.textContent();
  // two materials one after the other: nothing uses the first any more
  for (const name of ['Quayside brick', 'plaster']) {
    await page.getByPlaceholder('Find a material').fill(name);
    await page
      .getByRole('button', { name: new RegExp(name, 'i') })
      .last()
      .click();
    await expect(line).toContainText(new RegExp(`in [^,]*${name}`, 'i'));
  }
  await page.getByRole('link', { name: 'Materials' }).click();
  const clear = page.getByRole('button', { name: /^Clear \d+ unused$/ });
  await clear.click();
  await expect(clear).toBeHidden();
  await stepHistory(page, 'Undo', '/api/projects/pellow-landing');
  await expect(clear).toBeVisible();
  for (let n = 0; n < 2; n++) await stepHistory(page, 'Undo', '/api/projects/pellow-landing');
  await page.getByRole('link', { name: 'Studio' }).click();
  await expect(line).toHaveText(before!);
});
