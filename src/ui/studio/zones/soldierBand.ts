import { layoutOf } from '@/core/layout/registry';
import { soldier } from '@/core/layout/brick/soldier';
import type { LayoutSpec } from '@/core/layout/schema';
import type { Spec } from '@/core/specification/schema';
import type { HeightShape } from '@/core/zones/schema';
import { becomeLayout, presetOf } from '../pieces/becomeLayout';

/** One course of soldiers that begins at a height. */
export const soldierBand = (at: Pick<HeightShape, 'heightMm' | 'from' | 'levelMm'>): HeightShape => ({
  kind: 'height',
  side: 'above',
  courses: 1,
  ...at,
});

/** Soldiers of the bricks that a wall is laid in, with its joints; of those that they start with where it has none. */
export function inSoldiers(spec: Spec | null): Spec | null {
  if (!spec) return null;
  const preset = presetOf(soldier.kind);
  const layout = spec.pieces?.layout;
  const def = layout && layoutOf(layout);
  const size = def?.trade === 'brick' ? def.size?.get(layout!) : null;
  const bricks = size ? { stretcherMm: Math.max(...size), heightMm: Math.min(...size) } : {};
  const laid = becomeLayout(spec, {
    spec: { ...preset.spec, ...bricks } as LayoutSpec,
    joint: size ? spec.pieces!.joint : preset.joint,
  });
  return {
    ...laid,
    start: { datum: 'corner', xMm: 0, yMm: 0 },
    direction: { turnDeg: 0, mirrorX: false, mirrorY: false },
  };
}
