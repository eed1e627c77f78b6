import type { Vec2 } from '../../geometry/vec';
import { hash, unit } from '../../noise/hash';
import { meanColour } from '../colour';
import { blankRaster, type Raster, WHITE } from '../raster';
import { findHomography, project, straighten } from '../straighten';
import type { Arranged, LaidBoard } from './arrange';

/** A board as it lies in a picture. */
export interface BoardCut {
  of: Raster;
  /** Clockwise from its upper left, pixels of the picture. */
  corners: readonly Vec2[];
}

/** How boards are coloured, each a little otherwise. */
export interface Tinting {
  /** 0..1 each, encoded. */
  colour: readonly number[];
  /** How far each board's mean goes over into that colour, 0..1. */
  tint: number;
  /** By how much each is lighter or darker at most, 0..1. */
  vary: number;
  seed: number;
}

const UNIT: Vec2[] = [
  [0, 0],
  [1, 0],
  [1, 1],
  [0, 1],
];

/** Corners of what is seen of a board in its place, clockwise from the place's upper left. */
export function cornersSeen({ corners }: BoardCut, { turns, flipped, seen }: LaidBoard): Vec2[] {
  // the corner that comes to lie at the upper left after so many quarters clockwise
  const turned = corners.map((_, k) => corners[(k + 4 - turns) % 4]);
  const around = flipped ? [1, 0, 3, 2].map((k) => turned[k]) : turned;
  const h = findHomography(UNIT, around);
  if (!h) return around;
  const [left, top] = seen.map((share) => (1 - share) / 2);
  return UNIT.map(([x, y]) => project(h, left + x * seen[0], top + y * seen[1]));
}

/**
 * The picture of all boards, each straightened into its place over a ground of one colour.
 * @param pxPerMm pixels for each millimetre of the result
 * @param joint what lies between them, 0..1 each, encoded
 */
export function paintBoards(
  { widthMm, heightMm, laid }: Arranged,
  cuts: readonly BoardCut[],
  pxPerMm: number,
  joint: readonly number[],
  tinting: Tinting,
): Raster {
  // what is seen through stays so; joints are solid
  const channels = cuts.some(({ of }) => of.channels > 3) ? 4 : 3;
  const out = blankRaster(Math.round(widthMm * pxPerMm), Math.round(heightMm * pxPerMm), channels);
  for (let i = 0; i < out.data.length; i++) out.data[i] = (joint[i % channels] ?? 1) * WHITE + 0.5;
  laid.forEach((one, n) => {
    const [x, y] = [one.x, one.y].map((mm) => Math.round(mm * pxPerMm));
    const right = Math.min(out.width, Math.round((one.x + one.width) * pxPerMm));
    const bottom = Math.min(out.height, Math.round((one.y + one.height) * pxPerMm));
    const [width, height] = [right - x, bottom - y];
    if (width < 1 || height < 1) return;
    const cut = cuts[one.board];
    const h = findHomography(
      UNIT.map(([u, v]): Vec2 => [u * width, v * height]),
      cornersSeen(cut, one),
    );
    if (!h) return;
    const board = straighten(cut.of, h, width, height);
    const gain = gainsOf(board, n, tinting);
    for (let j = 0; j < height; j++) {
      let to = ((y + j) * out.width + x) * channels;
      let from = j * width * board.channels;
      for (let i = 0; i < width; i++, to += channels, from += board.channels) {
        for (let c = 0; c < 3; c++) out.data[to + c] = Math.min(WHITE, board.data[from + c] * gain[c] + 0.5);
        if (board.channels > 3) out.data[to + 3] = board.data[from + 3];
      }
    }
  });
  return out;
}

/** What each channel of the `n`th board is multiplied by: its figure stays, its mean goes where it should. */
function gainsOf(board: Raster, n: number, { colour, tint, vary, seed }: Tinting): number[] {
  const lighter = 1 + vary * (2 * unit(hash(n, seed, 0, 0)) - 1);
  const mean = tint ? meanColour(board) : [1, 1, 1];
  return mean.map((own, c) => lighter * (1 + tint * (colour[c] / Math.max(own, 0.02) - 1)));
}
