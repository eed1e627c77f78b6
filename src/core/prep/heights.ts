import type { Vec2 } from '../geometry/vec';
import { deriveHeight, plainHeight, reachOfHeight } from '../picture/derive';
import { noisePlane } from '../picture/patches';
import { cutOut, lightnessOf, type Plane, type Raster } from '../picture/raster';
import type { Rows } from '../picture/derive';
import type { Derived } from './schema';
import { type Noise, noiseInPixels } from './noise';

/** Pixels worked on at a time: planes of fractions take eight times what the finished maps do. */
export const AT_A_TIME = 1 << 24;

/** How heights are read, in pixels. */
export const heightsInPixels = (h: NonNullable<Derived['height']>, mm: number) => ({
  ...h,
  clean: h.cleanMm / mm,
  soften: h.softenMm / mm,
});

/** What a map is read from: patches of noise where it names some, else the picture's lightness; 0..1, some rows. */
export function readFrom(r: Raster, patches: Noise | null | undefined, mmPerPx: Vec2 | null, rows: Rows): Plane {
  if (!patches) return lightnessOf(r);
  return noisePlane(r.width, r.height, noiseInPixels(patches, mmPerPx, r.width), rows);
}

/**
 * Heights 0..1 of a picture as its height map has them; its lightness where none is made. A large one is worked on in
 * bands of rows, each with as many rows around it as count for it.
 */
export function heightsOf(r: Raster, mmPerPx: Vec2 | null, h: Derived['height'], atATime = AT_A_TIME): Plane {
  const o = h ? heightsInPixels(h, mmPerPx ? (mmPerPx[0] + mmPerPx[1]) / 2 : 1) : plainHeight;
  if (r.height <= atATime / r.width) {
    return deriveHeight(readFrom(r, h?.patches, mmPerPx, { top: 0, of: r.height }), o);
  }
  const margin = reachOfHeight(o, r.width);
  const band = Math.max(16, Math.floor(atATime / r.width) - 2 * margin);
  const out: Plane = { width: r.width, height: r.height, data: new Float32Array(r.width * r.height) };
  for (let y = 0; y < r.height; y += band) {
    const count = Math.min(band, r.height - y);
    const part = cutOut(r, 0, y - margin, r.width, count + 2 * margin);
    const rows: Rows = { top: y - margin, of: r.height };
    const { data } = deriveHeight(readFrom(part, h?.patches, mmPerPx, rows), o, rows);
    out.data.set(data.subarray(margin * r.width, (margin + count) * r.width), y * r.width);
  }
  return out;
}
