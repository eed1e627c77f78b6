import { asModelled } from './asModelled';
import { flemish } from './flemish';
import { grid } from './grid';
import { herringbone } from './herringbone';
import { hexagon } from './hexagon';
import type { JointSpec } from './joint';
import { planks } from './planks';
import { arcs } from './stone/arcs';
import { coursed } from './stone/coursed';
import { crazy } from './stone/crazy';
import { squared } from './stone/squared';
import { fans } from './stone/fans';
import { rings } from './round/rings';
import { basket } from './tile/basket';
import { english } from './brick/english';
import { englishCross } from './brick/englishCross';
import { englishGarden } from './brick/englishGarden';
import { flemishGarden } from './brick/flemishGarden';
import { header } from './brick/header';
import { modular } from './tile/modular';
import { monk } from './brick/monk';
import { soldier } from './brick/soldier';
import { chevron } from './planks/chevron';
import { cubes } from './tile/cubes';
import { ladder } from './planks/ladder';
import { lantern } from './tile/lantern';
import { longHexagon } from './tile/longHexagon';
import { own } from './own/own';
import { octagon } from './tile/octagon';
import { penny } from './tile/penny';
import { pentagons } from './tile/pentagons';
import { pinwheel } from './tile/pinwheel';
import { rhombus } from './tile/rhombus';
import { scales } from './tile/scales';
import { squares } from './planks/squares';
import { triangles } from './tile/triangles';
import { windmill } from './tile/windmill';
import { woven } from './planks/woven';

import { stretcher } from './stretcher';
import type { AnyLayoutSpec, Area, Layout, OpenLayout } from './types';
import { whole } from './whole';

/** Every layout there is, in the order in which cards offer them; a new one is a file beside these and a name here. */
export const LAYOUTS = [
  whole,
  planks,
  herringbone,
  chevron,
  squares,
  ladder,
  woven,
  stretcher,
  flemish,
  english,
  englishCross,
  englishGarden,
  flemishGarden,
  monk,
  header,
  soldier,
  grid,
  hexagon,
  octagon,
  longHexagon,
  pinwheel,
  windmill,
  modular,
  basket,
  penny,
  scales,
  rhombus,
  cubes,
  triangles,
  lantern,
  pentagons,
  coursed,
  squared,
  crazy,
  arcs,
  fans,
  rings,
  own,
  asModelled,
] as const;

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
