import type { Field } from '../schema/fields';
import { bleached } from './kinds/bleached';
import { dirt } from './kinds/dirt';
import { dust } from './kinds/dust';
import { rubbed } from './kinds/rubbed';
import type { WearLayer } from './schema';
import type { WearKind } from './types';
import { fieldsOf } from '../schema/fieldMakers';

/** Every kind of wear, in the order in which they are offered. */
export const WEAR_KINDS = [dirt, dust, rubbed, bleached] as unknown as readonly WearKind[];

/**
 * @throws Error when there is none of its kind
 */
export function wearKindOf({ kind }: Pick<WearLayer, 'kind'>): WearKind {
  const found = WEAR_KINDS.find((k) => k.kind === kind);
  if (!found) throw new Error(`there is no wear “${kind}”`);
  return found;
}

const make = fieldsOf<WearLayer>();

/** What every kind has. */
export const COMMON_FIELDS: readonly Field<WearLayer>[] = [
  make.share('Strength', 'strength'),
  {
    kind: 'colour',
    label: 'Colour',
    get: (l) => l.colour,
    set: (l, colour) => ({ ...l, colour }),
  },
  { ...make.number('Roughness', 'roughness', { min: 0, max: 1, step: 0.05 }), further: true },
  { ...make.length('Thickness', 'reliefMm', { min: 0, max: 20, step: 0.1 }), further: true },
];
