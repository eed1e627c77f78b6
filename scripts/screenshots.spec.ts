import { WebIO } from '@gltf-transform/core';
import type { Page } from '@playwright/test';
import { expect, test } from '../tests/test';
import { writePellowLanding } from '../demo/model/glb';
import { addStep, card, settled, straightenedWall } from '../tests/fixtures';

/** One current picture of each main view, from the demo. */

const to = (name: string) => `docs/screenshots/${name}.png`;

async function look(page: Page, name: string): Promise<void> {
  await settled(page);
  await page.waitForTimeout(400);
  // light is on its way into the rooms for a while
  await expect(page.locator('[data-tracing="true"]')).toHaveCount(0, { timeout: 120_000 });
  await settled(page);
  // without a graphics card the view says that it is slow, which is no part of it
  const keep = page.getByRole('button', { name: 'Keep it' });
  if (await keep.isVisible()) await keep.click();
  await page.mouse.move(0, 0);
  await settled(page);
  await page.screenshot({ path: to(name) });
}

for (const [name, colorScheme] of [
  ['studio', 'light'],
  ['studio-night', 'dark'],
] as const) {
  test(name, async ({ browser, baseURL }) => {
    const page = await browser.newPage({ baseURL, colorScheme, viewport: { width: 1280, height: 800 } });
    await page.goto('/projects/pellow-landing');
    await look(page, name);
    await page.close();
  });
}

test('studio from outside, with the ruler grid and a person', async ({ page }) => {
  await page.goto('/projects/pellow-landing');
  await settled(page);
  await page.getByRole('button', { name: 'Views' }).click();
  await page.getByRole('button', { name: 'Landing stage', exact: true }).click();
  await page.getByRole('button', { name: 'Ruler grid' }).click();
  await page.getByRole('button', { name: 'A person of 1.72 m' }).click();
  await page.getByLabel('Find surfaces').fill('long wall');
  await page
    .getByRole('button', { name: /^North wall/ })
    .first()
    .click();
  await look(page, 'studio-landing');
});

test('pieces: Flemish bond, its joints and further materials', async ({ page }) => {
  await page.goto('/projects/pellow-landing');
  await settled(page);
  await page.getByRole('button', { name: 'Views' }).click();
  await page.getByRole('button', { name: 'Round window', exact: true }).click();
  await page.getByLabel('Find surfaces').fill('long wall');
  await page
    .getByRole('button', { name: /^North wall/ })
    .first()
    .click();
  await settled(page);
  // closer to the arch on the sheet
  const sheet = (await page.getByTestId('sheet-canvas').boundingBox())!;
  await page.mouse.move(sheet.x + sheet.width * 0.16, sheet.y + sheet.height * 0.46);
  for (let i = 0; i < 6; i++) await page.mouse.wheel(0, -240);
  await (await card(page, 'Pieces')).getByRole('button', { name: 'Longer' }).click();
  await look(page, 'pieces');
});

test('variation: herringbone, each stave its own print', async ({ page }) => {
  await page.goto('/projects/pellow-landing');
  await settled(page);
  await page.getByRole('button', { name: 'Views' }).click();
  await page.getByRole('button', { name: 'Watch room', exact: true }).click();
  await page.getByLabel('Find surfaces').fill('watch room floor');
  await page
    .getByRole('button', { name: /^Floor Watch/ })
    .first()
    .click();
  await settled(page);
  await (await card(page, 'Variation')).getByRole('button', { name: 'Longer' }).click();
  await look(page, 'variation');
});

test('mapping: bricks taper round a window', async ({ page }) => {
  await page.goto('/projects/pellow-landing');
  await settled(page);
  await page.getByRole('button', { name: 'Views' }).click();
  await page.getByRole('button', { name: 'Round window', exact: true }).click();
  await page.getByLabel('Find surfaces').fill('round window ring 1');
  await page
    .getByRole('button', { name: /^south side/ })
    .first()
    .click();
  await settled(page);
  await page.getByRole('button', { name: 'Views' }).click();
  await page.getByRole('button', { name: 'Picked face, straight on' }).click();
  await look(page, 'mapping');
});

test('zones: a border laid straight', async ({ page }) => {
  await page.goto('/projects/pellow-landing');
  await settled(page);
  await page.getByRole('button', { name: 'Views' }).click();
  await page.getByRole('button', { name: 'Watch room', exact: true }).click();
  await page.getByLabel('Find surfaces').fill('watch room floor');
  await page.getByRole('button', { name: 'Border', exact: true }).first().click();
  await look(page, 'zones');
});

test('faces picked by hand', async ({ page }) => {
  await page.goto('/projects/pellow-landing');
  await settled(page);
  await page.getByRole('button', { name: 'Mark out', exact: true }).click();
  const canvas = (await page.getByTestId('room-canvas').boundingBox())!;
  await page.mouse.click(canvas.x + canvas.width * 0.29, canvas.y + canvas.height * 0.6);
  await expect(page.getByTestId('faces-picked')).not.toHaveText('nothing marked');
  await page.getByRole('button', { name: 'Carry on' }).click();
  await page.getByRole('button', { name: 'Along the strip' }).click();
  await look(page, 'faces');
});

test('a changed model', async ({ page }) => {
  const changed = await new WebIO().readBinary(await writePellowLanding());
  for (const node of changed.getRoot().listNodes()) {
    if (node.getName() === 'Bench 1') node.setName('Seat by the window');
    if (node.getName() === 'Coping') node.dispose();
  }
  await page.goto('/projects/pellow-landing');
  await settled(page);
  await page
    .getByRole('button', { name: /^Pellow Landing/ })
    .first()
    .click();
  await page.getByRole('button', { name: /^Bring .* in again$/ }).click();
  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles({
      name: 'pellow-landing.glb',
      mimeType: 'model/gltf-binary',
      buffer: Buffer.from(await new WebIO().writeBinary(changed)),
    });
  await expect(page.getByText('as they were')).toBeVisible();
  await settled(page);
  await page
    .getByRole('button', { name: /Seat by the window/ })
    .last()
    .click();
  await look(page, 'changed-model');
});

test('materials', async ({ page }) => {
  await page.goto('/projects/pellow-landing/materials');
  await page.getByRole('button', { name: 'Smoked oak boards' }).click();
  await look(page, 'materials');
});

test('layouts chosen from drawings, chevron seen on the floor', async ({ page }) => {
  await page.goto('/projects/pellow-landing');
  await settled(page);
  await (await card(page, 'Pieces')).getByTitle('Choose a layout from drawings').click();
  await page.waitForTimeout(800);
  await page.getByRole('button', { name: 'Chevron' }).hover();
  await page.waitForTimeout(400);
  await look(page, 'layouts');
});

test('modules of one’s own', async ({ page }) => {
  await page.goto('/projects/pellow-landing/modules');
  await page.getByRole('button', { name: 'Tide star' }).click();
  await page.getByLabel('Pixels per metre').fill('420');
  await look(page, 'modules');
});

test('import', async ({ page, request }) => {
  const { project } = (await (await request.post('/api/projects', { data: { name: 'Ferry shelter' } })).json()) as {
    project: { id: string };
  };
  await page.goto(`/projects/${project.id}`);
  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles({
      name: 'pellow-landing.glb',
      mimeType: 'model/gltf-binary',
      buffer: Buffer.from(await writePellowLanding()),
    });
  await expect(page.getByRole('heading', { name: 'Is it this large?' })).toBeVisible();
  await look(page, 'import');
  await request.delete(`/api/projects/${project.id}?forever=true`);
});

test('hand-over', async ({ page }) => {
  await page.goto('/projects/pellow-landing/hand-over');
  await page.getByLabel('Pictures').last().selectOption('1024');
  await page.getByRole('button', { name: 'Write the file' }).click();
  await expect(page.getByTestId('verdict')).toBeVisible({ timeout: 120_000 });
  await look(page, 'hand-over');
});

test('projects', async ({ page }) => {
  // the card shows the room's last still, which is kept when a picture has stood for a while
  await page.goto('/projects/pellow-landing');
  await settled(page);
  await page.waitForResponse((r) => r.url().endsWith('/still') && r.request().method() === 'PUT');
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Pellow Landing' })).toBeVisible();
  await look(page, 'projects');
});

/** A prep of a photograph of boards with the steps that make it a material. */
async function boards(page: Page): Promise<void> {
  const prep = (await (
    await page.request.post('/api/preps/simulated', { data: { ground: 'boards', seed: 3 } })
  ).json()) as { id: string };
  const step = (kind: string, values: object) => ({ id: kind, kind, on: true, mask: null, ...values });
  const steps = [
    step('corners', {
      corners: [
        [0.05, 0.06],
        [0.95, 0.03],
        [0.98, 0.96],
        [0.03, 0.93],
      ],
      widthMm: 1000,
      heightMm: 750,
    }),
    step('turn', { turnDeg: 5.1, leanDeg: 0, slopeDeg: 0 }),
    step('size', { by: { kind: 'line', from: [0.08, 0.9], to: [0.28, 0.9], lengthMm: 200 } }),
    step('crop', { from: [0.02, 0.03], to: [0.98, 0.84], wholePeriods: false }),
    step('even', { lightness: 1, colour: 1, radiusMm: 150 }),
    step('seamless', { mode: 'blend', overlap: 0.2, evened: true, across: true, down: true }),
  ];
  const derived = {
    height: {
      low: 0.1,
      high: 0.9,
      invert: false,
      joints: null,
      cleanMm: 1,
      softenMm: 1,
      detail: 0.2,
      noise: 0,
      reliefMm: 0.9,
    },
    normal: { strength: 1.5 },
    roughness: {
      of: 'lightness',
      points: [
        [0, 0.75],
        [0.5, 0.6],
        [1, 0.5],
      ],
      joints: 0.1,
    },
    occlusion: { radiusMm: 3, strength: 1 },
    opacity: null,
  };
  const commands = [
    { kind: 'setPrep', values: { name: 'Boathouse boards', grain: 'x' } },
    { kind: 'setSteps', steps },
    { kind: 'setMaps', derived },
  ];
  const answer = await page.request.post(`/api/preps/${prep.id}/changes`, { data: { baseRevision: 0, commands } });
  expect(answer.ok()).toBe(true);
  await page.goto('/projects/pellow-landing/prep');
  await page.getByLabel('Picture', { exact: true }).selectOption('Boathouse boards');
  await settled(page);
}

test('prep: bricks of a photograph, cut out and laid side by side as leaves', async ({ page }) => {
  const id = await straightenedWall(page, [{ kind: 'turn', turnDeg: -2.3, leanDeg: 0, slopeDeg: 0 }]);
  await page.goto('/projects/pellow-landing/prep');
  await page.getByRole('combobox', { name: 'Picture' }).selectOption(id);
  await settled(page);
  await addStep(page, 'Compose');
  await page.getByRole('group', { name: 'Boards' }).getByRole('button', { name: 'Find the pieces' }).click();
  await expect(page.getByTestId('step-line')).toContainText('composed of 21 boards', { timeout: 60_000 });
  await page.getByTestId('light-table').getByLabel('Board 12', { exact: true }).click();
  await look(page, 'prep-compose');
});

test('prep: even light, no seam, and its maps', async ({ page }) => {
  await boards(page);
  await page.getByRole('button', { name: 'Unfold Maps' }).click();
  await look(page, 'prep');
  await page.getByRole('button', { name: 'Make the material' }).click();
  await expect(page.getByText('“Boathouse boards” is in the library.')).toBeVisible({ timeout: 120_000 });
  await page.getByRole('link', { name: 'Studio' }).click();
  await settled(page);
  await page.getByLabel('Find surfaces').fill('Hall floor');
  await page
    .locator('button[data-surface]')
    .filter({ hasText: /^Floor/ })
    .first()
    .click();
  await page.getByPlaceholder('Find a material').fill('Boathouse');
  await page
    .getByRole('button', { name: /^Boathouse boards/ })
    .first()
    .click();
  await look(page, 'prep-laid');
});
