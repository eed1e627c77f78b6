'use client';

import type { Step } from '@/core/prep/steps/registry';
import type { PrepRun } from '@/workers/prep.worker';
import type { Change } from './common';
import { ColourFields, EvenFields } from './ColourFields';
import { HealFields } from './HealFields';
import { MaskFields } from './MaskFields';
import { ResizeFields } from './ResizeFields';
import { SeamlessFields } from './SeamlessFields';
import { CornersFields, CropFields, TurnFields } from './ShapeFields';
import { SizeFields } from './SizeFields';

interface Props {
  step: Step;
  index: number;
  run: PrepRun | null;
  onChange: Change;
}

/** The numbers of one step. Places are set on the light table. */
export function StepFields(props: Props) {
  const { step, onChange } = props;
  const masked = step.kind === 'even' || step.kind === 'colour' || step.kind === 'heal';
  return (
    <div className="space-y-1.5">
      <OwnFields {...props} />
      {masked && <MaskFields step={step} onChange={onChange} />}
    </div>
  );
}

function OwnFields({ step, ...rest }: Props) {
  switch (step.kind) {
    case 'size':
      return <SizeFields step={step} {...rest} />;
    case 'corners':
      return <CornersFields step={step} {...rest} />;
    case 'turn':
      return <TurnFields step={step} {...rest} />;
    case 'crop':
      return <CropFields step={step} {...rest} />;
    case 'even':
      return <EvenFields step={step} {...rest} />;
    case 'colour':
      return <ColourFields step={step} {...rest} />;
    case 'seamless':
      return <SeamlessFields step={step} {...rest} />;
    case 'heal':
      return <HealFields step={step} {...rest} />;
    case 'resize':
      return <ResizeFields step={step} {...rest} />;
  }
}
