import { asModelled } from './asModelled';
import { flemish } from './flemish';
import { grid } from './grid';
import { herringbone } from './herringbone';
import { hexagon } from './hexagon';
import type { JointSpec } from './joint';
import { planks } from './planks';
import { stretcher } from './stretcher';
import type { AnyLayoutSpec, Area, Layout, OpenLayout } from './types';
import { whole } from './whole';

/** Every layout there is, in the order in which cards offer them; a new one is a file beside these and a name here. */
export const LAYOUTS = [whole, planks, herringbone, stretcher, flemish, grid, hexagon, asModelled] as const;

/** Layouts to choose from: those of the application, or with more of a test's or a studio's own. */
export type Layouts = readonly Layout<AnyLayoutSpec>[];

/**
 * The layout a spec is of.
 * @throws Error when there is none of its kind
 */
export function layoutOf<S extends AnyLayoutSpec>(spec: S, layouts: Layouts = LAYOUTS): Layout<S> {
  const found = layouts.find((layout) => layout.kind === spec.kind);
  if (!found) throw new Error(`there is no layout “${spec.kind}”`);
  // the kind names the layout, so the spec is of its type
  return found as Layout<S>;
}

/** A layout with its numbers settled for one surface. */
export function openLayout(spec: AnyLayoutSpec, joint: JointSpec, area: Area, layouts: Layouts = LAYOUTS): OpenLayout {
  const { open, label } = layoutOf(spec, layouts);
  if (!open) throw new Error(`“${label}” is not laid by rule`);
  return open(spec, joint, area);
}
