import { CommandError } from '../history/commandError';
import { Key } from '../schema/basics';
import { command } from './command';
import { need, put, without } from './records';
import { type Project, Reference, SavedView, Still } from './schema';

/** What is kept of looking: views, stills, photographs beside them. */
type Kept = 'views' | 'stills' | 'references';
type Of<K extends Kept> = NonNullable<Project[K]>[string];

const CALLED: Record<Kept, string> = { views: 'view', stills: 'still', references: 'reference' };
/** More of a kind than this nobody finds again. */
const MOST_KEPT = 200;

/** The project with one more of a kind, or with another in its place. */
function keepOne<K extends Kept>(project: Project, kind: K, one: Of<K>): Project {
  const all = (project[kind] ?? {}) as Record<string, Of<K>>;
  if (!Object.hasOwn(all, one.id) && Object.keys(all).length >= MOST_KEPT)
    throw new CommandError(CALLED[kind], `there are ${MOST_KEPT} of them already; remove one first`);
  return { ...project, [kind]: put(all, [one]) };
}

/** The project without one of a kind. */
function dropOne<K extends Kept>(project: Project, kind: K, id: string): Project {
  const all = (project[kind] ?? {}) as Record<string, Of<K>>;
  need(all, id, CALLED[kind]);
  return { ...project, [kind]: without(all, (other) => other === id) };
}

export const LOOKING_COMMANDS = {
  saveView: command('saveView', { view: SavedView }),
  removeView: command('removeView', { id: Key }),
  saveStill: command('saveStill', { still: Still }),
  removeStill: command('removeStill', { id: Key }),
  saveReference: command('saveReference', { reference: Reference }),
  removeReference: command('removeReference', { id: Key }),
} as const;

export const LOOKING_HANDLERS = {
  saveView: (project: Project, { view }: { view: SavedView }) => keepOne(project, 'views', view),
  removeView: (project: Project, { id }: { id: string }) => dropOne(project, 'views', id),
  saveStill: (project: Project, { still }: { still: Still }) => keepOne(project, 'stills', still),
  removeStill: (project: Project, { id }: { id: string }) => dropOne(project, 'stills', id),
  saveReference: (project: Project, { reference }: { reference: Reference }) =>
    keepOne(project, 'references', reference),
  removeReference: (project: Project, { id }: { id: string }) => dropOne(project, 'references', id),
};
