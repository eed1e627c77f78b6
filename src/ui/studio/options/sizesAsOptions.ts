import { layoutOf } from '@/core/layout/registry';
import type { Material } from '@/core/material/schema';
import { liesInPieces, repeatOf, type Spec } from '@/core/specification/schema';
import type { DecimalSign } from '@/core/units/digits';
import { type LengthUnit, parseAngle, parseLength } from '@/core/units/length';
import { sizeOfPiece, withPieceSize } from '../sheet/pieceSize';

/** What can be tried in several sizes. */
export interface Tried {
  id: 'length' | 'width' | 'joint' | 'picture' | 'turned';
  label: string;
  kind: 'length' | 'angle';
  set(spec: Spec, value: number, material: Material): Spec;
}

const ALL: (Tried & { fits(spec: Spec): boolean })[] = [
  {
    id: 'width',
    label: 'Width of a piece',
    kind: 'length',
    fits: (spec) => liesInPieces(spec) && !!sizeOfPiece(spec) && !!layoutOf(spec.pieces.layout).size,
    set: (spec, mm) => (liesInPieces(spec) ? withPieceSize(spec, [sizeOfPiece(spec)![0], mm]) : spec),
  },
  {
    id: 'length',
    label: 'Length of a piece',
    kind: 'length',
    fits: (spec) => liesInPieces(spec) && !!sizeOfPiece(spec),
    set: (spec, mm) => (liesInPieces(spec) ? withPieceSize(spec, [mm, sizeOfPiece(spec)![1]]) : spec),
  },
  {
    id: 'joint',
    label: 'Joints',
    kind: 'length',
    fits: (spec) => liesInPieces(spec),
    set: (spec, mm) =>
      spec.pieces
        ? { ...spec, pieces: { ...spec.pieces, joint: { ...spec.pieces.joint, alongMm: mm, acrossMm: mm } } }
        : spec,
  },
  {
    id: 'picture',
    label: 'Width of the picture',
    kind: 'length',
    fits: (spec) => !liesInPieces(spec),
    set: (spec, mm, material) => {
      const { widthMm, heightMm } = repeatOf(spec, material);
      return { ...spec, repeat: { ...spec.repeat, own: { widthMm: mm, heightMm: (heightMm * mm) / widthMm } } };
    },
  },
  {
    id: 'turned',
    label: 'Turned',
    kind: 'angle',
    fits: () => true,
    set: (spec, turnDeg) => ({ ...spec, direction: { ...spec.direction, turnDeg } }),
  },
];

/** What of a spec can be tried in several sizes. */
export const triedOf = (spec: Spec): Tried[] => ALL.filter((t) => t.fits(spec));

/** A list as people type it: “60, 70, 90 mm”; a unit at the end is that of all. */
export function readSizes(
  text: string,
  { kind }: Pick<Tried, 'kind'>,
  unit: LengthUnit,
  sign: DecimalSign,
): { ok: true; values: { name: string; value: number }[] } | { ok: false; error: string } {
  const words = text
    .split(/;|,(?=\s)|\s+(?:and|or)\s+/)
    .map((w) => w.trim())
    .filter(Boolean);
  const ends = /\d\s*([a-z"′″°%]+)$/i.exec(words.at(-1) ?? '')?.[1] ?? '';
  const values: { name: string; value: number }[] = [];
  for (const word of words) {
    const full = /[a-z"′″°%]$/i.test(word) ? word : `${word}${ends && ` ${ends}`}`;
    const read = kind === 'length' ? parseLength(full, unit, sign) : parseAngle(full, sign);
    if (!read.ok) return { ok: false, error: `${word}: ${read.error}` };
    if (kind === 'length' && !(read.value > 0)) return { ok: false, error: `${word} is no size` };
    if (!values.some((v) => v.value === read.value)) values.push({ name: full, value: read.value });
  }
  return values.length ? { ok: true, values } : { ok: false, error: 'type some sizes: 60, 70, 90 mm' };
}
