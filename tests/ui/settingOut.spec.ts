import { validateBytes } from 'gltf-validator';
import { defaultJoint } from '../../src/core/layout/joint';
import { noMix } from '../../src/core/layout/mix';
import { defaultSpec, type Spec } from '../../src/core/specification/schema';
import { plainVariation } from '../../src/core/variation/schema';
import { card, type Opened, projectOfBoxes, settled, stepHistory, useDraft } from '../fixtures';
import { expect, test } from '../test';

const bricks: Spec = {
  ...defaultSpec('facing-brick'),
  pieces: {
    layout: { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false },
    joint: defaultJoint(10),
    mix: noMix(),
  },
  variation: plainVariation(),
};

const isUpright = (s: { normal: number[] }) => Math.abs(s.normal[1]) < 0.1;

test('four sides as one run: gauged, started best, left by one of them, taken back and handed over', async ({
  page,
  request,
}) => {
  await useDraft(page);
  // two metres by 1.2, as high as 2412 mm, where no whole count of 75 mm fits
  const { id, at, read, surfaces } = await projectOfBoxes(
    request,
    'Pier',
    [['Pier', [0, 0, 0], [2, 2.412, 1.2]]],
    (all) => ({ [all.find(isUpright)!.id]: bricks }),
  );
  const sides = surfaces.filter(isUpright);
  expect(sides).toHaveLength(4);

  await page.goto(`/projects/${id}`);
  await settled(page);
  const rows = page.getByRole('list', { name: 'Surfaces by group' });
  const row = (surface: { id: string }) => rows.locator(`[data-surface="${surface.id}"]`);
  for (const [n, side] of sides.entries()) await row(side).click(n ? { modifiers: ['Control'] } : {});
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  await settled(page);
  const line = page.getByTestId('spec-line');
  await expect(line).toContainText('Run 1 is laid in');
  await expect(line).toContainText('mapped developed over its corners');
  const run = async () => Object.values((await read()).project.surfaces).find((s) => s.run)!;
  const made = await run();
  expect(made.run!.members).toEqual(sides.map((s) => s.id));
  // once round: 2 · (2000 + 1200)
  const sheet = (await (await request.get(`${at}/surfaces/${made.id}/sheet`)).json()) as {
    boundsMm: Record<string, number>;
    ringMm: number;
  };
  expect(sheet.ringMm).toBeCloseTo(6400, 1);
  expect(sheet.boundsMm.maxX - sheet.boundsMm.minX).toBeCloseTo(6400, 1);
  // what is asked of a side is answered by the run
  const ofSide = await request.get(`${at}/surfaces/${sides[2].id}/sheet`);
  expect(((await ofSide.json()) as { ringMm: number }).ringMm).toBeCloseTo(6400, 1);

  // 32 courses from edge to edge: (2412 − 32 · 65) / 31 = 10.71
  const start = await card(page, 'Start');
  await start.getByRole('button', { name: 'Gauge…' }).click();
  const gauge = page.getByRole('group', { name: 'Gauge', exact: true });
  await expect(gauge.getByText('2390 mm (−22 mm) or 2465 mm (+53 mm)')).toBeVisible();
  await gauge.getByRole('button', { name: 'Take 33 courses' }).click();
  await expect(line).toContainText('gauged to 33 courses up');
  await gauge.getByRole('button', { name: 'Take 32 courses' }).click();
  await expect(line).toContainText('gauged to 32 courses up');
  await page.keyboard.press('Escape');
  await expect(start.getByText('joints 10.71 mm')).toBeVisible();
  await settled(page);

  // pointing at a start shows it, taking it is one step
  await start.getByRole('button', { name: 'Best start…' }).click();
  const starts = page.getByRole('group', { name: 'Starts that were found' });
  await expect(starts.getByRole('button').first()).toBeVisible({ timeout: 60_000 });
  await page.getByRole('button', { name: 'Equal ends' }).click();
  await expect(starts.getByRole('button').first()).toBeVisible({ timeout: 60_000 });
  const was = (await run()).spec!.start;
  await starts.getByRole('button').first().hover();
  expect((await run()).spec!.start).toEqual(was);
  await starts.getByRole('button').first().click();
  await expect.poll(async () => (await run()).spec!.start.xMm).not.toBe(was.xMm);
  expect((await run()).spec!.gauge!.up!.count).toBe(32);
  await settled(page);
  await stepHistory(page, 'Undo', at);
  expect((await run()).spec!.start).toEqual(was);

  // one side leaves and keeps what is laid; taken back, it is part of the run again
  await rows
    .getByRole('button', { name: /leave Run 1/ })
    .first()
    .click();
  await expect.poll(async () => (await run()).run!.members.length).toBe(3);
  expect((await read()).project.surfaces[sides[0].id].spec!.gauge!.up!.count).toBe(32);
  await stepHistory(page, 'Undo', at);
  expect((await run()).run!.members).toHaveLength(4);

  // a lifted spec laid on one side asks whether all take it
  await row(made).click();
  await page.getByRole('button', { name: 'Lift', exact: true }).click();
  await page.getByRole('button', { name: 'Lift the repeat alone' }).click();
  await row(sides[1]).click();
  await page.getByRole('button', { name: `${sides[1].name} leaves` }).click();
  await expect.poll(async () => (await run()).run!.members.length).toBe(3);
  await stepHistory(page, 'Undo', at);

  await page.reload();
  await settled(page);
  const exported = await request.post(`${at}/exports`, {
    data: { format: 'glb', options: { pictureSize: 256, share: false } },
  });
  const job = (await exported.json()) as { id: string };
  await expect
    .poll(async () => ((await (await request.get(`/api/jobs/${job.id}`)).json()) as { state: string }).state, {
      timeout: 60_000,
    })
    .toBe('done');
  const bytes = await (await request.get(`/api/jobs/${job.id}/file`)).body();
  const report = await validateBytes(new Uint8Array(bytes));
  expect(report.issues.numErrors).toBe(0);
});

test('a named value drives what uses it: shown as a sum, changed as one step, refused where it cannot be', async ({
  page,
  request,
}) => {
  await useDraft(page);
  const { id, at, read, surfaces } = await projectOfBoxes(
    request,
    'Sums',
    [['Pier', [0, 0, 0], [2, 2.4, 1.2]]],
    (all) => Object.fromEntries(all.filter(isUpright).map((s) => [s.id, bricks])),
  );
  const [one, two] = surfaces.filter(isUpright);
  await page.goto(`/projects/${id}`);
  await settled(page);
  const rows = page.getByRole('list', { name: 'Surfaces by group' });
  const pick = (s: { id: string }) => rows.locator(`[data-surface="${s.id}"]`).click();
  const values = page.getByTitle('Named values that drive others');
  const add = async (name: string, sum: string) => {
    await page.getByLabel('New name').fill(name);
    await page.getByLabel('New value').fill(sum);
    await page.getByLabel('New value').press('Enter');
    await expect(page.getByLabel(`${name} is`, { exact: true })).toHaveValue(sum);
  };
  await values.click();
  await add('joint', '10 mm');
  await add('gap', 'joint * 2 - 4 mm');
  await page.keyboard.press('Escape');

  await pick(one);
  const joints = (await card(page, 'Pieces')).getByRole('textbox', { name: /^Joints/ });
  await joints.fill('gap / 2');
  await joints.press('Enter');
  await expect(joints).toHaveValue('8 mm');
  await expect((await card(page, 'Pieces')).getByText('= gap / 2')).toBeVisible();
  // a pair of sides takes one for each
  const brick = (await card(page, 'Pieces')).getByRole('textbox', { name: /^Brick/ });
  await brick.fill('gap * 15 x 65');
  await brick.press('Enter');
  await expect(brick).toHaveValue('240 × 65 mm');
  await expect((await card(page, 'Pieces')).getByText('= gap * 15 × 65')).toBeVisible();
  await pick(two);
  const right = (await card(page, 'Start')).getByRole('textbox', { name: /^Right/ });
  await right.fill('joint + 5');
  await right.press('Enter');
  await expect(right).toHaveValue('15 mm');

  // started on the upper right corner of the sheet, which fills its pane less the room for rules
  await page.getByRole('button', { name: 'Start on…' }).click();
  const marks = page.getByTestId('mark-drawing');
  const { width, height } = (await marks.boundingBox())!;
  const bounds = (
    (await (await request.get(`${at}/surfaces/${two.id}/sheet`)).json()) as { boundsMm: Record<string, number> }
  ).boundsMm;
  const [wide, high] = [bounds.maxX - bounds.minX, bounds.maxY - bounds.minY];
  const scale = Math.min((width - 86) / wide, (height - 82) / high);
  const corner = { x: width / 2 + (wide / 2) * scale - 3, y: height / 2 - (high / 2) * scale - 3 };
  await marks.hover({ position: { x: corner.x - 4, y: corner.y + 4 } });
  await expect(marks.getByText('Start on this corner')).toBeVisible();
  await marks.click({ position: { x: corner.x - 4, y: corner.y + 4 } });
  await expect
    .poll(async () => (await read()).project.surfaces[two.id].spec!.start)
    .toMatchObject({ xMm: Math.round(wide), yMm: Math.round(high) });
  await stepHistory(page, 'Undo', at);

  const jointOf = async (s: Opened['project']['surfaces'][string]) =>
    (await read()).project.surfaces[s.id].spec!.pieces!.joint.acrossMm;
  const startOf = async (s: Opened['project']['surfaces'][string]) =>
    (await read()).project.surfaces[s.id].spec!.start.xMm;
  await values.click();
  const joint = page.getByLabel('joint is', { exact: true });
  await joint.fill('8 mm');
  await joint.press('Enter');
  await expect.poll(() => jointOf(one)).toBe(6);
  expect((await read()).project.surfaces[one.id].spec!.pieces!.layout).toMatchObject({ lengthMm: 180, heightMm: 65 });
  expect(await startOf(two)).toBe(13);
  // what would wait for itself is refused, and nothing changes
  await joint.fill('gap');
  await joint.press('Enter');
  await expect(page.getByText('these values wait for each other: joint → gap → joint')).toBeVisible();
  expect(await jointOf(one)).toBe(6);
  await page.keyboard.press('Escape');

  await stepHistory(page, 'Undo', at);
  expect([await jointOf(one), await startOf(two)]).toEqual([8, 15]);

  // on focus the sum is there to be changed; a plain number lets go of it
  await pick(one);
  await joints.focus();
  await expect(joints).toHaveValue('gap / 2');
  await joints.fill('12');
  await joints.press('Enter');
  await expect(joints).toHaveValue('12 mm');
  await expect((await card(page, 'Pieces')).getByText('= gap / 2')).toHaveCount(0);

  // what is worked out from others cannot follow
  const across = (await card(page, 'Repeat')).getByRole('textbox', { name: /^Across/ });
  await across.fill('joint / 1 mm');
  await across.press('Enter');
  await expect(page.getByText('it cannot follow a sum')).toBeVisible();
});

test('two piers: laid mirrored on the half that matches, taken back, and thrown on square to a face', async ({
  page,
  request,
}) => {
  await useDraft(page);
  const isFront = (s: { normal: number[] }) => s.normal[2] > 0.9;
  const isSide = (s: { normal: number[] }) => Math.abs(s.normal[0]) > 0.9;
  const { id, at, read, surfaces } = await projectOfBoxes(
    request,
    'Gate',
    [
      ['Left pier', [0, 0, 0], [2.6, 2.4, 0.35]],
      ['Right pier', [4.2, 0, 0], [6.8, 2.4, 0.35]],
    ],
    (all) => ({ [all.find(isFront)!.id]: bricks, [all.find(isSide)!.id]: bricks }),
  );
  const [fronts, sides] = [surfaces.filter(isFront), surfaces.filter(isSide)];
  expect([fronts.length, sides.length]).toEqual([2, 4]);

  await page.goto(`/projects/${id}`);
  await settled(page);
  const rows = page.getByRole('list', { name: 'Surfaces by group' });
  const row = (surface: { id: string }) => rows.locator(`[data-surface="${surface.id}"]`);
  await row(fronts[0]).click();
  await row(sides[0]).click({ modifiers: ['Control'] });
  await page.getByRole('button', { name: 'Mirror…' }).click();
  const planes = page.getByRole('group', { name: 'Planes' }).getByRole('button');
  await expect(planes.first()).toHaveText(/x = 3400 mm\s*2 of 2/);
  await planes.first().click();
  await expect(page.getByText('Laid mirrored on 2 surfaces.')).toBeVisible();
  await settled(page);
  const after = await read();
  const image = after.project.surfaces[fronts[1].id];
  expect(image.spec!.mapping.mirror).toMatchObject({ atMm: 3400, prints: 'mirrored', of: fronts[0].id });
  expect(Object.values(after.project.surfaces).filter((s) => s.spec)).toHaveLength(4);
  // what is counted on either side is the same
  const pieces = async (surface: string) =>
    ((await (await request.get(`${at}/surfaces/${surface}/pieces`)).json()) as { pieces: { course: number }[] }).pieces;
  expect((await pieces(fronts[1].id)).map((p) => p.course)).toEqual((await pieces(fronts[0].id)).map((p) => p.course));

  // one that stands on its own again is seen from its front
  await row(fronts[1]).click();
  const mapping = await card(page, 'Mapping');
  await mapping.getByRole('button', { name: 'Not mirrored' }).click();
  await expect.poll(async () => (await read()).project.surfaces[fronts[1].id].spec!.mapping.mirror).toBeUndefined();
  await stepHistory(page, 'Undo', at);
  await stepHistory(page, 'Undo', at);
  await expect.poll(async () => (await read()).project.surfaces[fronts[1].id].spec).toBeNull();

  await row(fronts[0]).click();
  await mapping.getByRole('button', { name: 'Along the view' }).click();
  await expect
    .poll(async () => (await read()).project.surfaces[fronts[0].id].spec!.mapping)
    .toMatchObject({ kind: 'flat', direction: 'given' });

  // dragged in the room, it goes where the hand goes
  const start = await card(page, 'Start');
  const placed = async () => (await read()).project.surfaces[fronts[0].id].spec!.start;
  const from = await placed();
  await start.getByRole('button', { name: 'Drag…' }).click();
  await page.getByTestId('room-canvas').hover();
  await page.keyboard.press('f');
  await settled(page);
  const box = (await page.getByTestId('room-canvas').boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  for (let n = 1; n <= 5; n++) {
    await page.mouse.move(x + n * 8, y - n * 3);
    await page.waitForTimeout(60);
  }
  await page.waitForTimeout(200);
  await page.mouse.up();
  await expect.poll(async () => (await placed()).xMm).toBeGreaterThan(from.xMm + 20);
  expect((await placed()).yMm).toBeGreaterThan(from.yMm);
  await page.keyboard.press('Escape');
  await expect(start.getByRole('button', { name: 'Drag…' })).toHaveAttribute('aria-pressed', 'false');
});

test('a picture of a laid wall: its joints are found, its courses counted, and it is laid in pieces', async ({
  page,
  request,
}) => {
  await useDraft(page);
  const isFront = (s: { normal: number[] }) => s.normal[2] > 0.9;
  const { id, read, surfaces } = await projectOfBoxes(
    request,
    'Laid wall',
    [['Wall', [0, 0, 0], [2.6, 2.4, 0.35]]],
    (all) => ({ [all.find(isFront)!.id]: defaultSpec('laid-brick') }),
  );
  const front = surfaces.find(isFront)!;
  await page.goto(`/projects/${id}`);
  await settled(page);
  const spec = async () => (await read()).project.surfaces[front.id].spec!;
  await page.getByRole('list', { name: 'Surfaces by group' }).locator(`[data-surface="${front.id}"]`).click();
  await (await card(page, 'Start')).getByRole('button', { name: 'Joints in the picture…' }).click();
  const found = page.getByRole('group', { name: 'Joints in the picture' });
  await expect(found).toContainText(/Courses every 75 mm, joints (9|10)(\.\d)? mm; pieces every 225 mm, half bond/);
  // 2400 mm: from face to face 32 courses of 75 mm have 31 joints
  await found.getByRole('button', { name: 'Take 32 courses' }).click();
  await expect.poll(async () => (await spec()).repeat.own?.heightMm ?? 0).toBeGreaterThan(1350);
  expect((await spec()).repeat.own!.heightMm).toBeCloseTo((1350 * 2400) / 2390, -0.5);
  await found.getByRole('button', { name: /Lay in pieces: stretcher bond/ }).click();
  await expect.poll(async () => (await spec()).pieces?.layout).toMatchObject({ kind: 'stretcher', lap: 0.5 });
});
