import type { APIRequestContext } from '@playwright/test';
import sharp from 'sharp';
import type { Material } from '../../src/core/material/schema';
import type { Prep } from '../../src/core/prep/schema';
import { drop, upload } from '../fixtures';
import { expect, test } from '../test';

/** A picture of so many pixels, each as `of` says. */
const picture = (width: number, height: number, of: (x: number, y: number) => readonly number[]) =>
  sharp(
    Uint8Array.from(Array.from({ length: width * height }, (_, i) => of(i % width, Math.floor(i / width))).flat()),
    {
      raw: { width, height, channels: 3 },
    },
  )
    .png()
    .toBuffer();
const grained = (x: number, y: number) => {
  const v = 90 + ((x * 37 + y * 101 + ((x * y) % 13)) % 60);
  return [v, v, v];
};

async function pictureOf(request: APIRequestContext, material: Material, role: keyof Material['maps']) {
  const bytes = await (await request.get(`/api/images/${material.maps[role]!.image}`)).body();
  const { data, info } = await sharp(bytes)
    .toColourspace('srgb')
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return (x: number, y: number) => {
    const at = (Math.floor(y * info.height) * info.width + Math.floor(x * info.width)) * info.channels;
    return [...data.subarray(at, at + 3)];
  };
}

test('a set of maps goes through a quarter turn with its picture, normals and all', async ({ request }) => {
  const files = [
    upload('harbour_colour.png', await picture(300, 200, grained)),
    // every slope leans to the right
    upload('harbour_normal.png', await picture(300, 200, () => [204, 128, 230])),
    // of half the size: glossy at the left, dull at the right
    upload('harbour_roughness.png', await picture(150, 100, (x) => (x < 75 ? [50, 50, 50] : [200, 200, 200]))),
    upload('lone_normal.png', await picture(64, 64, () => [128, 128, 255])),
  ];
  const preps = (await (await drop(request, '/api/preps', files)).json()) as Prep[];
  expect(preps.map(({ name, given }) => [name, Object.keys(given.maps).sort()])).toEqual([
    ['Harbour', ['normal', 'roughness']],
    ['Lone normal', []],
  ]);
  const [{ id }] = preps;
  // the picture's right side comes to lie above
  const corners = [
    [1, 0],
    [1, 1],
    [0, 1],
    [0, 0],
  ];
  const turned = { id: 's1', kind: 'corners', on: true, mask: null, corners, widthMm: 400, heightMm: 600 };
  const changed = await request.post(`/api/preps/${id}/changes`, {
    data: { baseRevision: 0, commands: [{ kind: 'setSteps', steps: [turned] }] },
  });
  expect(await changed.text()).toContain('"revision":1');
  const job = (await (await request.post(`/api/preps/${id}/material`)).json()) as { id: string };
  let made: { state: string; message: string; result?: { material: string } } | null = null;
  await expect
    .poll(
      async () => {
        made = (await (await request.get(`/api/jobs/${job.id}`)).json()) as NonNullable<typeof made>;
        return made.state;
      },
      { timeout: 60_000 },
    )
    .toBe('done');
  const material = (await (await request.get(`/api/materials/${made!.result!.material}`)).json()) as Material;
  expect(Object.keys(material.maps).sort()).toEqual(['baseColour', 'normal', 'roughness']);
  const normal = await pictureOf(request, material, 'normal');
  const [x, y, z] = normal(0.4, 0.6);
  for (const [got, wanted] of [
    [x, 128],
    [y, 204],
    [z, 230],
  ])
    expect(Math.abs(got - wanted)).toBeLessThan(3);
  const roughness = await pictureOf(request, material, 'roughness');
  expect(Math.abs(roughness(0.5, 0.1)[0] - 200)).toBeLessThan(3);
  expect(Math.abs(roughness(0.5, 0.9)[0] - 50)).toBeLessThan(3);
});

test('a map of another shape, and two of one role, are refused with both names', async ({ request }) => {
  const base = upload('harbour_colour.png', await picture(96, 64, grained));
  const square = await drop(request, '/api/preps', [
    base,
    upload('harbour_height.png', await picture(64, 64, grained)),
  ]);
  expect(square.status()).toBe(400);
  expect(((await square.json()) as { detail: string }).detail).toBe(
    'harbour_height.png: its shape differs from the picture’s by 33%, so it is no map of it: a map lies on its ' +
      'picture point by point (harbour_colour.png).',
  );
  const twice = await drop(request, '/api/preps', [
    base,
    upload('harbour_normal.png', await picture(96, 64, () => [128, 128, 255])),
    upload('harbour_nrm.png', await picture(96, 64, () => [128, 128, 255])),
  ]);
  expect(((await twice.json()) as { detail: string }).detail).toBe(
    'harbour_nrm.png and harbour_normal.png are both the normal map of harbour_colour.png: bring one.',
  );
  const [prep] = (await (await drop(request, '/api/preps', [base])).json()) as Prep[];
  const odd = await request.post(`/api/preps/${prep.id}/changes`, {
    data: {
      baseRevision: 0,
      commands: [
        {
          kind: 'setGiven',
          given: { maps: { height: { ...prep.picture, widthPx: 64, heightPx: 64 } }, reliefMm: 2 },
        },
      ],
    },
  });
  expect(await odd.text()).toContain('no map of it');
});
