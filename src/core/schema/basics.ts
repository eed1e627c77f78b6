import { type TSchema, Type } from '@sinclair/typebox';

/** What identifies a thing of a project or of the library; never a name that objects have of themselves. */
export const KEY = /^(?!(?:__proto__|constructor|prototype)$)[A-Za-z0-9_-]+$/;
export const Key = Type.String({ minLength: 1, maxLength: 80, pattern: KEY.source });
/** Things by what identifies them. */
export const Keyed = <T extends TSchema>(schema: T) => Type.Record(Key, schema, { additionalProperties: false });
/** What people call it. */
export const Name = Type.String({ minLength: 1, maxLength: 200 });
/** sRGB. */
export const Colour = Type.String({ pattern: '^#[0-9a-f]{6}$' });
/** SHA-256 of a file. */
export const Hash = Type.String({ pattern: '^[0-9a-f]{64}$' });
export const Nullable = <T extends TSchema>(schema: T) => Type.Union([schema, Type.Null()]);
