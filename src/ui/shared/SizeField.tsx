'use client';

import { useContext, useEffect, useId, useRef, useState } from 'react';
import { formatLength, type LengthUnit, namesIn, parseSize, sidesOf } from '@/core/units/length';
import { inHabit, useDecimalSign } from './decimalSign';
import { DrivingContext } from './driving';
import { enterField, SumMark } from './SumMark';

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
  const driving = useContext(DrivingContext);
  const [sums, setSums] = useState<[string | null, string | null]>([null, null]);
  const latest = useRef(onChange);
  useEffect(() => {
    latest.current = onChange;
  });
  const asks = !!driving?.any && !disabled;
  const [length, width] = value ?? [null, null];
  // found after drawing: asking tries a change, which must not happen while one draws
  useEffect(() => {
    if (!asks || length === null || width === null) return setSums([null, null]);
    const of = (n: 0 | 1) => driving.sumOf((v) => latest.current(n ? [length, v] : [v, width]), n ? width : length);
    setSums([of(0), of(1)]);
  }, [asks, driving, length, width]);
  const sum =
    value && (sums[0] !== null || sums[1] !== null)
      ? value.map((mm, n) => sums[n] ?? formatLength(mm, unit, { withUnit: false })).join(' × ')
      : null;
  const shown = value
    ? inHabit(`${formatLength(value[0], unit, { withUnit: unit === 'ft-in' })} × ${formatLength(value[1], unit)}`, sign)
    : '';
  const commit = () => {
    if (draft === null) return;
    if (draft === sum) return setDraft(null);
    const parsed = parseSize(draft, unit, sign, driving?.names);
    if (!parsed.ok) return setError(parsed.error);
    const texts = sidesOf(draft);
    const sides = parsed.value.map((mm, n) => ({ mm, text: texts[n] ?? texts[0] }));
    if (sorted) sides.sort((p, q) => q.mm - p.mm);
    const [a, b] = sides.map(({ mm }) => mm);
    if (!(a >= 1 && b >= 1 && a <= 100_000 && b <= 100_000)) return setError('each side must be 1 mm to 100 m');
    setError(null);
    setDraft(null);
    const followed = sides.flatMap(({ mm, text }, n) => {
      if (!driving || !namesIn(text).some((name) => driving.names.has(name))) return [];
      const typed = { sum: text.trim(), unit, sign: sign ?? ('.' as const), of: 'length' as const };
      return [{ typed, value: mm, change: (v: number) => onChange(n ? [a, v] : [v, b]) }];
    });
    if (followed.length) {
      if (!driving!.follow(followed, () => onChange([a, b]))) setError('this size cannot follow a sum');
      return;
    }
    if (!value || sum !== null || Math.abs(a - value[0]) > 1e-9 || Math.abs(b - value[1]) > 1e-9) onChange([a, b]);
  };
  return (
    <div className="min-w-0">
      <label htmlFor={id} className="quiet mb-0.5 block truncate text-2xs">
        {label}
        <SumMark sum={sum} />
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
        onFocus={(e) => enterField(e.currentTarget, sum, setDraft)}
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
