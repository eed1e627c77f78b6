import type { Spec } from '@/core/specification/schema';
import { layoutOf } from '@/core/layout/registry';
import type { PiecesSpec } from '@/core/layout/schema';

/** The two sides of a piece, where a layout has one size. */
export const sizeOfPiece = ({ pieces: { layout } }: { pieces: PiecesSpec }): [number, number] | null =>
  layoutOf(layout).size?.get(layout) ?? null;

export function withPieceSize(spec: Spec, size: [number, number]): Spec {
  const { pieces } = spec;
  const side = pieces && layoutOf(pieces.layout).size;
  if (!side) return spec;
  const [a, b] = side.sorted ? [...size].sort((p, q) => q - p) : size;
  return { ...spec, pieces: { ...pieces, layout: side.set(pieces.layout, [a, b]) } };
}
