import type { Vec2 } from '../geometry/vec';
import { colour } from '../picture/colour';
import { evenOut } from '../picture/even';
import { heal } from '../picture/heal';
import type { SeamFigure } from '../picture/judge';
import { findPeriod } from '../picture/period';
import { blankRaster, cutOut, type Raster } from '../picture/raster';
import { powerOfTwo, resize } from '../picture/resize';
import { makeSeamless } from '../picture/seamless';
import { findHomography, isQuadrangle, straighten, turnAndShear } from '../picture/straighten';
import { type Mask, type Step, STEP_LABELS } from './schema';

/** A picture on its way through the steps. */
export interface Stage {
  raster: Raster;
  /** Millimetres for each pixel, across and down; null while nothing says how large it is. */
  mmPerPx: Vec2 | null;
  /** It closes on itself, across and down. */
  closes: { across: boolean; down: boolean };
  /** Of its seam, where one was made. */
  seam: SeamFigure | null;
}

/** A step that could not be done, in words for people. */
export class StepError extends Error {
  constructor(
    readonly step: string,
    message: string,
  ) {
    super(message);
  }
}

/** What a step says: what people should know, without its having failed. */
export interface StepRemark {
  step: string;
  text: string;
}

/** Pixels a picture may have; more would need more memory than there is. */
export const MOST_PIXELS = 8192 * 8192;

/**
 * Does one step.
 * @param scale pixels of this picture for each pixel of the original: below 1 while a smaller one stands for it
 * @throws StepError naming the step and what was wrong
 */
export function runStep(stage: Stage, step: Step, remark: (text: string) => void, scale = 1): Stage {
  const { raster: r, mmPerPx } = stage;
  const fail = (why: string): never => {
    throw new StepError(step.id, `${STEP_LABELS[step.kind]}: ${why}`);
  };
  switch (step.kind) {
    case 'size':
      return { ...stage, mmPerPx: sizeOf(r, step.by, fail, remark, scale) };
    case 'corners': {
      if (!isQuadrangle(step.corners))
        fail('the four corners cross or lie on a line; set them clockwise from the upper left.');
      const pixels = step.corners.map(([x, y]): Vec2 => [x * r.width, y * r.height]);
      const side = (a: number, b: number) => Math.hypot(pixels[a][0] - pixels[b][0], pixels[a][1] - pixels[b][1]);
      // as many pixels as the longer of two opposite sides has: nothing is lost
      const density = Math.max(
        Math.max(side(0, 1), side(2, 3)) / step.widthMm,
        Math.max(side(1, 2), side(3, 0)) / step.heightMm,
      );
      const [width, height] = [Math.round(step.widthMm * density), Math.round(step.heightMm * density)];
      if (width < 8 || height < 8) fail('the corners lie too near to each other.');
      if (width * height > MOST_PIXELS)
        fail(`it would come to ${width} × ${height} pixels; at most 8192 × 8192 are made. Crop first.`);
      const h =
        findHomography(
          [
            [0, 0],
            [width, 0],
            [width, height],
            [0, height],
          ],
          pixels,
        ) ?? fail('three of the corners lie on a line.');
      return {
        raster: straighten(r, h, width, height),
        mmPerPx: [step.widthMm / width, step.heightMm / height],
        closes: { across: false, down: false },
        seam: null,
      };
    }
    case 'turn': {
      if (!step.turnDeg && !step.leanDeg && !step.slopeDeg) return stage;
      const { h, width, height } = turnAndShear(r, step.turnDeg, step.leanDeg, step.slopeDeg);
      if (width < 8 || height < 8)
        fail('so little of the picture is left that nothing can be made of it; turn it less.');
      const mm = mmPerPx && ([(mmPerPx[0] + mmPerPx[1]) / 2, (mmPerPx[0] + mmPerPx[1]) / 2] as Vec2);
      if (mmPerPx && Math.abs(mmPerPx[0] / mmPerPx[1] - 1) > 0.005) {
        remark('Its pixels are not square: turned, width and height are taken to be alike.');
      }
      return {
        raster: straighten(r, h, width, height),
        mmPerPx: mm,
        closes: { across: false, down: false },
        seam: null,
      };
    }
    case 'crop':
      return crop(stage, step, fail, remark);
    case 'even': {
      const mm = mmPerPx ? (mmPerPx[0] + mmPerPx[1]) / 2 : null;
      if (!mm) remark('Its size is not known: the radius is taken for a picture 1 m wide.');
      const radius = step.radiusMm / (mm ?? 1000 / r.width);
      const raster = evenOut(r, { radius: Math.max(4, radius), lightness: step.lightness, colour: step.colour });
      return { ...stage, raster: limited(r, raster, step.mask) };
    }
    case 'colour':
      return { ...stage, raster: limited(r, colour(r, step), step.mask) };
    case 'seamless': {
      if (!step.across && !step.down) return stage;
      try {
        const made = makeSeamless(r, step);
        if (step.mode === 'mirror')
          remark('Mirrored: it closes, but everyone will see that it is a mirror. A last resort.');
        if (made.period) {
          for (const [axis, p] of [
            ['x', made.period.x],
            ['y', made.period.y],
          ] as const) {
            if (!p) continue;
            const length = mmPerPx
              ? `${Math.round(p.pixels * mmPerPx[axis === 'x' ? 0 : 1] * 10) / 10} mm`
              : `${Math.round(p.pixels)} px`;
            remark(`Period along ${axis}: ${length}, ${Math.round(p.confidence * 100)}% alike.`);
          }
        }
        const closes = { across: step.across || stage.closes.across, down: step.down || stage.closes.down };
        return { raster: made.raster, mmPerPx, closes, seam: made.figure };
      } catch (error) {
        return fail((error as Error).message);
      }
    }
    case 'heal':
      return {
        ...stage,
        raster: limited(r, heal(r, step.strokes, stage.closes.across && stage.closes.down), step.mask),
      };
    case 'resize':
      return resized(stage, step.to, fail, remark, scale);
  }
}

type Fail = (why: string) => never;

function sizeOf(
  r: Raster,
  by: Extract<Step, { kind: 'size' }>['by'],
  fail: Fail,
  remark: (t: string) => void,
  scale: number,
): Vec2 {
  switch (by.kind) {
    case 'line':
    case 'count': {
      const pixels = Math.hypot((by.to[0] - by.from[0]) * r.width, (by.to[1] - by.from[1]) * r.height);
      if (!(pixels >= 4)) fail('the line is too short to measure by.');
      const mm = (by.kind === 'line' ? by.lengthMm : by.count * by.pieceMm) / pixels;
      return [mm, mm];
    }
    case 'typed': {
      const [x, y] = [by.widthMm / r.width, by.heightMm / r.height];
      if (Math.abs(x / y - 1) > 0.01)
        remark(
          'Width and height differ from its pixels’ shape by ' +
            `${Math.round(Math.abs(x / y - 1) * 100)}%: it is stretched.`,
        );
      return [x, y];
    }
    case 'resolution': {
      const mm = 25.4 / by.pixelsPerInch / scale;
      return [mm, mm];
    }
  }
}

function crop(
  stage: Stage,
  { from, to, wholePeriods }: Extract<Step, { kind: 'crop' }>,
  fail: Fail,
  remark: (t: string) => void,
): Stage {
  const { raster: r, mmPerPx } = stage;
  const share = (v: number) => Math.max(0, Math.min(1, v));
  const [x0, x1] = [share(Math.min(from[0], to[0])) * r.width, share(Math.max(from[0], to[0])) * r.width].map(
    Math.round,
  );
  const [y0, y1] = [share(Math.min(from[1], to[1])) * r.height, share(Math.max(from[1], to[1])) * r.height].map(
    Math.round,
  );
  let [width, height] = [x1 - x0, y1 - y0];
  if (width < 8 || height < 8) fail('less than 8 pixels would be left.');
  if (wholePeriods) {
    const period = findPeriod(r);
    const whole = (size: number, p: { pixels: number } | null, axis: 0 | 1) => {
      if (!p || size < p.pixels) {
        remark(`Nothing repeats ${axis === 0 ? 'across' : 'down'}: as drawn there. What slants must be turned first.`);
        return size;
      }
      const times = Math.floor(size / p.pixels + 0.02);
      remark(
        `${times} × ` +
          `${mmPerPx ? `${Math.round(p.pixels * mmPerPx[axis] * 10) / 10} mm` : `${Math.round(p.pixels)} px`} ` +
          `${axis === 0 ? 'across' : 'down'}.`,
      );
      return Math.round(times * p.pixels);
    };
    width = Math.min(r.width - x0, whole(width, period.x, 0));
    height = Math.min(r.height - y0, whole(height, period.y, 1));
  }
  return {
    ...stage,
    raster: cutOut(r, x0, y0, width, height),
    closes: { across: stage.closes.across && width === r.width, down: stage.closes.down && height === r.height },
  };
}

function resized(
  stage: Stage,
  to: Extract<Step, { kind: 'resize' }>['to'],
  fail: Fail,
  remark: (t: string) => void,
  scale: number,
): Stage {
  const { raster: r, mmPerPx, closes } = stage;
  // a smaller picture stands for the original: it becomes what that would become, as much smaller
  const [fullWidth, fullHeight] = [r.width / scale, r.height / scale];
  if (to.kind === 'density' && !mmPerPx) return fail('its size is not known; measure it first.');
  const [wide, high] =
    to.kind === 'powerOfTwo'
      ? [powerOfTwo(fullWidth), powerOfTwo(fullHeight)]
      : [Math.round(r.width * mmPerPx![0] * to.pxPerMm), Math.round(r.height * mmPerPx![1] * to.pxPerMm)];
  if (wide * high > MOST_PIXELS || wide < 8 || high < 8)
    return fail(`it would come to ${wide} × ${high} pixels; 8 to 8192 are made.`);
  if (wide > fullWidth * 1.02 || high > fullHeight * 1.02)
    remark(
      `Enlarged from ${Math.round(fullWidth)} × ${Math.round(fullHeight)} ` +
        `to ${wide} × ${high} pixels: that is beyond the picture’s own detail.`,
    );
  const [width, height] = [
    Math.max(8, Math.round(wide * Math.min(1, scale))),
    Math.max(8, Math.round(high * Math.min(1, scale))),
  ];
  const size = mmPerPx && ([(mmPerPx[0] * r.width) / width, (mmPerPx[1] * r.height) / height] as Vec2);
  return { ...stage, raster: resize(r, width, height, closes.across && closes.down), mmPerPx: size };
}

/** The picture before and after, mixed by a mask. */
function limited(before: Raster, after: Raster, mask: Mask | null): Raster {
  if (!mask) return after;
  const out = blankRaster(after.width, after.height, after.channels);
  const n = after.channels;
  for (let y = 0; y < after.height; y++) {
    for (let x = 0; x < after.width; x++) {
      const share = shareAt(mask, (x + 0.5) / after.width, (y + 0.5) / after.height);
      const at = (y * after.width + x) * n;
      for (let c = 0; c < n; c++)
        out.data[at + c] = before.data[at + c] + (after.data[at + c] - before.data[at + c]) * share + 0.5;
    }
  }
  return out;
}

/** How much of a step there is at a place, 0 to 1. */
export function shareAt(mask: Mask, x: number, y: number): number {
  const smooth = (t: number) => (t <= 0 ? 0 : t >= 1 ? 1 : t * t * (3 - 2 * t));
  if (mask.kind === 'gradient') {
    const [dx, dy] = [mask.to[0] - mask.from[0], mask.to[1] - mask.from[1]];
    const l = dx * dx + dy * dy;
    return l > 0 ? 1 - smooth(((x - mask.from[0]) * dx + (y - mask.from[1]) * dy) / l) : 1;
  }
  const d = Math.hypot(
    (x - mask.centre[0]) / Math.max(1e-6, mask.radius[0]),
    (y - mask.centre[1]) / Math.max(1e-6, mask.radius[1]),
  );
  const inside = 1 - smooth((d - (1 - mask.softness)) / Math.max(1e-6, mask.softness));
  return mask.outside ? 1 - inside : inside;
}

/**
 * Does all steps that are switched on, in order.
 * @param each called after every step, done or skipped; may throw to stop
 * @param known stages of an earlier run with the same steps up to there, by their number; newer ones are added
 */
export function runSteps(
  original: Raster,
  pixelsPerInch: number | null,
  steps: readonly Step[],
  options: { scale?: number; upTo?: number; each?: (done: number) => void; cache?: StageCache } = {},
): { stage: Stage; remarks: StepRemark[] } {
  const { scale = 1, upTo = steps.length, each, cache } = options;
  const mm = pixelsPerInch ? 25.4 / pixelsPerInch / scale : null;
  let stage: Stage = {
    raster: original,
    mmPerPx: mm ? [mm, mm] : null,
    closes: { across: false, down: false },
    seam: null,
  };
  const remarks: StepRemark[] = [];
  let key = '';
  for (let i = 0; i < upTo; i++) {
    const step = steps[i];
    if (step.on) {
      const { id: _id, ...content } = step;
      key += JSON.stringify(content);
      const known = cache?.get(key);
      if (known) {
        stage = known.stage;
        remarks.push(...known.remarks.map((text) => ({ step: step.id, text })));
      } else {
        const said: string[] = [];
        stage = runStep(stage, step, (text) => said.push(text), scale);
        cache?.set(key, { stage, remarks: said });
        remarks.push(...said.map((text) => ({ step: step.id, text })));
      }
    }
    each?.(i + 1);
  }
  return { stage, remarks };
}

/** Stages by the steps that led to them. */
export type StageCache = Map<string, { stage: Stage; remarks: string[] }>;
