import { type Static, Type } from '@sinclair/typebox';
import { Key, Material, Name } from '../material/schema';
import { materialsOf, Spec, swapMaterial } from '../spec/schema';
import { findDifference, type Patch } from './patch';
import { Light, Model, Part, type Project, SavedView, Surface, Unit } from './schema';

/**
 * The only ways a project changes. A command carries everything it needs (ids are made by the caller, faces are
 * numbers, never queries), so replaying it gives the same project anywhere.
 */

const Keys = Type.Array(Key, { minItems: 1 });
const command = <K extends string, P extends Parameters<typeof Type.Object>[0]>(kind: K, properties: P) =>
  Type.Object({ kind: Type.Literal(kind), ...properties }, { additionalProperties: false });

export const COMMANDS = {
  setProject: command('setProject', {
    name: Type.Optional(Name),
    unit: Type.Optional(Unit),
    northDeg: Type.Optional(Type.Number({ minimum: 0, exclusiveMaximum: 360 })),
    light: Type.Optional(Light),
  }),
  addModel: command('addModel', {
    model: Model,
    parts: Type.Array(Part),
    surfaces: Type.Array(Surface),
    materials: Type.Array(Material),
  }),
  removeModel: command('removeModel', { model: Key }),
  updateModel: command('updateModel', { model: Model, materials: Type.Array(Material), specs: Type.Record(Key, Spec) }),
  setParts: command('setParts', { ids: Keys, name: Type.Optional(Name), locked: Type.Optional(Type.Boolean()) }),
  setSurfaces: command('setSurfaces', {
    ids: Keys,
    name: Type.Optional(Name),
    hidden: Type.Optional(Type.Boolean()),
    leftBare: Type.Optional(Type.Boolean()),
  }),
  mergeSurfaces: command('mergeSurfaces', { ids: Type.Array(Key, { minItems: 2 }), into: Surface }),
  splitSurface: command('splitSurface', { id: Key, into: Type.Array(Surface, { minItems: 2 }) }),
  setSpecs: command('setSpecs', {
    specs: Type.Record(Key, Type.Union([Spec, Type.Null()])),
    /** Materials the specs use that the project does not have yet. */
    materials: Type.Optional(Type.Array(Material)),
  }),
  useMaterial: command('useMaterial', { material: Material }),
  replaceMaterial: command('replaceMaterial', { from: Key, to: Material }),
  dropMaterials: command('dropMaterials', { ids: Keys }),
  saveView: command('saveView', { view: SavedView }),
  removeView: command('removeView', { id: Key }),
} as const;

export type CommandKind = keyof typeof COMMANDS;
export type CommandOf<K extends CommandKind> = Static<(typeof COMMANDS)[K]>;
export type Command = { [K in CommandKind]: CommandOf<K> }[CommandKind];

/** Version written beside stored commands; older ones are migrated when read. */
export const COMMAND_VERSION = 1;

/** Thrown when a command does not fit the project it is applied to. */
export class CommandError extends Error {
  constructor(
    readonly field: string,
    message: string,
  ) {
    super(message);
    this.name = 'CommandError';
  }
}

function need<T>(record: Record<string, T>, id: string, what: string): T {
  const found = Object.hasOwn(record, id) ? record[id] : undefined;
  if (!found) throw new CommandError(what, `there is no ${what} “${id}” in this project`);
  return found;
}

function put<T extends { id: string }>(record: Record<string, T>, items: T[]): Record<string, T> {
  return items.length ? { ...record, ...Object.fromEntries(items.map((i) => [i.id, i])) } : record;
}

function without<T>(record: Record<string, T>, drop: (id: string, item: T) => boolean): Record<string, T> {
  return Object.fromEntries(Object.entries(record).filter(([id, item]) => !drop(id, item)));
}

const definedOnly = <T extends object>(o: T): Partial<T> =>
  Object.fromEntries(Object.entries(o).filter(([, v]) => v !== undefined)) as Partial<T>;

function change<T>(record: Record<string, T>, ids: string[], what: string, edit: (item: T) => T): Record<string, T> {
  const copy = { ...record };
  for (const id of ids) copy[id] = edit(need(record, id, what));
  return copy;
}

type Handler<K extends CommandKind> = (project: Project, command: CommandOf<K>) => Project;

const HANDLERS: { [K in CommandKind]: Handler<K> } = {
  setProject: (project, { kind: _kind, ...values }) => ({ ...project, ...definedOnly(values) }),

  addModel: (project, c) => {
    if (project.models[c.model.id]) throw new CommandError('model', `model “${c.model.id}” is already there`);
    return {
      ...project,
      models: put(project.models, [c.model]),
      parts: put(project.parts, c.parts),
      surfaces: put(project.surfaces, c.surfaces),
      materials: put(project.materials, c.materials),
    };
  },

  removeModel: (project, { model }) => {
    need(project.models, model, 'model');
    const parts = without(project.parts, (_, p) => p.model === model);
    return {
      ...project,
      models: without(project.models, (id) => id === model),
      parts,
      surfaces: without(project.surfaces, (_, s) => !parts[s.part]),
    };
  },

  updateModel: (project, c) => {
    need(project.models, c.model.id, 'model');
    let surfaces = project.surfaces;
    for (const [id, spec] of Object.entries(c.specs)) {
      surfaces = change(surfaces, [id], 'surface', (s) => ({ ...s, spec }));
    }
    return { ...project, models: put(project.models, [c.model]), materials: put(project.materials, c.materials), surfaces }; // prettier-ignore
  },

  setParts: (project, { kind: _kind, ids, ...values }) => ({
    ...project,
    parts: change(project.parts, ids, 'part', (p) => ({ ...p, ...definedOnly(values) })),
  }),

  setSurfaces: (project, { kind: _kind, ids, ...values }) => ({
    ...project,
    surfaces: change(project.surfaces, ids, 'surface', (s) => ({ ...s, ...definedOnly(values) })),
  }),

  mergeSurfaces: (project, { ids, into }) => {
    const merged = ids.map((id) => need(project.surfaces, id, 'surface'));
    if (merged.some((s) => s.part !== into.part)) {
      throw new CommandError('ids', 'only surfaces of one part can be merged into one surface');
    }
    const total = (faces: number[]) => faces.reduce((n, v, i) => (i % 2 ? n + v : n), 0);
    if (total(into.faces) !== merged.reduce((n, s) => n + total(s.faces), 0)) {
      throw new CommandError('into.faces', 'the merged surface must have exactly the faces of its sources');
    }
    return {
      ...project,
      surfaces: put(
        without(project.surfaces, (id) => ids.includes(id)),
        [into],
      ),
    };
  },

  splitSurface: (project, { id, into }) => {
    const source = need(project.surfaces, id, 'surface');
    const total = (faces: number[]) => faces.reduce((n, v, i) => (i % 2 ? n + v : n), 0);
    if (total(source.faces) !== into.reduce((n, s) => n + total(s.faces), 0)) {
      throw new CommandError('into', 'the new surfaces together must have exactly the faces of the old one');
    }
    return {
      ...project,
      surfaces: put(
        without(project.surfaces, (other) => other === id),
        into,
      ),
    };
  },

  setSpecs: (project, { specs, materials = [] }) => {
    const known = put(project.materials, materials);
    const surfaces = { ...project.surfaces };
    for (const [id, spec] of Object.entries(specs)) {
      if (spec) for (const used of materialsOf(spec)) need(known, used, 'material');
      surfaces[id] = { ...need(project.surfaces, id, 'surface'), spec };
    }
    return { ...project, surfaces, materials: known };
  },

  useMaterial: (project, { material }) => ({ ...project, materials: put(project.materials, [material]) }),

  replaceMaterial: (project, { from, to }) => {
    need(project.materials, from, 'material');
    const using = Object.values(project.surfaces).filter((s) => s.spec && materialsOf(s.spec).includes(from));
    const surfaces = change(project.surfaces, using.map((s) => s.id), 'surface', (s) => ({ ...s, spec: swapMaterial(s.spec!, from, to.id) })); // prettier-ignore
    return { ...project, surfaces, materials: put(project.materials, [to]) };
  },

  dropMaterials: (project, { ids }) => {
    const used = Object.values(project.surfaces).find(
      (s) => s.spec && materialsOf(s.spec).some((m) => ids.includes(m)),
    );
    if (used) throw new CommandError('ids', `“${materialsOf(used.spec!).find((m) => ids.includes(m))}” is still laid on “${used.name}”`); // prettier-ignore
    return { ...project, materials: without(project.materials, (id) => ids.includes(id)) };
  },

  saveView: (project, { view }) => ({ ...project, views: put(project.views, [view]) }),

  removeView: (project, { id }) => {
    need(project.views, id, 'view');
    return { ...project, views: without(project.views, (other) => other === id) };
  },
};

/**
 * Applies a command.
 * @returns the new project, and the patch that leads back
 * @throws CommandError naming the field that does not fit
 */
export function applyCommand(project: Project, c: Command): { project: Project; inverse: Patch } {
  const next = (HANDLERS[c.kind] as Handler<CommandKind>)(project, c as never);
  return { project: next, inverse: findDifference(next, project) };
}

/** Applies several; the inverse leads back over all of them. */
export function applyCommands(project: Project, commands: Command[]): { project: Project; inverse: Patch } {
  let next = project;
  for (const c of commands) next = applyCommand(next, c).project;
  return { project: next, inverse: findDifference(next, project) };
}

const plural = (n: number, one: string) => `${n} ${one}${n === 1 ? '' : 's'}`;

/** A line for the history, such as “Lay Smoked oak on Hall floor”. `before` is the project it was applied to. */
export function describeCommand(before: Project, c: Command): string {
  const surfaceNames = (ids: string[]) =>
    ids.length === 1 ? (before.surfaces[ids[0]]?.name ?? 'a surface') : plural(ids.length, 'surface');
  switch (c.kind) {
    case 'setProject':
      if (c.name !== undefined) return `Rename the project “${c.name}”`;
      if (c.unit !== undefined) return `Show lengths in ${c.unit}`;
      if (c.northDeg !== undefined) return `Turn north to ${c.northDeg}°`;
      return 'Move the sun';
    case 'addModel':
      return `Bring in ${c.model.name}`;
    case 'removeModel':
      return `Take out ${before.models[c.model]?.name ?? 'a model'}`;
    case 'updateModel':
      return `Bring pictures for ${c.model.name}`;
    case 'setParts':
      if (c.name !== undefined) return `Rename a part “${c.name}”`;
      return `${c.locked ? 'Lock' : 'Unlock'} ${plural(c.ids.length, 'part')}`;
    case 'setSurfaces':
      if (c.name !== undefined) return `Rename a surface “${c.name}”`;
      if (c.hidden !== undefined) return `${c.hidden ? 'Hide' : 'Show'} ${surfaceNames(c.ids)}`;
      return `${c.leftBare ? 'Leave bare' : 'No longer leave bare'}: ${surfaceNames(c.ids)}`;
    case 'mergeSurfaces':
      return `Merge ${plural(c.ids.length, 'surface')} into “${c.into.name}”`;
    case 'splitSurface':
      return `Split ${surfaceNames([c.id])} into ${c.into.length}`;
    case 'setSpecs': {
      const ids = Object.keys(c.specs);
      const on = surfaceNames(ids);
      const after = c.specs[ids[0]];
      const old = before.surfaces[ids[0]]?.spec;
      if (!after) return `Strip ${on}`;
      const materials = new Map((c.materials ?? []).map((m) => [m.id, m.name]));
      const name = materials.get(after.material) ?? before.materials[after.material]?.name ?? 'material';
      if (!old || old.material !== after.material) return `Lay ${name} on ${on}`;
      const changed = (['mapping', 'repeat', 'start', 'direction', 'finish'] as const).filter(
        (p) => JSON.stringify(old[p]) !== JSON.stringify(after[p]),
      );
      const words = { mapping: 'mapping', repeat: 'repeat', start: 'start', direction: 'direction', finish: 'finish' };
      return changed.length ? `Set ${changed.map((p) => words[p]).join(', ')} of ${on}` : `Set ${on}`;
    }
    case 'useMaterial':
      return `Take ${c.material.name} from the library`;
    case 'replaceMaterial':
      return `Replace ${before.materials[c.from]?.name ?? 'a material'} by ${c.to.name}`;
    case 'dropMaterials':
      return `Clear ${plural(c.ids.length, 'unused material')}`;
    case 'saveView':
      return `Keep view “${c.view.name}”`;
    case 'removeView':
      return `Remove view “${before.views[c.id]?.name ?? ''}”`;
  }
}
