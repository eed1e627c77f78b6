import sharp from 'sharp';
import { measureWrap, shows } from '@/core/picture/judge';
import { blankRaster } from '@/core/picture/raster';
import { measureRepetition } from '@/core/picture/repetition';
import { BROKEN, measureBroken } from '@/core/picture/strangeness';
import { readBlob } from '../store/data';
import { MOST_PIXELS } from '../store/images';

/** Longer side at which seams are looked for, px. */
const SEAM_SIDE = 1024;

/** Whether a picture closes on itself both ways, so that nobody finds where it begins. */
async function isSeamless(bytes: Buffer): Promise<boolean> {
  const { data, info } = await sharp(bytes, { limitInputPixels: MOST_PIXELS })
    .resize(SEAM_SIDE, SEAM_SIDE, { fit: 'inside', withoutEnlargement: true })
    .removeAlpha()
    .toColourspace('srgb')
    .raw()
    .toBuffer({ resolveWithObject: true });
  const { width, height } = info;
  const channels = 3;
  const grey = info.channels === 1;
  const raster = blankRaster(width, height, channels);
  for (let i = 0; i < raster.data.length; i++) raster.data[i] = data[grey ? Math.floor(i / channels) : i] * 257;
  const { across, down } = measureWrap(raster);
  // what is found by its step alone need not be looked at for lines that end
  if (shows(across) || shows(down)) return false;
  return measureBroken(raster, { upright: null, level: null }, { across: true, down: true }).edge <= BROKEN;
}

/** What is measured of a base colour picture: its mean colour, repetition figure and seams. */
export interface Measured {
  colour: string;
  repetition: number;
  seamless: boolean;
}

/** Seconds of work: for worker threads. */
export async function measureBaseColour(hash: string): Promise<Measured> {
  const side = 256;
  const bytes = await readBlob(hash);
  const raw = await sharp(bytes, { limitInputPixels: MOST_PIXELS })
    .resize(side, side, { fit: 'fill' })
    .removeAlpha()
    .toColourspace('srgb')
    .raw()
    .toBuffer();
  const lightness = new Float32Array(side * side);
  const sum = [0, 0, 0];
  for (let i = 0; i < side * side; i++) {
    for (let c = 0; c < 3; c++) sum[c] += raw[i * 3 + c];
    lightness[i] = (0.3 * raw[i * 3] + 0.59 * raw[i * 3 + 1] + 0.11 * raw[i * 3 + 2]) / 255;
  }
  const colour = `#${sum
    .map((s) =>
      Math.round(s / (side * side))
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`;
  const repetition = Math.round(measureRepetition(lightness, side, side) * 1000) / 1000;
  return { colour, repetition, seamless: await isSeamless(bytes) };
}
