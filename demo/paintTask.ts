import sharp from 'sharp';
import { paintRecipe } from './materials/canvas';
import { RECIPES } from './materials/index';

export interface PaintedFiles {
  /** Role → PNG. */
  files: Record<string, Uint8Array>;
  reliefMm: number;
  repetition: number;
  colour: string;
}

/** Paints the recipe of that id and packs its maps as PNG; runs on a worker thread. */
export default async function paint(id: string): Promise<PaintedFiles> {
  const recipe = RECIPES.find((r) => r.id === id);
  if (!recipe) throw new Error(`there is no recipe “${id}”`);
  const { maps, ...figures } = paintRecipe(recipe);
  const files: Record<string, Uint8Array> = {};
  for (const [role, { data, width, height, channels }] of Object.entries(maps)) {
    files[role] = await sharp(data, { raw: { width, height, channels } }).png({ compressionLevel: 5 }).toBuffer();
  }
  return { files, ...figures };
}
