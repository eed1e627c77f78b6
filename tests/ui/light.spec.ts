import type { APIRequestContext, Page } from '@playwright/test';
import sharp from 'sharp';
import { develop } from '../../src/core/colour/toneCurve';
import { toLinear, toSrgb } from '../../src/core/colour/srgb';
import type { Light } from '../../src/core/project/schema';
import { defaultSpec, type Spec } from '../../src/core/specification/schema';
import { drop, type Opened, projectOfBoxes, settled, upload } from '../fixtures';
import { expect, test } from '../test';

/** Grey that mirrors nothing, taken in as anyone would. */
async function greyCard(request: APIRequestContext, value: number): Promise<string> {
  const background = { r: value, g: value, b: value };
  const png = await sharp({ create: { width: 16, height: 16, channels: 3, background } })
    .png()
    .toBuffer();
  // a name the library knows would ask; so would one of a first try
  const name = `card-${value}-${Date.now()}.png`;
  const made = await drop(request, '/api/materials', [upload(name, png)], { widthMm: '500' });
  return ((await made.json()) as { materials: { id: string }[] }).materials[0].id;
}

const matt = (material: string): Spec => ({ ...defaultSpec(material), finish: { reflection: 0 } });

async function light(request: APIRequestContext, at: string, read: () => Promise<Opened>, values: Partial<Light>) {
  const { revision } = await read();
  const whole: Light = { bearingDeg: 180, altitudeDeg: 40, strength: 1, ...values };
  const data = { baseRevision: revision, commands: [{ kind: 'setProject', light: whole }] };
  expect((await request.post(`${at}/changes`, { data })).ok()).toBe(true);
}

/** The room alone, in true light, traced and without marks; its picture as numbers. */
async function picture(page: Page): Promise<(x: number, y: number) => [number, number, number]> {
  await settled(page);
  await expect(page.locator('[data-tracing]')).toHaveAttribute('data-tracing', 'false', { timeout: 90_000 });
  await settled(page);
  await page.keyboard.down('v');
  await settled(page);
  const png = await page.getByTestId('room-canvas').screenshot();
  await page.keyboard.up('v');
  const { data, info } = await sharp(png).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  return (x, y) => {
    const at = (Math.round(y * (info.height - 1)) * info.width + Math.round(x * (info.width - 1))) * 3;
    return [data[at], data[at + 1], data[at + 2]];
  };
}

async function view(page: Page, name: string) {
  await page.getByRole('button', { name: 'Views' }).click();
  await page.getByRole('button', { name }).click();
}

const isTop = (s: { normal: number[] }) => s.normal[1] > 0.9;

test('a grey card outside reads its value; through film, what the curve says; shadows reach the foot', async ({
  page,
  request,
}) => {
  const card = await greyCard(request, 128);
  const { id, at, read } = await projectOfBoxes(
    request,
    'Grey card',
    [
      ['Card', [0, 0, 0], [4, 0.05, 4]],
      ['Post', [1.8, 0.05, 1.0], [2.2, 1.05, 1.1]],
    ],
    // the post stays bare
    (all) => ({ [all.find(isTop)!.id]: matt(card) }),
  );
  // the sun above: a card that lies level faces it
  await light(request, at, read, { altitudeDeg: 90, metering: 'fixed', curve: 'neutral', occlusionMm: 0 });
  await page.goto(`/projects/${id}`);
  await settled(page);
  await page.keyboard.press('1');
  await view(page, 'Plan from above');
  const neutral = await picture(page);
  for (const v of neutral(0.5, 0.62)) expect(Math.abs(v - 128)).toBeLessThanOrEqual(2);

  await light(request, at, read, { altitudeDeg: 90, metering: 'fixed', curve: 'film', occlusionMm: 0 });
  await page.reload();
  await view(page, 'Plan from above');
  const film = await picture(page);
  const v = toLinear(128 / 255);
  const stated = toSrgb(develop([v, v, v], 'film')[0]) * 255;
  for (const seen of film(0.5, 0.62)) expect(Math.abs(seen - stated)).toBeLessThanOrEqual(2);

  // the sun in the south: the post's shadow falls north, and begins where the post stands
  await light(request, at, read, { altitudeDeg: 45, metering: 'fixed', curve: 'neutral', occlusionMm: 0 });
  await page.reload();
  await view(page, 'Plan from above');
  const shaded = await picture(page);
  const lit = shaded(0.5, 0.8)[1];
  // seen from above, the shadow goes up to the post's own top, which is brighter than the card; between the two lies no
  // strip of lit card
  let y = 0.12;
  while (y < 0.5 && shaded(0.5, y)[1] < lit * 0.75) y += 0.001;
  expect(y).toBeGreaterThan(0.2);
  expect(y).toBeLessThan(0.4);
  expect(shaded(0.5, y + 0.008)[1]).toBeGreaterThan(lit * 1.1);
});

test('in a white room a corner is darker than the middle of a wall, and less light comes in than lies outside', async ({
  page,
  request,
}) => {
  const card = await greyCard(request, 230);
  const { id, at, read } = await projectOfBoxes(
    request,
    'White room',
    [
      ['Floor', [0, -0.2, 0], [5, 0, 4]],
      ['Ceiling', [-0.2, 2.6, -0.2], [5.2, 2.8, 4.2]],
      ['North', [-0.2, -0.2, -0.2], [5.2, 2.6, 0]],
      ['West', [-0.2, -0.2, 0], [0, 2.6, 4]],
      ['East', [5, -0.2, 0], [5.2, 2.6, 4]],
      ['South left', [0, -0.2, 4], [1.6, 2.6, 4.2]],
      ['South right', [3.4, -0.2, 4], [5, 2.6, 4.2]],
    ],
    (all) => Object.fromEntries(all.map((s) => [s.id, matt(card)])),
  );
  await light(request, at, read, { strength: 0, metering: 'automatic', curve: 'neutral' });
  await request.post(`${at}/changes`, {
    data: {
      baseRevision: (await read()).revision,
      commands: [
        { kind: 'saveView', view: { id: 'view-in', name: 'Within', eye: [2500, 1400, 3600], target: [2500, 1300, 0] } },
      ],
    },
  });
  await page.goto(`/projects/${id}`);
  await settled(page);
  await page.keyboard.press('1');
  const within = await picture(page);
  // the far wall: its middle, and where it meets the side wall and the ceiling
  const middle = within(0.5, 0.5)[1];
  const corner = Math.min(...[0.2, 0.22, 0.24, 0.26, 0.28, 0.3].map((x) => within(x, 0.28)[1]));
  expect(middle).toBeGreaterThan(60);
  expect(corner).toBeLessThan(middle - 6);

  // by the card outside, the room is several stops darker
  await light(request, at, read, { strength: 0, metering: 'fixed', curve: 'neutral' });
  await page.reload();
  const dark = await picture(page);
  expect(toLinear(dark(0.5, 0.5)[1] / 255)).toBeLessThan(toLinear(230 / 255) * 0.4);

  // occlusion alone: white where nothing is near
  await page.getByRole('button', { name: 'Show' }).click();
  await page.getByRole('button', { name: 'Occlusion alone' }).click();
  const near = await picture(page);
  expect(near(0.5, 0.5)[1]).toBeGreaterThan(240);
  expect(Math.min(...[0.2, 0.22, 0.24, 0.26, 0.28, 0.3].map((x) => near(x, 0.5)[1]))).toBeLessThan(235);
});

test('an hour is picked, lamps go on one key, and each is a step of the history', async ({ page, request }) => {
  const { id, read } = await projectOfBoxes(request, 'Hours', [['Block', [0, 0, 0], [1, 1, 1]]], () => ({}));
  const lightNow = async () => ((await read()) as unknown as { project: { light: Light } }).project.light;
  await page.goto(`/projects/${id}`);
  await settled(page);
  await page.getByTitle('Sun, sky and exposure').click();
  await page.getByRole('button', { name: 'Evening' }).click();
  await expect.poll(async () => (await lightNow()).altitudeDeg).toBe(5);
  await page.getByRole('combobox', { name: /^Outside/ }).selectOption('water');
  await expect.poll(async () => (await lightNow()).outside).toBe('water');
  await page.keyboard.press('Escape');
  await page.keyboard.press('g');
  await expect.poll(async () => (await lightNow()).lampsOff).toBe(true);
  await page.getByRole('button', { name: 'History' }).click();
  await expect(page.getByText('Move the sun')).toBeVisible();
  await expect(page.getByText('Change the light').first()).toBeVisible();
});

/** A panorama of high range: blue above, red below, one very bright place in the south at 40°. */
function skyFile(): Buffer {
  const [width, height] = [128, 64];
  const head = Buffer.from(`#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y ${height} +X ${width}\n`);
  const bytes = Buffer.alloc(width * height * 4);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      // columns run from −x by −z; south is three quarters along
      const sun = Math.hypot(x - 96, y - 18) < 1.5;
      bytes.set(sun ? [200, 200, 200, 142] : y < 32 ? [20, 40, 200, 128] : [200, 20, 20, 128], (y * width + x) * 4);
    }
  return Buffer.concat([head, bytes]);
}

test('a sky of one’s own is brought in, seen and taken down; what is none is refused in a sentence', async ({
  page,
  request,
}) => {
  const card = await greyCard(request, 128);
  const { id, at, read } = await projectOfBoxes(request, 'Own sky', [['Card', [0, 0, 0], [4, 0.05, 4]]], (all) => ({
    [all.find(isTop)!.id]: matt(card),
  }));
  await light(request, at, read, { metering: 'fixed', curve: 'neutral', strength: 0, outside: 'ground' });
  const lightNow = async () => ((await read()) as unknown as { project: { light: Light } }).project.light;
  await page.goto(`/projects/${id}`);
  await settled(page);
  await page.keyboard.press('1');
  await view(page, 'South elevation');
  const before = await picture(page);
  await page.getByTitle('Sun, sky and exposure').click();
  const bring = page.getByLabel('Bring in a sky of your own');
  await bring.setInputFiles({ name: 'no-sky.hdr', mimeType: 'application/octet-stream', buffer: Buffer.from('none') });
  await expect(page.getByText('no-sky.hdr is no HDR panorama that can be read')).toBeVisible();
  await bring.setInputFiles({ name: 'harbour-noon.hdr', mimeType: 'application/octet-stream', buffer: skyFile() });
  await expect.poll(async () => (await lightNow()).sky?.name).toBe('harbour-noon');
  await expect(page.getByText('harbour-noon')).toBeVisible();
  await page.keyboard.press('Escape');
  const after = await picture(page);
  const [r0, , b0] = before(0.5, 0.05);
  const [r1, , b1] = after(0.5, 0.05);
  expect(b1 - r1).toBeGreaterThan(b0 - r0 + 40);

  await page.reload();
  await settled(page);
  await view(page, 'South elevation');
  const again = await picture(page);
  expect(again(0.5, 0.03)[2] - again(0.5, 0.03)[0]).toBeGreaterThan(40);
  await page.getByTitle('Sun, sky and exposure').click();
  await page.getByRole('button', { name: 'Take it down' }).click();
  await expect.poll(async () => (await lightNow()).sky).toBeUndefined();
});
