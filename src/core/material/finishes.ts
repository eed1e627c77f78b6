import type { Static } from '@sinclair/typebox';
import { oneOf } from '../schema/choice';

/** A way in which a face meets light: everything that is known of it. */
export interface FinishDefinition {
  kind: string;
  label: string;
  /** Where no map gives it, 0 … 1. */
  roughness: number;
  /** Added to a roughness map: duller (+) or glossier (−). */
  roughnessShift: number;
}

/** Every finish there is, in the order in which cards offer them. */
export const FINISHES = [
  { kind: 'matt', label: 'Matt', roughness: 0.85, roughnessShift: 0 },
  { kind: 'satin', label: 'Satin', roughness: 0.55, roughnessShift: -0.18 },
  { kind: 'gloss', label: 'Gloss', roughness: 0.15, roughnessShift: -0.45 },
  { kind: 'worn', label: 'Worn', roughness: 0.75, roughnessShift: 0.12 },
] as const satisfies readonly FinishDefinition[];

export const FinishKind = oneOf(...FINISHES.map((f) => f.kind));
export type FinishKind = Static<typeof FinishKind>;

/** @throws Error when there is none of its kind */
export function finishOf(kind: string, finishes: readonly FinishDefinition[] = FINISHES): FinishDefinition {
  const found = finishes.find((f) => f.kind === kind);
  if (!found) throw new Error(`there is no finish “${kind}”`);
  return found;
}
