import { type Static, type TSchema, Type } from '@sinclair/typebox';
import { colour } from './colour';
import { compose } from './compose';
import { corners } from './corners';
import { crop } from './crop';
import { dirt } from './dirt';
import { even } from './even';
import { extend } from './extend';
import { heal } from './heal';
import { heightColour } from './heightColour';
import { resize } from './resize';
import { seamless } from './seamless';
import { size } from './size';
import type { AnyStep, StepDefinition } from './step';
import { turn } from './turn';

/** Every step there is, in the usual order of doing; a new one is a file beside these and a name here. */
export const STEPS = [
  corners,
  turn,
  size,
  crop,
  even,
  colour,
  extend,
  compose,
  seamless,
  heal,
  resize,
  dirt,
  heightColour,
] as const;

export type Step = Static<(typeof STEPS)[number]['schema']>;
export type StepKind = Step['kind'];
export type StepOf<K extends StepKind> = Extract<Step, { kind: K }>;

/** Any step, held to the schema of its kind. */
export const Step = Type.Unsafe<Step>({
  type: 'object',
  required: ['kind'],
  byKind: Object.fromEntries(STEPS.map(({ kind, schema }): [string, TSchema] => [kind, schema])),
});

/**
 * The definition a step is of.
 * @throws Error when there is none of its kind
 */
export function stepOf<S extends AnyStep>({ kind }: Pick<S, 'kind'>): StepDefinition<S> {
  const found = (STEPS as readonly { kind: string }[]).find((s) => s.kind === kind);
  if (!found) throw new Error(`there is no step “${kind}”`);
  // the kind names the definition, so the step is of its type
  return found as unknown as StepDefinition<S>;
}
