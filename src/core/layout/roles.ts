/** What a piece is in its layout. */
export const ROLES_OF_PIECES = [
  'plank',
  'stretcher',
  'header',
  'closer',
  'soldier',
  'upright',
  'level',
  'left',
  'right',
  'frame',
  'block',
  'tile',
  'insert',
  'large',
  'middle',
  'small',
  'stone',
  'sett',
  'ray',
  'body',
] as const;
export type PieceRole = (typeof ROLES_OF_PIECES)[number];
