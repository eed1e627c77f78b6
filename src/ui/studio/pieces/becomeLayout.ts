import { noMix } from '@/core/layout/mix';
import { layoutOf, LAYOUTS } from '@/core/layout/registry';
import type { LayoutSpec } from '@/core/layout/schema';
import type { Spec } from '@/core/specification/schema';
import { plainVariation } from '@/core/variation/schema';

/** A spec laid in another layout: its preset, with what of joints and mixes can stay. */
export function becomeLayout(spec: Spec, next: LayoutSpec['kind']): Spec {
  const { preset, cells } = layoutOf<LayoutSpec>(LAYOUTS.find((l) => l.kind === next)!.preset.spec);
  const now = spec.pieces;
  const joint = cells === 'laid' ? preset.joint : (now?.joint ?? preset.joint);
  // a colour or material chosen for joints stays with the next layout
  const kept = now && layoutOf(now.layout).cells !== 'none' ? { ...joint, material: now.joint.material } : joint;
  const arris = now?.arris ? { arris: now.arris } : {};
  return {
    ...spec,
    pieces: { layout: preset.spec, joint: kept, mix: now?.mix ?? noMix(), ...arris },
    variation: spec.variation ?? plainVariation(),
  };
}
