import type { Vec2 } from '../../geometry/vec';
import { leafPlaces } from '../../material/leaves';
import type { LeafPlace, Material } from '../../material/schema';
import { type Board, type BoardPicture, MOST_BOARDS } from './compose';
import type { StepOf } from './registry';

type Compose = StepOf<'compose'>;

/** A board that lies level in its picture. */
export const boardAt = ({ x, y, width, height }: LeafPlace, of: Board['of'] = null): Board => ({
  corners: [
    [x, y],
    [x + width, y],
    [x + width, y + height],
    [x, y + height],
  ],
  turns: 0,
  of,
});

/** Boards of a material of the library: its leaves, or all of its picture; none where it has no picture. */
export function boardsOfMaterial({ id, name, widthMm, heightMm, maps, leaves }: Material): Board[] {
  if (!maps.baseColour) return [];
  const { image, widthPx } = maps.baseColour;
  const of: BoardPicture = { image, material: id, name, widthMm, heightMm, widthPx };
  if (!leaves) return [boardAt({ x: 0, y: 0, width: 1, height: 1 }, of)];
  const [x, y] = [leaves.insetMm / widthMm, leaves.insetMm / heightMm];
  return leafPlaces(leaves).map((leaf) =>
    boardAt({ x: leaf.x + x, y: leaf.y + y, width: leaf.width - 2 * x, height: leaf.height - 2 * y }, of),
  );
}

/** Lengths that differ by more than this are no cells of one size. */
const OF_ONE_LENGTH = 1.25;

/** So many times as wide as high, cells are begun with. */
const WIDER = 4 / 3;

/**
 * A step with other boards, that many at most; the first ones say how large cells or rows are.
 * @param sizeMm of the picture before the step; null while it is not known
 */
export function withBoards(step: Compose, boards: readonly Board[], sizeMm: Vec2 | null): Compose {
  const next = { ...step, boards: boards.slice(0, MOST_BOARDS) };
  if (step.boards.length || !next.boards.length) return next;
  const sizes = next.boards.flatMap(({ corners: [a, b, c, d], of }) => {
    const mm = of ? [of.widthMm, of.heightMm] : sizeMm;
    if (!mm) return [];
    const side = (p: readonly number[], q: readonly number[]) =>
      Math.hypot((p[0] - q[0]) * mm[0], (p[1] - q[1]) * mm[1]) - 2 * step.insetMm;
    const [w, h] = [(side(a, b) + side(d, c)) / 2, (side(a, d) + side(b, c)) / 2];
    return [[Math.max(w, h), Math.min(w, h)]];
  });
  if (!sizes.length) return { ...next, fit: 'whole' };
  const sorted = [0, 1].map((k) => sizes.map((s) => s[k]).sort((p, q) => p - q));
  // every one fills its place
  const [lengthMm, heightMm] = sorted.map((all) => Math.max(1, Math.floor(all[0] * 10 + 1e-6) / 10));
  const [shortest, longest] = [sorted[0][0], sorted[0].at(-1)!];
  if (longest > shortest * OF_ONE_LENGTH) {
    const rowMm = Math.round(sizeMm?.[0] ?? longest * 2);
    return { ...next, lay: 'rows', heightMm, rowMm: Math.max(rowMm, Math.ceil(longest)) };
  }
  const columns = Math.round(Math.sqrt((WIDER * next.boards.length * heightMm) / lengthMm));
  return { ...next, lay: 'cells', lengthMm, heightMm, columns: Math.min(64, Math.max(1, columns)) };
}

/** Boards of one picture that follow it to another size or another file, as the library has it now. */
export const renewed = (boards: readonly Board[], material: Material): Board[] => {
  const { baseColour } = material.maps;
  if (!baseColour) return [...boards];
  const { image, widthPx } = baseColour;
  const { name, widthMm, heightMm } = material;
  return boards.map((b) =>
    b.of?.material === material.id ? { ...b, of: { ...b.of, image, widthPx, name, widthMm, heightMm } } : b,
  );
};
