import { type Static, Type } from '@sinclair/typebox';
import { areaOfCorners } from '../../geometry/clip';
import { isSimple } from '../../geometry/polygon';
import { Key, Name } from '../../schema/basics';
import { oneOf } from '../../schema/choice';
import { PieceRole } from '../roles';

/** More shapes, and more corners of all of them, are not taken: what is laid keeps all of it. */
export const MOST_SHAPES = 400;
export const MOST_CORNERS = 12_000;
/** Corners of one shape. */
export const MOST_OF_ONE = 2000;

const Corners = Type.Array(Type.Number({ minimum: -1e6, maximum: 1e6 }), { minItems: 6, maxItems: 2 * MOST_OF_ONE });
const Step = Type.Tuple([Type.Number({ minimum: -1e6, maximum: 1e6 }), Type.Number({ minimum: -1e6, maximum: 1e6 })]);

/** A closed shape of a drawing. */
export const OwnShape = Type.Object({
  role: PieceRole,
  /** x, y, x, y, … mm, counter-clockwise, y upwards. */
  corners: Corners,
  /** What of the plane belongs to it, where that is more than the shape: half of the gaps round it. */
  cell: Type.Optional(Corners),
});
export type OwnShape = Static<typeof OwnShape>;

/** A module of one's own: closed shapes that tile the plane when they are moved by whole multiples of two steps. */
export const OwnModule = Type.Object({
  id: Key,
  name: Name,
  /** Shapes are pieces, what lies between them is joint; or cells, from which joints are taken. */
  as: oneOf('pieces', 'cells'),
  /** The two steps, mm, at the size it is drawn in. */
  right: Step,
  up: Step,
  shapes: Type.Array(OwnShape, { minItems: 1, maxItems: MOST_SHAPES }),
});
export type OwnModule = Static<typeof OwnModule>;

/** Its width: the length of its step to the right, mm. */
export const widthOf = ({ right }: Pick<OwnModule, 'right'>): number => Math.hypot(right[0], right[1]);

/** What one repeat covers, mm². */
export const repeatArea = ({ right, up }: Pick<OwnModule, 'right' | 'up'>): number =>
  right[0] * up[1] - right[1] * up[0];

/** How far the cells of a repeat may miss its area, as a share of it. */
const MISSES = 2e-3;

/**
 * What is wrong with a module that was not made by reading a drawing here, as a sentence; null where it can be laid.
 * That its cells lie beside one another is not looked at, only that they cover as much as one repeat.
 */
export function faultOfModule({ right, up, shapes }: OwnModule): string | null {
  const repeat = repeatArea({ right, up });
  if (!(repeat > 1)) return 'its step up must turn to the left of its step to the right and leave more than 1 mm²';
  let corners = 0;
  let sum = 0;
  for (const [n, { corners: own, cell = own }] of shapes.entries()) {
    corners += own.length / 2;
    for (const [what, loop] of [
      ['shape', own],
      ['cell', cell],
    ] as const) {
      if (loop.length % 2) return `${what} ${n + 1} has an odd number of coordinates`;
      if (!(areaOfCorners(loop, loop.length / 2) > 0)) return `${what} ${n + 1} must run counter-clockwise`;
      if (!isSimple(loop)) return `${what} ${n + 1} crosses itself`;
    }
    sum += areaOfCorners(cell, cell.length / 2);
  }
  if (corners > MOST_CORNERS) return `it has ${corners} corners; at most ${MOST_CORNERS} are taken`;
  if (Math.abs(sum - repeat) > MISSES * repeat)
    return `its cells cover ${sum.toFixed(1)} mm², one repeat ${repeat.toFixed(1)} mm²`;
  return null;
}
