import { expect, test } from '../test';
import sharp from 'sharp';
import type { Project } from '../../src/core/project/schema';
import { newProject, room, settled, useDraft } from '../fixtures';

test('a new project: bring a model in, correct its size by a known length, see it in the studio', async ({ page }) => {
  await useDraft(page);
  await page.goto('/');
  await page.getByRole('button', { name: 'New project' }).click();
  await expect(page.getByRole('heading', { name: 'Bring a model in' })).toBeVisible();
  const files = page.locator('input[type=file]').first();
  await files.setInputFiles({ name: 'broken.glb', mimeType: 'model/gltf-binary', buffer: Buffer.from('nonsense') });
  await expect(page.getByRole('alert').filter({ hasText: 'broken.glb' })).toContainText('not a glTF');
  await files.setInputFiles({ name: 'room.glb', mimeType: 'model/gltf-binary', buffer: Buffer.from(await room()) });
  await expect(page.getByRole('heading', { name: 'Is it this large?' })).toBeVisible();
  await settled(page);
  const width = page.getByLabel('East to west');
  await expect(width).toHaveValue('5400 mm');
  // it is really half as large
  await width.fill('2.7 m');
  await width.press('Enter');
  await expect(page.getByText('Corrected: one unit is 500')).toBeVisible();
  await expect(page.getByLabel('North to south')).toHaveValue('2100 mm');
  await page.getByRole('button', { name: 'Bring it in' }).click();
  await settled(page);
  await expect(page.getByTestId('spec-line')).toContainText('Floor, floor has nothing laid on it yet');
  await page.getByRole('button', { name: 'Lime plaster, floated' }).first().click();
  await expect(page.getByTestId('spec-line')).toContainText('is laid in Lime plaster');
});

test('a model’s material that the library knows by name can be the library’s', async ({ page }) => {
  await useDraft(page);
  const id = await newProject(page.request, 'Known plaster');
  await page.goto(`/projects/${id}`);
  const file = (name: string, buffer: Buffer) => ({ name, mimeType: 'application/octet-stream', buffer });
  const png = await sharp({ create: { width: 8, height: 8, channels: 3, background: '#d8cdb8' } })
    .png()
    .toBuffer();
  const corners = 'v 0 0 0\nv 3 0 0\nv 3 2.5 0\nv 0 2.5 0\nvt 0 0\nvt 1 0\nvt 1 1\nvt 0 1\n';
  const wall = `mtllib wall.mtl\no Wall\n${corners}usemtl Lime plaster, floated\nf 1/1 2/2 3/3 4/4\n`;
  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles([
      file('wall.obj', Buffer.from(wall)),
      file('wall.mtl', Buffer.from('newmtl Lime plaster, floated\nmap_Kd plaster.png\n')),
      file('plaster.png', png),
    ]);
  const known = page.getByRole('group', { name: 'Known by name' });
  await expect(known).toContainText('The library has “Lime plaster, floated” already');
  await known.getByText('The library’s, as it is').click();
  await page.getByText('Metre', { exact: true }).click();
  await page.getByRole('button', { name: 'y is up' }).click();
  await page.getByRole('button', { name: 'Bring it in' }).click();
  await settled(page);
  const { project } = (await (await page.request.get(`/api/projects/${id}`)).json()) as { project: Project };
  const [{ spec }] = Object.values(project.surfaces);
  expect(project.materials[spec!.material]).toMatchObject({ name: 'Lime plaster, floated', builtIn: true });
});

test('projects: rename, duplicate, delete with a way back', async ({ page, request }) => {
  await request.post('/api/projects', { data: { name: 'Slipway shed' } });
  await page.goto('/');
  await page.getByRole('button', { name: 'More for Slipway shed' }).click();
  await page.getByRole('button', { name: 'Rename' }).click();
  await page.getByLabel('Project name').fill('Slipway house');
  await page.getByLabel('Project name').press('Enter');
  await page.getByRole('button', { name: 'More for Slipway house' }).click();
  await page.getByRole('button', { name: 'Duplicate' }).click();
  await expect(page.getByRole('heading', { name: 'Slipway house (copy)' })).toBeVisible();
  await page.getByRole('button', { name: 'More for Slipway house (copy)' }).click();
  await page.getByRole('button', { name: 'Delete' }).click();
  await expect(page.getByRole('heading', { name: 'Slipway house (copy)' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Bring it back' }).click();
  await expect(page.getByRole('heading', { name: 'Slipway house (copy)' })).toBeVisible();
});
