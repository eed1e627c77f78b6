import type { Page } from '@playwright/test';
import { boxTriangles, makeGlb } from '../../src/core/testing/fixtures';
import { defaultSpec } from '../../src/core/specification/schema';
import { drop, newProject, settled, upload, useDraft } from '../fixtures';
import { expect, test } from '../test';

interface Opened {
  revision: number;
  project: { surfaces: Record<string, { id: string; name: string; spec: { direction: { turnDeg: number } } | null }> };
}

test('two browsers at one project: neither writes over the other, and both come to show the same', async ({
  browser,
  request,
  server,
}) => {
  const id = await newProject(request, 'Shared');
  const glb = await makeGlb([{ name: 'Pier', triangles: boxTriangles([0, 0, 0], [2, 2.4, 1.2]) }]);
  await drop(request, `/api/projects/${id}/models`, [upload('pier.glb', glb)]);
  const read = async () => (await (await request.get(`/api/projects/${id}`)).json()) as Opened;
  const { revision, project } = await read();
  const [one, two] = Object.values(project.surfaces);
  const materials = (await (await request.get('/api/materials')).json()) as { id: string }[];
  const spec = defaultSpec('facing-brick');
  const commands = [
    {
      kind: 'setSpecs',
      specs: { [one.id]: spec, [two.id]: spec },
      materials: materials.filter((m) => m.id === 'facing-brick'),
    },
  ];
  await request.post(`/api/projects/${id}/changes`, { data: { baseRevision: revision, commands } });

  // another browser, not another tab: nothing is shared between them but the server
  const open = async (surface: string): Promise<Page> => {
    const page = await (await browser.newContext({ baseURL: server.url })).newPage();
    await useDraft(page);
    await page.goto(`/projects/${id}`);
    await settled(page);
    await page.getByRole('list', { name: 'Surfaces by group' }).getByRole('button', { name: surface }).click();
    return page;
  };
  const [hers, his] = [await open(one.name), await open(two.name)];
  const turn = async (page: Page, deg: number) => {
    await page.getByLabel('Turned').fill(String(deg));
    await page.getByLabel('Turned').press('Enter');
  };
  const turned = async (surface: { id: string }) => (await read()).project.surfaces[surface.id].spec!.direction.turnDeg;
  await turn(hers, 30);
  await expect.poll(() => turned(one)).toBe(30);
  const applyToo = (page: Page) => page.getByRole('button', { name: 'Apply mine too' }).click();
  // his is based on what was before: it is said, and nothing of hers is gone; his goes on top of hers when he wants
  await turn(his, 45);
  await expect(his.getByText('changed in another tab')).toBeVisible();
  expect([await turned(one), await turned(two)]).toEqual([30, 0]);
  await applyToo(his);
  await expect.poll(() => turned(two)).toBe(45);
  expect(await turned(one)).toBe(30);
  await turn(hers, 15);
  await applyToo(hers);
  await expect.poll(() => turned(one)).toBe(15);
  for (const [page, surface, value] of [
    [hers, two, 45],
    [his, one, 15],
  ] as const) {
    await page.reload();
    await settled(page);
    await page.getByRole('list', { name: 'Surfaces by group' }).getByRole('button', { name: surface.name }).click();
    await expect(page.getByLabel('Turned')).toHaveValue(`${value}°`);
  }
  for (const page of [hers, his]) await page.context().close();
});
