'use client';

import type { Sizes } from '@/core/schema/sizes';
import type { LengthUnit } from '@/core/units/length';
import { Select } from './fields';
import { ValueField } from './ValueField';

/** One size, several with shares, or a range. */
export function SizesView({
  label,
  value,
  mixed = false,
  unit,
  onChange,
}: {
  label: string;
  value: Sizes;
  /** What is picked differs: the first one's are shown, and a change sets them all. */
  mixed?: boolean;
  unit: LengthUnit;
  onChange: (value: Sizes, gesture?: string) => void;
}) {
  const first = value.kind === 'one' ? value.mm : value.kind === 'range' ? value.fromMm : value.items[0].mm;
  const become = (kind: string) => {
    if (kind === 'one') onChange({ kind: 'one', mm: first });
    else if (kind === 'range') onChange({ kind: 'range', fromMm: first, toMm: Math.round(first * 1.6) });
    else
      onChange({
        kind: 'list',
        items: [
          { mm: first, share: 1 },
          { mm: Math.round(first * 1.3), share: 1 },
        ],
      });
  };
  const side = (name: string, mm: number, set: (v: number) => Sizes) => (
    <ValueField
      label={name}
      kind="length"
      unit={unit}
      value={mm}
      min={1}
      max={100_000}
      onChange={(v, g) => onChange(set(v), g)}
    />
  );
  return (
    <fieldset className="col-span-2 grid grid-cols-3 gap-1 rounded-[6px] border border-base-300 p-1.5">
      <legend className="sr-only">{label}</legend>
      {mixed && <p className="quiet col-span-3 text-2xs">mixed; a change sets all</p>}
      <Select
        label={label}
        value={value.kind}
        options={[
          ['one', 'one'],
          ['list', 'several'],
          ['range', 'from … to'],
        ]}
        onChange={become}
      />
      {value.kind === 'one' && side('Size', value.mm, (mm) => ({ kind: 'one', mm }))}
      {value.kind === 'range' && (
        <>
          {side('From', value.fromMm, (fromMm) => ({ ...value, fromMm }))}
          {side('To', value.toMm, (toMm) => ({ ...value, toMm }))}
        </>
      )}
      {value.kind === 'list' && (
        <ul className="col-span-2 flex flex-col gap-1">
          {value.items.map((item, i) => {
            const change = (v: Partial<typeof item>): Sizes => ({
              kind: 'list',
              items: value.items.map((o, k) => (k === i ? { ...o, ...v } : o)),
            });
            return (
              <li key={i} className="grid grid-cols-[1fr_1fr_24px] items-end gap-1">
                {side(`Size ${i + 1}`, item.mm, (mm) => change({ mm }))}
                <ValueField
                  label="Share"
                  kind="number"
                  value={item.share}
                  min={0}
                  max={1e6}
                  onChange={(share, g) => onChange(change({ share }), g)}
                />
                <button
                  type="button"
                  className="tool px-1"
                  aria-label={`Remove size ${i + 1}`}
                  disabled={value.items.length < 2}
                  onClick={() => onChange({ kind: 'list', items: value.items.filter((_, k) => k !== i) })}
                >
                  ×
                </button>
              </li>
            );
          })}
          <li>
            <button
              type="button"
              className="tool tool-line"
              disabled={value.items.length >= 12}
              onClick={() => onChange({ kind: 'list', items: [...value.items, { mm: first, share: 1 }] })}
            >
              One more
            </button>
          </li>
        </ul>
      )}
    </fieldset>
  );
}
