'use client';

import { useState } from 'react';
import { ValueField } from './ValueField';

/** A labelled choice. */
export function Select({
  label,
  value,
  options,
  groups = [],
  onChange,
  hideLabel,
  disabled,
}: {
  label: string;
  value: string;
  options: [string, string][];
  /** More of them, under titles. */
  groups?: [string, [string, string][]][];
  onChange: (v: string) => void;
  hideLabel?: boolean;
  disabled?: boolean;
}) {
  return (
    <label className="block min-w-0">
      <span className={hideLabel ? 'sr-only' : 'quiet mb-0.5 block text-2xs'}>{label}</span>
      <select className="field" value={value} disabled={disabled} onChange={(e) => onChange(e.target.value)}>
        {options.map(optionOf)}
        {groups.map(([title, own]) => (
          <optgroup key={title} label={title}>
            {own.map(optionOf)}
          </optgroup>
        ))}
      </select>
    </label>
  );
}

const optionOf = ([v, text]: [string, string]) => (
  <option key={v} value={v}>
    {text}
  </option>
);

/** A share, 0..1, in whole percent. */
export function PercentField({
  label,
  value,
  onChange,
}: {
  label: string;
  value: number;
  onChange: (share: number, gesture?: string) => void;
}) {
  return (
    <ValueField
      label={label}
      kind="number"
      suffix=" %"
      decimals={0}
      step={5}
      min={0}
      max={100}
      value={Math.round(value * 100)}
      onChange={(percent, gesture) => onChange(percent / 100, gesture)}
    />
  );
}

/** A labelled text that is applied on leaving it. */
export function TextField({
  label,
  value,
  onChange,
  hidden,
  className = '',
}: {
  label: string;
  value: string;
  onChange: (v: string) => void;
  hidden?: boolean;
  className?: string;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  const commit = () => {
    if (draft !== null && draft.trim() !== value) onChange(draft.trim());
    setDraft(null);
  };
  return (
    <label className="block min-w-0 flex-1">
      <span className={hidden ? 'sr-only' : 'quiet mb-0.5 block text-2xs'}>{label}</span>
      <input
        className={`field ${className}`}
        value={draft ?? value}
        onChange={(e) => setDraft(e.target.value)}
        onBlur={commit}
        onKeyDown={(e) => (e.key === 'Enter' ? e.currentTarget.blur() : e.key === 'Escape' && setDraft(null))}
      />
    </label>
  );
}

/** A labelled box to tick. */
export function Tick({
  label,
  checked,
  onChange,
  disabled,
  className = 'h-6 items-center',
}: {
  label: string;
  checked: boolean;
  onChange: (checked: boolean) => void;
  disabled?: boolean;
  className?: string;
}) {
  return (
    <label className={`flex gap-1.5 ${className}`}>
      <input
        type="checkbox"
        className="checkbox checkbox-xs"
        checked={checked}
        disabled={disabled}
        onChange={(e) => onChange(e.target.checked)}
      />
      {label}
    </label>
  );
}
