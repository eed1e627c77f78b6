import type { Static, TSchema } from '@sinclair/typebox';
import Ajv, { type ErrorObject, type ValidateFunction } from 'ajv';
import { type Command, type CommandKind, COMMANDS } from '@/core/project/commands';
import { faultOfLeaves } from '@/core/material/leaves';
import type { Leaves } from '@/core/material/schema';
import { badField } from './problem';

const ajv = new Ajv({ allErrors: false, useDefaults: false, strict: false });
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

/** @throws Problem 400 naming the field, what was wrong and what would be right */
export function check<S extends TSchema>(schema: S, value: unknown): Static<S> {
  const validate = compile(schema);
  if (validate(value)) return value as Static<S>;
  const { field, detail } = say(validate.errors![0], value);
  throw badField(field, detail);
}

/** Leaves hang together in ways a schema cannot say. @throws Problem 400 */
export function checkLeaves(leaves: Leaves | null | undefined): void {
  const fault = leaves ? faultOfLeaves(leaves) : null;
  if (fault) throw badField(`leaves.${fault.field}`, fault.detail);
}

/** Validates one command against the schema of its kind. */
export function checkCommand(value: unknown, index: number): Command {
  const kind = (value as { kind?: unknown } | null)?.kind;
  if (typeof kind !== 'string' || !Object.hasOwn(COMMANDS, kind)) {
    throw badField(
      `commands.${index}.kind`,
      `“${String(kind)}” is not a command; there are ${Object.keys(COMMANDS).join(', ')}.`,
    );
  }
  const validate = compile(COMMANDS[kind as CommandKind]);
  if (validate(value)) return value as Command;
  const { field, detail } = say(validate.errors![0], value);
  throw badField(`commands.${index}.${field}`, detail);
}

/** Reads a JSON body. @throws Problem 400 when it is none, 413 when it is too long */
export async function readJson(request: Request): Promise<unknown> {
  const text = await request.text();
  if (text.length > 64 * 1024 * 1024) throw badField('body', 'The body is longer than 64 MB.');
  try {
    return text ? JSON.parse(text) : {};
  } catch (error) {
    throw badField('body', `The body is not JSON: ${(error as Error).message}.`);
  }
}
