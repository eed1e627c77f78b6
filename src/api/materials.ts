import { type Static, Type } from '@sinclair/typebox';
import { Material, RepeatLength } from '@/core/material/schema';
import { Name } from '@/core/schema/basics';

const editable = Type.Partial(Type.Omit(Material, ['version', 'id', 'builtIn', 'repetition']));

/** What POST /api/materials takes as JSON. */
export const NewMaterial = Type.Intersect(
  [Type.Object({ name: Name, widthMm: RepeatLength, heightMm: RepeatLength }), editable],
  { unevaluatedProperties: false },
);

/** What PATCH /api/materials/{id} takes. `deleted: false` brings a deleted material back. */
export const MaterialChange = Type.Object(
  { ...editable.properties, deleted: Type.Optional(Type.Literal(false)) },
  { additionalProperties: false },
);
export type MaterialChange = Static<typeof MaterialChange>;
