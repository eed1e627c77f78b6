import { expect, test } from '../test';
import sharp from 'sharp';
import { newProject } from '../fixtures';

test('a project’s card shows the last still of its room; what is no picture is refused', async ({ page, request }) => {
  const id = await newProject(request, 'Seen before');
  expect((await request.get(`/api/projects/${id}/still`)).status()).toBe(404);
  const refused = await request.put(`/api/projects/${id}/still`, {
    data: Buffer.from('no picture'),
    headers: { 'content-type': 'image/png' },
  });
  expect(await refused.json()).toMatchObject({ status: 400, field: 'body' });
  const png = await sharp({ create: { width: 800, height: 500, channels: 3, background: '#2f4b7c' } })
    .png()
    .toBuffer();
  expect(
    (await request.put(`/api/projects/${id}/still`, { data: png, headers: { 'content-type': 'image/png' } })).status(),
  ).toBe(204);
  await page.goto('/');
  await expect(page.getByRole('link', { name: 'Open Seen before' }).locator('img')).toBeVisible();
});
