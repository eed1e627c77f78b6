import { type Static, Type } from '@sinclair/typebox';
import { Material, RepeatLength, UNSET } from '@/core/material/schema';
import { NAMINGS, type Naming, PICTURE_FILES, type PictureFile } from '@/core/material/pictureFiles';
import { Name } from '@/core/schema/basics';
import { oneOf } from '@/core/schema/choice';

const editable = Type.Partial(Type.Omit(Material, [...UNSET]));

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

/** How a material's pictures are written into its zip, and named. */
export const ZipQuery = Type.Object(
  {
    pictures: Type.Optional(oneOf(...(Object.keys(PICTURE_FILES) as PictureFile[]))),
    quality: Type.Optional(Type.String({ pattern: '^([1-9]\\d?|100)$' })),
    names: Type.Optional(oneOf(...(Object.keys(NAMINGS) as Naming[]))),
  },
  { additionalProperties: false },
);
export type ZipQuery = Static<typeof ZipQuery>;
