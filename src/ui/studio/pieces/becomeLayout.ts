import { noMix } from '@/core/layout/mix';
import { layoutOf, LAYOUTS } from '@/core/layout/registry';
import type { LayoutSpec } from '@/core/layout/schema';
import type { Layout } from '@/core/layout/types';
import type { Spec } from '@/core/specification/schema';
import { plainVariation } from '@/core/variation/schema';

/** What can be chosen: a layout with its numbers, and the joint it comes with. */
export type LayoutChoice = Layout<LayoutSpec>['preset'];

/** What a layout starts with. */
export const presetOf = (kind: LayoutSpec['kind']): LayoutChoice =>
  layoutOf<LayoutSpec>(LAYOUTS.find((l) => l.kind === kind)!.preset.spec).preset;

/** A spec laid in another layout, with what of joints and mixes can stay. */
export function becomeLayout(spec: Spec, { spec: layout, joint: first }: LayoutChoice): Spec {
  const now = spec.pieces;
  const joint = layoutOf(layout).cells === 'laid' ? first : (now?.joint ?? first);
  // a colour or material chosen for joints stays with the next layout
  const kept = now && layoutOf(now.layout).cells !== 'none' ? { ...joint, material: now.joint.material } : joint;
  const { arris, thicknessMm, margins } = now ?? {};
  const edges = {
    ...(arris ? { arris } : {}),
    ...(thicknessMm ? { thicknessMm } : {}),
    ...(margins ? { margins } : {}),
  };
  return {
    ...spec,
    pieces: { layout, joint: kept, mix: now?.mix ?? noMix(), ...edges },
    variation: spec.variation ?? plainVariation(),
  };
}
