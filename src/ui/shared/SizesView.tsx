'use client';

import type { CourseSizes } from '@/core/schema/sizes';
import type { LengthUnit } from '@/core/units/length';
import { Select } from './fields';
import { ValueField } from './ValueField';

/** One size, several with shares, or a range. */
export function SizesView({
  label,
  value,
  mixed = false,
  inTurn = false,
  unit,
  onChange,
}: {
  label: string;
  value: CourseSizes;
  /** What is picked differs: the first one's are shown, and a change sets them all. */
  mixed?: boolean;
  /** They may follow one another by course. */
  inTurn?: boolean;
  unit: LengthUnit;
  onChange: (value: CourseSizes, gesture?: string) => void;
}) {
  const first = value.kind === 'one' ? value.mm : value.kind === 'range' ? value.fromMm : value.items[0].mm;
  const become = (kind: string) => {
    if (kind === 'one') onChange({ kind: 'one', mm: first });
    else if (kind === 'range') onChange({ kind: 'range', fromMm: first, toMm: Math.round(first * 1.6) });
    else {
      // from one kind of several to the other they stay
      const sizes = 'items' in value ? value.items.map((i) => i.mm) : [first, Math.round(first * 1.3)];
      if (kind === 'turn') onChange({ kind, items: sizes.map((mm) => ({ mm, times: 1 })) });
      else onChange({ kind: 'list', items: sizes.map((mm) => ({ mm, share: 1 })) });
    }
  };
  const side = (name: string, mm: number, set: (v: number) => CourseSizes) => (
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
          ...(inTurn ? [['turn', 'in turn'] as [string, string]] : []),
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
        <Several
          items={value.items}
          none={{ mm: first, share: 1 }}
          side={side}
          of={(items) => ({ kind: 'list', items })}
          onChange={onChange}
        >
          {(item, change) => (
            <ValueField
              label="Share"
              kind="number"
              value={item.share}
              min={0}
              max={1e6}
              onChange={(share, g) => change({ share }, g)}
            />
          )}
        </Several>
      )}
      {value.kind === 'turn' && (
        <Several
          items={value.items}
          none={{ mm: first, times: 1 }}
          side={side}
          of={(items) => ({ kind: 'turn', items })}
          onChange={onChange}
        >
          {(item, change) => (
            <ValueField
              label="Courses"
              kind="number"
              value={item.times}
              min={1}
              max={100}
              decimals={0}
              onChange={(times, g) => change({ times: Math.round(times) }, g)}
            />
          )}
        </Several>
      )}
    </fieldset>
  );
}

/** Sizes one under another, each with a number beside it. */
function Several<Item extends { mm: number }>({
  items,
  none,
  side,
  of,
  onChange,
  children,
}: {
  items: readonly Item[];
  /** What another one begins as. */
  none: Item;
  side: (name: string, mm: number, set: (v: number) => CourseSizes) => React.ReactNode;
  of: (items: Item[]) => CourseSizes;
  onChange: (value: CourseSizes, gesture?: string) => void;
  children: (item: Item, change: (v: Partial<Item>, gesture?: string) => void) => React.ReactNode;
}) {
  const changed = (i: number, v: Partial<Item>) => of(items.map((o, k) => (k === i ? { ...o, ...v } : o)));
  return (
    <ul className="col-span-2 flex flex-col gap-1">
      {items.map((item, i) => (
        <li key={i} className="grid grid-cols-[1fr_1fr_24px] items-end gap-1">
          {side(`Size ${i + 1}`, item.mm, (mm) => changed(i, { mm } as Partial<Item>))}
          {children(item, (v, g) => onChange(changed(i, v), g))}
          <button
            type="button"
            className="tool px-1"
            aria-label={`Remove size ${i + 1}`}
            disabled={items.length < 2}
            onClick={() => onChange(of(items.filter((_, k) => k !== i)))}
          >
            ×
          </button>
        </li>
      ))}
      <li>
        <button
          type="button"
          className="tool tool-line"
          disabled={items.length >= 12}
          onClick={() => onChange(of([...items, none]))}
        >
          One more
        </button>
      </li>
    </ul>
  );
}
