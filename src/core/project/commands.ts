import { CommandError } from '../history/commandError';
import { type Static, Type } from '@sinclair/typebox';
import { Material } from '../material/schema';
import { Hash, Key, Keyed, Name } from '../schema/basics';
import { materialsOf, Spec, swapMaterial } from '../specification/schema';
import { faceCount, type FaceRuns, listFaces, packFaces } from '../mesh/types';
import { findDifference, type Patch } from '../history/patch';
import { ZoneShape } from '../zones/schema';
import { change, definedOnly, need, put, without } from './records';
import { LOOKING_COMMANDS, LOOKING_HANDLERS } from './looking';
import { command } from './command';
import { dropBeside, optionUsing, removeOption, setOption, specsOfOption, swapInOptions } from './options';
import { addRun, followRuns, removeRun, runOf, setRun, settleRuns } from './runs';
import { atLevel, atLevels, levelsOf } from './levels';
import { addZone, followZones, isOnRun, removeZone, setZone } from './zones';
import { driveAll, namesOf, redriven, removeValues, setValue, usesOf } from './values';
import { DrivenBy, NamedValue } from './valueSchema';
import { DesignOption, Level, Light, Model, Part, type Project, Push, SavedSelection, Surface, Unit } from './schema';

/**
 * The only ways a project changes. A command carries everything it needs (ids are made by the caller, faces are
 * numbers, never queries), so replaying it gives the same project anywhere.
 */

const Keys = Type.Array(Key, { minItems: 1 });

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
  updateModel: command('updateModel', { model: Model, materials: Type.Array(Material), specs: Keyed(Spec) }),
  setParts: command('setParts', { ids: Keys, name: Type.Optional(Name), locked: Type.Optional(Type.Boolean()) }),
  setSurfaces: command('setSurfaces', {
    ids: Keys,
    name: Type.Optional(Name),
    hidden: Type.Optional(Type.Boolean()),
    leftBare: Type.Optional(Type.Boolean()),
  }),
  mergeSurfaces: command('mergeSurfaces', { ids: Type.Array(Key, { minItems: 2 }), into: Surface }),
  splitSurface: command('splitSurface', { id: Key, into: Type.Array(Surface, { minItems: 2 }) }),
  /** Makes a surface of faces taken from others of the same part; what has none left goes. */
  carveSurface: command('carveSurface', {
    into: Surface,
    from: Keyed(Type.Union([Type.Null(), Type.Pick(Surface, ['faces', 'areaMm2', 'normal'])])),
  }),
  /** Turns faces of a part the other way round, or back. */
  flipFaces: command('flipFaces', { part: Key, faces: Type.Array(Type.Integer({ minimum: 0 }), { minItems: 2 }) }),
  /** Puts a mesh with a pushed face in the place of a part's; `measured` are all its surfaces as they are then. */
  pushFaces: command('pushFaces', {
    part: Key,
    push: Push,
    mesh: Hash,
    ...Type.Pick(Part, ['min', 'max']).properties,
    measured: Keyed(Type.Pick(Surface, ['areaMm2', 'normal'])),
  }),
  /** Sets surfaces out as one; they carry the run's spec from then on. */
  addRun: command('addRun', { run: Surface }),
  setRun: command('setRun', { id: Key, members: Keys }),
  removeRun: command('removeRun', { id: Key }),
  addZone: command('addZone', { zone: Surface }),
  setZone: command('setZone', { id: Key, shape: ZoneShape, areaMm2: Type.Number({ minimum: 0 }) }),
  removeZone: command('removeZone', { id: Key }),
  saveSelection: command('saveSelection', { selection: SavedSelection }),
  removeSelection: command('removeSelection', { id: Key }),
  /** Shows these alone; null for all again. */
  isolate: command('isolate', { ids: Type.Union([Type.Null(), Type.Array(Key, { minItems: 1 })]) }),
  setLevel: command('setLevel', { level: Level }),
  removeLevel: command('removeLevel', { id: Key }),
  /** Puts a newer state of a model in the place of an older one; what keeps its id keeps what was decided about it. */
  reviseModel: command('reviseModel', {
    model: Model,
    parts: Type.Array(Part),
    surfaces: Type.Array(Surface),
    materials: Type.Array(Material),
  }),
  setSpecs: command('setSpecs', {
    specs: Keyed(Type.Union([Spec, Type.Null()])),
    /** Numbers of these specs that follow sums from now on. */
    driven: Type.Optional(Keyed(DrivenBy)),
    /** Materials the specs use that the project does not have yet. */
    materials: Type.Optional(Type.Array(Material)),
  }),
  /** Another answer for some surfaces, beside what is laid. */
  setOption: command('setOption', { option: DesignOption }),
  removeOption: command('removeOption', { id: Key }),
  /** Lays an option; those beside it go. */
  keepOption: command('keepOption', { id: Key }),
  /** A named value that drives others; whatever uses it follows. */
  setValue: command('setValue', { value: NamedValue }),
  removeValues: command('removeValues', { ids: Keys }),
  useMaterial: command('useMaterial', { material: Material }),
  replaceMaterial: command('replaceMaterial', { from: Key, to: Material }),
  dropMaterials: command('dropMaterials', { ids: Keys }),
  ...LOOKING_COMMANDS,
} as const;

export type CommandKind = keyof typeof COMMANDS;
export type CommandOf<K extends CommandKind> = Static<(typeof COMMANDS)[K]>;
export type Command = { [K in CommandKind]: CommandOf<K> }[CommandKind];

/** Both have the same faces, and none has one twice. */
function sameFaces(before: FaceRuns[], after: FaceRuns[]): boolean {
  const all = (lists: FaceRuns[]) => lists.flatMap((runs) => [...listFaces(runs)]);
  const [from, to] = [all(before), all(after)];
  const left = new Set(from);
  return left.size === from.length && from.length === to.length && to.every((face) => left.delete(face));
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
      surfaces: without(project.surfaces, (_, s) => !s.run && !isOnRun(project, s) && !parts[s.part]),
    };
  },

  updateModel: (project, c) => {
    need(project.models, c.model.id, 'model');
    let surfaces = project.surfaces;
    for (const [id, spec] of Object.entries(c.specs)) {
      surfaces = change(surfaces, [id], 'surface', (s) => ({ ...s, spec }));
    }
    return {
      ...project,
      models: put(project.models, [c.model]),
      materials: put(project.materials, c.materials),
      surfaces,
    };
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
    const run = merged.find((s) => s.run);
    if (run) throw new CommandError('ids', `“${run.name}” is a run; it has no faces that could be merged`);
    const zone = merged.find((s) => s.zone);
    if (zone) throw new CommandError('ids', `“${zone.name}” is a zone; it has no faces that could be merged`);
    if (merged.some((s) => s.part !== into.part)) {
      throw new CommandError('ids', 'only surfaces of one part can be merged into one surface');
    }
    if (
      !sameFaces(
        merged.map((s) => s.faces),
        [into.faces],
      )
    ) {
      throw new CommandError('into.faces', 'the merged surface must have exactly the faces of its sources');
    }
    const followed = followRuns(project.surfaces, ids, [into.id]);
    const left = ids.reduce((all, id) => followZones(all, id, into.id), followed);
    return {
      ...project,
      surfaces: put(
        without(left, (id) => ids.includes(id)),
        [into],
      ),
    };
  },

  splitSurface: (project, { id, into }) => {
    const source = need(project.surfaces, id, 'surface');
    if (into.some((s) => s.part !== source.part)) {
      throw new CommandError('into', 'the new surfaces must be of the part of the old one');
    }
    if (
      source.zone ||
      !sameFaces(
        [source.faces],
        into.map((s) => s.faces),
      )
    ) {
      throw new CommandError('into', 'the new surfaces together must have exactly the faces of the old one');
    }
    // zones go with the first, which callers make the largest
    const left = followZones(
      followRuns(
        project.surfaces,
        [id],
        into.map((s) => s.id),
      ),
      id,
      into[0].id,
    );
    return {
      ...project,
      surfaces: put(
        without(left, (other) => other === id),
        into,
      ),
    };
  },

  carveSurface: (project, { into, from }) => {
    const faces = new Set<number>();
    let before = 0;
    let after = faceCount(into.faces);
    let surfaces = project.surfaces;
    for (const [id, rest] of Object.entries(from)) {
      const source = need(project.surfaces, id, 'surface');
      if (source.part !== into.part) throw new CommandError('from', 'all faces of one surface must be of one part');
      if (source.zone) throw new CommandError('from', `“${source.name}” is a zone; it has no faces of its own`);
      for (const f of listFaces(source.faces)) faces.add(f);
      before += faceCount(source.faces);
      after += rest ? faceCount(rest.faces) : 0;
      if (source.run) throw new CommandError('from', `“${source.name}” is a run; it has no faces of its own`);
      if (rest) surfaces = change(surfaces, [id], 'surface', (s) => ({ ...s, ...rest }));
      else {
        const left = without(surfaces, (other) => other === id);
        surfaces = followZones(runOf(project, id) ? followRuns(left, [id], [into.id]) : left, id, into.id);
      }
    }
    if (before !== after || listFaces(into.faces).some((f) => !faces.has(f))) {
      throw new CommandError(
        'into.faces',
        'the new surface and what is left must together have exactly the faces of the old ones',
      );
    }
    return { ...project, surfaces: put(surfaces, [into]) };
  },

  flipFaces: (project, { part, faces }) => ({
    ...project,
    parts: change(project.parts, [part], 'part', (p) => {
      const turned = new Set(listFaces(p.flipped ?? []));
      for (const f of listFaces(faces)) if (!turned.delete(f)) turned.add(f);
      return { ...p, flipped: packFaces([...turned]) };
    }),
  }),

  pushFaces: (project, { part: id, push, mesh, min, max, measured }) => {
    const part = need(project.parts, id, 'part');
    const model = need(project.models, part.model, 'model');
    let surfaces = project.surfaces;
    for (const [surface, values] of Object.entries(measured)) {
      if (need(surfaces, surface, 'surface').part !== id)
        throw new CommandError('measured', `“${surfaces[surface].name}” is of another part`);
      surfaces = change(surfaces, [surface], 'surface', (s) => ({ ...s, ...values }));
    }
    return {
      ...project,
      models: put(project.models, [{ ...model, mesh }]),
      parts: change(project.parts, [id], 'part', (p) => ({ ...p, min, max, pushes: [...(p.pushes ?? []), push] })),
      surfaces,
    };
  },

  addRun: (project, { run }) => addRun(project, run),
  setRun: (project, { id, members }) => setRun(project, id, members),
  removeRun: (project, { id }) => removeRun(project, id),

  addZone: (project, { zone }) => addZone(project, zone),
  setZone: (project, { id, shape, areaMm2 }) => setZone(project, id, shape, areaMm2),
  removeZone: (project, { id }) => removeZone(project, id),

  saveSelection: (project, { selection }) => ({ ...project, selections: put(project.selections, [selection]) }),

  removeSelection: (project, { id }) => {
    need(project.selections, id, 'selection');
    return { ...project, selections: without(project.selections, (other) => other === id) };
  },

  isolate: (project, { ids }) => {
    for (const id of ids ?? []) need(project.surfaces, id, 'surface');
    return { ...project, isolated: ids };
  },

  setLevel: (project, { level }) => driveAll(atLevels({ ...project, levels: put(project.levels, [level]) })),

  removeLevel: (project, { id }) => {
    const { name } = need(project.levels, id, 'level');
    const sums = usesOf(project).get(name);
    if (sums) throw new CommandError('id', `“${name}” is used in sums by ${sums.join(', ')}`);
    const used = Object.values(project.surfaces).find((s) => s.spec && levelsOf(s.spec).includes(id));
    if (used) throw new CommandError('id', `“${used.name}” is set out from this level`);
    return { ...project, levels: without(project.levels, (other) => other === id) };
  },

  reviseModel: (project, c) => {
    need(project.models, c.model.id, 'model');
    const gone = new Set(
      Object.values(project.parts)
        .filter((p) => p.model === c.model.id)
        .map((p) => p.id),
    );
    const surfaces = put(
      without(project.surfaces, (_, s) => !s.run && !isOnRun(project, s) && gone.has(s.part)),
      c.surfaces,
    );
    for (const s of c.surfaces) if (s.zone) need(surfaces, s.zone.of, 'surface');
    return {
      ...project,
      models: put(project.models, [c.model]),
      parts: put(
        without(project.parts, (id) => gone.has(id)),
        c.parts,
      ),
      surfaces,
      materials: put(project.materials, c.materials),
    };
  },

  setSpecs: (project, { specs, driven = {}, materials = [] }) => {
    const known = put(project.materials, materials);
    const names = namesOf(project);
    const stray = Object.keys(driven).find((id) => !Object.hasOwn(specs, id));
    if (stray) throw new CommandError('driven', `“${stray}” is driven, but gets no spec here`);
    const surfaces = { ...project.surfaces };
    for (const [id, spec] of Object.entries(specs)) {
      const run = runOf(project, id);
      if (run)
        throw new CommandError(`specs.${id}`, `it is part of the run “${run.name}”: lay it there, or let it leave`);
      if (spec) for (const used of materialsOf(spec)) need(known, used, 'material');
      const own = spec && atLevel(spec, project.levels);
      surfaces[id] = redriven(need(project.surfaces, id, 'surface'), own, driven[id], names);
    }
    return { ...project, surfaces, materials: known };
  },

  setOption: (project, { option }) => setOption(project, option),
  removeOption: (project, { id }) => removeOption(project, id),
  keepOption: (project, { id }) =>
    HANDLERS.setSpecs(dropBeside(project, id), { kind: 'setSpecs', specs: specsOfOption(project, id) }),

  setValue: (project, { value }) => setValue(project, value),
  removeValues: (project, { ids }) => removeValues(project, ids),

  useMaterial: (project, { material }) => ({ ...project, materials: put(project.materials, [material]) }),

  replaceMaterial: (project, { from, to }) => {
    need(project.materials, from, 'material');
    const using = Object.values(project.surfaces).filter((s) => s.spec && materialsOf(s.spec).includes(from));
    const surfaces = change(
      project.surfaces,
      using.map((s) => s.id),
      'surface',
      (s) => ({ ...s, spec: swapMaterial(s.spec!, from, to.id) }),
    );
    return swapInOptions({ ...project, surfaces, materials: put(project.materials, [to]) }, from, to.id);
  },

  dropMaterials: (project, { ids }) => {
    const used = Object.values(project.surfaces).find(
      (s) => s.spec && materialsOf(s.spec).some((m) => ids.includes(m)),
    );
    if (used)
      throw new CommandError(
        'ids',
        `“${materialsOf(used.spec!).find((m) => ids.includes(m))}” is still laid on “${used.name}”`,
      );
    const option = optionUsing(project, ids);
    if (option) throw new CommandError('ids', `the option “${option.name}” still lays it`);
    return { ...project, materials: without(project.materials, (id) => ids.includes(id)) };
  },

  ...LOOKING_HANDLERS,
};

/**
 * The project after some commands.
 * @throws CommandError naming the field that does not fit
 */
export const runCommands = (project: Project, commands: readonly Command[]): Project =>
  commands.reduce((before, c) => {
    const after = (HANDLERS[c.kind] as Handler<CommandKind>)(before, c as never);
    return after.surfaces === before.surfaces ? after : settleRuns(after);
  }, project);

/**
 * Applies commands.
 * @returns the new project, and the patch that leads back over all of them
 * @throws CommandError naming the field that does not fit
 */
export function applyCommands(project: Project, commands: readonly Command[]): { project: Project; inverse: Patch } {
  const next = runCommands(project, commands);
  return { project: next, inverse: findDifference(next, project) };
}

/** Applies one. */
export const applyCommand = (project: Project, command: Command) => applyCommands(project, [command]);
