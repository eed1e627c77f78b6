import { measureWrap, type SeamFigure, shows, worstOf } from '../picture/judge';
import { sharpnessSpread, UNEVENLY_SHARP } from '../picture/sharpness';
import { BROKEN, type BrokenFigure, measureBroken } from '../picture/strangeness';
import { type Copies, measureCopies } from '../picture/copies';
import { lightnessOf, type Raster } from '../picture/raster';
import type { Stage } from './steps/step';

/** What is measured on a finished picture, and what it comes to. */
export interface Verdict {
  wrap: { across: SeamFigure; down: SeamFigure };
  /** It was composed, and one colour of joint runs all round it: it closes within that, whatever lies beside. */
  framed: boolean;
  broken: BrokenFigure;
  /** By how much sharpness varies over it, in doublings. */
  sharpness: number;
  /** Nobody finds where it closes. */
  seamless: boolean;
  /** Why it is not, each as a clause; empty where it is. */
  faults: string[];
}

const inHundred = (share: number) => `${Math.round(share * 100)} of 100`;

/** Judges a picture that is done: measured, never taken from what was asked for. */
export function judgeStage(stage: Stage): Verdict {
  const wrap = measureWrap(stage.raster);
  const broken = measureBroken(stage.raster, stage.seams, { across: true, down: true });
  const sharpness = sharpnessSpread(stage.raster);
  const framed = stage.leaves !== null && isFramed(stage.raster);
  const faults: string[] = [];
  const edge = worstOf([wrap.across, wrap.down]);
  if (!framed && shows(edge)) faults.push(`its edge shows more than ${inHundred(edge.percentile)} of its own lines`);
  if (!framed && broken.edge > BROKEN)
    faults.push(`lines end at its edge: ${inHundred(broken.edge)} places there are like nothing within it`);
  if (stage.seam && shows(stage.seam))
    faults.push(`its seam shows more than ${inHundred(stage.seam.percentile)} of its own lines`);
  if (broken.seam > BROKEN)
    faults.push(`lines end along its seam: ${inHundred(broken.seam)} places there are like nothing within it`);
  if (stage.blended) faults.push(`it is ${stage.blended}, and was blended, which breaks its joints`);
  if (sharpness > UNEVENLY_SHARP)
    faults.push(`it is ${(2 ** sharpness).toFixed(1)} times as sharp in some places as in others`);
  return { wrap, framed, broken, sharpness, seamless: !faults.length, faults };
}

/** How far the outermost pixels may spread, of 1, to be of one colour. */
const ONE_COLOUR = 0.03;

/** Its outermost pixels are all of one colour. */
function isFramed(r: Raster): boolean {
  const light = lightnessOf(r);
  const { width, height, data } = light;
  const rim: number[] = [];
  for (let x = 0; x < width; x++) rim.push(data[x], data[(height - 1) * width + x]);
  for (let y = 0; y < height; y++) rim.push(data[y * width], data[y * width + width - 1]);
  const mean = rim.reduce((sum, v) => sum + v, 0) / rim.length;
  return Math.sqrt(rim.reduce((sum, v) => sum + (v - mean) ** 2, 0) / rim.length) < ONE_COLOUR;
}

/** What of a picture that was made larger comes again in it, beside what its sample had of that. */
export interface CopyFigure extends Copies {
  /** The two places of the sample that are most alike. */
  own: number;
  /** Half of a window, as a share of the picture's width. */
  radius: number;
}

/** Copies are seen from so many times the likeness on that the sample has within itself. */
export const COPIED = 1.3;

/** Compared in windows a quarter of the sample's shorter side wide; null for a picture that was not made larger. */
export function judgeCopies({ sample, raster, mmPerPx }: Stage): CopyFigure | null {
  if (!sample || !mmPerPx) return null;
  const own = Math.min(sample.raster.width, sample.raster.height) / 4;
  const window = (own * sample.mmPerPx[0]) / mmPerPx[0];
  return {
    ...measureCopies(raster, window),
    own: measureCopies(sample.raster, own).strongest,
    radius: window / 2 / raster.width,
  };
}
