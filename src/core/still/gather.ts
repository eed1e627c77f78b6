import { hash, unit } from '../noise/hash';
import { lightAlong, type Lights, type LitScene } from '../light/trace';
import { raysOf, type StillFrame, type StillView } from './view';

/** Light gathered for a region of a picture. */
export interface Gathered {
  frame: StillFrame;
  /** Of each pixel so many rays have come, in this order. */
  samples: number;
  /** Sums of linear light, three a pixel, row by row. */
  sums: Float32Array;
  /** How many of them met something, for metering. */
  met: Uint16Array;
  /** Sums over what was met first: how much it sends back (3), where it faces (3), how far it is, m. */
  guides: Float32Array;
}

export const emptyLight = (frame: StillFrame): Gathered => ({
  frame,
  samples: 0,
  sums: new Float32Array(frame.region.width * frame.region.height * 3),
  met: new Uint16Array(frame.region.width * frame.region.height),
  guides: new Float32Array(frame.region.width * frame.region.height * 7),
});

/** What is traced. */
export interface LitStage {
  /** Every piece, for what is seen. */
  seen: LitScene;
  /** The same faces in plain colours, for the ways light goes on from there. */
  around: LitScene;
  lights: Lights;
}

/** Brighter than this no single path is, times white outside: one that strays into a lamp would stay as a dot. */
const MOST_LIGHT = 24;

/**
 * One more ray for each pixel of one row of a region. Which ray it is depends on the pixel's place in the whole picture
 * and on how many came before it: a region is the same part of the whole, and what is stopped goes on alike.
 * @param view in metres @param row within the region
 */
export function gatherRow(
  { seen, around, lights }: LitStage,
  view: StillView,
  bounces: number,
  light: Gathered,
  row: number,
): void {
  const { frame, samples, sums, met, guides } = light;
  const { x: left, y: top, width } = frame.region;
  const rayAt = raysOf(view, frame);
  const y = top + row;
  for (let column = 0; column < width; column++) {
    const x = left + column;
    const seed = hash(x, y, samples, 29);
    const [dx, dy] = [unit(hash(seed, 0, 7, 0)), unit(hash(seed, 1, 7, 0))];
    const { light: got, first } = lightAlong(around, lights, view.eye, rayAt(x + dx, y + dy), bounces, seed, seen);
    const at = row * width + column;
    for (let c = 0; c < 3; c++) sums[at * 3 + c] += Math.min(MOST_LIGHT, got[c]);
    if (first) met[at]++;
    for (let c = 0; c < 3; c++) {
      // what mirrors and what is sky looks as light does
      guides[at * 7 + c] += first && !first.mirrors ? first.albedo[c] : 1;
      guides[at * 7 + 3 + c] += first?.normal[c] ?? 0;
    }
    guides[at * 7 + 6] += first?.distance ?? 0;
  }
}
