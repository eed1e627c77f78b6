import { type APIRequestContext, expect, type Locator, type Page } from '@playwright/test';
import { zipSync } from 'fflate';
import { boxTriangles, floorTriangles, makeGlb } from '../src/core/testing/fixtures';
import type { Spec } from '../src/core/specification/schema';

export const room = () =>
  makeGlb([
    { name: 'Floor', triangles: floorTriangles(5.4, 4.2) },
    { name: 'Counter', triangles: boxTriangles([1, 0, 1], [3, 1, 1.6]) },
  ]);

export const zipped = (files: Record<string, Uint8Array>) => zipSync(files);

type Upload = { name: string; mimeType: string; buffer: Buffer };
export const upload = (name: string, bytes: Uint8Array | string): Upload => ({
  name,
  mimeType: 'application/octet-stream',
  buffer: Buffer.from(bytes),
});

export async function newProject(request: APIRequestContext, name: string): Promise<string> {
  const response = await request.post('/api/projects', { data: { name } });
  expect(response.status()).toBe(201);
  return ((await response.json()) as { project: { id: string } }).project.id;
}

/** Sends files as a drop does. */
export function drop(request: APIRequestContext, url: string, files: Upload[], fields: Record<string, string> = {}) {
  const form = new FormData();
  for (const [name, value] of Object.entries(fields)) form.append(name, value);
  for (const f of files) form.append('files', new File([new Uint8Array(f.buffer)], f.name));
  // every picture of a model is measured, which takes seconds for each on a slow machine
  return request.post(url, { multipart: form, timeout: 150_000 });
}

/** What tests read of a project. */
export interface Opened {
  revision: number;
  project: {
    surfaces: Record<
      string,
      { id: string; name: string; normal: number[]; spec: Spec | null; run?: { members: string[] } }
    >;
    options?: Record<string, { name: string; specs: Record<string, Spec> }>;
  };
}

/**
 * A project of boxes, in metres, with specs laid on some of their surfaces.
 * @param lay which specs on which surfaces, all of materials that come with the application
 */
export async function projectOfBoxes(
  request: APIRequestContext,
  name: string,
  boxes: [name: string, from: [number, number, number], to: [number, number, number]][],
  lay: (surfaces: Opened['project']['surfaces'][string][]) => Record<string, Spec>,
) {
  const id = await newProject(request, name);
  const at = `/api/projects/${id}`;
  const read = async () => (await (await request.get(at, { maxRetries: 3 })).json()) as Opened;
  const glb = await makeGlb(boxes.map(([part, from, to]) => ({ name: part, triangles: boxTriangles(from, to) })));
  await drop(request, `${at}/models`, [upload('boxes.glb', glb)]);
  const before = await read();
  const surfaces = Object.values(before.project.surfaces);
  const specs = lay(surfaces);
  const used = new Set(Object.values(specs).map((s) => s.material));
  const materials = ((await (await request.get('/api/materials')).json()) as { id: string }[]).filter((m) =>
    used.has(m.id),
  );
  const data = { baseRevision: before.revision, commands: [{ kind: 'setSpecs', specs, materials }] };
  expect((await request.post(`${at}/changes`, { data })).ok()).toBe(true);
  return { id, at, read, surfaces };
}

/** Waits until every view's picture is up to date, and what was changed is stored. */
export async function settled(page: Page): Promise<void> {
  await page.waitForTimeout(150);
  await expect(page.locator('[aria-busy="true"]')).toHaveCount(0, { timeout: 90_000 });
  await expect(page.getByRole('status').getByText('Saving', { exact: true })).toHaveCount(0, { timeout: 90_000 });
}

/** A segment of the studio's bench, unfolded if it is not. */
export async function card(page: Page, name: string): Promise<Locator> {
  const segment = page.getByRole('region', { name, exact: true });
  const folded = segment.getByRole('button', { name: `Unfold ${name}` });
  await expect(segment).toBeVisible();
  if (await folded.isVisible()) {
    await folded.click();
    await expect(folded).toHaveCount(0);
  }
  return segment;
}

/** Software drawing is slow; the draft way is a user's setting and cheap. */
export async function useDraft(page: Page, layout: 'both' | 'sheet' = 'both'): Promise<void> {
  await page.addInitScript((layout) => {
    const keep = (key: string, state: object) => localStorage.setItem(key, JSON.stringify({ state, version: 0 }));
    keep('jute-grid-room', { light: 'draft', preview: 256, shadows: false, layout });
    // names as the file and the importer give them
    keep('jute-grid-surfaces', { by: 'part' });
  }, layout);
}

/** Drags from the middle of one thing to the middle of another, as a hand does. */
export async function dragBetween(page: Page, from: Locator, to: Locator): Promise<void> {
  await from.scrollIntoViewIfNeeded();
  const [a, b] = [(await from.boundingBox())!, (await to.boundingBox())!];
  await page.mouse.move(a.x + a.width / 2, a.y + a.height / 2);
  await page.mouse.down();
  await page.mouse.move(a.x + a.width / 2 + 12, a.y + a.height / 2 - 12, { steps: 4 });
  await page.mouse.move(b.x + b.width / 2, b.y + b.height / 2, { steps: 8 });
  await page.mouse.up();
}

/** One click on Undo or Redo, and its effect waited for: two at once could run past what is looked for. */
export async function stepHistory(page: Page, which: 'Undo' | 'Redo', project: string): Promise<void> {
  const revision = async () =>
    ((await (await page.request.get(project, { maxRetries: 3 })).json()) as { revision: number }).revision;
  const before = await revision();
  await page.getByRole('button', { name: which, exact: true }).click();
  await expect.poll(revision).not.toBe(before);
  await settled(page);
}

/** Takes a picture with the simulated camera, in the demo’s prep, or where one is. */
export async function photograph(page: Page, ground: string, at: string | null = '/projects/pellow-landing/prep') {
  if (at) await page.goto(at);
  await page.getByRole('button', { name: 'Photograph', exact: true }).click();
  // pictures that were taken before lie about as cards, with the ground in their names
  await page.getByRole('button', { name: ground, exact: true }).click();
  await expect(page.getByText('Three things make a photograph a material:')).toBeVisible({ timeout: 60_000 });
  await settled(page);
}

/** Places of the picture on the screen, from where two handles lie. */
export async function picturePlaces(a: [Locator, [number, number]], b: [Locator, [number, number]]) {
  const middle = async (l: Locator) => {
    const r = (await l.boundingBox())!;
    return [r.x + r.width / 2, r.y + r.height / 2];
  };
  const [p, q] = [await middle(a[0]), await middle(b[0])];
  const k = [0, 1].map((c) => (q[c] - p[c]) / (b[1][c] - a[1][c]));
  return ([x, y]: readonly number[]): [number, number] => [p[0] + (x - a[1][0]) * k[0], p[1] + (y - a[1][1]) * k[1]];
}

/** Drags a handle on the light table. */
export async function dragHandle(page: Page, label: string, to: [number, number]): Promise<void> {
  const r = (await page.getByLabel(label).boundingBox())!;
  await page.mouse.move(r.x + r.width / 2, r.y + r.height / 2);
  await page.mouse.down();
  await page.mouse.move(to[0], to[1], { steps: 5 });
  await page.mouse.up();
}

/** Adds a step of prep. */
export async function addStep(page: Page, step: string): Promise<void> {
  await page.getByRole('button', { name: 'Add a step' }).click();
  // “Colour” stands above “Colour by height”
  await page
    .getByRole('button', { name: new RegExp(`^${step} `) })
    .first()
    .click();
  await settled(page);
}

/** A photograph of a brick wall, straightened by four corners that are known, and cropped free of its rule. */
export async function straightenedWall(
  page: Page,
  more: ({ kind: string } & Record<string, unknown>)[] = [],
): Promise<string> {
  const prep = (await (
    await page.request.post('/api/preps/simulated', { data: { ground: 'brick', seed: 1 } })
  ).json()) as { id: string };
  const step = (values: { kind: string }) => ({ id: values.kind, on: true, mask: null, ...values });
  const corners = [
    [0.05, 0.06],
    [0.95, 0.03],
    [0.98, 0.96],
    [0.03, 0.93],
  ];
  const given = [
    { kind: 'corners', corners, widthMm: 1200, heightMm: 900 },
    { kind: 'crop', from: [0, 0], to: [1, 0.86], wholePeriods: false },
  ];
  const steps = [...given, ...more].map(step);
  const data = { baseRevision: 0, commands: [{ kind: 'setSteps', steps }] };
  expect((await page.request.post(`/api/preps/${prep.id}/changes`, { data })).ok()).toBe(true);
  return prep.id;
}
