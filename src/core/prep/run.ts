import type { Raster } from '../picture/raster';
import { colourAt, type GivenChannels, heightChannel, planeOf, withColourKept } from './given';
import { heightsOf } from './heights';
import type { Derived, Taken } from './schema';
import { type Step, stepOf } from './steps/registry';
import { openStage, type Stage, type Tools, WORKING_SIDE } from './steps/step';

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

/** How a picture is read. */
export interface Reading {
  /** Of its height map; null where none is made. */
  heights?: Derived['height'];
  /** After which steps maps are taken. */
  taken?: Derived['taken'];
  /** Maps that stand behind the picture's own channels. */
  given?: readonly GivenChannels[];
  /** Other pictures that steps take, by the hashes of their files. */
  pictures?: ReadonlyMap<string, Raster>;
  /** Longest side to which it may grow while it stands for a larger one; null at full size. */
  side?: number | null;
}

/**
 * Does one step.
 * @throws StepError naming the step and what was wrong
 */
export function runStep(
  stage: Stage,
  step: Step,
  remark: (text: string) => void,
  { heights = null, taken = {}, side = null, pictures }: Omit<Reading, 'given'> = {},
  choose: Tools['choose'] = (of) => of(stage),
): Stage {
  const { label, run } = stepOf(step);
  const fail = (why: string): never => {
    throw new StepError(step.id, `${label}: ${why}`);
  };
  const made = run(stage, step, {
    fail,
    remark,
    side,
    choose,
    picture: (hash) => pictures?.get(hash) ?? fail('its picture is no longer there; choose another.'),
    heights(of) {
      const at = heights ? null : heightChannel(stage.given);
      if (at !== null) return planeOf(stage.raster, at);
      const named = stage.kept.find((k) => k.step === taken.height);
      return heightsOf(named ? colourAt(stage.raster, named.at) : of, stage.mmPerPx, heights);
    },
  });
  return keepingUp(stage, made, remark);
}

/** A stage with its colour kept for the maps that name a step. */
function keptFor(stage: Stage, step: string, taken: Taken): Stage {
  if (!Object.values(taken).includes(step)) return stage;
  const raster = withColourKept(stage.raster);
  return {
    ...stage,
    raster,
    kept: [...stage.kept, { step, at: raster.channels - 3, coats: stage.coats.length }],
  };
}

/** What was known of the picture before a step, where it still holds after it. */
function keepingUp(before: Stage, made: Stage, remark: (text: string) => void): Stage {
  const { ground, raster } = made;
  const { given, kept } = before;
  let after: Stage = { ...made, given, kept };
  if (given.length + kept.length && raster.channels !== before.raster.channels) {
    if (given.length)
      remark(
        'The maps that came with the picture do not go into boards: they are made of what is composed, or left out.',
      );
    if (kept.length) remark('Maps that name a step before this are taken from what is composed.');
    after = { ...after, given: [], kept: [] };
  }
  if (before.leaves && (!made.leaves || (made.leaves === before.leaves && !isAsLarge(before, made)))) {
    remark('It comes after boards were composed, whose leaves are lost by it. Move it before that.');
    after = { ...after, leaves: null };
  }
  if (before.ground && !(ground && ground.width === raster.width && ground.height === raster.height)) {
    // what lies over it was of another size
    remark('It comes after dirt or colour by height, which the maps now take in. Move those behind it.');
    after = { ...after, ground: null, coats: [] };
  }
  return after;
}

/** Shares of the one are shares of the other. */
function isAsLarge(a: Stage, b: Stage): boolean {
  const size = ({ raster, mmPerPx }: Stage, axis: 0 | 1) =>
    (axis ? raster.height : raster.width) * (mmPerPx?.[axis] ?? 1);
  return ([0, 1] as const).every((axis) => Math.abs(size(a, axis) - size(b, axis)) < 1e-3 * size(a, axis));
}

/**
 * Does all steps that are switched on, in order.
 * @param options.scale pixels of this picture for each of the original: below 1 while a smaller one stands for it
 * @param options.small the original, `WORKING_SIDE` pixels long, on which choices are made; this picture itself if none
 * @param options.each called after every step, done or skipped; may throw to stop
 * @param options.cache stages of an earlier run with the same steps up to there; newer ones are added
 */
export function runSteps(
  original: Raster,
  pixelsPerInch: number | null,
  steps: readonly Step[],
  options: Reading & {
    scale?: number;
    small?: Raster;
    upTo?: number;
    each?: (done: number) => void;
    cache?: StageCache;
  } = {},
): { stage: Stage; remarks: StepRemark[] } {
  const { scale = 1, heights = null, side = null, given = [], pictures, small, each, cache } = options;
  const { taken = {}, upTo = steps.length } = options;
  let stage = { ...opened(original, pixelsPerInch, scale), given };
  const chosen =
    small &&
    new ChoicesOf({ ...opened(small, pixelsPerInch, small.width / original.width), given }, steps, {
      heights,
      taken,
      pictures,
    });
  const remarks: StepRemark[] = [];
  let key = '';
  for (let i = 0; i < upTo; i++) {
    const step = steps[i];
    if (step.on) {
      const { id: _id, ...content } = step;
      key += JSON.stringify(content) + (stepOf(step).readsHeights ? JSON.stringify([heights, taken.height]) : '');
      const known = cache?.get(key);
      if (known) {
        stage = known.stage;
        remarks.push(...known.remarks.map((text) => ({ step: step.id, text })));
      } else {
        const said: string[] = [];
        const say = (text: string) => void (said.includes(text) || said.push(text));
        stage = runStep(stage, step, say, { heights, taken, side, pictures }, chosen?.at(i));
        cache?.set(key, { stage, remarks: said });
        remarks.push(...said.map((text) => ({ step: step.id, text })));
      }
    }
    if (Object.values(taken).includes(step.id)) key += `kept as ${step.id}`;
    stage = keptFor(stage, step.id, taken);
    chosen?.keep(step.id, taken);
    each?.(i + 1);
  }
  return { stage, remarks };
}

function opened(raster: Raster, pixelsPerInch: number | null, scale: number): Stage {
  const mm = pixelsPerInch ? 25.4 / pixelsPerInch / scale : null;
  return openStage(raster, mm ? [mm, mm] : null, scale);
}

/** The smaller picture on which choices are made, done beside the large one as far as the last step that makes any. */
class ChoicesOf {
  private readonly last: number;

  constructor(
    private stage: Stage,
    private readonly steps: readonly Step[],
    private readonly reading: Pick<Reading, 'heights' | 'taken' | 'pictures'>,
  ) {
    this.last = steps.findLastIndex((s) => s.on && stepOf(s).chooses);
  }

  /** Does a step on the smaller picture; what was chosen there is chosen on the large one. */
  at(n: number): Tools['choose'] | undefined {
    if (n > this.last) return undefined;
    const { stage } = this;
    const made: unknown[] = [];
    const choose: Tools['choose'] = (of) => {
      const choice = of(stage);
      made.push(choice);
      return choice;
    };
    this.stage = runStep(stage, this.steps[n], () => {}, { ...this.reading, side: WORKING_SIDE }, choose);
    // the same step asks the same questions
    return <T>() => made.shift() as T;
  }

  keep(step: string, taken: Taken): void {
    this.stage = keptFor(this.stage, step, taken);
  }
}

/** Hashes of all other pictures that steps take which are switched on. */
export const picturesOf = (steps: readonly Step[]): string[] => [
  ...new Set(steps.flatMap((s) => (s.on ? (stepOf(s).pictures?.(s) ?? []) : []))),
];

/** Stages by the steps that led to them. */
export type StageCache = Map<string, { stage: Stage; remarks: string[] }>;
