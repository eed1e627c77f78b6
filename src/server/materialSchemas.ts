import { Type } from '@sinclair/typebox';
import { Material, Name, RepeatLength } from '@/core/material/schema';

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
