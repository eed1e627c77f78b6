import type { Vec2 } from '../../geometry/vec';
import type { Raster } from '../raster';
import { Canvas, Footprint } from './canvas';
import type { Box, Extended, Extending, Mark, Patch } from './extending';
import { mendJoins } from './mend';
import { planesOf } from './planes';
import { Search } from './search';

/** The share of a patch's side by which it lies over what is there. */
const OVERLAP = 1 / 3;
/** Labels are numbers of 16 bits, and half of them are for mending. */
export const MOST_PATCHES = 30_000;

/** How many patches a picture takes before any is mended. */
export const patchesFor = ({ width, height, side }: Extending): number =>
  Math.ceil(width / stepOf(side) + 1) * Math.ceil(height / stepOf(side) + 1);

const stepOf = (side: number): number => Math.max(1, Math.floor(side * (1 - OVERLAP)));

/**
 * Makes a picture larger of itself: squares of it are laid again, each from where it fits best over what lies there
 * already, and cut free along the line over which the two differ least (after A. Efros and W. Freeman, “Image
 * quilting”, 2001). What stands out in the sample comes no more often for its area than there.
 *
 * @param features what stands out, boxes of the sample in pixels
 * @throws Error when what is left out leaves no place for a patch
 */
export function planExtension(sample: Raster, o: Extending, features: readonly Box[]): Extended {
  const planes = planesOf(sample);
  const canvas = new Canvas(
    o.width,
    o.height,
    planes,
    features.map((f) => pixelsOf(f, sample.width)),
  );
  const [never, gone] = [
    marked(sample, o.marks),
    marked(
      sample,
      o.marks.filter((m) => m.shown === 'never'),
    ),
  ];
  for (let y = 0; y < sample.height; y++)
    for (let x = 0; x < sample.width; x++) {
      const at = canvas.at(o.at[0] + x, o.at[1] + y);
      if (at >= 0 && !gone[y * sample.width + x]) canvas.put(at, 0, y * sample.width + x);
    }
  const patches: Patch[] = [];
  const search = new Search(canvas, o, never, patches);
  if (!search.possible)
    throw new Error('what is marked leaves no place in the sample that a patch could be taken from');
  let laid = sample.width * sample.height;
  /** What has come so often that one more would be too many for what is laid. */
  const enough = (): Box[] => {
    const times = laid / (sample.width * sample.height);
    return features.filter((f, n) => canvas.features[n] / areaOf(f) > times - FEWER);
  };
  for (const to of targetsOf(o, sample)) {
    const place = new Footprint(canvas, to, o.side);
    if (place.filled === o.side * o.side) continue;
    laid += o.side * o.side - place.filled;
    const from = search.best(place, o.seed + patches.length, null, enough());
    patches.push({ to, from });
    place.lay(from, patches.length, null);
  }
  mendJoins(canvas, search, patches, o, enough);
  return { patches, labels: canvas.labels };
}

/** Something may come once more as long as it has come by so much less than its share. */
const FEWER = 0.5;

const areaOf = ({ from, to }: Box): number => (to[0] - from[0]) * (to[1] - from[1]);

function pixelsOf({ from, to }: Box, width: number): number[] {
  const out: number[] = [];
  for (let y = from[1]; y < to[1]; y++) for (let x = from[0]; x < to[0]; x++) out.push(y * width + x);
  return out;
}

/** The pixels of a sample within marks. */
function marked({ width, height }: Raster, marks: readonly Mark[]): Uint8Array {
  const out = new Uint8Array(width * height);
  for (const { centre, radius } of marks)
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const [u, v] = [(x + 0.5 - centre[0]) / radius[0], (y + 0.5 - centre[1]) / radius[1]];
        if (u * u + v * v <= 1) out[y * width + x] = 1;
      }
  return out;
}

/** Upper left corners of patches that cover the picture, those nearest to the sample first. */
function targetsOf(o: Extending, sample: Raster): Vec2[] {
  const step = stepOf(o.side);
  const along = (size: number, first: number): number[] => {
    const out: number[] = [];
    for (let p = first - step; p > -o.side; p -= step) out.push(p);
    for (let p = first; p < size; p += step) out.push(p);
    return out;
  };
  const xs = along(o.width, o.at[0]);
  const ys = along(o.height, o.at[1]);
  const middle = [o.at[0] + sample.width / 2, o.at[1] + sample.height / 2];
  const far = ([x, y]: Vec2) =>
    Math.max(
      Math.abs(x + o.side / 2 - middle[0]) - sample.width / 2,
      Math.abs(y + o.side / 2 - middle[1]) - sample.height / 2,
    );
  return ys.flatMap((y) => xs.map((x): Vec2 => [x, y])).sort((a, b) => far(a) - far(b) || a[1] - b[1] || a[0] - b[0]);
}
