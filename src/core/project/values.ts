import { CommandError } from '../history/commandError';
import { Spec } from '../specification/schema';
import {
  isUnitWord,
  NAME,
  type Names,
  namesIn,
  parseAngle,
  parseLength,
  parseNumber,
  parseQuantity,
  type Quantity,
} from '../units/length';
import { put, without } from './records';
import type { Project, Surface } from './schema';
import type { Driven, DrivenBy, NamedValue } from './valueSchema';

/**
 * Named values of a project, and what they drive: any number of a spec can be a sum of them. A value may be a sum of
 * others; levels go by their names as well.
 */

/** A list in words: “a, b and c”. */
const listed = (words: readonly string[]): string =>
  words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;

type Named = Pick<Project, 'values' | 'levels'>;
const known = new WeakMap<object, { levels: Project['levels']; names: Names }>();
const NONE = {};

/**
 * What every name stands for.
 * @throws CommandError naming the chain of a loop, an unknown name, or a sum that cannot be read
 */
export function namesOf({ values = NONE, levels }: Named): Names {
  const before = known.get(values);
  if (before?.levels === levels) return before.names;
  const byName = new Map(Object.values(values).map((v) => [v.name, v]));
  const names = new Map<string, Quantity>();
  for (const { name, heightMm } of Object.values(levels))
    if (NAME.test(name) && !isUnitWord(name)) names.set(name, { value: heightMm, isLength: true });
  const open: string[] = [];
  const settle = (value: NamedValue): void => {
    const { name, sum, unit, sign } = value;
    if (open.includes(name)) {
      const chain = [...open.slice(open.indexOf(name)), name].join(' → ');
      throw new CommandError('value.sum', `these values wait for each other: ${chain}`);
    }
    open.push(name);
    for (const word of namesIn(sum)) {
      const other = byName.get(word);
      if (other) settle(other);
      else if (!names.has(word))
        throw new CommandError('value.sum', `“${word}” in ${open.join(' → ')} = ${sum} is no value of this project`);
    }
    open.pop();
    const read = parseQuantity(sum, unit, sign, names);
    if (!read.ok) throw new CommandError('value.sum', `${name} = ${sum}: ${read.error}`);
    names.set(name, read.of);
  };
  for (const value of byName.values()) settle(value);
  known.set(values, { levels, names });
  return names;
}

/** A name that can stand in a sum, made of what something is called, and that is not taken. */
export function freeName(from: string, taken: ReadonlySet<string>): string {
  const plain = from
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '_')
    .replace(/^_+|_+$/g, '');
  const start = NAME.test(plain) && !isUnitWord(plain) ? plain : `_${plain}`;
  let name = start.slice(0, 56);
  for (let n = 2; taken.has(name); n++) name = `${start.slice(0, 56)}_${n}`;
  return name;
}

/** @throws CommandError where the sum cannot be read */
export function evaluateDriven({ sum, unit, sign, of, factor }: Driven, names: Names): number {
  const read =
    of === 'length'
      ? parseLength(sum, unit, sign, names)
      : of === 'angle'
        ? parseAngle(sum, sign, names)
        : parseNumber(sum, sign, names);
  if (!read.ok) throw new CommandError('value', `the sum ${sum}: ${read.error}`);
  return read.value * factor;
}

const stepsOf = (pointer: string): string[] => pointer.split('/').slice(1);

/** The number at a place of a spec; null where there is none. */
export function leafOf(spec: Spec, pointer: string): number | null {
  let at: unknown = spec;
  for (const step of stepsOf(pointer)) {
    if (typeof at !== 'object' || at === null || !Object.hasOwn(at, step)) return null;
    at = (at as Record<string, unknown>)[step];
  }
  return typeof at === 'number' ? at : null;
}

/** The spec with another number at a place; only what leads there is copied. */
export function withLeaf(spec: Spec, pointer: string, value: number): Spec {
  const set = (at: unknown, [step, ...rest]: string[]): unknown => {
    const copy = (Array.isArray(at) ? [...(at as unknown[])] : { ...(at as object) }) as Record<string, unknown>;
    copy[step] = rest.length ? set(copy[step], rest) : value;
    return copy;
  };
  return set(spec, stepsOf(pointer)) as Spec;
}

/** The numbers in which two specs differ, by their places; null where they differ in more than numbers. */
export function changedLeaves(before: unknown, after: unknown, at = ''): Map<string, number> | null {
  if (before === after) return new Map();
  if (typeof before === 'number' && typeof after === 'number') return new Map([[at, after]]);
  if (typeof before !== 'object' || typeof after !== 'object' || !before || !after) return null;
  const [a, b] = [before as Record<string, unknown>, after as Record<string, unknown>];
  const out = new Map<string, number>();
  for (const key of new Set([...Object.keys(a), ...Object.keys(b)])) {
    const found = changedLeaves(a[key], b[key], `${at}/${key}`);
    if (!found) return null;
    for (const [pointer, value] of found) out.set(pointer, value);
  }
  return out;
}

/** A surface with another spec: what was typed over is driven no more, what is new is. */
export function redriven(before: Surface, spec: Spec | null, added: DrivenBy | undefined, names: Names): Surface {
  const { driven: old, ...plain } = before;
  const surface: Surface = { ...plain, spec };
  if (added && !spec) throw new CommandError('driven', `“${before.name}” is stripped: nothing of it can follow a sum`);
  if (!spec || (!old && !added)) return surface;
  for (const pointer of Object.keys(added ?? {}))
    if (leafOf(spec, pointer) === null)
      throw new CommandError('driven', `“${pointer}” is no number of what is laid on “${before.name}”`);
  const kept = Object.entries(old ?? {}).filter(
    ([pointer]) => before.spec && leafOf(spec, pointer) === leafOf(before.spec, pointer),
  );
  const driven: DrivenBy = { ...Object.fromEntries(kept), ...added };
  return Object.keys(driven).length ? drive({ ...surface, driven }, names) : surface;
}

/** What of a JSON Schema is needed to tell whether a number may stand somewhere. */
interface Rules {
  type?: string;
  const?: unknown;
  minimum?: number;
  maximum?: number;
  exclusiveMinimum?: number;
  exclusiveMaximum?: number;
  properties?: Record<string, Rules>;
  items?: Rules;
  anyOf?: Rules[];
}

/** Whether a schema allows a number at a place of a value; of alternatives those that are of its kind count. */
function allowedAt(rules: Rules | undefined, at: unknown, [step, ...rest]: string[], value: number): boolean {
  if (!rules) return false;
  if (rules.anyOf) {
    const kind = (at as { kind?: unknown } | null)?.kind;
    const own = rules.anyOf.filter(({ properties }) => !properties?.kind || properties.kind.const === kind);
    return own.some((one) => allowedAt(one, at, step === undefined ? [] : [step, ...rest], value));
  }
  if (step !== undefined)
    return allowedAt(rules.properties?.[step] ?? rules.items, (at as Record<string, unknown>)[step], rest, value);
  const { type, minimum = -Infinity, maximum = Infinity, exclusiveMinimum, exclusiveMaximum } = rules;
  return (
    (type === 'number' || (type === 'integer' && Number.isInteger(value))) &&
    value >= minimum &&
    value <= maximum &&
    (exclusiveMinimum === undefined || value > exclusiveMinimum) &&
    (exclusiveMaximum === undefined || value < exclusiveMaximum)
  );
}

/** A surface whose driven numbers are what their sums come to now. */
function drive(surface: Surface, names: Names): Surface {
  let { spec } = surface;
  if (!spec || !surface.driven) return surface;
  for (const [pointer, by] of Object.entries(surface.driven)) {
    const before = leafOf(spec, pointer);
    if (before === null) continue;
    const value = evaluateDriven(by, names);
    if (value === before) continue;
    const made: Spec = withLeaf(spec, pointer, value);
    if (!allowedAt(Spec as unknown as Rules, made, stepsOf(pointer), value)) {
      const where = `${stepsOf(pointer).join(' ')} of “${surface.name}”`;
      throw new CommandError(
        'value',
        `${by.sum} would come to ${Math.round(value * 1000) / 1000} for ${where}, which is out of its range`,
      );
    }
    spec = made;
  }
  return spec === surface.spec ? surface : { ...surface, spec };
}

/** Everything that is driven, after a value or a level became another. */
export function driveAll(project: Project): Project {
  const names = namesOf(project);
  let surfaces = project.surfaces;
  for (const s of Object.values(project.surfaces)) {
    const made = s.driven ? drive(s, names) : s;
    if (made !== s)
      surfaces =
        surfaces === project.surfaces ? { ...surfaces, [s.id]: made } : Object.assign(surfaces, { [s.id]: made });
  }
  return surfaces === project.surfaces ? project : { ...project, surfaces };
}

/** Adds a value, or gives one another sum or name: what uses a name goes on using it. */
export function setValue(project: Project, value: NamedValue): Project {
  const { name, id } = value;
  if (!NAME.test(name))
    throw new CommandError('value.name', `“${name}” is no name: a letter first, then letters, digits or underscores`);
  if (isUnitWord(name)) throw new CommandError('value.name', `“${name}” is a unit; call it something else`);
  const values = project.values ?? {};
  if (Object.values(values).some((v) => v.id !== id && v.name === name))
    throw new CommandError('value.name', `there is a value “${name}” already`);
  if (Object.values(project.levels).some((l) => l.name === name))
    throw new CommandError('value.name', `a level is called “${name}”; it can be used in sums as it is`);
  const before = values[id]?.name;
  const renamed = before !== undefined && before !== name ? renameIn({ ...project, values }, before, name) : project;
  return driveAll({ ...renamed, values: put(renamed.values ?? {}, [value]) });
}

function renameIn(project: Project, from: string, to: string): Project {
  const swap = (sum: string) => sum.replace(/[\p{L}_][\p{L}\p{N}_]*/gu, (word) => (word === from ? to : word));
  const values = Object.fromEntries(
    Object.entries(project.values ?? {}).map(([id, v]) => [id, { ...v, sum: swap(v.sum) }]),
  );
  const surfaces = { ...project.surfaces };
  for (const s of Object.values(surfaces)) {
    if (!s.driven) continue;
    const driven = Object.fromEntries(Object.entries(s.driven).map(([p, by]) => [p, { ...by, sum: swap(by.sum) }]));
    surfaces[s.id] = { ...s, driven };
  }
  return { ...project, values, surfaces };
}

/** Where each name is used: by surfaces and by other values, as people call them. */
export function usesOf({ values = {}, surfaces }: Pick<Project, 'values' | 'surfaces'>): Map<string, string[]> {
  const out = new Map<string, string[]>();
  const use = (sum: string, by: string) => {
    for (const name of new Set(namesIn(sum))) {
      const list = out.get(name) ?? [];
      if (!list.includes(by)) out.set(name, [...list, by]);
    }
  };
  for (const { name, sum } of Object.values(values)) use(sum, name);
  for (const { name, driven } of Object.values(surfaces))
    for (const { sum } of Object.values(driven ?? {})) use(sum, name);
  return out;
}

/** Takes values away that nothing uses. */
export function removeValues(project: Project, ids: readonly string[]): Project {
  const values = project.values ?? {};
  const left = without(values, (id) => ids.includes(id));
  const uses = usesOf({ values: left, surfaces: project.surfaces });
  for (const id of ids) {
    if (!Object.hasOwn(values, id)) throw new CommandError('ids', `there is no value “${id}” in this project`);
    const by = uses.get(values[id].name);
    if (by) throw new CommandError('ids', `“${values[id].name}” is used by ${listed(by)}`);
  }
  return { ...project, values: left };
}
