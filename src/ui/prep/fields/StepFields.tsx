'use client';

import type { ComponentType } from 'react';
import { MASK_GROUPS } from '@/core/prep/steps/maskFields';
import { type Step, type StepKind, stepOf } from '@/core/prep/steps/registry';
import type { AnyStep } from '@/core/prep/steps/step';
import { FieldGroups } from '../../shared/FieldView';
import { Boards } from './Boards';
import { Brushes } from './Brushes';
import { DirtPictures } from './DirtPictures';
import { FindGrain } from './FindGrain';
import { Histogram } from './Histogram';
import { Marks } from './Marks';
import { contextOf, type Of } from './of';
import { SeamLines } from './SeamLines';

/** What a few kinds have on screen besides their fields. */
const TOOLS: { [K in StepKind]?: ComponentType<Of<K>> } = {
  turn: FindGrain,
  colour: Histogram,
  heal: Brushes,
  extend: Marks,
  seamless: SeamLines,
  compose: Boards,
  dirt: DirtPictures,
};

/** Those that are set before any field. */
const TOOLS_FIRST: StepKind[] = ['dirt'];

/** The numbers of one step, as its definition describes them. Places are set on the light table. */
export function StepFields<K extends StepKind>(props: Of<K>) {
  const { run, onChange } = props;
  const step: AnyStep = props.step;
  const { groups, hint, masked, cutsOut } = stepOf(step);
  // a kind's tools take steps of that kind
  const Tools = TOOLS[step.kind as K] as ComponentType<Of<K>> | undefined;
  const context = contextOf(run);
  const said = hint?.(step);
  const rest = {
    specs: [step],
    context,
    unit: 'mm' as const,
    // fields keep the kind of what they change
    onEach: (change: (own: AnyStep) => AnyStep, gesture?: string) => onChange(change(step) as Step, gesture),
  };
  // what is cut out comes before how it is laid
  if (cutsOut && Tools)
    return (
      <div className="grid grid-cols-[1fr_1.2fr] gap-4">
        <div className="space-y-1.5">
          <Tools {...props} />
          {said && <p className="quiet text-2xs leading-tight">{said}</p>}
        </div>
        <div className="hair border-l pl-4">
          <FieldGroups groups={groups} {...rest} />
        </div>
      </div>
    );
  return (
    <div className={masked ? 'grid grid-cols-[1fr_1fr] gap-4' : ''}>
      <div className="space-y-1.5">
        {Tools && TOOLS_FIRST.includes(step.kind as K) && <Tools {...props} />}
        <FieldGroups groups={groups} {...rest} />
        {Tools && !TOOLS_FIRST.includes(step.kind as K) && <Tools {...props} />}
        {said && <p className="quiet text-2xs leading-tight">{said}</p>}
      </div>
      {masked && (
        <div className="hair border-l pl-4">
          <FieldGroups groups={MASK_GROUPS} {...rest} />
        </div>
      )}
    </div>
  );
}
