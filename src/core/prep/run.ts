import type { Raster } from '../picture/raster';
import { heightsOf } from './heights';
import type { Derived } from './schema';
import { type Step, stepOf } from './steps/registry';
import { openStage, type Stage } from './steps/step';

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
  /** Pixels of this picture for each pixel of the original: below 1 while a smaller one stands for it. */
  scale?: number;
  /** Of its height map; null where none is made. */
  heights?: Derived['height'];
}

/**
 * Does one step.
 * @throws StepError naming the step and what was wrong
 */
export function runStep(
  stage: Stage,
  step: Step,
  remark: (text: string) => void,
  { scale = 1, heights = null }: Reading = {},
): Stage {
  const { label, run } = stepOf(step);
  const fail = (why: string): never => {
    throw new StepError(step.id, `${label}: ${why}`);
  };
  const made = run(stage, step, { fail, remark, scale, heights: (of) => heightsOf(of, stage.mmPerPx, heights) });
  const { ground, raster } = made;
  if (!stage.ground || (ground && ground.width === raster.width && ground.height === raster.height)) return made;
  // what lies over it was of another size
  remark('It comes after dirt or colour by height, which the maps now take in. Move those behind it.');
  return { ...made, ground: null, coats: [] };
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
  options: Reading & { upTo?: number; each?: (done: number) => void; cache?: StageCache } = {},
): { stage: Stage; remarks: StepRemark[] } {
  const { scale = 1, heights = null, upTo = steps.length, each, cache } = options;
  const mm = pixelsPerInch ? 25.4 / pixelsPerInch / scale : null;
  let stage = openStage(original, mm ? [mm, mm] : null);
  const remarks: StepRemark[] = [];
  let key = '';
  for (let i = 0; i < upTo; i++) {
    const step = steps[i];
    if (step.on) {
      const { id: _id, ...content } = step;
      key += JSON.stringify(content) + (stepOf(step).readsHeights ? JSON.stringify(heights) : '');
      const known = cache?.get(key);
      if (known) {
        stage = known.stage;
        remarks.push(...known.remarks.map((text) => ({ step: step.id, text })));
      } else {
        const said: string[] = [];
        stage = runStep(stage, step, (text) => said.push(text), { scale, heights });
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
