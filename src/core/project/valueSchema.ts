import { type Static, Type } from '@sinclair/typebox';
import { oneOf } from '../schema/choice';
import { Key } from '../schema/basics';

const Sum = Type.String({ minLength: 1, maxLength: 200 });
const LengthUnitKind = oneOf('mm', 'cm', 'm', 'in', 'ft-in');
const DecimalKind = oneOf('.', ',');

export const NamedValue = Type.Object({
  id: Key,
  name: Type.String({ minLength: 1, maxLength: 60 }),
  /** As typed: bare lengths are in `unit`. */
  sum: Sum,
  unit: LengthUnitKind,
  sign: DecimalKind,
  /** It was measured: on which surface, and which side of its sheet. Its sum is what that was then. */
  measured: Type.Optional(Type.Object({ surface: Key, side: oneOf('width', 'height') })),
});
export type NamedValue = Static<typeof NamedValue>;

/** The sum behind a number of a spec. */
export const Driven = Type.Object({
  sum: Sum,
  unit: LengthUnitKind,
  sign: DecimalKind,
  of: oneOf('length', 'number', 'angle'),
  /** The number is so many times what the sum comes to. */
  factor: Type.Number(),
});
export type Driven = Static<typeof Driven>;

/** By the place of the number within the spec: “/pieces/joint/acrossMm”. */
export const DrivenBy = Type.Record(Type.String({ maxLength: 200, pattern: '^(/[A-Za-z0-9]+)+$' }), Driven, {
  maxProperties: 200,
});
export type DrivenBy = Static<typeof DrivenBy>;
