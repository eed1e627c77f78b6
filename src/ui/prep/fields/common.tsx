'use client';

import type { Step, StepKind } from '@/core/prep/steps/registry';
import type { PrepRun } from '@/workers/prep.worker';
import { ValueField } from '../../shared/ValueField';

export type Change<S extends Step = Step> = (step: S, gesture?: string) => void;

/** What the fields of a kind of step are given. */
export interface Of<K extends StepKind> {
  step: Extract<Step, { kind: K }>;
  /** Its place among the steps. */
  index: number;
  run: PrepRun | null;
  onChange: Change;
}

export const share = (label: string, value: number, set: (v: number, g?: string) => void) => (
  <ValueField
    key={label}
    label={label}
    kind="number"
    suffix=" %"
    decimals={0}
    min={0}
    max={100}
    step={5}
    value={Math.round(value * 100)}
    onChange={(v, g) => set(v / 100, g)}
  />
);

export const length = (label: string, value: number, set: (v: number, g?: string) => void, min = 0.1) => (
  <ValueField key={label} label={label} kind="length" unit="mm" value={value} min={min} max={1e6} onChange={set} />
);
