import type { StartPiece } from '../core/draw/start';
import type { DrawnPiece, DrawnPieces, SampleSize, SheetWindow } from '../core/draw/pieces';

/** Paints what core has drawn; nothing is decided here. */

type Pictures = (ImageBitmap | null)[];
type Size = Pick<SheetWindow, 'width' | 'height'>;

const rgb = (c: readonly number[]) => `rgb(${c.join()})`;

/** @param ground what lies between pieces; clear where it is not said */
export function paint(
  { pieces, pins }: DrawnPieces,
  { width, height }: Size,
  pictures: Pictures,
  colours: { ink: string; thread: string },
  ground?: string,
): ImageBitmap {
  const canvas = new OffscreenCanvas(Math.max(1, width), Math.max(1, height));
  const ctx = canvas.getContext('2d')!;
  if (ground) {
    ctx.fillStyle = ground;
    ctx.fillRect(0, 0, width, height);
  }
  ctx.imageSmoothingQuality = 'medium';
  const patterns = pictures.map((p) => (p ? ctx.createPattern(p, 'repeat') : null));
  const hatched = new Path2D();
  for (const piece of pieces) {
    const path = pathOf(piece);
    const pattern = piece.picture && patterns[piece.material];
    if (pattern) {
      pattern.setTransform(new DOMMatrix([...piece.picture!]));
      ctx.fillStyle = pattern;
      ctx.fill(path, 'evenodd');
      if (piece.shade) {
        ctx.globalCompositeOperation = 'multiply';
        ctx.fillStyle = rgb(piece.shade);
        ctx.fill(path, 'evenodd');
        ctx.globalCompositeOperation = 'source-over';
      }
    } else {
      ctx.fillStyle = rgb(piece.plain);
      ctx.fill(path, 'evenodd');
    }
    if (piece.hatched) hatched.addPath(path);
  }
  if (pieces.some((p) => p.hatched)) hatch(ctx, hatched, width, height, colours.ink);
  ctx.fillStyle = colours.thread;
  ctx.strokeStyle = '#fffdf8';
  for (const [x, y] of pins) {
    ctx.beginPath();
    ctx.arc(x, y, 4, 0, 2 * Math.PI);
    ctx.fill();
    ctx.stroke();
  }
  return canvas.transferToImageBitmap();
}

function pathOf({ outline }: Pick<DrawnPiece, 'outline'>): Path2D {
  const path = new Path2D();
  for (const loop of outline) {
    loop.forEach(([x, y], i) => (i ? path.lineTo(x, y) : path.moveTo(x, y)));
    path.closePath();
  }
  return path;
}

function hatch(ctx: OffscreenCanvasRenderingContext2D, over: Path2D, width: number, height: number, ink: string): void {
  ctx.save();
  ctx.clip(over, 'evenodd');
  ctx.strokeStyle = ink;
  ctx.globalAlpha = 0.4;
  ctx.lineWidth = 1;
  ctx.beginPath();
  for (let d = -height; d < width; d += 7) {
    ctx.moveTo(d, height);
    ctx.lineTo(d + height, 0);
  }
  ctx.stroke();
  ctx.restore();
}

/** Samples side by side. */
export function paintSamples(samples: DrawnPieces[], size: SampleSize, pictures: Pictures): ImageBitmap {
  const canvas = new OffscreenCanvas(size.width, size.height);
  const ctx = canvas.getContext('2d')!;
  const [width, height] = [Math.floor(size.width / size.columns), Math.floor(size.height / size.rows)];
  samples.forEach((sample, i) => {
    const drawn = paint(sample, { width, height }, pictures, { ink: '#000', thread: '#000' });
    ctx.drawImage(drawn, (i % size.columns) * width, Math.floor(i / size.columns) * height);
    drawn.close();
  });
  return canvas.transferToImageBitmap();
}

const START_COLOURS = { whole: '#e4d9c4', cut: '#b98d5e', sliver: '#b3341f' };

/** A small drawing of a start: whole pieces light, cut ones darker, slivers red. */
export function paintStart(pieces: readonly StartPiece[], { width, height }: Size): ImageBitmap {
  const canvas = new OffscreenCanvas(width, height);
  const ctx = canvas.getContext('2d')!;
  for (const { outline, kind } of pieces) {
    const path = pathOf({ outline });
    ctx.fillStyle = START_COLOURS[kind];
    ctx.fill(path, 'evenodd');
  }
  return canvas.transferToImageBitmap();
}
