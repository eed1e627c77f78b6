import { CommandError } from '../history/commandError';
import { materialsOf, type Spec, swapMaterial } from '../specification/schema';
import { need, put, without } from './records';
import { runOf } from './runs';
import type { DesignOption, Project } from './schema';

/**
 * Options: other answers for some surfaces, which stand beside what is laid until one of them is kept. Those for the
 * same surfaces belong together.
 */

/** More than these nobody can hold apart. */
export const MOST_OPTIONS = 4;

/** What tells which options answer the same question: the surfaces they are for. */
export const surfacesKey = ({ specs }: Pick<DesignOption, 'specs'>): string => Object.keys(specs).sort().join(' ');

/** The options for the same surfaces as one, itself among them, in their order. */
export const optionsBeside = ({ options = {} }: Pick<Project, 'options'>, one: Pick<DesignOption, 'specs'>) =>
  Object.values(options).filter((o) => surfacesKey(o) === surfacesKey(one));

/** What an option lays, of the surfaces that are still there and no part of a run. */
export const specsOfOption = (project: Project, id: string): Record<string, Spec> =>
  Object.fromEntries(
    Object.entries(need(project.options ?? {}, id, 'option').specs).filter(
      ([surface]) => project.surfaces[surface] && !runOf(project, surface),
    ),
  );

export function setOption(project: Project, option: DesignOption): Project {
  const { options = {}, materials } = project;
  for (const [id, spec] of Object.entries(option.specs)) {
    need(project.surfaces, id, 'surface');
    for (const used of materialsOf(spec)) need(materials, used, 'material');
  }
  const others = optionsBeside(project, option).filter((o) => o.id !== option.id);
  if (others.length >= MOST_OPTIONS)
    throw new CommandError('option', `there are ${MOST_OPTIONS} options for these surfaces already; remove one first`);
  if (others.some((o) => o.name === option.name))
    throw new CommandError('option.name', `there is an option “${option.name}” for these surfaces already`);
  return { ...project, options: put(options, [option]) };
}

export function removeOption(project: Project, id: string): Project {
  const { options = {} } = project;
  need(options, id, 'option');
  return { ...project, options: without(options, (other) => other === id) };
}

/** The project without an option and those beside it. */
export function dropBeside(project: Project, id: string): Project {
  const { options = {} } = project;
  const key = surfacesKey(need(options, id, 'option'));
  return { ...project, options: without(options, (_, o) => surfacesKey(o) === key) };
}

/** An option that lays one of some materials. */
export const optionUsing = ({ options = {} }: Project, materials: readonly string[]): DesignOption | undefined =>
  Object.values(options).find((o) =>
    Object.values(o.specs).some((spec) => materialsOf(spec).some((m) => materials.includes(m))),
  );

/** The options with one material in the place of another. */
export function swapInOptions(project: Project, from: string, to: string): Project {
  if (!optionUsing(project, [from])) return project;
  const swapped = Object.values(project.options!).map((o) => ({
    ...o,
    specs: Object.fromEntries(Object.entries(o.specs).map(([id, spec]) => [id, swapMaterial(spec, from, to)])),
  }));
  return { ...project, options: put(project.options!, swapped) };
}
