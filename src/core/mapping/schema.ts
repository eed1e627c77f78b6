import { type Static, type TSchema, Type } from '@sinclair/typebox';
import { MAPPINGS, type Mappings } from './registry';

/** Any of some mappings, as a schema. */
export const mappingSchema = (mappings: Mappings): TSchema => Type.Union(mappings.map(({ schema }) => schema));

/** Any mapping there is; a union of what the registry holds. */
export const MappingSpec = Type.Unsafe<Static<(typeof MAPPINGS)[number]['schema']>>(mappingSchema(MAPPINGS));
export type MappingSpec = Static<typeof MappingSpec>;
export type MappingKind = MappingSpec['kind'];
type First = { [K in MappingKind]: Extract<MappingSpec, { kind: K }> };

/** How each mapping starts out. */
export const FIRST_MAPPING = Object.fromEntries(MAPPINGS.map((mapping) => [mapping.kind, mapping.first])) as First;

/** How many times exactly once round; null where nothing is asked. */
export const aroundOf = (mapping: MappingSpec): number | null => ('around' in mapping ? mapping.around : null);
