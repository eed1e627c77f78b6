import { blur } from './blur';
import { lightnessOf, type Raster, shrinkFor } from './raster';

/** From here on soft and sharp patches are seen side by side when the picture is repeated, in doublings. */
export const UNEVENLY_SHARP = 1.2;

const SIDE = 512;
/** Fields the picture is looked at in, along its longer side. */
const FIELDS = 10;

/**
 * By how much sharpness varies over a picture, in doublings: fine detail against what is four times as coarse, field by
 * field, from the tenth softest to the tenth sharpest of those in which there is something to be seen. Detail itself
 * may come and go; where it is soft, the fine part goes before the coarse one.
 */
export function sharpnessSpread(r: Raster): number {
  const by = shrinkFor(r, SIDE);
  const plane = lightnessOf(r, by);
  const { width, height } = plane;
  const smooth = (sigma: number) => blur({ ...plane, data: plane.data.slice() }, sigma, false).data;
  const [own, near, far] = [plane.data, smooth(1), smooth(4)];
  const size = Math.max(8, Math.round(Math.max(width, height) / FIELDS));
  const fields: { fine: number; coarse: number }[] = [];
  for (let y = 0; y + size <= height; y += size) {
    for (let x = 0; x + size <= width; x += size) {
      let [fine, coarse] = [0, 0];
      for (let j = y; j < y + size; j++) {
        for (let i = j * width + x; i < j * width + x + size; i++) {
          fine += (own[i] - near[i]) ** 2;
          coarse += (near[i] - far[i]) ** 2;
        }
      }
      fields.push({ fine, coarse });
    }
  }
  const most = fields.map((f) => f.coarse).sort((a, b) => a - b)[Math.floor(fields.length * 0.9)] ?? 0;
  const ratios = fields
    .filter((f) => f.coarse > most / 100)
    .map((f) => Math.log2((f.fine + 1e-9) / (f.coarse + 1e-9)) / 2)
    .sort((a, b) => a - b);
  if (ratios.length < 8) return 0;
  return ratios[Math.floor(ratios.length * 0.9)] - ratios[Math.floor(ratios.length * 0.1)];
}
