import type { APIRequestContext, Page } from '@playwright/test';
import sharp from 'sharp';
import { toLinear, toSrgb } from '../../src/core/colour/srgb';
import type { Material } from '../../src/core/material/schema';
import { defaultSpec, type Spec } from '../../src/core/specification/schema';
import { dirt } from '../../src/core/wear/kinds/dirt';
import { card, drop, projectOfBoxes, settled, stepHistory, upload, useDraft } from '../fixtures';
import { expect, test } from '../test';

const isTop = (s: { normal: number[] }) => s.normal[1] > 0.9;
type Read = () => Promise<{ project: { surfaces: Record<string, { spec: Spec | null }> } }>;
const wearOf = async (read: Read, id: string) =>
  ((await read()) as unknown as Awaited<ReturnType<Read>>).project.surfaces[id].spec?.wear;

const pick = (page: Page, id: string) =>
  page.getByRole('list', { name: 'Surfaces by group' }).locator(`[data-surface="${id}"]`).click();

test('wear is laid, set, lifted onto another floor, put out of sight and taken away', async ({ page, request }) => {
  const { id, read, surfaces } = await projectOfBoxes(
    request,
    'Worn floors',
    [
      ['One', [0, 0, 0], [2, 0.2, 2]],
      ['Two', [3, 0, 0], [5, 0.2, 2]],
    ],
    (all) => Object.fromEntries(all.filter(isTop).map((s) => [s.id, defaultSpec('sallow-stone')])),
  );
  const [one, two] = surfaces.filter(isTop).map((s) => s.id);
  const own = () => wearOf(read as unknown as Read, one);
  await useDraft(page);
  await page.goto(`/projects/${id}`);
  await settled(page);
  await pick(page, one);
  const bench = await card(page, 'Wear');
  await expect(bench).toContainText('As new');

  await bench.getByRole('button', { name: 'Add wear' }).click();
  await page.getByRole('button', { name: /^Dirt/ }).click();
  await bench.getByLabel('Covers').fill('70 - 5');
  await bench.getByLabel('Covers').press('Enter');
  await expect.poll(async () => (await own())?.layers).toMatchObject([{ kind: 'dirt', share: 0.65, on: true }]);
  await expect(page.getByTestId('spec-line')).toContainText('worn by dirt over 65% in patches of 1400 mm');

  // a path is drawn on the sheet, point by point
  await bench.getByRole('button', { name: 'Add wear' }).click();
  await page.getByRole('button', { name: /^Rubbed path/ }).click();
  await bench.getByRole('button', { name: 'Draw the path' }).click();
  const sheet = (await page.getByTestId('wear-drawing').boundingBox())!;
  for (const [x, y] of [
    [0.3, 0.5],
    [0.5, 0.45],
    [0.7, 0.5],
  ])
    await page.mouse.click(sheet.x + sheet.width * x, sheet.y + sheet.height * y);
  await page.keyboard.press('Enter');
  await expect
    .poll(async () => (await own())?.layers[1])
    .toMatchObject({ kind: 'rubbed', points: [expect.anything(), expect.anything(), expect.anything()] });

  // a mark is put by a click in the room, then turned by a number
  await bench.getByRole('button', { name: 'Mark', exact: true }).click();
  await page
    .getByRole('group', { name: 'Marks' })
    .getByRole('button', { name: /Tar spot/ })
    .click();
  await page.getByRole('button', { name: 'Views' }).click();
  await page.getByRole('button', { name: 'Picked face, straight on' }).click();
  await settled(page);
  const room = (await page.getByTestId('room-canvas').boundingBox())!;
  await page.mouse.click(room.x + room.width / 2 + 20, room.y + room.height / 2);
  await expect.poll(async () => (await own())?.marks.length).toBe(1);
  await page.keyboard.press('Escape');
  await bench.getByLabel('Turned').fill('30');
  await bench.getByLabel('Turned').press('Enter');
  await expect.poll(async () => (await own())?.marks[0].turnDeg).toBe(30);
  const [mark] = (await own())!.marks;
  expect(mark.material).toBe('tar-spot');
  expect(mark.xMm).toBeGreaterThan(1000);
  expect(Math.abs(mark.yMm)).toBeCloseTo(1000, -2);

  // lifted alone and laid on the other floor; its stone stays
  await bench.getByRole('button', { name: 'Lift the wear alone' }).click();
  await page.keyboard.press('Escape');
  await pick(page, two);
  await page.getByRole('button', { name: 'Lay', exact: true }).click();
  const laidOnTwo = async () => (await wearOf(read as unknown as Read, two))?.marks.length ?? 0;
  await expect.poll(laidOnTwo).toBe(1);

  await pick(page, one);
  await (await card(page, 'Wear')).getByLabel('Dirt is seen').uncheck();
  await expect.poll(async () => (await own())?.layers[0].on).toBe(false);
  for (const what of ['Dirt', 'Rubbed path', 'Tar spot'])
    await bench.getByRole('button', { name: `Take ${what} away` }).click();
  await expect.poll(own).toBeUndefined();
  expect(await laidOnTwo()).toBe(1);
  await stepHistory(page, 'Undo', `/api/projects/${id}`);
  expect((await own())?.marks).toHaveLength(1);
});

/** A material of one colour. */
async function plainMaterial(request: APIRequestContext, hex: string): Promise<Material> {
  const flat = await sharp({ create: { width: 64, height: 64, channels: 3, background: hex } })
    .png()
    .toBuffer();
  const response = await drop(request, '/api/materials', [upload('Plain_baseColor.png', flat)]);
  const { materials } = (await response.json()) as { materials: Material[] };
  return materials[0];
}

interface Gltf {
  materials: {
    name: string;
    alphaMode?: string;
    pbrMetallicRoughness: {
      baseColorTexture: { index: number; extensions: { KHR_texture_transform: { scale: number[] } } };
    };
  }[];
  textures: { source: number }[];
  images: { bufferView: number }[];
  bufferViews: { byteOffset: number; byteLength: number; byteStride?: number }[];
  accessors: { bufferView: number; byteOffset: number; count: number }[];
  meshes: { primitives: { material: number; attributes: Record<string, number> }[] }[];
}

/** The picture of the wear in a GLB, and where a place of the world (m) lies in it, px. */
async function wearInGlb(bytes: Buffer) {
  const length = bytes.readUInt32LE(12);
  const json = JSON.parse(bytes.subarray(20, 20 + length).toString()) as Gltf;
  const bin = bytes.subarray(28 + length);
  const index = json.materials.findIndex((m) => m.name.endsWith('wear'));
  const material = json.materials[index];
  expect(material.alphaMode).toBe('BLEND');
  const { baseColorTexture } = material.pbrMetallicRoughness;
  const view = json.bufferViews[json.images[json.textures[baseColorTexture.index].source].bufferView];
  const { data, info } = await sharp(bin.subarray(view.byteOffset, view.byteOffset + view.byteLength))
    .raw()
    .toBuffer({ resolveWithObject: true });
  const { attributes } = json.meshes.flatMap((m) => m.primitives).find((p) => p.material === index)!;
  const read = (name: string, size: number) => {
    const { bufferView, byteOffset, count } = json.accessors[attributes[name]];
    const { byteOffset: from, byteStride = size * 4 } = json.bufferViews[bufferView];
    return Array.from({ length: count }, (_, n) =>
      Array.from({ length: size }, (_, c) => bin.readFloatLE(from + byteOffset + n * byteStride + c * 4)),
    );
  };
  const [positions, uvs] = [read('POSITION', 3), read('TEXCOORD_0', 2)];
  const { scale } = baseColorTexture.extensions.KHR_texture_transform;
  // straight lines: what x and z come to is told by the corners
  const at = (x: number, z: number) => {
    const [o, a, b] = [0, 1, 2].map((n) => ({ p: positions[n], uv: uvs[n].map((v, c) => v * scale[c]) }));
    const [ax, az, bx, bz] = [a.p[0] - o.p[0], a.p[2] - o.p[2], b.p[0] - o.p[0], b.p[2] - o.p[2]];
    const det = ax * bz - az * bx;
    const s = ((x - o.p[0]) * bz - (z - o.p[2]) * bx) / det;
    const t = (ax * (z - o.p[2]) - az * (x - o.p[0])) / det;
    return [0, 1].map((c) => {
      const v = o.uv[c] + s * (a.uv[c] - o.uv[c]) + t * (b.uv[c] - o.uv[c]);
      return (v - Math.floor(v)) * [info.width, info.height][c];
    });
  };
  return { data, info, at, corners: positions };
}

/** A raster of what the room shows. */
async function seen(page: Page) {
  await page.keyboard.down('v');
  await settled(page);
  const png = await page.getByTestId('room-canvas').screenshot();
  await page.keyboard.up('v');
  return sharp(png).removeAlpha().raw().toBuffer({ resolveWithObject: true });
}

test('what the room shows of wear is what goes out with the file, within 2 of 255', async ({ page, request }) => {
  const plain = await plainMaterial(request, '#7f8fa0');
  const wear = { layers: [{ ...dirt.first, sizeMm: 1200, strength: 0.8, softness: 0.7, share: 0.5 }], marks: [] };
  const { id, at, surfaces } = await projectOfBoxes(
    request,
    'Worn alike',
    [['Slab', [0, 0, 0], [2, 0.2, 2]]],
    (all) => ({
      [all.find(isTop)!.id]: { ...defaultSpec(plain.id), wear },
    }),
  );
  await useDraft(page);
  await page.goto(`/projects/${id}`);
  await settled(page);
  await pick(page, surfaces.find(isTop)!.id);
  await page.getByRole('button', { name: 'Views' }).click();
  await page.getByRole('button', { name: 'Picked face, straight on' }).click();
  await page.getByRole('button', { name: 'Show', exact: true }).click();
  await page.getByRole('button', { name: 'Base colour alone' }).click();
  await page.waitForTimeout(600);
  const view = await seen(page);
  const { width, height, channels } = view.info;

  const started = await request.post(`${at}/exports`, { data: { format: 'glb', options: { pictureSize: null } } });
  const job = ((await started.json()) as { id: string }).id;
  await (await request.get(`/api/jobs/${job}/events`)).text();
  const glb = await wearInGlb(await (await request.get(`/api/jobs/${job}/file`)).body());

  // the slab on the screen: what is not background about the middle of the middle row
  const pixel = (x: number, y: number) => [0, 1, 2].map((c) => view.data[(y * width + x) * channels + c]);
  const row = Math.floor(height / 2);
  const ground = pixel(20, row);
  const isSlab = (x: number) => pixel(x, row).some((v, c) => Math.abs(v - ground[c]) > 6);
  let [left, right] = [Math.floor(width / 2), Math.floor(width / 2)];
  while (isSlab(left - 1)) left--;
  while (isSlab(right)) right++;
  expect(right - left).toBeGreaterThan(150);
  const pxPerM = (right - left) / 2;
  const middle = (left + right) / 2;
  const base = [0x7f, 0x8f, 0xa0].map((v) => toLinear(v / 255));
  const [xs, zs] = [glb.corners.map((p) => p[0]), glb.corners.map((p) => p[2])];
  const centre = [(Math.min(...xs) + Math.max(...xs)) / 2, (Math.min(...zs) + Math.max(...zs)) / 2];
  let compared = 0;
  const tones = new Set<number>();
  for (let j = -6; j <= 6; j++) {
    for (let i = -6; i <= 6; i++) {
      const [x, y] = [Math.floor(middle + i * 0.07 * 2 * pxPerM * 0.5), Math.floor(row + j * 0.07 * pxPerM)];
      const [u, v] = glb.at(centre[0] + (x + 0.5 - middle) / pxPerM, centre[1] + (y + 0.5 - height / 2) / pxPerM);
      // between the four nearest pixels, as graphics cards read it
      const [px, py] = [Math.floor(u - 0.5), Math.floor(v - 0.5)];
      const shares = [u - 0.5 - px, v - 0.5 - py];
      const worn = [0, 0, 0, 0];
      for (let k = 0; k < 4; k++) {
        const [dx, dy] = [k & 1, k >> 1];
        const weight = (dx ? shares[0] : 1 - shares[0]) * (dy ? shares[1] : 1 - shares[1]);
        const n = ((py + dy) * glb.info.width + px + dx) * 4;
        for (let c = 0; c < 3; c++) worn[c] += toLinear(glb.data[n + c] / 255) * weight;
        worn[3] += (glb.data[n + 3] / 255) * weight;
      }
      const expected = base.map((b, c) => toSrgb(b * (1 - worn[3]) + worn[c] * worn[3]) * 255);
      pixel(x, y).forEach((shown, c) => expect(Math.abs(shown - expected[c])).toBeLessThanOrEqual(2.5));
      tones.add(pixel(x, y)[0]);
      compared++;
    }
  }
  expect(compared).toBe(169);
  // it is no plain colour that was compared
  expect(Math.max(...tones) - Math.min(...tones)).toBeGreaterThan(20);
});
