import type { Side } from './modules';

/**
 * How much of a footprint is piece and not joint, 0 … 1: the formula of the views' shader, for whatever else must show
 * joints thinner than what it samples. It knows no kinds of shape, only distances to sides.
 *
 * Beyond each side lies its half of a joint, or all of it where no opposite side has the other half, and again at every
 * pitch from joint to joint: the footprint's stretch square to the side is box-filtered over that. What of the
 * footprint lies beyond the side's ends sees other joints, on the mean as many. Far away, where a footprint is larger
 * than the piece in all directions, it shows the share of the area.
 *
 * @param sides of the piece: all of a convex one, else the nearest
 * @param l from the piece's middle along its length, mm
 * @param w across it
 * @param footprint sides of what is sampled along and across, mm
 * @param share of the area that is piece
 * @param least shortest way from joint to joint that is taken for true, mm, of a piece of which the nearest side is
 *   given alone; 0 where all are
 */
export function pieceShare(
  sides: readonly Side[],
  l: number,
  w: number,
  footprint: readonly [number, number],
  share: number,
  least = 0,
): number {
  if (!footprint[0] && !footprint[1]) return sides.every(({ x, y, away }) => x * l + y * w <= away) ? 1 : 0;
  let joints = 0;
  // what looks at one side alone knows nothing of corners: it is measured as a whole, and sooner
  let far = least > 0 ? Math.sqrt(footprint[0] * footprint[1]) / least + SOONER : Infinity;
  for (const { x, y, away, joint, length, middle, width, pitch: between } of sides) {
    const f = Math.max(Math.hypot(x * footprint[0], y * footprint[1]), TINY);
    const g = Math.max(Math.hypot(y * footprint[0], x * footprint[1]), TINY);
    const pitch = Math.max(between, least);
    if (!(least > 0)) far = Math.min(far, f / pitch);
    const out = x * l + y * w - away;
    // of slanted sides each next joint lies as much farther along
    const along = Math.abs(x * w - y * l - middle * (1 + 2 * Math.round(out / pitch)));
    const own = clamp((Math.min(along + g / 2, length / 2) - Math.max(along - g / 2, -length / 2)) / g);
    const covered = (jointsUpTo(out + f / 2, width, pitch) - jointsUpTo(out - f / 2, width, pitch)) / f;
    joints += covered * own + (joint / pitch) * Math.min(own, 1 - own);
  }
  const t = clamp((far - 0.7) / 0.8);
  const open = clamp(1 - joints);
  return open + (share - open) * t * t * (3 - 2 * t);
}

/** Footprints as wide as so much less of a cell are far already where one side is looked at alone. */
const SOONER = 0.4;
/** No footprint is smaller, mm. */
const TINY = 1e-4;

/** How much joint lies between a side and `u` beyond it, with one of some width at every pitch. */
function jointsUpTo(u: number, width: number, pitch: number): number {
  const n = Math.floor(u / pitch);
  return n * width + Math.min(u - n * pitch, width);
}

const clamp = (v: number): number => Math.min(1, Math.max(0, v));
