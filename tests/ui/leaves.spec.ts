import { addStep, card, dragHandle, projectOfBoxes, settled, straightenedWall, useDraft } from '../fixtures';
import { expect, test } from '../test';

test('a photographed wall becomes leaves by its joints, and is laid in herringbone', async ({ page, request }) => {
  test.setTimeout(300_000);
  await useDraft(page);
  const id = await straightenedWall(page);
  // one of its own: others look for what the demo's floors are laid in
  const project = await projectOfBoxes(request, 'Yard', [['Yard', [0, -0.2, 0], [4, 0, 3]]], () => ({}));
  const floor = project.surfaces.find((s) => s.normal[1] > 0.9)!;
  await page.goto(`/projects/${project.id}`);
  await settled(page);
  await page.getByRole('list', { name: 'Surfaces by group' }).locator(`[data-surface="${floor.id}"]`).click();
  await settled(page);
  await page.getByRole('link', { name: 'Prep' }).click();
  await page.getByRole('combobox', { name: 'Picture' }).selectOption(id);
  await settled(page);
  await addStep(page, 'Dirt');
  await page.getByLabel('Where it lies').selectOption('in joints');
  await settled(page);

  // its courses slant: that is said, and set right by a click
  await page.getByRole('button', { name: 'Unfold Maps' }).click();
  await settled(page);
  const find = page.getByRole('button', { name: 'Find the pieces' });
  await find.click();
  await page.getByRole('button', { name: /^Turn it by -2\.\d°$/ }).click();
  await settled(page);
  await expect(page.getByTestId('step-line')).toContainText('turned -2.');
  await find.click();
  const count = page.getByTestId('leaf-count');
  await expect(count).toHaveText('21 leaves', { timeout: 60_000 });

  // one is removed, and comes back; another is made smaller by its corner
  await page.getByLabel('Leaf 4', { exact: true }).click();
  await page.keyboard.press('Delete');
  await expect(count).toHaveText('20 leaves');
  await page.getByRole('button', { name: 'Undo in prep' }).click();
  await expect(count).toHaveText('21 leaves');
  await settled(page);
  const leaf = page.getByLabel('Leaf 4', { exact: true });
  await leaf.click();
  const before = (await leaf.boundingBox())!;
  const corner = (await page.getByLabel('Lower right of the leaf').boundingBox())!;
  await dragHandle(page, 'Lower right of the leaf', [corner.x - 20, corner.y]);
  await expect.poll(async () => (await leaf.boundingBox())!.width).toBeLessThan(before.width - 15);

  const name = page.getByRole('textbox', { name: 'Name of the material' });
  await name.fill('Old yard brick');
  await name.press('Enter');
  await page.getByRole('button', { name: 'Make the material' }).click();
  await page.getByRole('button', { name: /^Lay it on/ }).click({ timeout: 120_000 });
  const made = (
    (await (await page.request.get('/api/materials')).json()) as { name: string; leaves?: { places?: object[] } }[]
  ).find((m) => m.name === 'Old yard brick')!;
  expect(made.leaves?.places).toHaveLength(21);

  await page.getByRole('link', { name: 'Studio' }).click();
  await settled(page);
  await (await card(page, 'Pieces')).getByRole('combobox', { name: 'Layout' }).selectOption('herringbone');
  const size = (await card(page, 'Pieces')).getByRole('textbox', { name: 'Plank' });
  await size.fill('200 x 60');
  await size.press('Enter');
  await settled(page);
  await expect(page.getByTestId('spec-line')).toContainText('Old yard brick');
  const laid = (await (await page.request.get(`${project.at}/surfaces/${floor.id}/pieces`)).json()) as {
    pieces: { print: { number: number } }[];
  };
  // pieces come from many leaves, no joint of the photograph among them
  expect(new Set(laid.pieces.map((p) => p.print.number)).size).toBeGreaterThan(10);
});
