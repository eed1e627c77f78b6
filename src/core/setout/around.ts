import { type Finding, finding } from '../finding/finding';
import { layoutOf, type Layouts } from '../layout/registry';
import type { LayoutSpec } from '../layout/schema';
import type { Ring } from '../layout/ring';
import { liesInPieces, type Spec } from '../specification/schema';
import { aroundOf } from '../mapping/schema';

/**
 * What comes of “exactly n around”: the pieces sized for it and the ring they make, or why they keep their own size.
 */
export type Around =
  | { layout: LayoutSpec; ring: Ring; why: null }
  | { layout: null; ring: Ring; why: null }
  | { layout: null; ring: null; why: Finding };

const no = (why: Finding): Around => ({ layout: null, ring: null, why });

/**
 * @param ringMm length of the sheet once round, null where it does not close
 * @returns null where no count is asked; a null layout with a ring is a picture, sized by `repeatOnSheet`
 */
export function goAround(spec: Spec, ringMm: number | null, layouts?: Layouts): Around | null {
  const count = aroundOf(spec.mapping);
  if (!count) return null;
  if (ringMm === null) return no(finding('doesNotClose', {}));
  const quarters = spec.direction.turnDeg / 90;
  if (!Number.isInteger(quarters)) return no(finding('aslantDoesNotClose', {}));
  const standing = Math.abs(quarters) % 2 === 1;
  if (!liesInPieces(spec)) return { layout: null, ring: { by: standing ? 'course' : 'index', count }, why: null };
  const { layout, joint } = spec.pieces;
  const definition = layoutOf(layout, layouts);
  const { label, round } = definition;
  if (definition.cells !== 'laid') return no(finding('bodiesKeepSize', {}));
  const fitted = round?.(layout, joint, ringMm / count, standing);
  if (!fitted) return no(finding('layoutCannotClose', { layout: label, thisWay: !!round }));
  // sized to close, there may be fewer or more pieces to a pitch than before
  const pieces = definition.perPitch?.(fitted, joint) ?? 1;
  return {
    layout: fitted,
    ring: standing ? { by: 'course', count } : { by: 'index', count: count * pieces },
    why: null,
  };
}
