import type { Region } from '../lay/region';
import { materialsOfWear, type WearSpec } from '../wear/schema';
import { wearKindOf } from '../wear/registry';
import type { Project } from './schema';

/** Which pictures wear takes of a material. */
export interface PicturesAsked {
  /** Stored pictures, by hash. */
  colours: string | null;
  opacity: string | null;
  /** Where there is no picture, sRGB hex. */
  plain: string;
  widthMm: number;
  heightMm: number;
}

/** Everything that decides the wear over a region besides its sheet. */
export interface WearAsked {
  wear: WearSpec;
  northDeg: number;
  pictures: Record<string, PicturesAsked>;
  /** Meshes of all that stands round about, where some layer asks for them. */
  around: { model: string; mesh: number }[];
}

/** Longest side of pictures that wear is worked out from, px. */
export const WEAR_PICTURE_PX = 2048;

/** @returns null where a region is as new */
export function wearOf(project: Project, { wear }: Pick<Region, 'wear'>): WearAsked | null {
  if (!wear) return null;
  const pictures: WearAsked['pictures'] = {};
  for (const id of materialsOfWear(wear)) {
    const material = project.materials[id];
    if (!material) continue;
    const { maps, colour: plain, widthMm, heightMm } = material;
    pictures[id] = {
      colours: maps.baseColour?.image ?? null,
      opacity: maps.opacity?.image ?? null,
      plain,
      widthMm,
      heightMm,
    };
  }
  const asks = wear.layers.some((l) => l.on && wearKindOf(l).asksAround);
  const around = asks ? Object.values(project.parts).map(({ model, mesh }) => ({ model, mesh })) : [];
  return { wear, northDeg: project.northDeg, pictures, around };
}
