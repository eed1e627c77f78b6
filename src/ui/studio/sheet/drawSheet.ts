import type { Placement } from '@/core/setout/placement';
import { turnOf } from '@/core/geometry/turn';
import type { Vec2 } from '@/core/geometry/vec';
import { type Loop, loopArea } from '@/core/geometry/loop';
import type { SheetSummary } from '@/core/mapping/sheet';
import type { Tint } from '@/core/draw/pieces';
import { pictureFrame } from '@/core/setout/handles';
import { formatLength, type LengthUnit } from '@/core/units/length';
import { type SheetViewport, toScreen, toSheet } from './view';

export interface SheetColours {
  paper: string;
  cloth: string;
  line: string;
  ink: string;
  quiet: string;
  thread: string;
  bare: string;
}

export interface SheetPicture {
  image: CanvasImageSource & { width: number; height: number };
  placement: Placement;
  sharp: boolean;
  /** What the finish makes of its colour: factors on linear light. */
  tint: Tint | null;
}

/** Pieces drawn elsewhere for a view of the sheet; moved along with it until newer ones are there. */
export interface SheetPieces {
  bitmap: ImageBitmap;
  view: SheetViewport;
  /** Where the first piece lay when they were drawn, and where it is to lie now; null where that is the same. */
  dragged: { from: Placement; to: Placement } | null;
}

export interface SheetDrawing {
  sheet: SheetSummary;
  picture: SheetPicture | null;
  /** The picture is laid once: it is seen as a ghost where it lies beside the surface. */
  once: boolean;
  pieces: SheetPieces | null;
  /** Drawn under the picture, and alone while it is loading. */
  colour: string | null;
  unit: LengthUnit;
  colours: SheetColours;
  guides: [number | null, number | null];
  /** Filled while drawing. */
  taken?: Taken;
}

export const RULE = 20;

/** Draws the whole sheet: outline, what is laid on it, dimensions, rules. */
export function drawSheet(ctx: CanvasRenderingContext2D, view: SheetViewport, drawing: SheetDrawing): void {
  const d = { ...drawing, taken: [] as Taken };
  const { colours } = d;
  ctx.fillStyle = colours.cloth;
  ctx.fillRect(0, 0, view.width, view.height);
  const frame = d.once && d.picture ? outlinePath([pictureFrame(d.picture.placement)], view) : null;
  if (frame) {
    ctx.save();
    ctx.globalAlpha = 0.3;
    ctx.clip(frame);
    fillPicture(ctx, view, d.picture!);
    ctx.restore();
  }
  for (const chart of d.sheet.charts) {
    const path = outlinePath(chart.outline, view);
    ctx.fillStyle = d.colour ?? colours.bare;
    ctx.fill(path, 'evenodd');
    if (d.pieces || d.picture) {
      ctx.save();
      ctx.clip(path, 'evenodd');
      if (d.pieces) placePieces(ctx, view, d.pieces);
      else if (d.picture) {
        if (frame) ctx.clip(frame);
        fillPicture(ctx, view, d.picture);
      }
      ctx.restore();
    }
    ctx.strokeStyle = colours.ink;
    ctx.lineWidth = 1;
    ctx.stroke(path);
  }
  overallDimensions(ctx, view, d);
  for (const chart of d.sheet.charts) edgeLengths(ctx, view, chart.outline, d);
  guideLines(ctx, view, d);
  rules(ctx, view, d);
}

function outlinePath(loops: Loop[], view: SheetViewport): Path2D {
  const path = new Path2D();
  for (const loop of loops) {
    loop.forEach((p, i) => {
      const [x, y] = toScreen(view, p);
      if (i === 0) path.moveTo(x, y);
      else path.lineTo(x, y);
    });
    path.closePath();
  }
  return path;
}

/** The matrix from picture pixels to screen pixels. */
export function pictureToScreen(view: SheetViewport, { placement: p, image }: SheetPicture): DOMMatrix {
  const [c, s] = turnOf(p.turnDeg);
  const w = p.mirrorX ? -p.widthMm : p.widthMm;
  const h = p.mirrorY ? -p.heightMm : p.heightMm;
  // one pixel right and one pixel down, in sheet mm
  const right: Vec2 = [(c * w) / image.width, (s * w) / image.width];
  const down: Vec2 = [(s * h) / image.height, (-c * h) / image.height];
  const top = toScreen(view, [p.at[0] - s * h, p.at[1] + c * h]);
  const k = view.scale;
  return new DOMMatrix([right[0] * k, -right[1] * k, down[0] * k, -down[1] * k, top[0], top[1]]);
}

function fillPicture(ctx: CanvasRenderingContext2D, view: SheetViewport, picture: SheetPicture): void {
  const pattern = ctx.createPattern(picture.image, 'repeat');
  if (!pattern) return;
  pattern.setTransform(pictureToScreen(view, picture));
  ctx.imageSmoothingEnabled = !picture.sharp;
  ctx.imageSmoothingQuality = 'high';
  ctx.fillStyle = pattern;
  ctx.fillRect(0, 0, view.width, view.height);
  if (!picture.tint?.some((v) => v < 0.999)) return;
  // multiplying encoded values by a factor's root does about what the factor does to light
  ctx.globalCompositeOperation = 'multiply';
  ctx.fillStyle = `rgb(${picture.tint.map((v) => Math.round(255 * v ** (1 / 2.2))).join(' ')})`;
  ctx.fillRect(0, 0, view.width, view.height);
  ctx.globalCompositeOperation = 'source-over';
}

function placePieces(ctx: CanvasRenderingContext2D, view: SheetViewport, pieces: SheetPieces): void {
  const { bitmap, view: made, dragged } = pieces;
  const [x, y] = toScreen(view, toSheet(made, [0, 0]));
  const k = view.scale / made.scale;
  ctx.save();
  if (dragged) {
    // turned and sized about the start, which goes with the pointer
    const { from, to } = dragged;
    const [was, is] = [toScreen(view, from.at), toScreen(view, to.at)];
    ctx.translate(...is);
    ctx.rotate((-(to.turnDeg - from.turnDeg) * Math.PI) / 180);
    ctx.scale(to.widthMm / from.widthMm, to.heightMm / from.heightMm);
    ctx.translate(-was[0], -was[1]);
  }
  ctx.drawImage(bitmap, x, y, made.width * k, made.height * k);
  ctx.restore();
}

const MONO = '"Spline Sans Mono Variable", monospace';

/** Places taken by labels of one drawing: [left, top, right, bottom]. */
type Taken = [number, number, number, number][];

/** Writes a text unless it would cover another; the first to come stays. Says whether it was written. */
function label(
  ctx: CanvasRenderingContext2D,
  text: string,
  x: number,
  y: number,
  angle: number,
  d: SheetDrawing,
): boolean {
  ctx.font = `11px ${MONO}`;
  const width = ctx.measureText(text).width;
  const reach = [Math.abs(Math.cos(angle)) * width + 16, Math.abs(Math.sin(angle)) * width + 16].map((v) => v / 2);
  const place: Taken[number] = [x - reach[0], y - reach[1], x + reach[0], y + reach[1]];
  if (d.taken!.some((t) => place[0] < t[2] && place[2] > t[0] && place[1] < t[3] && place[3] > t[1])) return false;
  d.taken!.push(place);
  ctx.save();
  ctx.translate(x, y);
  ctx.rotate(angle);
  ctx.fillStyle = d.colours.cloth;
  ctx.globalAlpha = 0.88;
  ctx.fillRect(-width / 2 - 3, -7.5, width + 6, 15);
  ctx.globalAlpha = 1;
  ctx.fillStyle = d.colours.ink;
  ctx.textAlign = 'center';
  ctx.textBaseline = 'middle';
  ctx.fillText(text, 0, 0.5);
  ctx.restore();
  return true;
}

/**
 * Lengths of the straight edges that are long enough on screen, when there are few of them: beside the outline where
 * there is room, in an opening where it is wide enough, else on the sheet itself.
 */
function edgeLengths(ctx: CanvasRenderingContext2D, view: SheetViewport, loops: Loop[], d: SheetDrawing): void {
  const { minX, minY, maxX, maxY } = d.sheet.bounds;
  for (const loop of loops) {
    if (loop.length > 16) continue;
    const isOutline = loopArea(loop) > 0;
    const inward = isOutline ? 1 : -1;
    const opening = isOutline ? null : boundsOn(view, loop);
    for (let i = 0; i < loop.length; i++) {
      const [a, b] = [loop[i], loop[(i + 1) % loop.length]];
      const mm = Math.hypot(b[0] - a[0], b[1] - a[1]);
      if (mm * view.scale < 54) continue;
      // what the overall dimension says already is not said twice
      const spansX = Math.abs(mm - (maxX - minX)) < 0.05 && Math.abs(a[1] - b[1]) < 0.05;
      const spansY = Math.abs(mm - (maxY - minY)) < 0.05 && Math.abs(a[0] - b[0]) < 0.05;
      if (spansX || spansY) continue;
      const [p, q] = [toScreen(view, a), toScreen(view, b)];
      let angle = Math.atan2(q[1] - p[1], q[0] - p[0]);
      if (angle > Math.PI / 2 + 0.01 || angle <= -Math.PI / 2 + 0.01) angle += Math.PI;
      const n: Vec2 = [((q[1] - p[1]) / (mm * view.scale)) * inward, (-(q[0] - p[0]) / (mm * view.scale)) * inward];
      const text = formatLength(mm, d.unit, { decimals: 1 });
      const [mx, my] = [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2];
      const beside = (away: number) => label(ctx, text, mx + n[0] * away, my + n[1] * away, angle, d);
      if (opening && Math.min(...opening) < LEAST_OPENING) continue;
      if (!beside(-12) && isOutline) beside(12);
    }
  }
}

/** An opening must be so wide on the screen, px, for its sides to be labelled in it. */
const LEAST_OPENING = 60;

/** Width and height of a loop on the screen, px. */
function boundsOn(view: SheetViewport, loop: Loop): Vec2 {
  const side = (c: 0 | 1) => (Math.max(...loop.map((p) => p[c])) - Math.min(...loop.map((p) => p[c]))) * view.scale;
  return [side(0), side(1)];
}

function overallDimensions(ctx: CanvasRenderingContext2D, view: SheetViewport, d: SheetDrawing): void {
  const { minX, minY, maxX, maxY } = d.sheet.bounds;
  const [left, bottom] = toScreen(view, [minX, minY]);
  const [right, top] = toScreen(view, [maxX, maxY]);
  ctx.strokeStyle = d.colours.quiet;
  ctx.lineWidth = 1;
  const y = Math.min(bottom + 26, view.height - 12);
  const x = Math.min(right + 26, view.width - 14);
  const tick = (px: number, py: number) => {
    ctx.moveTo(px - 4, py + 4);
    ctx.lineTo(px + 4, py - 4);
  };
  ctx.beginPath();
  ctx.moveTo(left, y);
  ctx.lineTo(right, y);
  ctx.moveTo(left, bottom + 6);
  ctx.lineTo(left, y + 4);
  ctx.moveTo(right, bottom + 6);
  ctx.lineTo(right, y + 4);
  tick(left, y);
  tick(right, y);
  ctx.moveTo(x, top);
  ctx.lineTo(x, bottom);
  ctx.moveTo(right + 6, top);
  ctx.lineTo(x + 4, top);
  ctx.moveTo(right + 6, bottom);
  ctx.lineTo(x + 4, bottom);
  tick(x, top);
  tick(x, bottom);
  ctx.stroke();
  const within = (v: number, from: number, to: number) => Math.max(from, Math.min(to, v));
  label(
    ctx,
    formatLength(maxX - minX, d.unit, { decimals: 1 }),
    within((left + right) / 2, 60, view.width - 60),
    y,
    0,
    d,
  );
  label(
    ctx,
    formatLength(maxY - minY, d.unit, { decimals: 1 }),
    x,
    within((top + bottom) / 2, 60, view.height - 60),
    -Math.PI / 2,
    d,
  );
}

function guideLines(ctx: CanvasRenderingContext2D, view: SheetViewport, d: SheetDrawing): void {
  ctx.strokeStyle = d.colours.thread;
  ctx.setLineDash([5, 4]);
  ctx.beginPath();
  const [gx, gy] = d.guides;
  if (gx !== null) {
    const [x] = toScreen(view, [gx, 0]);
    ctx.moveTo(x, 0);
    ctx.lineTo(x, view.height);
  }
  if (gy !== null) {
    const [, y] = toScreen(view, [0, gy]);
    ctx.moveTo(0, y);
    ctx.lineTo(view.width, y);
  }
  ctx.stroke();
  ctx.setLineDash([]);
}

/** The distance between numbered marks: at least 64 px, a round number of the unit. */
export function ruleStep(scale: number, unit: LengthUnit): number {
  const feet = unit === 'ft-in' || unit === 'in';
  const steps = feet ? [25.4, 50.8, 76.2, 152.4, 304.8, 609.6, 1524, 3048, 6096, 15240, 30480] : null;
  const least = 64 / scale;
  if (steps) return steps.find((s) => s >= least) ?? 30480;
  const power = 10 ** Math.floor(Math.log10(least));
  return [1, 2, 5, 10].map((m) => m * power).find((s) => s >= least)!;
}

function rules(ctx: CanvasRenderingContext2D, view: SheetViewport, d: SheetDrawing): void {
  const { colours, unit } = d;
  ctx.fillStyle = colours.paper;
  ctx.fillRect(0, 0, view.width, RULE);
  ctx.fillRect(0, 0, RULE, view.height);
  ctx.strokeStyle = colours.line;
  ctx.lineWidth = 1;
  ctx.beginPath();
  ctx.moveTo(0, RULE - 0.5);
  ctx.lineTo(view.width, RULE - 0.5);
  ctx.moveTo(RULE - 0.5, 0);
  ctx.lineTo(RULE - 0.5, view.height);
  ctx.stroke();
  const step = ruleStep(view.scale, unit);
  const { minX, minY } = d.sheet.bounds;
  const [x0, y0] = toSheet(view, [RULE, view.height]);
  const [x1, y1] = toSheet(view, [view.width, RULE]);
  ctx.strokeStyle = colours.quiet;
  ctx.fillStyle = colours.quiet;
  ctx.font = `10px ${MONO}`;
  ctx.textBaseline = 'top';
  ctx.beginPath();
  const text = (mm: number) =>
    unit === 'ft-in'
      ? formatLength(mm, unit)
      : formatLength(mm, unit, { withUnit: false, decimals: unit === 'mm' ? 0 : 2 });
  // both rules count from the sheet's lower left corner
  for (let i = Math.ceil((x0 - minX) / (step / 5)); i * (step / 5) + minX <= x1; i++) {
    const [x] = toScreen(view, [minX + (i * step) / 5, 0]);
    const main = i % 5 === 0;
    ctx.moveTo(Math.round(x) + 0.5, main ? 4 : RULE - 5);
    ctx.lineTo(Math.round(x) + 0.5, RULE - 1);
    if (main) ctx.fillText(text((i * step) / 5), x + 3, 3);
  }
  for (let i = Math.ceil((y0 - minY) / (step / 5)); i * (step / 5) + minY <= y1; i++) {
    const [, y] = toScreen(view, [0, minY + (i * step) / 5]);
    const main = i % 5 === 0;
    ctx.moveTo(main ? 4 : RULE - 5, Math.round(y) + 0.5);
    ctx.lineTo(RULE - 1, Math.round(y) + 0.5);
    if (!main) continue;
    ctx.save();
    ctx.translate(3, y - 3);
    ctx.rotate(-Math.PI / 2);
    ctx.fillText(text((i * step) / 5), 0, 0);
    ctx.restore();
  }
  ctx.stroke();
  ctx.fillStyle = colours.paper;
  ctx.fillRect(0, 0, RULE - 1, RULE - 1);
  ctx.fillStyle = colours.quiet;
  ctx.textBaseline = 'middle';
  ctx.textAlign = 'center';
  ctx.font = `9px ${MONO}`;
  ctx.fillText(unit === 'ft-in' ? 'ft' : unit, RULE / 2, RULE / 2);
  ctx.textAlign = 'left';
}
