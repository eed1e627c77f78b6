import { addStep, dragHandle, settled, straightenedWall, useDraft } from '../fixtures';
import { expect, test } from '../test';

test('boards are cut out of two pictures, turned and tinted, and become a material’s leaves', async ({ page }) => {
  test.setTimeout(300_000);
  await useDraft(page);
  const id = await straightenedWall(page, [{ kind: 'turn', turnDeg: -2.3, leanDeg: 0, slopeDeg: 0 }]);
  await page.goto('/projects/pellow-landing/prep');
  await page.getByRole('combobox', { name: 'Picture' }).selectOption(id);
  await settled(page);
  await addStep(page, 'Compose');
  await expect(page.getByText('No boards are cut out yet')).toBeVisible();

  // the wall’s bricks, laid in cells as large as the smallest of them
  const boards = page.getByRole('group', { name: 'Boards' });
  await boards.getByRole('button', { name: 'Find the pieces' }).click();
  const said = page.getByTestId('step-line');
  await expect(said).toContainText('composed of 21 boards in cells', { timeout: 60_000 });
  await settled(page);
  await expect(page.getByTestId('figures')).toContainText('within a joint of one colour, all round');
  const table = page.getByTestId('light-table');
  const pixels = () =>
    page
      .locator('[data-testid="repeated"] canvas')
      .first()
      .evaluate((c: HTMLCanvasElement) => c.toDataURL());
  const plain = await pixels();
  // beside it the same, laid piece by piece
  await page.getByRole('button', { name: 'Beside pieces' }).click();
  await expect.poll(pixels).not.toBe(plain);
  await page.getByRole('button', { name: 'Beside pieces' }).click();
  await expect.poll(pixels).toBe(plain);

  // one is cut out otherwise by a corner, turned on, and another removed
  const board = table.getByLabel('Board 4', { exact: true });
  await board.click();
  const before = (await board.boundingBox())!;
  const corner = (await page.getByLabel('Upper right of the board').boundingBox())!;
  await dragHandle(page, 'Upper right of the board', [corner.x - 14, corner.y + 6]);
  await expect.poll(async () => (await board.boundingBox())!.width).toBeLessThanOrEqual(before.width);
  await settled(page);
  const pulled = await pixels();
  expect(pulled).not.toBe(plain);
  await boards.getByRole('button', { name: 'Turn it on' }).click();
  await settled(page);
  expect(await pixels()).not.toBe(pulled);
  await table.getByLabel('Board 7', { exact: true }).click();
  await page.keyboard.press('Delete');
  await expect(said).toContainText('composed of 20 boards');

  // with those of a material that has leaves of its own
  await boards.getByLabel('Those of another').selectOption({ label: 'Estuary painted board' });
  await settled(page);
  const list = boards.getByRole('list', { name: 'Cut out of' });
  await expect(list).toContainText('20 of this picture');
  const [, more] = /(\d+) of Estuary/.exec((await list.textContent())!)!;
  expect(Number(more)).toBeGreaterThan(1);
  await list.getByRole('button', { name: 'Take out those of Estuary painted board' }).click();
  await expect(said).toContainText('composed of 20 boards');

  const field = async (name: string, value: string) => {
    const box = page.getByRole('textbox', { name, exact: true });
    await box.fill(value);
    await box.press('Enter');
    await settled(page);
  };
  await field('Each comes', '2');
  await field('Columns', '5');
  await field('Joint', '0.8 cm');
  await expect(said).toContainText('composed of 40 boards');

  const name = page.getByRole('textbox', { name: 'Name of the material' });
  await name.fill('Sorted yard brick');
  await name.press('Enter');
  await page.getByRole('button', { name: 'Make the material' }).click();
  await expect(page.getByText('“Sorted yard brick” is in the library.')).toBeVisible({ timeout: 120_000 });
  const made = (
    (await (await page.request.get('/api/materials')).json()) as {
      name: string;
      widthMm: number;
      seamless: boolean;
      leaves?: object;
    }[]
  ).find((m) => m.name === 'Sorted yard brick')!;
  expect(made.leaves).toEqual({ columns: 5, rows: 8, insetMm: 4 });
  const length = await page.getByRole('textbox', { name: 'Length', exact: true }).inputValue();
  expect(made.widthMm).toBeCloseTo(5 * (Number.parseFloat(length) + 8), 0);
  expect(made.seamless).toBe(true);

  // what it came to at full size is said, until the steps are others
  await expect(page.getByTestId('full-size')).toContainText(/^At full sizeMade at \d+ × \d+ px/);
  await field('Columns', '4');
  await expect(page.getByTestId('full-size')).toHaveCount(0);
});
