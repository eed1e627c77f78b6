import type { Project } from '../../src/core/project/schema';
import { drop, newProject, room, settled, upload, useDraft } from '../fixtures';
import { expect, test } from '../test';

test('the wheel goes to what is under the pointer and never through it; the last view comes back', async ({ page }) => {
  await useDraft(page);
  const id = await newProject(page.request, 'Walking');
  await drop(page.request, `/api/projects/${id}/models`, [upload('room.glb', await room())]);
  await page.goto(`/projects/${id}`);
  await settled(page);
  let kept = 0;
  /** Where one stands now, by keeping a view. */
  const stand = async () => {
    await page.getByRole('button', { name: 'Views' }).click();
    await page.getByRole('button', { name: 'Keep this view' }).click();
    const name = `View ${++kept}`;
    const read = async () => {
      const { project } = (await (await page.request.get(`/api/projects/${id}`)).json()) as { project: Project };
      return Object.values(project.views).find((v) => v.name === name);
    };
    await expect.poll(read).toBeTruthy();
    return (await read())!;
  };
  const before = await stand();
  const box = (await page.getByTestId('room-canvas').boundingBox())!;
  // the floor, in front of the counter
  const [x, y] = [box.x + box.width * 0.4, box.y + box.height * 0.62];
  await page.mouse.move(x, y);
  for (let n = 0; n < 30; n++) {
    await page.mouse.wheel(0, -240);
    await page.waitForTimeout(15);
  }
  await settled(page);
  const near = await stand();
  expect(near.eye[1]).toBeGreaterThan(0);
  expect(near.eye[1]).toBeLessThan(before.eye[1] * 0.5);
  await page.getByRole('button', { name: 'Views' }).click();
  await page.getByRole('button', { name: 'Back to the last view' }).click();
  await settled(page);
  const back = await stand();
  back.eye.forEach((v, i) => expect(v).toBeCloseTo(before.eye[i], 3));
  // turned about what is under the pointer: as far from it as before
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 90, y + 10, { steps: 6 });
  await page.mouse.up();
  await settled(page);
  const turned = await stand();
  expect(Math.hypot(...turned.eye.map((v, i) => v - before.eye[i]))).toBeGreaterThan(200);
  const reach = (v: typeof before) => Math.hypot(...v.eye.map((e, i) => e - v.target[i]));
  expect(reach(turned)).toBeCloseTo(reach(before), 2);
  // a drag is no click: nothing was picked or lost
  await expect(page.getByTestId('spec-line')).toContainText('Floor');
});
