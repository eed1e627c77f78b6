import { type Static, Type } from '@sinclair/typebox';
import type { Vec2 } from '../../geometry/vec';
import type { Extended, Extending } from '../../picture/extend/extending';
import { featuresOf } from '../../picture/extend/features';
import { paintExtension } from '../../picture/extend/paint';
import { MOST_PATCHES, patchesFor, planExtension } from '../../picture/extend/plan';
import { findLaid, type Laid, wordsOfLaid } from '../../picture/laid';
import type { Period } from '../../picture/period';
import { resize } from '../../picture/resize';
import { closeOver, type Lap, seamsOf } from '../../picture/seamless';
import { oneOf } from '../../schema/choice';
import { formatLength } from '../../units/length';
import { defineStep, mostPixels, openStage, Place, saidMost, Share, type Stage, type Tools } from './step';
import { placesOfEllipse } from './places';

/** Something of the sample that is shown where it is and nowhere else, or left out. */
export const SampleMark = Type.Object({ centre: Place, radius: Place, shown: oneOf('once', 'never') });
export type SampleMark = Static<typeof SampleMark>;

/** A larger picture of the same: patches of a small sample, joined along their best seams. */
export const extend = defineStep(
  'extend',
  {
    widthMm: Type.Number({ minimum: 1, maximum: 1e6 }),
    heightMm: Type.Number({ minimum: 1, maximum: 1e6 }),
    at: Type.Tuple([Share, Share]),
    grows: oneOf('found', 'freely'),
    patch: Type.Number({ minimum: 0.1, maximum: 0.5 }),
    closes: Type.Boolean(),
    seed: Type.Integer({ minimum: 1, maximum: 9999 }),
    marks: Type.Array(SampleMark, { maxItems: 40 }),
  },
  {
    label: 'Extend',
    what: 'a larger picture made of a small sample',
    first: {
      widthMm: 1200,
      heightMm: 900,
      at: [0.5, 0.5],
      grows: 'found',
      patch: 0.36,
      closes: false,
      seed: 1,
      marks: [],
    },
    begin: (step, [width, height]) => ({ ...step, widthMm: round(width * LARGER), heightMm: round(height * LARGER) }),
    chooses: true,
    places: (step) =>
      step.marks.map((mark, n) =>
        placesOfEllipse(mark, `mark ${n + 1}`, (to) => ({
          ...step,
          marks: step.marks.map((m, k) => (k === n ? { ...m, ...to } : m)),
        })),
      ),
    placesAfter(step, { sizeBefore }) {
      // what closes may begin anywhere
      if (!sizeBefore || step.closes) return null;
      const share: Vec2 = [Math.min(1, sizeBefore[0] / step.widthMm), Math.min(1, sizeBefore[1] / step.heightMm)];
      const from = step.at.map((v, axis) => v * (1 - share[axis])) as Vec2;
      return {
        shape: 'box',
        through: [from, [from[0] + share[0], from[1] + share[1]]],
        points: [
          {
            at: [from[0] + share[0] / 2, from[1] + share[1] / 2],
            label: 'Where the sample lies',
            moved: (to) => ({
              ...step,
              at: to.map((v, axis) => {
                const room = 1 - share[axis];
                return room > 0 ? Math.max(0, Math.min(1, (v - share[axis] / 2) / room)) : 0;
              }) as Vec2,
            }),
          },
        ],
      };
    },
    groups: (of) => [
      {
        label: 'Made as large as',
        columns: 2,
        fields: [
          of.length('Width', 'widthMm', { min: 1, max: 1e6 }),
          of.length('Height', 'heightMm', { min: 1, max: 1e6 }),
          {
            kind: 'choice',
            label: 'Grows',
            span: 2,
            options: [
              ['found', 'by whole periods where it is laid'],
              ['freely', 'freely, whatever lies in it'],
            ],
            get: (s) => s.grows,
            set: (s, grows) => ({ ...s, grows: grows as typeof s.grows }),
          },
          {
            ...of.share('Patches', 'patch', 10, 50),
            title: 'How large patches are, of the sample’s shorter side: larger for grain, smaller for even stuff',
          },
          { ...of.number('Shuffle', 'seed', { min: 1, max: 9999 }), integer: true } as ReturnType<typeof of.number>,
          { ...of.toggle('Closes on itself', 'closes'), span: 2 },
        ],
      },
    ],
    brief: ({ widthMm, heightMm }) => `${formatLength(widthMm, 'mm')} × ${formatLength(heightMm, 'mm')}`,
    said: ({ widthMm, heightMm }) => `extended to ${formatLength(widthMm, 'mm')} × ${formatLength(heightMm, 'mm')}`,
    run(given, step, tools) {
      const { fail, remark, choose } = tools;
      const stage = fitting(given, step, tools);
      const { raster, mmPerPx } = stage;
      const size: Vec2 = [raster.width * mmPerPx[0], raster.height * mmPerPx[1]];
      let planned: Planned;
      try {
        planned = choose((small) => planFor(small, step, size));
      } catch (error) {
        return fail(`${(error as Error).message}.`);
      }
      const { plan, o, sample, laid, words, times } = planned;
      if (laid?.turnDeg) remark(`It is ${words}: it grows freely. Turn it by ${laid.turnDeg.toFixed(1)}° first.`);
      else if (laid) remark(`It grows by whole periods: ${words}.`);
      const by: Vec2 = [raster.width / sample[0], raster.height / sample[1]];
      const sizes = [step.widthMm, step.heightMm];
      const wanted = sizes.map((mm, axis) =>
        times[axis] ? Math.round(times[axis] * o.period[axis]! * by[axis]) : Math.round(mm / mmPerPx[axis]),
      );
      const whole = step.closes ? [o.width * by[0], o.height * by[1]].map(Math.round) : wanted;
      const made = paintExtension(raster, plan, o, by, whole as Vec2);
      // as it was typed, to the last hundredth
      const mm = [0, 1].map((axis) => (times[axis] ? mmPerPx[axis] : sizes[axis] / wanted[axis])) as Vec2;
      const next: Stage = { ...openStage(made, mm, stage.scale), sample: { raster, mmPerPx } };
      if (!step.closes) return next;
      const lap = (axis: 0 | 1): Lap => ({ pixels: whole[axis] - wanted[axis], laid: o.period[axis] !== null });
      let own: ReturnType<typeof closeOver> | null = null;
      const laps = { x: lap(0), y: lap(1) };
      const choice = choose(() => (own = closeOver(made, laps)).choice);
      const closed = own ?? closeOver(made, laps, choice);
      if (times.some((n) => n !== null))
        remark(
          `Whole periods alone close: ${formatLength(closed.raster.width * mmPerPx[0], 'mm', { decimals: 0 })} × ` +
            `${formatLength(closed.raster.height * mmPerPx[1], 'mm', { decimals: 0 })}.`,
        );
      return {
        ...next,
        raster: closed.raster,
        closes: { across: true, down: true },
        seam: closed.figure,
        seams: seamsOf(closed),
      };
    },
  },
);

/** So many times as large as the sample, a new one makes it. */
const LARGER = 3;
const round = (mm: number): number => Number(mm.toPrecision(3));

/** Shorter side of the sample as it is planned with, pixels. */
const PLANNED = 200;
/** A sample with a shorter side than this has no patches to give. */
const LEAST = 24;

type Extend = Parameters<(typeof extend)['run']>[1];
type Sized = Stage & { mmPerPx: Vec2 };

/** A stage that can be made so large, made smaller first where it stands for a larger one. */
function fitting(stage: Stage, { widthMm, heightMm }: Extend, { fail, side }: Tools): Sized {
  const { raster, mmPerPx, scale } = stage;
  if (!mmPerPx) return fail('its size is not known; measure it first, for it to become as large as is said.');
  const own = [raster.width * mmPerPx[0], raster.height * mmPerPx[1]];
  const inWords = (mm: readonly number[]) => mm.map((v) => formatLength(v, 'mm', { decimals: 0 })).join(' × ');
  if (widthMm < own[0] * SAME || heightMm < own[1] * SAME)
    return fail(`the sample is ${inWords(own)} already: type no less than that, or crop it.`);
  const pixels = [widthMm / mmPerPx[0], heightMm / mmPerPx[1]];
  const full = pixels.map((v) => Math.round(v / scale));
  if (full[0] * full[1] > mostPixels(raster.channels))
    return fail(
      `${inWords([widthMm, heightMm])} would come to ${full[0]} × ${full[1]} pixels; ` +
        `${saidMost(raster.channels)} are made. Resize the sample first, or make it less large.`,
    );
  if (Math.min(raster.width, raster.height) < LEAST)
    return fail(`the sample is ${raster.width} × ${raster.height} pixels; patches need ${LEAST} at least each way.`);
  const by = side === null ? 1 : Math.min(1, side / Math.max(...pixels));
  const [width, height] = [raster.width, raster.height].map((v) => Math.max(LEAST, Math.round(v * by)));
  const small = by < 1 ? resize(raster, width, height, false) : raster;
  return {
    ...stage,
    raster: small,
    scale: (scale * small.width) / raster.width,
    mmPerPx: [own[0] / small.width, own[1] / small.height],
  };
}
/** A size that is this near to the sample's own is that. */
const SAME = 0.999;

/** What is planned, on a smaller picture of the sample. */
interface Planned {
  plan: Extended;
  o: Extending;
  /** Pixels of the sample it was planned with. */
  sample: Vec2;
  laid: Laid | null;
  /** What lies laid in it, in words. */
  words: string;
  /** How many periods close, across and down; null where none are counted. */
  times: [number | null, number | null];
}

function planFor(stage: Stage, step: Extend, sizeMm: Vec2): Planned {
  const { width, height } = stage.raster;
  const shrink = Math.min(1, PLANNED / Math.min(width, height));
  const sample: Vec2 = [Math.round(width * shrink), Math.round(height * shrink)];
  const small = resize(stage.raster, ...sample, false);
  const laid = step.grows === 'found' ? findLaid(stage.raster) : null;
  const words = laid ? wordsOfLaid(laid, stage.mmPerPx) : '';
  const level = laid && !laid.turnDeg ? laid.period : null;
  const pixelsOf = (p: Period | null | undefined) => (p ? p.pixels * shrink : null);
  const period: Extending['period'] = [pixelsOf(level?.x), pixelsOf(level?.y)];
  const side = Math.floor(Math.min(...sample) * step.patch);
  const wanted = [step.widthMm, step.heightMm].map((mm, axis) => (mm / sizeMm[axis]) * sample[axis]) as Vec2;
  const times = wanted.map((v, axis) => {
    const p = step.closes ? period[axis] : null;
    return p && Math.max(1, Math.round(v / p));
  }) as Planned['times'];
  const closed = wanted.map((v, axis) => (times[axis] ? times[axis] * period[axis]! : v)) as Vec2;
  // what closes needs an overlap to be cut in
  const over = (axis: 0 | 1): number => (step.closes ? Math.max(side, period[axis] ?? 0) : 0);
  const [wide, high] = [Math.round(closed[0] + over(0)), Math.round(closed[1] + over(1))];
  const o: Extending = {
    width: wide,
    height: high,
    at: [Math.round((wide - sample[0]) * step.at[0]), Math.round((high - sample[1]) * step.at[1])],
    side,
    period,
    seed: step.seed,
    marks: step.marks.map(({ centre, radius, shown }) => ({
      centre: [centre[0] * sample[0], centre[1] * sample[1]],
      radius: [Math.max(1, radius[0] * sample[0]), Math.max(1, radius[1] * sample[1])],
      shown,
    })),
  };
  if (patchesFor(o) > MOST_PATCHES)
    throw new Error(`it would take ${patchesFor(o)} patches, and ${MOST_PATCHES} are laid: make them larger`);
  // what comes round is no feature of its own
  const features = period[0] || period[1] ? [] : featuresOf(small, side);
  return { plan: planExtension(small, o, features), o, sample, laid, words, times };
}
