import type { Step, StepKind, StepOf } from '@/core/prep/steps/registry';
import type { PrepRun } from '@/workers/prep.worker';

/** What the tools of a kind of step are given. */
export interface Of<K extends StepKind> {
  step: StepOf<K>;
  /** Its place among the steps. */
  index: number;
  run: PrepRun | null;
  onChange: (step: Step, gesture?: string) => void;
}
