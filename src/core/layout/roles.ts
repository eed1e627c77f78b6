import { type Static, Type } from '@sinclair/typebox';

/** What a piece is in its layout, as a word that layout gives it: “header”, “insert”; of a drawing, its own. */
export const PieceRole = Type.String({ minLength: 1, maxLength: 40 });
export type PieceRole = Static<typeof PieceRole>;
