'use client';

import { useMemo } from 'react';
import type { Material } from '@/core/material/schema';
import type { Surface } from '@/core/project/schema';
import type { Spec } from '@/core/specification/schema';
import { useProject } from '../project/projectStore';
import { useSelection } from '../project/selection';
import { followedNow, isTried, isTrying } from './driving';

export interface Laid {
  surface: Surface;
  spec: Spec;
  material: Material;
}

/** The picked surfaces that carry a spec, and the way to change them all at once. */
export function useBench() {
  const project = useProject((s) => s.project);
  const run = useProject((s) => s.run);
  const ids = useSelection((s) => s.ids);
  const laid = useMemo<Laid[]>(
    () =>
      ids.flatMap((id) => {
        const surface = project?.surfaces[id];
        const material = surface?.spec ? project?.materials[surface.spec.material] : undefined;
        return surface?.spec && material ? [{ surface, spec: surface.spec, material }] : [];
      }),
    [ids, project],
  );
  /** One change to every laid surface: one step of history, or part of `gesture`'s step. */
  const edit = (change: (laid: Laid) => Spec, gesture?: string, materials: Material[] = []) => {
    if (!laid.length || isTried(laid, change)) return;
    const driven = followedNow();
    const specs = Object.fromEntries(laid.map((l) => [l.surface.id, change(l)]));
    run(
      [{ kind: 'setSpecs', specs, ...(driven ? { driven } : {}), ...(materials.length ? { materials } : {}) }],
      gesture,
    );
  };
  // what a field would do besides is not done while it is tried
  const runNow: typeof run = (commands, gesture) => {
    if (!isTrying()) run(commands, gesture);
  };
  return { project, ids, laid, edit, run: runNow, unit: project?.unit ?? 'mm' };
}
