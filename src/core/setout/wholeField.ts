import type { Bounds2 } from '../geometry/bounds';
import type { Loop } from '../geometry/loop';
import { turnOf } from '../geometry/turn';
import type { Vec2 } from '../geometry/vec';
import type { Leftover } from '../layout/margins';
import { layoutOf, type Layouts } from '../layout/registry';
import { liesInPieces, type Spec } from '../specification/schema';

/** As many whole pieces as there is room for: one and its joint, mm, and where what is left goes. */
export interface WholePieces {
  pitch: number;
  joint: number;
  leftover: Leftover;
}

/** Whole pieces along the courses, across them, or both. */
export interface Whole {
  along: WholePieces | null;
  across: WholePieces | null;
}

/** What of a spec asks for whole pieces; null where nothing does, or its courses have no one size or lie aslant. */
export function wholeOf(spec: Spec, layouts?: Layouts): Whole | null {
  if (!liesInPieces(spec) || !spec.pieces.margins || spec.direction.turnDeg % 90 !== 0) return null;
  const { layout, joint, margins } = spec.pieces;
  const { pitch, course } = layoutOf(layout, layouts);
  const [one, row] = [pitch?.(layout, joint) ?? null, course?.(layout, joint) ?? null];
  if (!row) return null;
  const of = (mm: number | null, jointMm: number, leftover?: Leftover) =>
    mm && leftover ? { pitch: mm, joint: jointMm, leftover } : null;
  const whole = { along: of(one, joint.alongMm, margins.along), across: of(row, joint.acrossMm, margins.across) };
  return whole.along || whole.across ? whole : null;
}

/** The stretch that whole pieces take between two edges; all of it where not one has room. */
function stretchOf(whole: WholePieces | null, from: number, to: number): Vec2 {
  if (!whole) return [from, to];
  const { pitch, joint, leftover } = whole;
  const count = Math.floor((to - from + joint) / pitch + 1e-6);
  if (count < 1) return [from, to];
  const left = Math.max(0, to - from - (count * pitch - joint));
  const start = from + (leftover === 'both' ? left / 2 : leftover === 'low' ? left : 0);
  return [start, Math.min(to, start + count * pitch - joint)];
}

/** The rectangle of the sheet that whole pieces cover, mm, counter-clockwise. */
export function wholeField(whole: Whole, { turnDeg }: Pick<Spec['direction'], 'turnDeg'>, b: Bounds2): Loop {
  const stands = Math.abs(turnOf(turnDeg)[1]) > 0.5;
  const [x0, x1] = stretchOf(stands ? whole.across : whole.along, b.minX, b.maxX);
  const [y0, y1] = stretchOf(stands ? whole.along : whole.across, b.minY, b.maxY);
  return [
    [x0, y0],
    [x1, y0],
    [x1, y1],
    [x0, y1],
  ];
}

/** Where the first piece begins: in the corner of the field from which courses and pieces are counted. */
export function startOfField(field: Loop, { turnDeg, mirrorX, mirrorY }: Spec['direction']): Vec2 {
  const [c, s] = turnOf(turnDeg);
  const along: Vec2 = mirrorX ? [-c, -s] : [c, s];
  const across: Vec2 = mirrorY ? [s, -c] : [-s, c];
  const least = ([x, y]: Vec2) => Math.min(...field.map((p) => p[0] * x + p[1] * y));
  const [u, v] = [least(along), least(across)];
  return [u * along[0] + v * across[0], u * along[1] + v * across[1]];
}
