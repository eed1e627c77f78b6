'use client';

import { Select } from '../../shared/fields';
import { ValueField } from '../../shared/ValueField';
import type { Of } from './common';

export function ResizeFields({ step: s, onChange }: Of<'resize'>) {
  const { to } = s;
  return (
    <div className="grid grid-cols-2 gap-1.5">
      <Select
        label="To"
        value={to.kind}
        options={[
          ['powerOfTwo', 'a power of two'],
          ['density', 'pixels per mm'],
        ]}
        onChange={(kind) => onChange({ ...s, to: kind === 'density' ? { kind, pxPerMm: 1 } : { kind: 'powerOfTwo' } })}
      />
      {to.kind === 'density' && (
        <ValueField
          label="Pixels per mm"
          kind="number"
          decimals={2}
          step={0.1}
          min={0.01}
          max={1000}
          value={to.pxPerMm}
          onChange={(pxPerMm, g) => onChange({ ...s, to: { kind: 'density', pxPerMm } }, g)}
        />
      )}
    </div>
  );
}
