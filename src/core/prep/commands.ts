import { type Static, Type } from '@sinclair/typebox';
import { CommandError } from '../history/commandError';
import { findDifference } from '../history/patch';
import { type Stored, storedForm } from '../history/stored';
import { isInOrder } from '../picture/curve';
import { findOddAspects } from '../material/roles';
import { ROLE_LABELS } from '../material/schema';
import { Given, GIVEN_ROLES, type GivenRole, noGiven, oddShape } from './given';
import { Derived, Prep, type PrepChange, TAKEN_ROLES } from './schema';
import { Step, stepOf } from './steps/registry';

/** Everything that changes a prep. */
export const PREP_COMMANDS = {
  /** Its name, where it comes from, and how the made material is laid. */
  setPrep: Type.Object({
    kind: Type.Literal('setPrep'),
    values: Type.Partial(Type.Pick(Prep, ['name', 'grain', 'leaves', 'source', 'licence', 'credit'])),
  }),
  /** One step's own settings. */
  setStep: Type.Object({ kind: Type.Literal('setStep'), step: Step }),
  /** All steps in their order: one is added, taken out or moved. */
  setSteps: Type.Object({ kind: Type.Literal('setSteps'), steps: Prep.properties.steps }),
  /** Which maps are made of the picture, and how. */
  setMaps: Type.Object({ kind: Type.Literal('setMaps'), derived: Derived }),
  /** Which maps came with the picture and go through every step with it. */
  setGiven: Type.Object({ kind: Type.Literal('setGiven'), given: Given }),
};
export type PrepCommand = {
  [K in keyof typeof PREP_COMMANDS]: Static<(typeof PREP_COMMANDS)[K]>;
}[keyof typeof PREP_COMMANDS];

/** @throws CommandError when it names a step that is not there */
function applyOne(prep: Prep, command: PrepCommand): Prep {
  switch (command.kind) {
    case 'setPrep':
      return { ...prep, ...command.values };
    case 'setMaps':
      for (const role of ['roughness', 'metallic'] as const) {
        const curve = command.derived[role];
        if (curve && !isInOrder(curve.points))
          throw new CommandError(`derived.${role}.points`, 'points of a curve follow one another from left to right');
      }
      for (const [role, step] of Object.entries(command.derived.taken ?? {}))
        if (!prep.steps.some((s) => s.id === step))
          throw new CommandError(`derived.taken.${role}`, 'the step after which it is taken is no longer there');
      return { ...prep, derived: command.derived };
    case 'setGiven':
      for (const { role, ratio } of findOddAspects({ ...command.given.maps, baseColour: prep.picture }))
        throw new CommandError(`given.maps.${role}`, oddShape(ratio));
      return { ...prep, given: command.given };
    case 'setSteps':
      return { ...prep, steps: command.steps, derived: withoutGone(prep.derived, command.steps) };
    case 'setStep': {
      const { step } = command;
      if (!prep.steps.some((s) => s.id === step.id))
        throw new CommandError('step', `the step “${stepOf(step).label}” is no longer there`);
      return { ...prep, steps: prep.steps.map((s) => (s.id === step.id ? step : s)) };
    }
  }
}

/** Maps that name a step which is gone are taken as usual again. */
function withoutGone({ taken, ...derived }: Derived, steps: readonly Step[]): Derived {
  const left = Object.entries(taken ?? {}).filter(([, step]) => steps.some((s) => s.id === step));
  return left.length ? { ...derived, taken: Object.fromEntries(left) } : derived;
}

/**
 * The prep after some commands in their order; none is applied when one does not fit.
 * @throws CommandError
 */
export const runPrepCommands = (prep: Prep, commands: readonly PrepCommand[]): Prep => commands.reduce(applyOne, prep);

/** The commands that make a change: a step alone where only it differs, so that others' steps are let be. */
export function prepCommands(prep: Prep, { steps, derived, given, ...values }: PrepChange): PrepCommand[] {
  const commands: PrepCommand[] = [];
  if (Object.keys(values).length) commands.push({ kind: 'setPrep', values });
  if (derived) commands.push({ kind: 'setMaps', derived });
  if (given) commands.push({ kind: 'setGiven', given });
  if (steps) {
    const same = steps.length === prep.steps.length && steps.every((s, i) => s.id === prep.steps[i].id);
    if (!same) commands.push({ kind: 'setSteps', steps });
    else for (const [i, step] of steps.entries()) if (step !== prep.steps[i]) commands.push({ kind: 'setStep', step });
  }
  return commands;
}

/** As the history says it. */
export function describePrepCommand(prep: Prep, command: PrepCommand): string {
  switch (command.kind) {
    case 'setPrep': {
      const { name } = command.values;
      if (name !== undefined && name !== prep.name) return `Rename the prep “${name}”`;
      return `Set ${Object.keys(command.values).join(', ')}`;
    }
    case 'setMaps': {
      const changed = Object.keys(command.derived).filter(
        (k) => findDifference(prep.derived[k as 'height'], command.derived[k as 'height']).length,
      );
      if (changed.length === 1 && changed[0] === 'taken') {
        const [was, is] = [prep.derived.taken ?? {}, command.derived.taken ?? {}];
        const role = TAKEN_ROLES.find((one) => was[one] !== is[one])!;
        const step = prep.steps.find((s) => s.id === is[role]);
        return `Take ${role} ${step ? `after ${stepOf(step).label}` : 'as usual'}`;
      }
      return changed.length === 1 ? `Set ${changed[0]} map` : 'Set maps';
    }
    case 'setGiven': {
      const [had, has] = [prep.given.maps, command.given.maps];
      const said = (roles: GivenRole[]) => roles.map((role) => ROLE_LABELS[role].toLowerCase()).join(', ');
      const came = GIVEN_ROLES.filter((role) => has[role] && has[role].image !== had[role]?.image);
      const gone = GIVEN_ROLES.filter((role) => had[role] && !has[role]);
      if (came.length) return `Bring ${said(came)} along`;
      return gone.length ? `Take ${said(gone)} out` : 'Set the relief of the given height';
    }
    case 'setStep': {
      const before = prep.steps.find((s) => s.id === command.step.id);
      const { label } = stepOf(command.step);
      if (before && before.on !== command.step.on) return `Switch ${label} ${command.step.on ? 'on' : 'off'}`;
      return `Set ${label}`;
    }
    case 'setSteps': {
      const had = new Set(prep.steps.map((s) => s.id));
      const has = new Set(command.steps.map((s) => s.id));
      const said = (list: readonly Step[]) => list.map((s) => stepOf(s).label).join(', ');
      const added = command.steps.filter((s) => !had.has(s.id));
      const gone = prep.steps.filter((s) => !has.has(s.id));
      if (added.length && gone.length) return `Put ${said(added)} in place of ${said(gone)}`;
      if (added.length) return `Add ${said(added)}`;
      if (gone.length) return `Take ${said(gone)} out`;
      return 'Order the steps anew';
    }
  }
}

/** Curves went through three points before they could go through more. */
function curvesByPoints(derived: Stored): Stored {
  const byPoints = (curve: Stored): Stored => {
    const { dark, middle, light, ...rest } = curve;
    return {
      ...rest,
      points: [
        [0, dark],
        [0.5, middle],
        [1, light],
      ],
    };
  };
  const curves = Object.entries(derived).filter(([, map]) => map && typeof map === 'object' && 'middle' in map);
  return { ...derived, ...Object.fromEntries(curves.map(([role, map]) => [role, byPoints(map as Stored)])) };
}

/** How preps are stored; an example of every version is in `stored/`. */
export const STORED_PREP = storedForm<Prep, PrepCommand>(
  'prep',
  [
    // the first counted their own changes
    ({ revision: _counted, ...stored }) => stored,
    (stored) => ({ ...stored, derived: curvesByPoints(stored.derived as Stored) }),
    (stored) => ({ ...stored, given: noGiven }),
  ],
  [
    (command) =>
      command.kind === 'setMaps' ? { ...command, derived: curvesByPoints(command.derived as Stored) } : command,
  ],
);
