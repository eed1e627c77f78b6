import type { CutPiece } from '../core/lay/cutPieces';
import { toLayout } from '../core/setout/layoutFrame';
import { showOnWhole } from '../core/variation/appearance';
import type { OpenPieces } from '../core/lay/openPieces';
import { stillMaps } from '../core/variation/schema';
import { linearOfHex, toSrgb } from '../core/colour/srgb';

/** The window of the sheet that is drawn: its middle in mm, pixels per mm, and its size in pixels. */
export interface PiecesView {
  x: number;
  y: number;
  scale: number;
  width: number;
  height: number;
}

/** Below this size on screen a piece is a plain colour, px. */
const PLAIN_BELOW = 5;
const HATCH_FROM = 7;

/**
 * Draws the pieces of a surface, flat and true to scale: each with its own print and tone, the cut ones hatched, pinned
 * ones marked. What lies between them is left clear.
 * @param pictures one for each material, or null where it is a plain colour
 */
export function drawPieces(
  open: OpenPieces,
  pieces: CutPiece[],
  view: PiecesView,
  pictures: (ImageBitmap | null)[],
  colours: { ink: string; thread: string },
): ImageBitmap {
  const canvas = new OffscreenCanvas(Math.max(1, view.width), Math.max(1, view.height));
  const ctx = canvas.getContext('2d')!;
  const k = view.scale;
  const sx = (x: number) => (x - view.x) * k + view.width / 2;
  const sy = (y: number) => view.height / 2 - (y - view.y) * k;
  const patterns = pictures.map((p) => (p ? ctx.createPattern(p, 'repeat') : null));
  const plain = open.materials.map((m) => linearOfHex(m.material.colour));
  ctx.imageSmoothingQuality = 'medium';
  const still = stillMaps(open.variation).includes('baseColour');
  const hatched = new Path2D();
  let anyHatched = false;
  for (const piece of pieces) {
    const path = new Path2D();
    let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
    for (const loop of piece.outline) {
      loop.forEach(([x, y], i) => {
        const px = sx(x);
        const py = sy(y);
        if (px < minX) minX = px;
        if (px > maxX) maxX = px;
        if (py < minY) minY = py;
        if (py > maxY) maxY = py;
        if (i) path.lineTo(px, py);
        else path.moveTo(px, py);
      });
      path.closePath();
    }
    if (maxX < 0 || maxY < 0 || minX > view.width || minY > view.height) continue;
    const { look } = piece;
    const material = open.materials[piece.material];
    const pattern = patterns[piece.material];
    const size = Math.min(piece.length, piece.width) * k;
    const gain = [0, 1, 2].map((c) => look.gain[c] * material.tones.most);
    if (!pattern || size < PLAIN_BELOW) {
      const rgb = plain[piece.material].map((v, c) => Math.round(255 * toSrgb(Math.min(1, v * gain[c]))));
      ctx.fillStyle = `rgb(${rgb.join()})`;
      ctx.fill(path, 'evenodd');
    } else {
      const matrix = pictureMatrix(still ? wholeOf(piece, open) : piece, pictures[piece.material]!, view);
      if (matrix) pattern.setTransform(matrix);
      ctx.fillStyle = pattern;
      ctx.fill(path, 'evenodd');
      // gains are linear; multiplying encoded values by their root does about the same
      const shade = gain.map((g) => Math.round(255 * Math.min(1, g) ** (1 / 2.2)));
      if (shade.some((v) => v < 254)) {
        ctx.globalCompositeOperation = 'multiply';
        ctx.fillStyle = `rgb(${shade.join()})`;
        ctx.fill(path, 'evenodd');
        ctx.globalCompositeOperation = 'source-over';
      }
    }
    if (!piece.whole && size >= HATCH_FROM) {
      hatched.addPath(path);
      anyHatched = true;
    }
  }
  const pinned = new Set(open.variation.pins.map((p) => `${p.course},${p.index}`));
  if (anyHatched) {
    ctx.save();
    ctx.clip(hatched, 'evenodd');
    ctx.strokeStyle = colours.ink;
    ctx.globalAlpha = 0.4;
    ctx.lineWidth = 1;
    ctx.beginPath();
    for (let d = -view.height; d < view.width; d += 7) {
      ctx.moveTo(d, view.height);
      ctx.lineTo(d + view.height, 0);
    }
    ctx.stroke();
    ctx.restore();
  }
  if (pinned.size) {
    ctx.fillStyle = colours.thread;
    ctx.strokeStyle = '#fffdf8';
    for (const piece of pieces) {
      if (!pinned.has(`${piece.course},${piece.index}`)) continue;
      ctx.beginPath();
      ctx.arc(sx(piece.middle[0]), sy(piece.middle[1]), 4, 0, 2 * Math.PI);
      ctx.fill();
      ctx.stroke();
    }
  }
  return canvas.transferToImageBitmap();
}

/** The first pieces of a surface side by side, each as large as its place allows. */
export function drawSamples(
  open: OpenPieces,
  pieces: CutPiece[],
  size: { width: number; height: number; columns: number; rows: number },
  pictures: (ImageBitmap | null)[],
): ImageBitmap {
  const canvas = new OffscreenCanvas(size.width, size.height);
  const ctx = canvas.getContext('2d')!;
  const [w, h] = [Math.floor(size.width / size.columns), Math.floor(size.height / size.rows)];
  // whole ones where there are some, spread over the surface
  const whole = pieces.filter((p) => p.whole);
  const from = whole.length >= size.columns * size.rows ? whole : pieces;
  const step = Math.max(1, Math.floor(from.length / (size.columns * size.rows)));
  for (let i = 0; i < size.columns * size.rows; i++) {
    const piece = from[i * step];
    if (!piece) break;
    // laid lengthwise, whichever way it lies on the surface
    const lying: CutPiece = { ...piece, axis: [1, 0], across: [0, 1], whole: true, outline: [box(piece)] };
    const scale = Math.min((w - 4) / piece.length, (h - 4) / piece.width);
    const [x, y] = piece.middle;
    const drawn = drawPieces(open, [lying], { x, y, scale, width: w, height: h }, pictures, {
      ink: '#000',
      thread: '#000',
    });
    ctx.drawImage(drawn, (i % size.columns) * w, Math.floor(i / size.columns) * h);
    drawn.close();
  }
  return canvas.transferToImageBitmap();
}

/** The piece as it would look with the picture lying on the whole surface. */
function wholeOf(piece: CutPiece, open: OpenPieces): CutPiece {
  const at = toLayout(open.frame, ...piece.middle);
  const [ax, ay] = toLayout(open.frame, piece.middle[0] + piece.axis[0], piece.middle[1] + piece.axis[1]);
  const { widthMm, heightMm } = open.materials[piece.material];
  return { ...piece, look: showOnWhole({ widthMm, heightMm }, at, [ax - at[0], ay - at[1]], { ...piece.look }) };
}

function box({ middle: [x, y], length, width }: CutPiece): [number, number][] {
  const [a, b] = [length / 2, width / 2];
  return [
    [x - a, y - b],
    [x + a, y - b],
    [x + a, y + b],
    [x - a, y + b],
  ];
}

/** From picture pixels to screen pixels for one piece: the inverse of its coordinates. */
function pictureMatrix(piece: CutPiece, image: ImageBitmap, view: PiecesView): DOMMatrix | null {
  const { look, middle, axis, across } = piece;
  // repeats for each mm right and up on the sheet
  const ux = look.uAlong * axis[0] + look.uAcross * across[0];
  const uy = look.uAlong * axis[1] + look.uAcross * across[1];
  const vx = look.vAlong * axis[0] + look.vAcross * across[0];
  const vy = look.vAlong * axis[1] + look.vAcross * across[1];
  const det = ux * vy - uy * vx;
  if (!(Math.abs(det) > 1e-18)) return null;
  // sheet mm for each repeat, then for each pixel; a picture's rows run downwards
  const right = [vy / det / image.width, -vx / det / image.width];
  const down = [uy / det / image.height, -ux / det / image.height];
  // pixel (0, 0) is the picture's upper left corner: u 0, v 1
  const du = -look.u;
  const dv = 1 - look.v;
  const x = middle[0] + (vy * du - uy * dv) / det;
  const y = middle[1] + (ux * dv - vx * du) / det;
  const k = view.scale;
  return new DOMMatrix([
    right[0] * k,
    -right[1] * k,
    down[0] * k,
    -down[1] * k,
    (x - view.x) * k + view.width / 2,
    view.height / 2 - (y - view.y) * k,
  ]);
}
