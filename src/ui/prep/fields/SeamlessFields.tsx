'use client';

import { Select, Tick } from '../../shared/fields';
import { type Of, share } from './common';

export function SeamlessFields({ step: s, onChange }: Of<'seamless'>) {
  return (
    <>
      <Select
        label="By"
        value={s.mode}
        options={[
          ['blend', 'the best seam through an overlap'],
          ['period', 'whole periods of what is laid'],
          ['mirror', 'mirroring, as a last resort'],
        ]}
        onChange={(mode) => onChange({ ...s, mode: mode as typeof s.mode })}
      />
      <div className="grid grid-cols-2 gap-1.5">
        {s.mode === 'blend' &&
          share('Overlap', s.overlap, (overlap, g) =>
            onChange({ ...s, overlap: Math.min(0.48, Math.max(0.02, overlap)) }, g),
          )}
        <Tick
          label="Evened first"
          className="items-end pb-1"
          checked={s.evened}
          disabled={s.mode === 'mirror'}
          onChange={(evened) => onChange({ ...s, evened })}
        />
      </div>
      <div className="flex gap-3">
        {(['across', 'down'] as const).map((k) => (
          <Tick
            key={k}
            label={k === 'across' ? 'Side to side' : 'Top to bottom'}
            checked={s[k]}
            onChange={(on) => onChange({ ...s, [k]: on })}
          />
        ))}
      </div>
    </>
  );
}
