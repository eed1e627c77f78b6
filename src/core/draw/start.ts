import type { Bounds2 } from '../geometry/bounds';
import { isSliver } from '../lay/proposeStarts';
import type { Piece } from '../lay/pieces';

/** A piece in a small drawing of a start: px, y down. */
export interface StartPiece {
  outline: [number, number][][];
  kind: 'whole' | 'cut' | 'sliver';
}

/** All pieces as they come to lie, fitted into a picture: what is cut and what is a sliver can be told apart. */
export function drawStart(
  pieces: readonly Piece[],
  bounds: Bounds2,
  { width, height }: { width: number; height: number },
): StartPiece[] {
  const [w, h] = [Math.max(1, bounds.maxX - bounds.minX), Math.max(1, bounds.maxY - bounds.minY)];
  const scale = Math.min(width / w, height / h);
  const [left, top] = [(width - w * scale) / 2, (height - h * scale) / 2];
  return pieces.map((piece) => ({
    outline: piece.outline.map((loop) =>
      loop.map(([x, y]) => [left + (x - bounds.minX) * scale, top + (bounds.maxY - y) * scale]),
    ),
    kind: piece.whole ? 'whole' : isSliver(piece) ? 'sliver' : 'cut',
  }));
}
