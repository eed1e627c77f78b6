import { flemish } from './flemish';
import { grid } from './grid';
import { herringbone } from './herringbone';
import { hexagon } from './hexagon';
import { planks } from './planks';
import type { JointSpec, LayoutKind, LayoutSpec } from './schema';
import { stretcher } from './stretcher';
import type { Area, Layout, OpenLayout } from './types';

/** Layouts that are laid on the sheet alone; “as modelled” takes its pieces from the mesh instead. */
export type LaidKind = Exclude<LayoutKind, 'whole' | 'asModelled'>;
export type LaidSpec = Extract<LayoutSpec, { kind: LaidKind }>;

/** Every layout there is; a new one is a file beside these and a line here. */
export const LAYOUTS: { [K in LaidKind]: Layout<Extract<LayoutSpec, { kind: K }>> } = {
  planks,
  stretcher,
  flemish,
  herringbone,
  grid,
  hexagon,
};

export const isLaid = (spec: LayoutSpec): spec is LaidSpec => Object.hasOwn(LAYOUTS, spec.kind);

export function openLayout(spec: LaidSpec, joint: JointSpec, area: Area): OpenLayout {
  const layout = LAYOUTS[spec.kind] as Layout<LaidSpec>;
  return layout.open(spec, joint, area);
}

export const describeLayout = (spec: LaidSpec, size: (a: number, b?: number) => string): string =>
  (LAYOUTS[spec.kind] as Layout<LaidSpec>).describe(spec, size);
