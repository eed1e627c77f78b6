import type { CourseSizes } from './sizes';

/**
 * What people set, described once: screens draw a field by its kind and need not know what it belongs to. A field
 * changes its own value and nothing else, so that it can be set on many things at once.
 */
interface FieldOf<Spec, Context, Kind extends string, Value> {
  kind: Kind;
  label: string;
  /** Said when the pointer rests on it. */
  title?: string;
  get(spec: Spec, context: Context): Value;
  set(spec: Spec, value: Value, context: Context): Spec;
  /** Left out where it has no say. */
  shown?(spec: Spec, context: Context): boolean;
  /** Seen, but not to be set. */
  fixed?(spec: Spec, context: Context): boolean;
  /** Rarely used: further along the card. */
  further?: boolean;
  /** Columns of the card it takes, 1 unless said. */
  span?: number;
}

interface Limits {
  min?: number;
  max?: number;
  step?: number;
  /** Whole numbers alone. */
  integer?: boolean;
  /** Written after the number: “%”. */
  suffix?: string;
}

/** A number that may be left to the program: null then, and `free` says how that is put. */
interface Free {
  free?: string;
}

export type LengthField<Spec, Context> = FieldOf<Spec, Context, 'length', number> & Limits;
export type NumberField<Spec, Context> = FieldOf<Spec, Context, 'number' | 'angle', number> & Limits;
export type FreeField<Spec, Context> = FieldOf<
  Spec,
  Context,
  'freeLength' | 'freeNumber' | 'freeAngle',
  number | null
> &
  Limits &
  Free;
export type ToggleField<Spec, Context> = FieldOf<Spec, Context, 'toggle', boolean>;
export type ChoiceField<Spec, Context> = FieldOf<Spec, Context, 'choice', string> & {
  options?: readonly Option[];
  /** Where they depend on the spec or on what it lies on. */
  optionsFor?(spec: Spec, context: Context): readonly Option[];
  /** Few and short: all seen, beside one another. */
  beside?: boolean;
};
/** As #rrggbb, sRGB. */
export type ColourField<Spec, Context> = FieldOf<Spec, Context, 'colour', string>;
export type SizesField<Spec, Context> = FieldOf<Spec, Context, 'sizes', CourseSizes> & {
  /** They may follow one another by course. */
  inTurn?: boolean;
};

/** Two ends of one range. */
export interface Range {
  from: number;
  to: number;
}
export type RangeField<Spec, Context> = FieldOf<Spec, Context, 'range', Range> &
  Limits & {
    /** What its numbers are. */
    of: 'length' | 'number';
    /** What a sample piece looks like at one end: which of its looks, in the field's own numbers. */
    look?: keyof SampleLook;
  };

/** A sample piece: its print slid (mm along and across it), sized and toned (percent). */
export interface SampleLook {
  alongMm: number;
  acrossMm: number;
  sizePercent: number;
  lightness: number;
  warmth: number;
  saturation: number;
}

/** The value as it is kept, and as people read it. */
export type Option = readonly [string, string];

/** Any field of a spec. `Context` is what it must know beyond the spec, such as what the mesh has to offer. */
export type Field<Spec, Context = unknown> =
  | LengthField<Spec, Context>
  | NumberField<Spec, Context>
  /** A number, or null for what suits best. */
  | FreeField<Spec, Context>
  /** From … to. */
  | RangeField<Spec, Context>
  | ToggleField<Spec, Context>
  | ChoiceField<Spec, Context>
  | ColourField<Spec, Context>
  | SizesField<Spec, Context>;

export const optionsOf = <Spec, Context>(field: ChoiceField<Spec, Context>, spec: Spec, context: Context) =>
  field.optionsFor?.(spec, context) ?? field.options ?? [];

/** Fields that stand together on a card, in so many columns. */
export interface FieldGroup<Spec, Context = unknown> {
  label: string;
  columns: 2 | 3 | 4;
  fields: readonly Field<Spec, Context>[];
}
