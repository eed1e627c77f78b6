import sharp from 'sharp';
import type { Reference, SavedView, Still } from '../../src/core/project/schema';
import { defaultSpec } from '../../src/core/specification/schema';
import { projectOfBoxes, settled, useDraft } from '../fixtures';
import { expect, test } from '../test';

interface Kept {
  project: {
    stills?: Record<string, Still>;
    references?: Record<string, Reference>;
    views: Record<string, SavedView>;
  };
}

const isTop = (s: { normal: number[] }) => s.normal[1] > 0.9;

test('a still is stopped, made, kept with the project and handed on as PNG and JPEG; its view is typed', async ({
  page,
  request,
}) => {
  const { id, at } = await projectOfBoxes(request, 'Stills', [['Slab', [0, 0, 0], [2, 0.2, 2]]], (all) => ({
    [all.find(isTop)!.id]: defaultSpec('glazed-tile'),
  }));
  const kept = async () => ((await (await request.get(at)).json()) as Kept).project;
  await page.goto(`/projects/${id}`);
  await settled(page);

  // a lens and a place, typed and kept as a view with its picture
  await page.getByRole('button', { name: 'Views' }).click();
  const standing = page.getByRole('group', { name: 'Where one stands' });
  await standing.getByLabel('Lens, mm').fill('50');
  await standing.getByLabel('Lens, mm').press('Enter');
  await standing.getByLabel('Eye y').fill('1.5 m + 100');
  await standing.getByLabel('Eye y').press('Enter');
  await settled(page);
  await page.getByRole('button', { name: 'Keep this view' }).click();
  await expect.poll(async () => Object.values((await kept()).views)[0]?.image).toMatch(/^[0-9a-f]{64}$/);
  const view = Object.values((await kept()).views)[0];
  expect(view.lensMm).toBeCloseTo(50, 0);
  expect(view.eye[1]).toBeCloseTo(1600, 0);

  await page.getByTitle('Stills: pictures of any size').click();
  const panel = page.getByRole('group', { name: 'Stills' });
  await panel.getByLabel('Width, px').fill('8000');
  await panel.getByLabel('Width, px').press('Enter');
  await panel.getByLabel('Height, px').fill('4000');
  await panel.getByLabel('Height, px').press('Enter');
  await panel.getByRole('button', { name: 'Make the still' }).click();
  await panel.getByRole('button', { name: 'Stop' }).click();
  await expect(panel.getByRole('button', { name: 'Make the still' })).toBeVisible({ timeout: 120_000 });
  expect((await kept()).stills ?? {}).toEqual({});

  await panel.getByLabel('From').selectOption({ label: 'View 1' });
  await panel.getByLabel('Width, px').fill('900');
  await panel.getByLabel('Width, px').press('Enter');
  await panel.getByLabel('Height, px').fill('600');
  await panel.getByLabel('Height, px').press('Enter');
  await panel.getByRole('button', { name: 'Make the still' }).click();
  await expect(panel.getByRole('list', { name: 'Kept stills' })).toContainText('900 × 600', { timeout: 120_000 });
  const [still] = Object.values((await kept()).stills!);
  expect(still).toMatchObject({ name: 'View 1', widthPx: 900, heightPx: 600, lensMm: view.lensMm });
  for (const [as, format] of [
    ['png', 'png'],
    ['jpeg', 'jpeg'],
  ]) {
    const answer = await request.get(`${at}/stills/${still.id}?as=${as}`);
    expect(answer.headers()['content-type']).toBe(`image/${as}`);
    expect(await sharp(await answer.body()).metadata()).toMatchObject({ format, width: 900, height: 600 });
  }
  // something is seen on it: neither one colour nor black
  const { channels } = await sharp(await (await request.get(`${at}/stills/${still.id}`)).body()).stats();
  expect(channels[1].mean).toBeGreaterThan(30);
  expect(channels[1].stdev).toBeGreaterThan(8);
  await panel.getByRole('button', { name: 'Remove View 1' }).click();
  await expect.poll(async () => (await kept()).stills).toEqual({});
});

test('a photograph is pinned beside the view, moved, a colour picked from it; before and after under the edge', async ({
  page,
  request,
}) => {
  await useDraft(page);
  const { id, at, read } = await projectOfBoxes(request, 'Beside', [['Slab', [0, 0, 0], [2, 0.2, 2]]], (all) => ({
    [all.find(isTop)!.id]: defaultSpec('glazed-tile'),
  }));
  const references = async () =>
    Object.values(((await (await request.get(at)).json()) as Kept).project.references ?? {});
  await page.goto(`/projects/${id}`);
  await settled(page);
  const buffer = await sharp({ create: { width: 90, height: 60, channels: 3, background: '#2f6b7c' } })
    .png()
    .toBuffer();
  await page.getByRole('button', { name: 'Views' }).click();
  await page.getByLabel('Pin a photograph').setInputFiles({ name: 'quay-at-dusk.png', mimeType: 'image/png', buffer });
  const photograph = page.getByRole('figure', { name: 'Photograph quay-at-dusk' });
  // before it is there its caption stands elsewhere
  await expect(photograph.getByRole('img')).toHaveJSProperty('naturalWidth', 90);
  const box = (await photograph.boundingBox())!;
  await page.mouse.move(box.x + 40, box.y + box.height - 25);
  await page.mouse.down();
  await page.mouse.move(box.x + 140, box.y + box.height + 35, { steps: 4 });
  await page.mouse.up();
  await expect.poll(async () => (await references())[0]?.left).toBeGreaterThan(0.1);
  await photograph.hover();
  await page.getByRole('button', { name: 'Pick a colour from quay-at-dusk' }).click();
  await photograph.getByRole('img').click({ position: { x: 30, y: 40 } });
  await expect(page.getByText('#2f6b7c is copied.')).toBeVisible();

  // a step of the history beside what is now
  const { revision, project } = await read();
  const top = Object.values(project.surfaces).find(isTop)!.id;
  const change = { kind: 'setSpecs', specs: { [top]: { ...project.surfaces[top].spec, direction: { turnDeg: 30 } } } };
  const spec = project.surfaces[top].spec!;
  const turned = { ...spec, direction: { ...spec.direction, turnDeg: 30 } };
  const data = { baseRevision: revision, commands: [{ ...change, specs: { [top]: turned } }] };
  expect((await request.post(`${at}/changes`, { data })).ok()).toBe(true);
  await page.reload();
  await settled(page);
  await page.getByRole('button', { name: 'History' }).click();
  await page.getByRole('button', { name: /^Compare with Lay/ }).click();
  await expect(page.getByTestId('compare').getByRole('img', { name: /^Then: Lay/ })).toBeVisible({ timeout: 40_000 });
  await page.getByRole('button', { name: 'Stop comparing' }).click();
  await expect(page.getByTestId('compare')).toHaveCount(0);
  await page.getByRole('button', { name: 'Close' }).click();
  await photograph.hover();
  await page.getByRole('button', { name: 'Take quay-at-dusk away' }).click();
  await expect.poll(references).toEqual([]);
});

test('walking stops at a wall; overlays say what their colours mean; a lost graphics card comes back', async ({
  page,
  request,
}) => {
  await useDraft(page);
  const { id } = await projectOfBoxes(
    request,
    'Walk',
    [
      ['Floor', [0, -0.2, 0], [6, 0, 6]],
      ['Wall', [0, 0, -0.2], [6, 3, 0]],
    ],
    (all) => ({ [all.find(isTop)!.id]: defaultSpec('smoked-oak') }),
  );
  await page.goto(`/projects/${id}`);
  await settled(page);
  const standing = page.getByRole('group', { name: 'Where one stands' });
  const place = async (values: Record<string, string>) => {
    await page.getByRole('button', { name: 'Views' }).click();
    for (const [label, value] of Object.entries(values)) {
      await standing.getByLabel(label).fill(value);
      await standing.getByLabel(label).press('Enter');
    }
    const z = Number((await standing.getByLabel('Eye z').inputValue()).replace(/[^\d.-]/g, ''));
    const y = Number((await standing.getByLabel('Eye y').inputValue()).replace(/[^\d.-]/g, ''));
    await page.keyboard.press('Escape');
    return { y, z };
  };
  // looking north, three metres from the wall
  await place({
    'Eye x': '3000',
    'Eye y': '2500',
    'Eye z': '3000',
    'Looks at x': '3000',
    'Looks at y': '1600',
    'Looks at z': '0',
  });
  await settled(page);
  await page.keyboard.press('w');
  await expect(page.getByText('Walking: arrows step')).toBeVisible();
  for (let n = 0; n < 4; n++) await page.keyboard.press('ArrowUp');
  const there = await place({});
  expect(there.y).toBeCloseTo(1600, -1);
  expect(there.z).toBeCloseTo(2000, -1);
  for (let n = 0; n < 12; n++) await page.keyboard.press('ArrowUp');
  expect((await place({})).z).toBeGreaterThan(250);
  await page.getByRole('button', { name: 'Done' }).click();

  const show = async (name: string) => {
    await page.getByTitle('What is shown').click();
    await page.getByRole('button', { name, exact: true }).click();
  };
  await show('Loud: by material');
  await expect(page.getByRole('list', { name: 'Legend' })).toContainText('Smoked oak');
  await show('Facing');
  await expect(page.getByRole('list', { name: 'Legend' })).toContainText('seen from behind');
  await show('How often repeated');
  await expect(page.getByText('64 × and more')).toBeVisible();
  await show('Everything');

  await page.getByTestId('room-canvas').evaluate((canvas: HTMLCanvasElement) => {
    const lose = canvas.getContext('webgl2')!.getExtension('WEBGL_lose_context')!;
    lose.loseContext();
    setTimeout(() => lose.restoreContext(), 1500);
  });
  await expect(page.getByText('has let go of the room')).toBeVisible();
  await expect(page.getByText('has let go of the room')).toHaveCount(0);
  await settled(page);
  await page.getByRole('button', { name: 'Views' }).click();
  await page.getByRole('button', { name: 'All of it' }).click();
  await settled(page);
  const seen = async () => (await sharp(await page.getByTestId('room-canvas').screenshot()).stats()).channels[0];
  expect((await seen()).stdev).toBeGreaterThan(10);

  // cut below everything, looking at what is above: nothing is left to see
  await page.getByRole('button', { name: 'Views' }).click();
  const section = page.getByRole('group', { name: 'Section' });
  await section.getByRole('combobox').selectOption({ label: 'Section square to y, a plan' });
  await section.getByLabel('Cut at').fill('-300');
  await section.getByLabel('Cut at').press('Enter');
  await page.keyboard.press('Escape');
  await expect.poll(async () => (await seen()).stdev).toBeLessThan(6);
  await page.getByRole('button', { name: 'Views' }).click();
  await section.getByRole('combobox').selectOption({ label: 'No section' });
  await page.keyboard.press('Escape');
  await expect.poll(async () => (await seen()).stdev).toBeGreaterThan(10);
});

test('near walls drop away: one picks what is in the room, and the wall is back when it is off', async ({
  page,
  request,
}) => {
  const { id } = await projectOfBoxes(
    request,
    'Seen into',
    [
      ['Floor', [-0.2, -0.2, -0.2], [4.2, 0, 4.2]],
      ['Roof', [-0.2, 3, -0.2], [4.2, 3.2, 4.2]],
      ['North', [-0.2, 0, -0.2], [4.2, 3, 0]],
      ['South', [-0.2, 0, 4], [4.2, 3, 4.2]],
      ['West', [-0.2, 0, 0], [0, 3, 4]],
      ['East', [4, 0, 0], [4.2, 3, 4]],
    ],
    (all) => ({ [all[0].id]: defaultSpec('glazed-tile') }),
  );
  await useDraft(page);
  const found = page.waitForResponse((r) => r.url().endsWith(`/api/projects/${id}/rooms`));
  await page.goto(`/projects/${id}`);
  await settled(page);
  const { rooms } = (await (await found).json()) as { rooms: { outside: boolean }[] };
  expect(rooms.filter((r) => !r.outside)).toHaveLength(1);
  await page.getByRole('button', { name: 'Views' }).click();
  await page.getByRole('button', { name: 'South elevation' }).click();
  await settled(page);
  const box = (await page.getByTestId('room-canvas').boundingBox())!;
  const pickMiddle = () => page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
  const picked = page.getByRole('region', { name: 'Sheet view' });
  await pickMiddle();
  await expect(picked).toContainText('South,');

  const seeIn = async (on: boolean) => {
    await page.getByRole('button', { name: 'Views' }).click();
    await page.getByLabel('Near walls drop away').setChecked(on);
    await page.keyboard.press('Escape');
    await settled(page);
  };
  await seeIn(true);
  await pickMiddle();
  await expect(picked).toContainText('North,');
  // from the other side it is the other wall that is gone
  await page.getByRole('button', { name: 'Views' }).click();
  await page.getByRole('button', { name: 'North elevation' }).click();
  await settled(page);
  await page.waitForTimeout(400);
  await pickMiddle();
  await expect(picked).toContainText('South,');
  await seeIn(false);
  await pickMiddle();
  await expect(picked).toContainText('North,');
});
