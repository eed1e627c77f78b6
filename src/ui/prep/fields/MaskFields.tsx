'use client';

import type { Mask } from '@/core/prep/steps/mask';
import type { Step } from '@/core/prep/steps/registry';
import { Select } from '../../shared/fields';
import { type Change, share } from './common';

/** Where a step works: everywhere, or less and less, or within an ellipse. */
export function MaskFields({ step, onChange }: { step: Step; onChange: Change }) {
  const kind = step.mask?.kind ?? 'none';
  const set = (mask: Mask | null, g?: string) => onChange({ ...step, mask }, g);
  return (
    <div className="grid grid-cols-2 gap-1.5 border-t border-base-300 pt-1.5">
      <Select
        label="Where"
        value={kind === 'ellipse' && step.mask?.kind === 'ellipse' && step.mask.outside ? 'outside' : kind}
        options={[
          ['none', 'everywhere'],
          ['gradient', 'less and less along a line'],
          ['ellipse', 'within an ellipse'],
          ['outside', 'outside an ellipse'],
        ]}
        onChange={(v) =>
          set(
            v === 'none'
              ? null
              : v === 'gradient'
                ? { kind: 'gradient', from: [0.1, 0.5], to: [0.9, 0.5] }
                : { kind: 'ellipse', centre: [0.5, 0.5], radius: [0.3, 0.3], softness: 0.4, outside: v === 'outside' },
          )
        }
      />
      {step.mask?.kind === 'ellipse' &&
        share('Soft edge', step.mask.softness, (softness, g) =>
          set({ ...(step.mask as Extract<Mask, { kind: 'ellipse' }>), softness }, g),
        )}
    </div>
  );
}
