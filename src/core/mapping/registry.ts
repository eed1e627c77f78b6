import { box } from './box';
import { cylinder } from './cylinder';
import { develop } from './develop';
import { fan } from './fan';
import { flat } from './flat';
import { own } from './own';
import { sphere } from './sphere';
import type { AnyMappingSpec, Mapping } from './types';
import { unroll } from './unroll';

/** Every mapping there is, in the order in which cards offer them; a new one is a file beside these and a name here. */
export const MAPPINGS = [flat, box, cylinder, sphere, fan, unroll, develop, own] as const;

/** Mappings to choose from: those of the application, or with more of a test's or a studio's own. */
export type Mappings = readonly Mapping<AnyMappingSpec>[];

/**
 * The mapping a spec is of.
 * @throws Error when there is none of its kind
 */
export function mappingOf<S extends AnyMappingSpec>(spec: S, mappings: Mappings = MAPPINGS): Mapping<S> {
  const found = mappings.find((mapping) => mapping.kind === spec.kind);
  if (!found) throw new Error(`there is no mapping “${spec.kind}”`);
  // the kind names the mapping, so the spec is of its type
  return found as unknown as Mapping<S>;
}
