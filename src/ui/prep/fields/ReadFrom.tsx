'use client';

import { FIRST_NOISE, type Noise } from '@/core/prep/noise';
import { Select } from '../../shared/fields';
import { ValueField } from '../../shared/ValueField';

/** What a map is read from: the picture, something else that it offers, or patches of noise with their numbers. */
export function ReadFrom({
  patches,
  of = 'lightness',
  others = [],
  onChange,
}: {
  patches: Noise | null | undefined;
  /** What it is read from where it is not from patches. */
  of?: string;
  others?: [string, string][];
  onChange: (change: { of: string; patches: Noise | null }, gesture?: string) => void;
}) {
  const put = (change: Partial<Noise>, g?: string) => onChange({ of, patches: { ...patches!, ...change } }, g);
  return (
    <>
      <Select
        label="Read from"
        value={patches ? 'patches' : of}
        options={[['lightness', 'the picture'], ...others, ['patches', 'noise']]}
        onChange={(v) => onChange(v === 'patches' ? { of, patches: FIRST_NOISE } : { of: v, patches: null })}
      />
      {patches && (
        <>
          <ValueField
            label="Patch size"
            kind="length"
            unit="mm"
            min={0.5}
            max={10_000}
            value={patches.sizeMm}
            onChange={(sizeMm, g) => put({ sizeMm }, g)}
          />
          {(['octaves', 'seed'] as const).map((key) => (
            <ValueField
              key={key}
              label={key === 'octaves' ? 'Octaves' : 'Shuffle'}
              kind="number"
              decimals={0}
              min={1}
              max={key === 'octaves' ? 8 : 9999}
              value={patches[key]}
              onChange={(v, g) => put({ [key]: Math.round(v) }, g)}
            />
          ))}
        </>
      )}
    </>
  );
}
