import sharp from 'sharp';
import type { Material, Role } from '@/core/material/schema';
import { finishOn } from '@/core/specification/finish';
import type { FinishSpec } from '@/core/specification/schema';
import { oak } from '@/core/testing/surfaces';
import { PictureMaker } from './PictureMaker';

/** Pictures of 4 × 2 pixels of one grey each, by hash. */
const greys: Record<string, number> = { rough: 201, metal: 101, open: 41 };
jest.mock('../store/data', () => ({
  readBlob: (hash: string) =>
    sharp({
      create: { width: 4, height: 2, channels: 3, background: { r: greys[hash], g: greys[hash], b: greys[hash] } },
    })
      .png()
      .toBuffer(),
}));

const withMaps = (roles: Partial<Record<Role, string>>, finish: Partial<Material['finish']> = {}): Material => {
  const made = oak();
  const ref = (image: string) => ({ image, widthPx: 4, heightPx: 2, file: `${image}.png` });
  const maps = Object.fromEntries(Object.entries(roles).map(([role, image]) => [role, ref(image)]));
  return { ...made, maps, finish: { ...made.finish, roughness: 0.6, roughnessShift: 0, metallic: 0.2, ...finish } };
};

async function packed(material: Material, spec: FinishSpec = {}): Promise<number[]> {
  const { packed: picture } = await new PictureMaker(null, false).make(material, finishOn(spec, material));
  return [...(await sharp(picture!.bytes).raw().toBuffer())].slice(0, 3);
}
const all = { roughness: 'rough', metallic: 'metal', occlusion: 'open' } as const;

test('maps go in as they are, occlusion, roughness and metallic in one picture', async () => {
  expect(await packed(withMaps(all))).toEqual([41, 201, 101]);
});

test('of each so much counts as is said, on the surface before the material', async () => {
  const half = { roughness: 0.5, metallic: 0.5, occlusion: 0.5 };
  // half of the map and half of 255, of 153 and of 51
  expect(await packed(withMaps(all, { mapShares: half }))).toEqual([148, 177, 76]);
  expect(await packed(withMaps(all, { mapShares: half }), { mapShares: { roughness: 0 } })).toEqual([148, 153, 76]);
});

test('what has no map is as plain as on the surface, not as the material has it', async () => {
  expect(await packed(withMaps({ metallic: 'metal' }), { roughness: 0.4 })).toEqual([255, 102, 101]);
});

test('pictures of their own are mixed alike', async () => {
  const material = withMaps(all, { mapShares: { roughness: 0.5 } });
  const made = await new PictureMaker(null, true).make(material, finishOn({}, material));
  const first = async (picture = made.roughness) => (await sharp(picture!.bytes).raw().toBuffer())[0];
  expect([await first(), await first(made.metallic)]).toEqual([177, 101]);
});
