/** What a piece is in its layout. */
export const ROLES_OF_PIECES = ['plank', 'stretcher', 'header', 'closer', 'upright', 'level', 'tile', 'body'] as const;
export type PieceRole = (typeof ROLES_OF_PIECES)[number];
