import type { Vec2 } from '../../geometry/vec';
import { blankRaster, type Raster } from '../raster';
import type { Extended, Extending } from './extending';

/**
 * Paints a planned picture of a sample of any size; patches change over within a pixel of the plan.
 *
 * @param by pixels of the sample for each it was planned at, across and down
 * @param size of what is painted, pixels: that of the plan times `by`, a pixel of the plan more or less
 */
export function paintExtension(
  sample: Raster,
  { patches, labels }: Extended,
  o: Extending,
  by: Vec2,
  [width, height]: Vec2,
): Raster {
  const n = sample.channels;
  const out = blankRaster(width, height, n);
  // of each label, where in the sample the picture's first pixel would be
  const [left, above] = [0, 1].map((axis) =>
    Int32Array.from({ length: patches.length + 1 }, (_, label) => {
      const [to, from] = label ? [patches[label - 1].to[axis], patches[label - 1].from[axis]] : [o.at[axis], 0];
      return Math.round((from - to) * by[axis]);
    }),
  );
  const place = (label: number, x: number, y: number): number => {
    const u = Math.min(sample.width - 1, Math.max(0, left[label] + x));
    const v = Math.min(sample.height - 1, Math.max(0, above[label] + y));
    return (v * sample.width + u) * n;
  };
  const columns = changesAlong(width, o.width, by[0]);
  const rows = changesAlong(height, o.height, by[1]);
  for (let y = 0, k = 0; y < height; y++) {
    const [top, bottom] = [rows.first[y] * o.width, rows.second[y] * o.width];
    for (let x = 0; x < width; x++, k += n) {
      const [i, j] = [columns.first[x], columns.second[x]];
      const [a, b, c, d] = [labels[top + i], labels[top + j], labels[bottom + i], labels[bottom + j]];
      if (a === b && a === c && a === d) {
        const s = place(a, x, y);
        for (let q = 0; q < n; q++) out.data[k + q] = sample.data[s + q];
        continue;
      }
      const [fx, fy] = [columns.share[x], rows.share[y]];
      const [p, r, s, t] = [place(a, x, y), place(b, x, y), place(c, x, y), place(d, x, y)];
      for (let q = 0; q < n; q++) {
        const upper = sample.data[p + q] * (1 - fx) + sample.data[r + q] * fx;
        const lower = sample.data[s + q] * (1 - fx) + sample.data[t + q] * fx;
        out.data[k + q] = upper * (1 - fy) + lower * fy + 0.5;
      }
    }
  }
  return out;
}

/** For each pixel the two of the plan that it lies between, and how much of the second it shows. */
function changesAlong(size: number, planned: number, by: number) {
  const [first, second] = [new Int32Array(size), new Int32Array(size)];
  const share = new Float32Array(size);
  for (let i = 0; i < size; i++) {
    const at = (i + 0.5) / by - 0.5;
    const t = at - Math.floor(at);
    first[i] = Math.min(planned - 1, Math.max(0, Math.floor(at)));
    second[i] = Math.min(planned - 1, Math.max(0, Math.floor(at) + 1));
    share[i] = t * t * (3 - 2 * t);
  }
  return { first, second, share };
}
