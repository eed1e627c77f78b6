import type { Step, StepKind, StepOf } from '@/core/prep/steps/registry';
import type { StepContext } from '@/core/prep/steps/step';
import type { PrepRun } from '@/workers/prep.worker';

/** What the tools of a kind of step are given. */
export interface Of<K extends StepKind> {
  step: StepOf<K>;
  /** Its place among the steps. */
  index: number;
  run: PrepRun | null;
  onChange: (step: Step, gesture?: string) => void;
}

/** What a step's fields and places may want to know of its picture, as far as that is known. */
export const contextOf = (run: PrepRun | null): StepContext => {
  const { mmPerPx = null, width = 4, height = 3 } = run?.before ?? {};
  return {
    aspect: run?.after ? run.after.height / run.after.width : 0.75,
    sizeBefore: mmPerPx && [width * mmPerPx[0], height * mmPerPx[1]],
  };
};
