'use client';

import { useId, useState } from 'react';
import { formatLength, type LengthUnit, parseSize } from '@/core/units/length';
import { inHabit, useDecimalSign } from './decimalSign';

/** Two sides in one field: “490 x 70”, any unit, sums allowed. */
export function SizeField({
  label,
  value,
  unit,
  disabled,
  sorted,
  onChange,
}: {
  label: string;
  /** Null while there is no one size to show. */
  value: [number, number] | null;
  unit: LengthUnit;
  disabled?: boolean;
  /** The longer side is written first, however it is typed. */
  sorted?: boolean;
  onChange: (value: [number, number]) => void;
}) {
  const id = useId();
  const [draft, setDraft] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);
  const sign = useDecimalSign((s) => s.sign);
  const shown = value
    ? inHabit(`${formatLength(value[0], unit, { withUnit: unit === 'ft-in' })} × ${formatLength(value[1], unit)}`, sign)
    : '';
  const commit = () => {
    if (draft === null) return;
    const parsed = parseSize(draft, unit, sign);
    if (!parsed.ok) return setError(parsed.error);
    const [a, b] = sorted ? [...parsed.value].sort((p, q) => q - p) : parsed.value;
    if (!(a >= 1 && b >= 1 && a <= 100_000 && b <= 100_000)) return setError('each side must be 1 mm to 100 m');
    setError(null);
    setDraft(null);
    if (!value || Math.abs(a - value[0]) > 1e-9 || Math.abs(b - value[1]) > 1e-9) onChange([a, b]);
  };
  return (
    <div className="min-w-0">
      <label htmlFor={id} className="quiet mb-0.5 block truncate text-2xs">
        {label}
      </label>
      <input
        id={id}
        className="field num"
        autoComplete="off"
        spellCheck={false}
        disabled={disabled}
        value={draft ?? shown}
        placeholder={disabled ? '' : 'several'}
        aria-invalid={error !== null}
        aria-describedby={error ? `${id}-error` : undefined}
        onFocus={(e) => e.currentTarget.select()}
        onChange={(e) => {
          setDraft(e.target.value);
          setError(null);
        }}
        onBlur={commit}
        onKeyDown={(e) => {
          if (e.key === 'Enter') commit();
          if (e.key === 'Escape') {
            setDraft(null);
            setError(null);
            e.stopPropagation();
          }
        }}
      />
      {error && (
        <p id={`${id}-error`} role="alert" className="text-error mt-0.5 text-2xs leading-tight">
          {error}
        </p>
      )}
    </div>
  );
}
