import { type Static, Type } from '@sinclair/typebox';
import { Side } from '../schema/sizes';
import { openRows } from './rows';
import { defaultJoint } from './joint';
import { RECTANGLE } from './modules';
import { wrapped } from './stretcher';
import type { Layout } from './types';
import { pieceIn, shareWord } from './words';

const Count = Type.Union([Type.Null(), Type.Integer({ minimum: 1, maximum: 10_000 })]);
export const GridLayout = Type.Object({
  kind: Type.Literal('grid'),
  widthMm: Side,
  heightMm: Side,
  /** Share of a tile by which each row is moved on. */
  shift: Type.Number({ minimum: 0, maximum: 0.999 }),
  /** Turned by 45°. */
  diagonal: Type.Boolean(),
  /** Exactly so many across and up the surface, whatever its size; the tile's own size gives way. */
  across: Count,
  up: Count,
});
export type GridLayout = Static<typeof GridLayout>;

const tile = (widthMm: number, heightMm = widthMm, rest: Partial<GridLayout> = {}): GridLayout => ({
  kind: 'grid',
  widthMm,
  heightMm,
  shift: 0,
  diagonal: false,
  across: null,
  up: null,
  ...rest,
});
const HALF_DIAGONAL = Math.SQRT1_2;

/** Tiles in rows, in line or each row moved on, straight or diagonal, of a given size or in whole counts. */
export const grid: Layout<GridLayout> = {
  kind: 'grid',
  label: 'Grid',
  trade: 'tile',
  also: ['tiles', 'stack bond', 'third bond', 'half bond', 'diagonal', 'slabs'],
  schema: GridLayout,
  cells: 'laid',
  preset: { spec: tile(150), joint: { ...defaultJoint(3, '#d8d4cb'), recessMm: 1, roundingMm: 1 } },
  formats: [
    { label: 'Wall tile 150 × 150', spec: tile(150) },
    { label: 'Metro tile 200 × 100, half bond', spec: tile(200, 100, { shift: 0.5 }) },
    { label: 'Floor tile 300 × 300', spec: tile(300), joint: { alongMm: 4, acrossMm: 4 } },
    { label: 'Floor tile 600 × 300, third bond', spec: tile(600, 300, { shift: 1 / 3 }) },
    { label: 'Slab 600 × 600, diagonal', spec: tile(600, 600, { diagonal: true }) },
  ],
  roles: ['tile'],
  size: {
    label: 'Tile',
    sorted: false,
    get: (s) => [s.widthMm, s.heightMm],
    set: (s, [widthMm, heightMm]) => ({ ...s, widthMm, heightMm, across: null, up: null }),
  },
  course: (s, joint) => (s.diagonal || s.up ? 0 : s.heightMm + joint.acrossMm),
  pitch: (s, joint) => (s.diagonal || s.across ? null : s.widthMm + joint.alongMm),
  round(s, joint, pitch, standing) {
    if (s.diagonal) return null;
    return standing
      ? { ...s, heightMm: pieceIn(pitch, joint.acrossMm), up: null }
      : { ...s, widthMm: pieceIn(pitch, joint.alongMm), across: null };
  },
  fields: [
    {
      kind: 'number',
      label: 'Each row moved on by (share)',
      get: (s) => s.shift,
      set: (s, shift) => ({ ...s, shift: Math.min(0.999, Math.max(0, shift)) }),
    },
    { kind: 'toggle', label: 'Diagonal', get: (s) => s.diagonal, set: (s, diagonal) => ({ ...s, diagonal }) },
    {
      kind: 'freeNumber',
      free: 'Free',
      min: 1,
      max: 10_000,
      integer: true,
      label: 'Exactly … across',
      get: (s) => s.across,
      set: (s, across) => ({ ...s, across }),
      shown: (s) => !s.diagonal,
    },
    {
      kind: 'freeNumber',
      free: 'Free',
      min: 1,
      max: 10_000,
      integer: true,
      label: 'Exactly … courses up',
      get: (s) => s.up,
      set: (s, up) => ({ ...s, up }),
      shown: (s) => !s.diagonal,
    },
  ],
  describe(s, size) {
    const counts = [s.across && `exactly ${s.across} across`, s.up && `exactly ${s.up} up`].filter(Boolean);
    const words = [`a ${s.diagonal ? 'diagonal ' : ''}grid`];
    if (!s.across || !s.up) words.push(` of tiles ${size(s.widthMm, s.heightMm)}`);
    if (!s.diagonal && counts.length) words.push(`, ${counts.join(', ')}`);
    if (s.shift) words.push(`, each row ${shareWord(s.shift)} on`);
    return words.join('');
  },
  open(spec, { alongMm, acrossMm }, area) {
    const { minX, minY, maxX, maxY } = area.bounds;
    // whole counts run from edge to edge, whatever the start says
    const across = spec.diagonal ? null : spec.across;
    const up = spec.diagonal ? null : spec.up;
    const width = across ? Math.max(0.01, (maxX - minX - (across - 1) * alongMm) / across) : spec.widthMm;
    const height = up ? Math.max(0.01, (maxY - minY - (up - 1) * acrossMm) / up) : spec.heightMm;
    const px = width + alongMm;
    const py = height + acrossMm;
    return openRows({
      pitch: [px, py],
      first: [(across ? minX : 0) + width / 2, (up ? minY : 0) + height / 2],
      offset: (c) => wrapped(c * spec.shift),
      wraps: (c) => Math.floor(c * spec.shift + 1e-9),
      turn: spec.diagonal ? [HALF_DIAGONAL, HALF_DIAGONAL] : [1, 0],
      halfLength: px / 2,
      halfWidth: py / 2,
      module: RECTANGLE,
      inset: [alongMm / 2, acrossMm / 2],
      largest: [width, height],
      role: 'tile',
    });
  },
};
