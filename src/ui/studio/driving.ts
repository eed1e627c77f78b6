import { useMemo } from 'react';
import { changedLeaves, leafOf, namesOf } from '@/core/project/values';
import type { DrivenBy } from '@/core/project/valueSchema';
import type { Surface } from '@/core/project/schema';
import type { Spec } from '@/core/specification/schema';
import type { Names } from '@/core/units/length';
import { useProject } from '../project/projectStore';
import type { Driving } from '../shared/driving';

/**
 * A number field knows what it shows and how to change it, not where that stands in a spec. So what a field changes is
 * found by trying it: the change is made of specs that nobody sees, and the numbers that differ are its own.
 */
type Laid = { surface: Surface; spec: Spec };
type Trial = { laid: Laid; spec: Spec }[];
let trying: Trial | null = null;
let followed: Record<string, DrivenBy> | null = null;

/** Asked by whoever changes specs: true where a change is only tried. */
export function isTried<L extends Laid>(laid: readonly L[], change: (laid: L) => Spec): boolean {
  if (!trying) return false;
  trying.push(...laid.map((l) => ({ laid: l, spec: change(l) })));
  return true;
}
export const isTrying = (): boolean => trying !== null;

/** What of the specs that are changed now follows a sum from then on. */
export const followedNow = (): Record<string, DrivenBy> | null => followed;

function attempt(change: (value: number) => void, value: number): Trial {
  const found: Trial = [];
  trying = found;
  try {
    change(value);
  } finally {
    trying = null;
  }
  return found;
}

/** The numbers of each surface that a field sets to so many times its own, by their places. */
function leavesOf(change: (value: number) => void, value: number): Map<string, Map<string, number>> {
  // whole numbers, so that fields that round do not
  const [one, two] = [Math.round(value) + 1, Math.round(value) + 2].map((v) => ({ v, trial: attempt(change, v) }));
  const out = new Map<string, Map<string, number>>();
  one.trial.forEach(({ laid, spec }, n) => {
    const again = two.trial[n]?.spec;
    const own = new Map<string, number>();
    // what one of them happens to be already differs for the other
    const places = again ? [...(changedLeaves(laid.spec, spec) ?? []), ...(changedLeaves(laid.spec, again) ?? [])] : [];
    for (const [pointer] of places) {
      const [a, b] = [(leafOf(spec, pointer) ?? NaN) / one.v, (leafOf(again, pointer) ?? NaN) / two.v];
      if (Number.isFinite(a) && Math.abs(a - b) < 1e-9 * Math.max(1, Math.abs(a))) own.set(pointer, a);
    }
    if (own.size) out.set(laid.surface.id, own);
  });
  return out;
}

/** Sums of named values for the fields of the bench. */
export function useDriving(laid: readonly Laid[]): Driving | null {
  const project = useProject((s) => s.project);
  return useMemo(() => {
    if (!project) return null;
    let names: Names;
    try {
      names = namesOf(project);
    } catch {
      return null;
    }
    return {
      names,
      any: laid.some((l) => l.surface.driven),
      sumOf(change, value) {
        const sums = new Set<string | undefined>();
        for (const [id, leaves] of leavesOf(change, value))
          for (const pointer of leaves.keys()) sums.add(project.surfaces[id]?.driven?.[pointer]?.sum);
        const [sum] = sums;
        return sums.size === 1 && sum !== undefined ? sum : null;
      },
      follow(numbers, apply) {
        const made: Record<string, DrivenBy> = {};
        for (const { typed, value, change } of numbers) {
          const leaves = leavesOf(change, value);
          if (!leaves.size) return false;
          for (const [id, own] of leaves)
            for (const [pointer, factor] of own) (made[id] ??= {})[pointer] = { ...typed, factor };
        }
        followed = made;
        try {
          apply();
        } finally {
          followed = null;
        }
        return true;
      },
    };
  }, [project, laid]);
}
