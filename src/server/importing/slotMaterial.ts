import sharp from 'sharp';
import type { Material, Role } from '@/core/material/schema';
import { toLinear, toSrgb } from '@/core/colour/srgb';
import type { RawPicture, Remark } from '@/core/mesh/types';
import { runTask } from '../jobs/pool';
import { blankMaterial } from '../library/materials';
import { newId } from '../store/data';
import { storeImage } from '../store/images';
import { hex } from './modelTasks';

/** A number of a file as a share: what lies outside is drawn in. */
const share = (value: number | undefined, usual: number): number =>
  value !== undefined && Number.isFinite(value) ? Math.min(1, Math.max(0, value)) : usual;

export type SlotPictures = {
  name: string;
  pictures: Record<string, string>;
  colour: readonly number[];
  twoSided: boolean;
  factor?: [number, number, number];
  roughness?: number;
  metallic?: number;
  reflection?: number;
  coat?: number;
  coatRoughness?: number;
  repeatMm: [number, number] | null;
};

/** What became of a slot: no material where it has no picture that can be read, and those that cannot. */
export interface FromSlot {
  material: Material | null;
  unread: Remark[];
}

/**
 * A slot that has pictures becomes a material of the library. Its size is measured from the file's own coordinates.
 * @param source the model's name
 */
export async function materialFromSlot(
  slot: SlotPictures,
  pictures: Map<string, RawPicture>,
  source: string,
  signal?: AbortSignal,
): Promise<FromSlot> {
  const unread: Remark[] = [];
  const maps: Material['maps'] = {};
  for (const [role, path] of Object.entries(slot.pictures)) {
    const picture = pictures.get(path);
    if (!picture) continue;
    try {
      for (const [own, bytes] of await unpackRole(role, picture.bytes, slot.factor)) {
        const stored = await storeImage(bytes, path);
        maps[own] = { image: stored.hash, widthPx: stored.width, heightPx: stored.height, file: path };
      }
    } catch (error) {
      unread.push({ kind: 'left out', text: (error as Error).message });
    }
  }
  if (!Object.keys(maps).length) return { material: null, unread };
  const base = maps.baseColour ?? Object.values(maps)[0];
  const [widthMm, heightMm] = slot.repeatMm ?? [1000, Math.round((1000 * base.heightPx) / base.widthPx)];
  const measured = maps.baseColour
    ? await runTask('measuring', { hash: maps.baseColour.image }, { signal })
    : { colour: hex(slot.colour), repetition: null };
  const blank = blankMaterial(slot.name, widthMm, heightMm);
  const material: Material = {
    id: newId('material'),
    version: 1,
    ...blank,
    ...measured,
    maps,
    kind: 'brought in',
    tags: [source.slice(0, 40)],
    twoSided: slot.twoSided,
    source: `${source}, slot ${slot.name}`,
    ...(slot.repeatMm ? {} : { sizeAssumed: true }),
    finish: {
      ...blank.finish,
      roughness: share(slot.roughness, 0.85),
      metallic: share(slot.metallic, 0),
      reflection: share(slot.reflection, 1),
      coat: share(slot.coat, 0),
      coatRoughness: share(slot.coatRoughness, 0.1),
    },
  };
  return { material, unread };
}

/** glTF packs occlusion, roughness and metallic into one picture; here each is a map of its own. */
async function unpackRole(
  role: string,
  bytes: Uint8Array,
  factor: [number, number, number] | undefined,
): Promise<[Role, Uint8Array][]> {
  const channel = async (n: 0 | 1 | 2) => sharp(bytes).toColourspace('srgb').extractChannel(n).png().toBuffer();
  if (role === 'packedRoughnessMetallic')
    return [
      ['roughness', await channel(1)],
      ['metallic', await channel(2)],
    ];
  if (role === 'packedOcclusion') return [['occlusion', await channel(0)]];
  if (role === 'baseColour' && factor) return [[role, await tinted(bytes, factor)]];
  return [[role as Role, bytes]];
}

/** A picture with the colour that its file lays over it, by factors on linear light. */
async function tinted(bytes: Uint8Array, factor: readonly number[]): Promise<Uint8Array> {
  const { data, info } = await sharp(bytes).toColourspace('srgb').raw().toBuffer({ resolveWithObject: true });
  const { width, height, channels } = info;
  const tables = factor.map((f) =>
    Uint8Array.from({ length: 256 }, (_, v) => Math.round(255 * toSrgb(Math.min(1, toLinear(v / 255) * f)))),
  );
  const colours = channels >= 3 ? 3 : 1;
  for (let i = 0; i < data.length; i++) if (i % channels < colours) data[i] = tables[i % channels][data[i]];
  return sharp(data, { raw: { width, height, channels } }).png().toBuffer();
}
