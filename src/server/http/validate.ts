import type { Static, TSchema } from '@sinclair/typebox';
import Ajv, { type ErrorObject, type SchemaValidateFunction, type ValidateFunction } from 'ajv';
import { faultOfLeaves } from '@/core/material/leaves';
import type { Leaves } from '@/core/material/schema';
import { badField } from './problem';

// verbose: what failed of a choice is looked at more closely
const ajv = new Ajv({ allErrors: false, useDefaults: false, strict: false, verbose: true });

/** `byKind: { a: …, b: … }` holds an object to the schema of its own kind. */
const byKind: SchemaValidateFunction = (schemas: Record<string, TSchema>, value: { kind?: unknown }, _, at) => {
  const kind = String(value.kind);
  const own = Object.hasOwn(schemas, kind) ? compile(schemas[kind]) : null;
  if (own?.(value)) return true;
  // looked at here: what it is of is lost on the way up
  const error = own
    ? closest(own.errors!)
    : { keyword: 'byKind', params: { kinds: Object.keys(schemas) }, instancePath: '' };
  byKind.errors = [{ ...error, instancePath: `${at!.instancePath}${error.instancePath}` }];
  return false;
};
ajv.addKeyword({ keyword: 'byKind', schemaType: 'object', type: 'object', errors: 'full', validate: byKind });
const compiled = new Map<TSchema, ValidateFunction>();

function compile(schema: TSchema): ValidateFunction {
  let validate = compiled.get(schema);
  if (!validate) compiled.set(schema, (validate = ajv.compile(schema)));
  return validate;
}

function say(error: ErrorObject, value: unknown): { field: string; detail: string } {
  const steps = error.instancePath.split('/').slice(1);
  const extra =
    error.keyword === 'required'
      ? [(error.params as { missingProperty: string }).missingProperty]
      : error.keyword === 'additionalProperties'
        ? [(error.params as { additionalProperty: string }).additionalProperty]
        : [];
  const field = [...steps, ...extra].join('.') || 'body';
  let given: unknown = value;
  for (const step of steps) given = (given as Record<string, unknown> | undefined)?.[step];
  const shown = JSON.stringify(given);
  if (error.keyword === 'required') return { field, detail: `“${field}” is missing.` };
  if (error.keyword === 'additionalProperties') return { field, detail: `“${field}” is not known here.` };
  if (error.keyword === 'byKind') {
    const { kinds } = error.params as { kinds: string[] };
    const { kind } = given as { kind: unknown };
    return {
      field: `${field}.kind`,
      detail: `The kind “${String(kind)}” is not known here; there are ${kinds.join(', ')}.`,
    };
  }
  if (error.keyword === 'enum') {
    return {
      field,
      detail:
        `“${field}” is ${shown}; it must be one of ` +
        `${(error.params as { allowedValues: unknown[] }).allowedValues.join(', ')}.`,
    };
  }
  return {
    field,
    detail: `“${field}” is ${shown && shown.length < 80 ? shown : 'not right'}; it ${error.message ?? 'is not valid'}.`,
  };
}

/** What is wrong with a value, and in which field; null where nothing is. */
export function faultOf(schema: TSchema, value: unknown): { field: string; detail: string } | null {
  const validate = compile(schema);
  return validate(value) ? null : say(closest(validate.errors!), value);
}

/** The error of what was meant, where a value may be of several kinds: of others it is wrong in any case. */
function closest(errors: readonly ErrorObject[]): ErrorObject {
  const choice = errors.findLast((e) => e.keyword === 'anyOf');
  if (!choice) return errors[0];
  const { data, instancePath } = choice;
  const kindOf = (of: TSchema): unknown => (of.properties as Record<string, TSchema> | undefined)?.kind?.const;
  const given = (data as { kind?: unknown } | null)?.kind;
  const all = (choice.schema as TSchema[]).filter((of) => of.type !== 'null');
  const meant = all.filter((of) => kindOf(of) === undefined || kindOf(of) === given);
  if (!meant.length) {
    const allowedValues = all.map(kindOf);
    return { ...choice, keyword: 'enum', instancePath: `${instancePath}/kind`, params: { allowedValues } };
  }
  if (meant.length > 1 || data === null) return errors[0];
  const validate = compile(meant[0]);
  validate(data);
  const error = closest(validate.errors!);
  return { ...error, instancePath: `${instancePath}${error.instancePath}` };
}

/** @throws Problem 400 naming the field, what was wrong and what would be right */
export function check<S extends TSchema>(schema: S, value: unknown): Static<S> {
  const fault = faultOf(schema, value);
  if (fault) throw badField(fault.field, fault.detail);
  return value as Static<S>;
}

/** Leaves hang together in ways a schema cannot say. @throws Problem 400 */
export function checkLeaves(leaves: Leaves | null | undefined): void {
  const fault = leaves ? faultOfLeaves(leaves) : null;
  if (fault) throw badField(`leaves.${fault.field}`, fault.detail);
}
