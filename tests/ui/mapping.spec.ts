import type { Page } from '@playwright/test';
import { expect, test } from '../test';
import { boxTriangles, floorTriangles, makeGlb } from '../../src/core/testing/fixtures';
import { card, drop, newProject, room, settled, stepHistory, upload, useDraft } from '../fixtures';

const PROJECT = '/api/projects/pellow-landing';
const line = (page: Page) => page.getByTestId('spec-line');
/** The server lets go of connections that stand idle; a request that meets one is sent again. */
const get = async <T>(page: Page, url: string) => (await (await page.request.get(url, { maxRetries: 3 })).json()) as T;

async function open(page: Page, layout: 'both' | 'sheet' = 'both'): Promise<void> {
  await useDraft(page, layout);
  await page.goto('/projects/pellow-landing');
  await settled(page);
}

async function pick(page: Page, filter: string, name: string): Promise<void> {
  await page.getByLabel('Find surfaces').fill(filter);
  await page
    .locator('button[data-surface]')
    .filter({ hasText: new RegExp(`^${name}$`) })
    .first()
    .click();
  await settled(page);
}

interface Document {
  revision: number;
  project: {
    surfaces: Record<
      string,
      {
        id: string;
        name: string;
        part: string;
        zone?: unknown;
        areaMm2: number;
        spec: { material: string; mapping: { kind: string; around?: number | null } } | null;
      }
    >;
    parts: Record<string, { name: string }>;
  };
}
const document = (page: Page) => get<Document>(page, PROJECT);

test('every shape lies true: column, reveal, mat well, printed band, and all the way back', async ({ page }) => {
  // what is asked of the room here, other tests ask of smaller ones
  await open(page, 'sheet');
  const before = (await document(page)).project;

  // the column: something else first, so that taking the suggestion is a choice
  await pick(page, 'Column 1', 'Curved face');
  await (await card(page, 'Mapping')).getByRole('button', { name: 'Box', exact: true }).click();
  await expect(line(page)).toContainText('mapped as a box');
  await (await card(page, 'Mapping')).getByText('Cylinder suits it: round, radius 230 mm, 100% of faces agree').click();
  await expect(line(page)).toContainText('mapped round a cylinder');
  const around = (await card(page, 'Mapping')).getByLabel('Exactly … around');
  await around.fill('24');
  await around.press('Enter');
  await expect(line(page)).toContainText('exactly 24 around');
  // 460 mm across: 1445.1 mm round, each 60.21 with its joint
  await expect(await card(page, 'Mapping')).toContainText('each 60.21 mm');
  await settled(page);
  const column = Object.values((await document(page)).project.surfaces).find((s) => s.spec?.mapping.around === 24)!;
  const { pieces } = await get<{ pieces: { course: number; index: number; whole: boolean }[] }>(
    page,
    `${PROJECT}/surfaces/${column.id}/pieces`,
  );
  const first = pieces.filter((p) => p.course === 0);
  expect(first.map((p) => p.index).sort((a, b) => a - b)).toEqual(Array.from({ length: 24 }, (_, i) => i));
  expect(first.every((p) => p.whole)).toBe(true);

  // a window's reveal, unrolled
  await pick(page, 'Round window ring 1', 'Curved face 2');
  await (await card(page, 'Mapping')).getByRole('button', { name: 'Cylinder', exact: true }).click();
  await expect(line(page)).toContainText('round a cylinder');
  await (await card(page, 'Mapping')).getByRole('button', { name: 'Unroll', exact: true }).click();
  await expect(line(page)).toContainText('mapped unrolled');
  await settled(page);
  await expect(page.getByText(/It is cut along 324 mm/).first()).toBeVisible();

  // a mat well, drawn on the lobby's sheet with a material of its own
  await pick(page, 'Hall floor', 'Floor');
  await page.getByRole('button', { name: 'Zone', exact: true }).click();
  await page.getByRole('button', { name: 'Rectangle', exact: true }).click();
  const sheet = (await page.getByTestId('zone-drawing').boundingBox())!;
  await page.mouse.move(sheet.x + sheet.width * 0.4, sheet.y + sheet.height * 0.5);
  await page.mouse.down();
  await page.mouse.move(sheet.x + sheet.width * 0.46, sheet.y + sheet.height * 0.53, { steps: 4 });
  await page.mouse.move(sheet.x + sheet.width * 0.5, sheet.y + sheet.height * 0.57, { steps: 4 });
  await page.mouse.up();
  await expect(line(page)).toContainText('Hall floor, rectangle');
  const width = page.getByRole('group', { name: 'Zone' }).getByLabel('Width');
  await width.fill('1.6 m');
  await width.press('Enter');
  await (await card(page, 'Pieces')).getByRole('combobox', { name: 'Layout' }).selectOption('whole');
  await page.getByRole('button', { name: 'Skerry wool twill' }).first().click();
  await expect(line(page)).toContainText('rectangle is laid in Skerry wool twill');
  await settled(page);
  const floors = Object.values((await document(page)).project.surfaces).filter((s) => s.zone && s.name === 'Rectangle');
  expect(floors).toHaveLength(1);
  const described = await get<{ areaMm2: number; boundsMm: { minX: number; maxX: number } }>(
    page,
    `${PROJECT}/surfaces/${floors[0].id}/sheet`,
  );
  expect(described.boundsMm.maxX - described.boundsMm.minX).toBeCloseTo(1600, 1);

  // the printed band, once round the bollard
  await pick(page, 'Bollard band', 'Curved face');
  const once = (await card(page, 'Mapping')).getByLabel('Exactly … around');
  await once.fill('1');
  await once.press('Enter');
  await (await card(page, 'Repeat')).getByLabel('Once only').check();
  await expect(line(page)).toContainText('exactly 1 around');
  await expect(line(page)).toContainText('one picture');
  await settled(page);

  // all of it undone, and done again
  const after = (await document(page)).project;
  let steps = 0;
  while (JSON.stringify((await document(page)).project.surfaces) !== JSON.stringify(before.surfaces)) {
    await stepHistory(page, 'Undo', PROJECT);
    if (++steps > 30) throw new Error('thirty steps back, and it is still not as it was');
  }
  for (let i = 0; i < steps; i++) {
    await stepHistory(page, 'Redo', PROJECT);
  }
  const again = (await document(page)).project;
  expect(again.surfaces).toEqual(after.surfaces);
  for (let i = 0; i < steps; i++) {
    await stepHistory(page, 'Undo', PROJECT);
  }
});

test('faces are marked out in the room, carried on, made a surface, and let go again', async ({ page }) => {
  const id = await newProject(page.request, 'By hand');
  expect((await drop(page.request, `/api/projects/${id}/models`, [upload('room.glb', await room())])).ok()).toBe(true);
  await useDraft(page);
  await page.goto(`/projects/${id}`);
  await settled(page);
  await page.getByLabel('Find surfaces').fill('Counter');
  await page.getByRole('button', { name: 'Counter', exact: true }).click();
  await page.keyboard.press('f');
  await settled(page);
  await page.getByRole('button', { name: 'Mark out', exact: true }).click();
  const canvas = (await page.getByTestId('room-canvas').boundingBox())!;
  await page.mouse.click(canvas.x + canvas.width / 2, canvas.y + canvas.height / 2);
  await expect(page.getByTestId('faces-picked')).toHaveText('1 faces of Counter');
  await page.getByRole('button', { name: 'Carry on' }).click();
  await page.getByRole('button', { name: 'Over all that hangs together' }).click();
  await expect(page.getByTestId('faces-picked')).toHaveText('12 faces of Counter');
  // the selection has an undo of its own
  await page.getByRole('button', { name: 'Picked before' }).click();
  await expect(page.getByTestId('faces-picked')).toHaveText('1 faces of Counter');
  // a rectangle takes what is seen in it, or through everything; with Alt it takes away
  const sweep = async (from: [number, number], to: [number, number]) => {
    const box = (await page.getByTestId('room-canvas').boundingBox())!;
    await page.mouse.move(box.x + box.width * from[0], box.y + box.height * from[1]);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width * to[0], box.y + box.height * to[1], { steps: 6 });
    await page.mouse.up();
  };
  await page.getByRole('button', { name: 'Frame', exact: true }).click();
  await sweep([0.02, 0.02], [0.98, 0.98]);
  await expect(page.getByTestId('faces-picked')).toHaveText('6 faces of Counter');
  await page.getByLabel('through').check();
  await sweep([0.02, 0.02], [0.98, 0.98]);
  await expect(page.getByTestId('faces-picked')).toHaveText('12 faces of Counter');
  await page.keyboard.down('Alt');
  await sweep([0.02, 0.02], [0.98, 0.98]);
  await page.keyboard.up('Alt');
  await expect(page.getByTestId('faces-picked')).toHaveText('nothing marked');
  await page.getByRole('button', { name: 'Chalk', exact: true }).click();
  await sweep([0.5, 0.5], [0.52, 0.52]);
  await expect(page.getByTestId('faces-picked')).toContainText('of Counter');
  await page.getByRole('button', { name: 'Picked before' }).click();
  await expect(page.getByTestId('faces-picked')).toHaveText('nothing marked');
  await page.getByRole('button', { name: 'One by one', exact: true }).click();
  const now = (await page.getByTestId('room-canvas').boundingBox())!;
  await page.mouse.click(now.x + now.width / 2, now.y + now.height / 2);
  await expect(page.getByTestId('faces-picked')).toHaveText('1 faces of Counter');
  await page.getByRole('button', { name: 'Make a surface' }).click();
  await expect(line(page)).toContainText('Counter, picked faces 1');
  const surfaces = async () => Object.values((await get<Document>(page, `/api/projects/${id}`)).project.surfaces);
  await settled(page);
  const made = (await surfaces()).find((s) => s.name === 'Picked faces 1')!;
  expect(made.areaMm2).toBeGreaterThan(0);
  const count = (await surfaces()).length;
  await page.getByRole('button', { name: 'Undo' }).click();
  await settled(page);
  expect((await surfaces()).length).toBe(count - 1);
});

test('a changed model comes in again and what is laid stays', async ({ page }) => {
  const id = await newProject(page.request, 'Changed');
  expect((await drop(page.request, `/api/projects/${id}/models`, [upload('room.glb', await room())])).ok()).toBe(true);
  await useDraft(page);
  await page.goto(`/projects/${id}`);
  await settled(page);
  await page.getByRole('button', { name: 'Lime plaster, floated' }).first().click();
  await expect(line(page)).toContainText('is laid in Lime plaster');
  await page
    .getByRole('button', { name: /^Changed/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'Bring room in again' }).click();
  const changed = await makeGlb([
    { name: 'Floor', triangles: floorTriangles(6.2, 4.2) },
    { name: 'Bar', triangles: boxTriangles([2, 0, 1], [4, 1, 1.6]) },
    { name: 'Stool', triangles: boxTriangles([5, 0, 1], [5.4, 0.5, 1.4]) },
  ]);
  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles({ name: 'room.glb', mimeType: 'model/gltf-binary', buffer: Buffer.from(changed) });
  await expect(page.getByText('larger by 800 mm east to west')).toBeVisible();
  await expect(page.getByText('was “Counter”, moved by 1000 mm')).toBeVisible();
  await expect(page.getByText('1 new')).toBeVisible();
  // both lie over each other, with marks that stand in the list as well
  await settled(page);
  const bar = page.getByRole('button', { name: /Bar/ }).last();
  await page.getByTitle('Bar', { exact: true }).click();
  await expect(bar).toHaveAttribute('aria-pressed', 'true');
  await page.getByRole('button', { name: /Stool/ }).last().click();
  await settled(page);
  // flown to, it is in the middle of the picture
  const picture = (await page.getByTestId('revision-canvas').boundingBox())!;
  const mark = (await page.getByTitle('Stool', { exact: true }).boundingBox())!;
  expect(Math.abs(mark.x + mark.width / 2 - picture.x - picture.width / 2)).toBeLessThan(30);
  expect(Math.abs(mark.y + mark.height / 2 - picture.y - picture.height / 2)).toBeLessThan(30);
  await page.getByRole('button', { name: 'Take the changed model' }).click();
  await settled(page);
  await expect(line(page)).toContainText('is laid in Lime plaster');
  const { project } = await get<Document>(page, `/api/projects/${id}`);
  expect(
    Object.values(project.parts)
      .map((p) => p.name)
      .sort(),
  ).toEqual(['Bar', 'Floor', 'Stool']);
  const floor = Object.values(project.surfaces).find((s) => s.spec)!;
  expect(floor.areaMm2).toBeCloseTo(6200 * 4200, -3);
});
