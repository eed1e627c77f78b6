'use client';

import { LAYOUTS, type LaidSpec } from '@/core/layout/registry';
import type { Sizes } from '@/core/layout/schema';
import type { Layout, LayoutField } from '@/core/layout/types';
import type { LengthUnit } from '@/core/units/length';
import { Select } from '../../shared/fields';
import { ValueField } from '../../shared/ValueField';

/** The parameters a layout says it has. */
export function LayoutFields({
  spec,
  unit,
  onChange,
}: {
  spec: LaidSpec;
  unit: LengthUnit;
  onChange: (spec: LaidSpec, gesture?: string) => void;
}) {
  const { fields } = LAYOUTS[spec.kind] as Layout<LaidSpec>;
  return (
    <>
      {fields
        .filter((f) => f.shown?.(spec) ?? true)
        .map((f) => (
          <Field key={f.label} field={f} spec={spec} unit={unit} onChange={onChange} />
        ))}
    </>
  );
}

function Field({
  field,
  spec,
  unit,
  onChange,
}: {
  field: LayoutField<LaidSpec>;
  spec: LaidSpec;
  unit: LengthUnit;
  onChange: (spec: LaidSpec, gesture?: string) => void;
}) {
  switch (field.kind) {
    case 'length':
      return (
        <ValueField
          label={field.label}
          kind="length"
          unit={unit}
          value={field.get(spec)}
          min={0}
          max={100_000}
          onChange={(v, g) => onChange(field.set(spec, v), g)}
        />
      );
    case 'number':
      return (
        <ValueField
          label={field.label}
          kind="number"
          value={field.get(spec)}
          min={0}
          max={1e9}
          step={field.get(spec) > 1 ? 1 : 0.05}
          onChange={(v, g) => onChange(field.set(spec, v), g)}
        />
      );
    case 'choice':
      return (
        <Select
          label={field.label}
          value={field.get(spec)}
          options={field.options.map(([v, t]) => [v, t])}
          onChange={(v) => onChange(field.set(spec, v))}
        />
      );
    case 'toggle':
      return (
        <label className="flex h-[26px] items-center gap-2 self-end">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={field.get(spec)}
            onChange={(e) => onChange(field.set(spec, e.target.checked))}
          />
          <span className="leading-tight">{field.label}</span>
        </label>
      );
    case 'count': {
      const value = field.get(spec);
      return (
        <div className="flex items-end gap-1">
          <input
            type="checkbox"
            className="checkbox checkbox-xs mb-1.5"
            aria-label={`${field.label}, fixed`}
            checked={value !== null}
            onChange={(e) => onChange(field.set(spec, e.target.checked ? 10 : null))}
          />
          <ValueField
            label={field.label}
            kind="number"
            decimals={0}
            value={value}
            disabled={value === null}
            min={1}
            max={10_000}
            onChange={(v, g) => onChange(field.set(spec, Math.round(v)), g)}
          />
        </div>
      );
    }
    case 'sizes':
      return (
        <SizesField
          label={field.label}
          value={field.get(spec)}
          unit={unit}
          onChange={(v, g) => onChange(field.set(spec, v), g)}
        />
      );
  }
}

/** One size, several with shares, or a range. */
function SizesField({
  label,
  value,
  unit,
  onChange,
}: {
  label: string;
  value: Sizes;
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
