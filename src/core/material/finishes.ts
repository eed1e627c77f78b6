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
  /** Strength of what is mirrored straight on, 0 (none) to 1 (as common materials do); 1 unless said. */
  reflection?: number;
  /** How much clear coat lies over it, 0 … 1, and how rough that is; none unless said. */
  coat?: number;
  coatRoughness?: number;
  /** How far the colour is deepened, as oil and lacquer do: 0 (as it is) to 1 (soaked); 0 unless said. */
  deepen?: number;
}

/** Every finish there is, in the order in which cards offer them. */
export const FINISHES = [
  { kind: 'matt', label: 'Matt', roughness: 0.85, roughnessShift: 0 },
  { kind: 'satin', label: 'Satin', roughness: 0.55, roughnessShift: -0.18 },
  { kind: 'gloss', label: 'Gloss', roughness: 0.15, roughnessShift: -0.45 },
  { kind: 'worn', label: 'Worn', roughness: 0.75, roughnessShift: 0.12 },
  { kind: 'raw', label: 'Raw', roughness: 0.9, roughnessShift: 0.06, reflection: 0.5 },
  { kind: 'oiled', label: 'Oiled', roughness: 0.6, roughnessShift: -0.12, reflection: 0.9, deepen: 0.45 },
  {
    kind: 'lacquered',
    label: 'Lacquered',
    roughness: 0.45,
    roughnessShift: -0.2,
    coat: 0.9,
    coatRoughness: 0.12,
    deepen: 0.3,
  },
] as const satisfies readonly FinishDefinition[];

export const FinishKind = oneOf(...FINISHES.map((f) => f.kind));
export type FinishKind = Static<typeof FinishKind>;

/**
 * What a kind of finish sets on a material, all of it: what it does not speak of is as usual.
 * @example numbersOf(finishOf('oiled')).deepen // 0.45
 */
export const numbersOf = ({ roughness, roughnessShift, ...more }: Omit<FinishDefinition, 'kind' | 'label'>) => ({
  roughness,
  roughnessShift,
  reflection: more.reflection ?? 1,
  coat: more.coat ?? 0,
  coatRoughness: more.coatRoughness ?? 0.1,
  deepen: more.deepen ?? 0,
});

/** @throws Error when there is none of its kind */
export function finishOf(kind: string, finishes: readonly FinishDefinition[] = FINISHES): FinishDefinition {
  const found = finishes.find((f) => f.kind === kind);
  if (!found) throw new Error(`there is no finish “${kind}”`);
  return found;
}
