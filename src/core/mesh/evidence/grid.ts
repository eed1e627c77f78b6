import { type RawModel, type RawPart, reachOf } from '../types';
import type { Body } from './form';

/** Steps that people draw in, millimetres, with how often a model is drawn so. */
export const DRAWN: readonly (readonly [step: number, share: number])[] = [
  [1000, 0.015],
  [500, 0.03],
  [250, 0.03],
  [200, 0.02],
  [100, 0.11],
  [50, 0.12],
  [25, 0.05],
  [20, 0.04],
  [10, 0.15],
  [5, 0.13],
  [2.5, 0.02],
  [2, 0.02],
  [1, 0.12],
  [0.5, 0.03],
  [304.8, 0.01],
  [152.4, 0.01],
  [76.2, 0.01],
  [25.4, 0.03],
  [12.7, 0.015],
  [6.35, 0.01],
];

/** Share of a step nobody draws in. */
const ODD = 0.004;
const MOST_LENGTHS = 600;
/** Faces looked at, in all and of one part. */
const LOOKED_AT = 100_000;
const OF_A_PART = 8000;

/**
 * The largest step of which nearly all distances between a model's corners, along the axes, are multiples: what it was
 * drawn in. Scans and shapes made free by hand have none.
 * @param unitsMm millimetres that one unit of the file may be
 * @returns in file units; null where there is none
 */
export function drawnIn(
  raw: RawModel,
  bodies: readonly Body[],
  unitsMm: readonly number[],
): { step: number; weight: number } | null {
  const { found, most } = lengthsOf(raw);
  // round things have few planes: their widths and heights were drawn too
  if (found.length < 8 && bodies.length <= 60)
    found.push(...bodies.flatMap((b) => b.size.filter((s) => s > most * 1e-4)));
  const lengths = distinct(found, most * 1e-5);
  if (lengths.length < 5) return null;
  // what float32 and a file's six digits leave of a length
  const blur = most * 4e-6;
  const steps = unitsMm.flatMap((unit) => DRAWN.map(([step]) => step / unit));
  for (const step of [...new Set(steps)].sort((a, b) => b - a)) {
    // a step that is hardly more than the blur fits everything
    if (step < blur * 8) break;
    const near = Math.min(step * 0.06, Math.max(blur, step * 0.004));
    let fits = 0;
    let whole = 0;
    for (const length of lengths) {
      if (length < step * 0.5) continue;
      whole++;
      if (Math.abs(length - Math.round(length / step) * step) <= near) fits++;
    }
    if (whole >= Math.max(5, lengths.length * 0.9) && fits >= whole * 0.88)
      return { step, weight: weightOf(most / step) * Math.min(1, lengths.length / 10) };
  }
  return null;
}

/** Each once, those a hair apart as well. */
function distinct(values: number[], hair: number): number[] {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted.filter((v, i) => i === 0 || v - sorted[i - 1] > hair);
}

/** Fine steps are what writing it out left, and no one's drawing. */
const weightOf = (steps: number): number => Math.max(0, Math.min(1, 4.6 - Math.log10(steps)));

/** How likely it is that a model is drawn in this step, mm: its logarithm. */
export function logDrawn(step: number): number {
  const known = DRAWN.find(([s]) => Math.abs(step / s - 1) < 1e-3);
  return Math.log(known ? known[1] : ODD);
}

/** What `logDrawn` gives for a step nobody draws in. */
export const ODD_STEP = Math.log(ODD);

/** Distances between the planes in which a part's faces lie across the axes; each length once. */
function lengthsOf(raw: RawModel): { found: number[]; most: number } {
  const found = new Set<number>();
  let most = 0;
  for (const part of raw.parts) most = Math.max(most, reachOf(part), ...part.origin.map((o) => Math.abs(o) * 1e-3));
  const quantum = Math.max(most * 2e-6, 1e-12);
  let left = LOOKED_AT;
  for (const part of raw.parts) {
    if (found.size >= MOST_LENGTHS || left < 0) break;
    left -= Math.min(OF_A_PART, part.indices.length / 3);
    for (const planes of planesOf(part, quantum)) {
      const sorted = [...planes].sort((a, b) => a - b);
      for (let i = 1; i < sorted.length && found.size < MOST_LENGTHS; i++) {
        for (const length of [sorted[i] - sorted[i - 1], sorted[i] - sorted[0]]) if (length > 4) found.add(length);
      }
    }
  }
  return { found: [...found].map((n) => n * quantum), most };
}

/** For each axis the places, in quanta, of planes across it that hold faces. */
function planesOf({ positions: p, indices }: RawPart, quantum: number): Set<number>[] {
  const planes = [new Set<number>(), new Set<number>(), new Set<number>()];
  const stride = Math.max(1, Math.floor(indices.length / 3 / OF_A_PART)) * 3;
  for (let i = 0; i < indices.length; i += stride) {
    const [a, b, d] = [indices[i] * 3, indices[i + 1] * 3, indices[i + 2] * 3];
    for (let c = 0; c < 3; c++) {
      const at = p[a + c];
      if (planes[c].size < 400 && Math.abs(p[b + c] - at) < quantum && Math.abs(p[d + c] - at) < quantum)
        planes[c].add(Math.round(at / quantum));
    }
  }
  return planes;
}
