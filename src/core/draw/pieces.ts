import { linearOfHex, toSrgb } from '../colour/srgb';
import type { Loop } from '../geometry/loop';
import type { Arrangement } from '../lay/arrange';
import type { Laid } from '../lay/lay';
import type { Piece } from '../lay/pieces';
import { toLayout } from '../setout/layoutFrame';
import { showOnWhole } from '../variation/appearance';
import { stillMaps } from '../variation/schema';

/** The window of a sheet that is drawn: its middle in mm, pixels per mm, and its size in pixels. */
export interface SheetWindow {
  x: number;
  y: number;
  scale: number;
  width: number;
  height: number;
}

/** A picture's size in pixels; null where there is none. */
export type PictureSize = { width: number; height: number } | null;

/** One piece to be painted, in pixels of the window. */
export interface DrawnPiece {
  outline: Loop[];
  /** Index into the materials, and the colour that stands for the picture where it is too small to be seen. */
  material: number;
  /** sRGB, 0 … 255. */
  plain: readonly [number, number, number];
  /** From picture pixels to window pixels, a b c d e f; null to paint it plain. */
  picture: readonly [number, number, number, number, number, number] | null;
  /** What the picture is multiplied by, sRGB 0 … 255; null where it stays as it is. */
  shade: readonly [number, number, number] | null;
  /** Cut to fit, and large enough to be hatched. */
  hatched: boolean;
}

/** Everything to be painted, in order. */
export interface DrawnPieces {
  pieces: DrawnPiece[];
  /** Middles of pinned pieces, px. */
  pins: [number, number][];
}

/** Below this size on screen a piece is a plain colour, px. */
const PLAIN_BELOW = 5;
const HATCH_FROM = 7;

/**
 * The pieces of a region in a window, flat and true to scale: each with its own print and tone, the cut ones hatched,
 * pinned ones marked. What lies between them is left clear.
 * @param pictures one for each material
 * @param tints what the finish makes of each material's colour: factors on linear light
 */
export function drawPieces(
  { arrangement, pieces }: Pick<Laid, 'arrangement' | 'pieces'>,
  view: SheetWindow,
  pictures: PictureSize[],
  tints: readonly Tint[] = [],
): DrawnPieces {
  if (!arrangement) return { pieces: [], pins: [] };
  const drawn = pieces.flatMap((piece) => drawPiece(arrangement, piece, view, pictures, tints[piece.material]) ?? []);
  const pinned = new Set(arrangement.variation.pins.map((p) => `${p.course},${p.index}`));
  const pins = pinned.size ? pieces.filter((p) => pinned.has(`${p.course},${p.index}`)) : [];
  return { pieces: drawn, pins: pins.map((p) => toWindow(view, p.middle)) };
}

const toWindow = (view: SheetWindow, [x, y]: readonly [number, number]): [number, number] => [
  (x - view.x) * view.scale + view.width / 2,
  view.height / 2 - (y - view.y) * view.scale,
];

/** Factors on the linear light of a colour. */
export type Tint = readonly [number, number, number];
const UNTINTED: Tint = [1, 1, 1];

/** @returns null where it lies outside the window */
function drawPiece(
  open: Arrangement,
  piece: Piece,
  view: SheetWindow,
  pictures: PictureSize[],
  tint: Tint = UNTINTED,
): DrawnPiece | null {
  const outline = piece.outline.map((loop) => loop.map((p) => toWindow(view, p)));
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const loop of outline) {
    for (const [x, y] of loop) {
      minX = Math.min(minX, x);
      maxX = Math.max(maxX, x);
      minY = Math.min(minY, y);
      maxY = Math.max(maxY, y);
    }
  }
  if (maxX < 0 || maxY < 0 || minX > view.width || minY > view.height) return null;
  const { material, tones } = open.materials[piece.material];
  const gain = [...piece.appearance.gain].map((g, c) => g * tones.most * tint[c]);
  const size = Math.min(piece.length, piece.width) * view.scale;
  const image = pictures[piece.material];
  const still = stillMaps(open.variation).includes('baseColour');
  const mean = linearOfHex(material.colour);
  // gains are linear; multiplying encoded values by their root does about the same
  const shade = gain.map((g) => Math.round(255 * Math.min(1, g) ** (1 / 2.2))) as [number, number, number];
  return {
    outline,
    material: piece.material,
    plain: mean.map((v, c) => Math.round(255 * toSrgb(Math.min(1, v * gain[c])))) as [number, number, number],
    picture: image && size >= PLAIN_BELOW ? pictureMatrix(still ? asOneWhole(piece, open) : piece, image, view) : null,
    shade: shade.some((v) => v < 254) ? shade : null,
    hatched: !piece.whole && size >= HATCH_FROM,
  };
}

/** How samples are laid out: pixels, and how many in each direction. */
export interface SampleSize {
  width: number;
  height: number;
  columns: number;
  rows: number;
}

/** Some pieces of a region, each lying lengthwise and as large as its place allows; in the order of their places. */
export function drawSamples(laid: Laid, size: SampleSize, pictures: PictureSize[]): DrawnPieces[] {
  const { arrangement, pieces } = laid;
  if (!arrangement) return [];
  const [width, height] = [Math.floor(size.width / size.columns), Math.floor(size.height / size.rows)];
  const count = size.columns * size.rows;
  // whole ones where there are some, spread over the surface
  const whole = pieces.filter((p) => p.whole);
  const from = whole.length >= count ? whole : pieces;
  const step = Math.max(1, Math.floor(from.length / count));
  return Array.from({ length: count }, (_, i) => from[i * step])
    .filter((piece) => piece)
    .map((piece) => {
      const lying: Piece = { ...piece, axis: [1, 0], across: [0, 1], whole: true, outline: [boxOf(piece)] };
      const scale = Math.min((width - 4) / piece.length, (height - 4) / piece.width);
      const [x, y] = piece.middle;
      const drawn = drawPiece(arrangement, lying, { x, y, scale, width, height }, pictures);
      return { pieces: drawn ? [drawn] : [], pins: [] };
    });
}

/** The piece as it would look with the picture lying on the whole surface. */
function asOneWhole(piece: Piece, open: Arrangement): Piece {
  const [x, y] = toLayout(open.frame, piece.middle[0], piece.middle[1]);
  const end = toLayout(open.frame, piece.middle[0] + piece.axis[0], piece.middle[1] + piece.axis[1]);
  const axis = [end[0] - x, end[1] - y] as const;
  const size = open.materials[piece.material];
  return { ...piece, appearance: showOnWhole(size, [x, y], axis, { ...piece.appearance }) };
}

function boxOf({ middle: [x, y], length, width }: Piece): Loop {
  const [a, b] = [length / 2, width / 2];
  return [
    [x - a, y - b],
    [x + a, y - b],
    [x + a, y + b],
    [x - a, y + b],
  ];
}

/** From picture pixels to window pixels for one piece: the inverse of its coordinates. */
function pictureMatrix(piece: Piece, image: NonNullable<PictureSize>, view: SheetWindow): DrawnPiece['picture'] {
  const { appearance: shown, middle, axis, across } = piece;
  // repeats for each mm right and up on the sheet
  const ux = shown.uAlong * axis[0] + shown.uAcross * across[0];
  const uy = shown.uAlong * axis[1] + shown.uAcross * across[1];
  const vx = shown.vAlong * axis[0] + shown.vAcross * across[0];
  const vy = shown.vAlong * axis[1] + shown.vAcross * across[1];
  const det = ux * vy - uy * vx;
  if (!(Math.abs(det) > 1e-18)) return null;
  // sheet mm for each repeat, then for each pixel; a picture's rows run downwards
  const right = [vy / det / image.width, -vx / det / image.width];
  const down = [uy / det / image.height, -ux / det / image.height];
  // pixel (0, 0) is the picture's upper left corner: u 0, v 1
  const du = -shown.u;
  const dv = 1 - shown.v;
  const at = toWindow(view, [middle[0] + (vy * du - uy * dv) / det, middle[1] + (ux * dv - vx * du) / det]);
  const k = view.scale;
  return [right[0] * k, -right[1] * k, down[0] * k, -down[1] * k, at[0], at[1]];
}
