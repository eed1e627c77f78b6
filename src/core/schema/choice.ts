import { type TUnsafe, Type } from '@sinclair/typebox';

/** A schema for one of some words: plain `enum` in JSON Schema, a union of literals in TypeScript. */
export const oneOf = <const T extends readonly string[]>(...words: T): TUnsafe<T[number]> =>
  Type.Unsafe<T[number]>({ type: 'string', enum: [...words] });
