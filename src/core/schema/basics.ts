import { type TSchema, Type } from '@sinclair/typebox';

/** What identifies a thing of a project or of the library. */
export const Key = Type.String({ minLength: 1, maxLength: 80, pattern: '^[A-Za-z0-9_-]+$' });
/** What people call it. */
export const Name = Type.String({ minLength: 1, maxLength: 200 });
/** sRGB. */
export const Colour = Type.String({ pattern: '^#[0-9a-f]{6}$' });
/** SHA-256 of a file. */
export const Hash = Type.String({ pattern: '^[0-9a-f]{64}$' });
export const Nullable = <T extends TSchema>(schema: T) => Type.Union([schema, Type.Null()]);
