'use client';

import { type Field, type FieldGroup, optionsOf, type Range } from '@/core/schema/fields';
import type { CourseSizes } from '@/core/schema/sizes';
import type { LengthUnit } from '@/core/units/length';
import { Select, Tick } from './fields';
import { FieldSet } from './FieldSet';
import { RangeView } from './RangeView';
import { sharedBy } from './sharedValue';
import { SizesView } from './SizesView';
import { MIXED, ValueField } from './ValueField';

/** Changes one value on each of what is picked, and nothing else. */
export type OnEach<S> = (edit: (own: S) => S, gesture?: string) => void;

interface Props<S, C> {
  fields: readonly Field<S, C>[];
  /** Of all that is picked, the first picked first. */
  specs: readonly S[];
  context: C;
  unit: LengthUnit;
  onEach: OnEach<S>;
}

/** The fields of a definition, each acting on every picked thing by itself. */
export function FieldViews<S, C>({ fields, specs, context, unit, onEach }: Props<S, C>) {
  return shownOf(fields, specs, context).map((f) => (
    <div
      key={f.label}
      className={`grid min-w-0 ${SPANS[f.span ?? (f.kind === 'sizes' || f.kind === 'range' ? 2 : 1)]}`}
    >
      <FieldView field={f} specs={specs} context={context} unit={unit} onEach={onEach} />
    </div>
  ));
}

const shownOf = <S, C>(fields: readonly Field<S, C>[], specs: readonly S[], context: C) =>
  fields.filter((f) => specs.some((s) => f.shown?.(s, context) ?? true));

/** Groups of fields, one below the other; `titled`, each under its heading and as wide as there is room. */
export function FieldGroups<S, C>({
  groups,
  titled = false,
  ...rest
}: Omit<Props<S, C>, 'fields'> & { groups: readonly FieldGroup<S, C>[]; titled?: boolean }) {
  const seen = groups.filter(({ fields }) => shownOf(fields, rest.specs, rest.context).length);
  if (titled)
    return seen.map(({ label, fields }) => (
      <FieldSet key={label} title={label}>
        <FieldViews fields={fields} {...rest} />
      </FieldSet>
    ));
  return seen.map(({ label, columns, fields }, i) => (
    <fieldset
      key={label}
      className={`grid ${COLUMNS[columns]} gap-x-2 gap-y-1.5 ${i ? 'mt-1.5 border-t border-base-300 pt-1.5' : ''}`}
    >
      <legend className="sr-only">{label}</legend>
      <FieldViews fields={fields} {...rest} />
    </fieldset>
  ));
}

const COLUMNS = { 2: 'grid-cols-2', 3: 'grid-cols-3', 4: 'grid-cols-4' };
const SPANS = ['', '', 'col-span-2', 'col-span-3', 'col-span-4'];

function FieldView<S, C>({
  field: f,
  specs,
  context,
  unit,
  onEach,
}: Omit<Props<S, C>, 'fields'> & { field: Field<S, C> }) {
  const fixed = specs.every((s) => f.fixed?.(s, context) ?? false);
  const common = { label: f.label, title: f.title, disabled: fixed };
  switch (f.kind) {
    case 'length':
    case 'number':
    case 'angle':
    case 'freeLength':
    case 'freeNumber':
    case 'freeAngle': {
      const get = (s: S): number | null => f.get(s, context);
      const value = sharedBy(specs, get);
      const tidy = (v: number) => (f.integer ? Math.round(v) : v);
      const within = (v: number) => Math.min(f.max ?? Infinity, Math.max(f.min ?? -Infinity, tidy(v)));
      const isFree = f.kind === 'freeLength' || f.kind === 'freeNumber' || f.kind === 'freeAngle';
      const letGo = isFree && f.free && value !== null && !fixed;
      return (
        <div className="flex min-w-0 items-end gap-1">
          <div className="min-w-0 flex-1">
            <ValueField
              {...common}
              kind={KINDS[f.kind]}
              suffix={f.suffix}
              unit={unit}
              value={value}
              min={f.min}
              max={f.max}
              step={f.step ?? (f.kind === 'number' && typeof value === 'number' && value <= 1 && !f.integer ? 0.05 : 1)}
              decimals={f.integer ? 0 : undefined}
              onChange={(v, g) => onEach((s) => f.set(s, tidy(v), context), g)}
              onStep={(by, g) => onEach((s) => f.set(s, within((get(s) ?? 0) + by), context), g)}
            />
          </div>
          {letGo && (
            <button
              type="button"
              className="tool h-[26px] shrink-0 px-1 text-2xs"
              title={`${f.label}: leave it to the program`}
              onClick={() => onEach((s) => f.set(s, null, context))}
            >
              {f.free}
            </button>
          )}
        </div>
      );
    }
    case 'choice': {
      const value = sharedBy(specs, (s) => f.get(s, context));
      const options = optionsOf(f, specs[0], context).map(([v, text]): [string, string] => [v, text]);
      if (f.beside)
        return (
          <Beside
            label={f.label}
            value={value}
            options={options}
            disabled={fixed}
            onChange={(v) => onEach((s) => f.set(s, v, context))}
          />
        );
      return (
        <Select
          label={f.label}
          value={value === MIXED ? '' : value}
          disabled={fixed}
          options={value === MIXED ? [['', 'mixed'], ...options] : options}
          onChange={(v) => v !== '' && onEach((s) => f.set(s, v, context))}
        />
      );
    }
    case 'toggle': {
      const value = sharedBy(specs, (s) => f.get(s, context));
      return (
        <Tick
          label={value === MIXED ? `${f.label} (mixed)` : f.label}
          className="h-[26px] items-center self-end leading-tight"
          checked={value === true}
          disabled={fixed}
          onChange={(on) => onEach((s) => f.set(s, on, context))}
        />
      );
    }
    case 'colour': {
      const value = sharedBy(specs, (s) => f.get(s, context));
      return (
        <label className="block">
          <span className="quiet mb-0.5 block text-2xs">{value === MIXED ? `${f.label} (mixed)` : f.label}</span>
          <input
            type="color"
            className="field p-0.5"
            value={value === MIXED ? f.get(specs[0], context) : value}
            disabled={fixed}
            onChange={({ target }) => onEach((s) => f.set(s, target.value, context), f.label)}
          />
        </label>
      );
    }
    case 'range': {
      const end = (e: keyof Range) => sharedBy(specs, (s) => f.get(s, context)[e]);
      return (
        <RangeView
          label={f.label}
          value={f.get(specs[0], context)}
          ends={{ from: end('from'), to: end('to') }}
          of={f.of}
          look={f.look}
          unit={unit}
          suffix={f.suffix}
          min={f.min}
          max={f.max}
          onChange={(e, v, g) => onEach((s) => f.set(s, { ...f.get(s, context), [e]: v }, context), g)}
        />
      );
    }
    case 'sizes': {
      const value = sharedBy(specs, (s) => f.get(s, context));
      const shown: CourseSizes = value === MIXED ? f.get(specs[0], context) : value;
      return (
        <SizesView
          label={f.label}
          value={shown}
          mixed={value === MIXED}
          inTurn={f.inTurn}
          unit={unit}
          onChange={(v, g) => onEach((s) => f.set(s, v, context), g)}
        />
      );
    }
  }
}

const KINDS = {
  length: 'length',
  freeLength: 'length',
  number: 'number',
  freeNumber: 'number',
  angle: 'angle',
  freeAngle: 'angle',
} as const;

/** A choice of a few, all seen. */
function Beside({
  label,
  value,
  options,
  disabled,
  onChange,
}: {
  label: string;
  value: string | typeof MIXED;
  options: [string, string][];
  disabled: boolean;
  onChange: (v: string) => void;
}) {
  return (
    <div>
      <div role="group" aria-label={label} className="flex overflow-hidden rounded-[6px] border border-base-300">
        {options.map(([v, text]) => (
          <button
            key={v}
            type="button"
            disabled={disabled}
            aria-pressed={value === v}
            className={
              'h-6 flex-auto px-0.5 text-[12px] disabled:opacity-40 ' +
              `${value === v ? 'bg-secondary/15 text-secondary font-medium' : 'hover:bg-base-200'}`
            }
            onClick={() => onChange(v)}
          >
            {text}
          </button>
        ))}
      </div>
      {value === MIXED && <p className="quiet text-2xs">mixed</p>}
    </div>
  );
}
