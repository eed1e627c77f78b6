import { defaultJoint } from '../../src/core/layout/joint';
import { noMix } from '../../src/core/layout/mix';
import { defaultSpec, type Spec } from '../../src/core/specification/schema';
import { plainVariation } from '../../src/core/variation/schema';
import { projectOfBoxes, settled, stepHistory, useDraft } from '../fixtures';
import { expect, test } from '../test';

const tiles: Spec = {
  ...defaultSpec('glazed-tile'),
  pieces: {
    layout: {
      kind: 'grid',
      widthMm: 148,
      heightMm: 148,
      shift: 0,
      diagonal: false,
      across: null,
      up: null,
    },
    joint: defaultJoint(2),
    mix: noMix(),
  },
  variation: plainVariation(),
};

test('three sizes as options, two of them under the sliding edge, one kept and taken back', async ({
  page,
  request,
}) => {
  await useDraft(page);
  const isFront = (s: { normal: number[] }) => s.normal[2] > 0.9;
  const { id, at, read, surfaces } = await projectOfBoxes(
    request,
    'Splashback',
    [['Wall', [0, 0, 0], [2.4, 1.5, 0.2]]],
    (all) => ({ [all.find(isFront)!.id]: tiles }),
  );
  const front = surfaces.find(isFront)!;
  await page.goto(`/projects/${id}`);
  await settled(page);
  await page.getByRole('list', { name: 'Surfaces by group' }).locator(`[data-surface="${front.id}"]`).click();

  await page.getByRole('button', { name: /^Options/ }).click();
  const panel = page.getByRole('group', { name: 'Options' });
  await panel.getByLabel('Sizes to try').fill('60, 70, wide');
  await panel.getByRole('button', { name: 'Make options' }).click();
  await expect(panel.getByRole('alert')).toContainText('wide');
  await panel.getByLabel('Sizes to try').fill('60, 70, 90 mm');
  await panel.getByRole('button', { name: 'Make options' }).click();
  await expect(panel.getByRole('button', { name: 'Keep 90 mm' })).toBeVisible();
  const optionsNow = async () => Object.values((await read()).project.options ?? {});
  await expect.poll(async () => (await optionsNow()).map((o) => o.name)).toEqual(['60 mm', '70 mm', '90 mm']);
  // 2400 by 1500 mm: what is laid is as it was
  expect((await read()).project.surfaces[front.id].spec!.pieces!.layout).toMatchObject({ heightMm: 148 });
  await expect(panel).toContainText(/\d+ pieces, \d+ cut/);

  await panel.getByLabel('On the left').selectOption({ label: '60 mm' });
  await panel.getByLabel('On the right').selectOption({ label: '90 mm' });
  await panel.getByRole('button', { name: 'Compare' }).click();
  const compared = page.getByTestId('compare');
  await expect(compared.getByRole('img', { name: '60 mm' })).toBeVisible({ timeout: 30_000 });
  const edge = compared.getByRole('slider', { name: 'Edge between the two' });
  await expect(edge).toHaveAttribute('aria-valuenow', '50');
  const box = (await edge.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 - 100, box.y + box.height / 2, { steps: 4 });
  await page.mouse.up();
  await expect.poll(async () => Number(await edge.getAttribute('aria-valuenow'))).toBeLessThan(45);
  await edge.press('ArrowRight');
  // figures of both stand beside their names
  await expect(compared.getByText(/\d+ pieces, \d+ cut/)).toHaveCount(2);
  // both middles beside each other: the left picture ends where the room begins
  await compared.getByRole('button', { name: 'Beside' }).click();
  await expect(edge).toBeHidden();
  const canvas = (await page.getByTestId('room-canvas').boundingBox())!;
  const whole = (await compared.boundingBox())!;
  const left = (await compared.getByRole('img', { name: '60 mm' }).boundingBox())!;
  expect(canvas.x - whole.x).toBeCloseTo(whole.width / 4, 0);
  expect(left.x - whole.x).toBeCloseTo(-whole.width / 4, 0);
  await compared.getByRole('button', { name: 'Beside' }).click();
  await expect(edge).toBeVisible();
  await compared.getByRole('button', { name: 'Stop comparing' }).click();
  await expect(compared).toHaveCount(0);

  await page.getByRole('button', { name: /^Options/ }).click();
  await panel.getByRole('button', { name: 'Keep 70 mm' }).click();
  await expect
    .poll(async () => (await read()).project.surfaces[front.id].spec!.pieces!.layout)
    .toMatchObject({ heightMm: 70 });
  expect(await optionsNow()).toEqual([]);
  await stepHistory(page, 'Undo', at);
  expect((await read()).project.surfaces[front.id].spec!.pieces!.layout).toMatchObject({ heightMm: 148 });
  expect(await optionsNow()).toHaveLength(3);
});
