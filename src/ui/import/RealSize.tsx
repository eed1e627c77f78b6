import { useState } from 'react';
import { formatLength, parseLength } from '@/core/units/length';
import { inHabit, useDecimalSign } from '../shared/decimalSign';

/** A size as it comes out; typing what it really is corrects the unit. */
export function RealSize({
  label,
  mm,
  unit,
  onReal,
}: {
  label: string;
  mm: number;
  unit: Parameters<typeof parseLength>[1];
  onReal: (mm: number) => void;
}) {
  const sign = useDecimalSign((s) => s.sign);
  const [text, setText] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);
  const commit = () => {
    if (text === null) return;
    const parsed = parseLength(text, unit, sign);
    if (!parsed.ok || parsed.value <= 0) return setError(parsed.ok ? 'it must be above zero' : parsed.error);
    setError(null);
    setText(null);
    onReal(parsed.value);
  };
  return (
    <label className="block min-w-0 flex-1">
      <span className="quiet mb-0.5 block truncate text-2xs">{label}</span>
      <input
        className="field num"
        value={text ?? inHabit(formatLength(mm, unit, { decimals: unit === 'mm' ? 1 : 3 }), sign)}
        aria-invalid={!!error}
        onFocus={(e) => e.currentTarget.select()}
        onChange={(e) => setText(e.target.value)}
        onBlur={commit}
        onKeyDown={(e) => (e.key === 'Enter' ? commit() : e.key === 'Escape' && setText(null))}
      />
      {error && (
        <span role="alert" className="text-error text-2xs">
          {error}
        </span>
      )}
    </label>
  );
}
