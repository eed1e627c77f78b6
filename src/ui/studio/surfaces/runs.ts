import { toast } from 'sonner';
import { FIRST_MAPPING, type MappingSpec } from '@/core/mapping/schema';
import type { Command } from '@/core/project/commands';
import { zonesOn } from '@/core/project/regions';
import type { Project, Surface } from '@/core/project/schema';
import type { Spec } from '@/core/specification/schema';
import { useProject } from '../../project/projectStore';
import { useSelection } from '../../project/selection';
import { newId } from '../../shared/ids';

/** One development, cut where the project's saved views see least of it. */
export const developed = ({ views }: Project): MappingSpec => ({
  ...FIRST_MAPPING.develop,
  seenFrom: Object.values(views)
    .slice(0, 60)
    .map(({ eye, target }) => ({ eye, target })),
});

/** What keeps some surfaces from being set out as one; null where nothing does. */
export function whyNoRun(project: Project, picked: readonly Surface[]): string | null {
  const runs = picked.filter((s) => s.run);
  if (picked.length < 2) return 'Pick two or more surfaces to set them out as one';
  if (picked.some((s) => s.zone)) return 'A zone is drawn on a surface; set the surfaces out as one';
  if (runs.length > 1) return 'Two runs: part one of them first';
  const zoned = picked.find((s) => !s.run && zonesOn(project, s.id).length);
  if (zoned) return `${zoned.name} has zones on its own sheet: take them away first, and draw them on the run`;
  return null;
}

/** The first number that no run has yet. */
function runName({ surfaces }: Project): string {
  const names = new Set(Object.values(surfaces).map((s) => s.name));
  let n = 1;
  while (names.has(`Run ${n}`)) n++;
  return `Run ${n}`;
}

/** What else lay on those that join is taken off: that is said. */
function sayTaken(picked: readonly Surface[], kept: Spec | null): void {
  const others = picked.filter((s) => s.spec && s.spec !== kept);
  if (others.length)
    toast(
      `What lay on ${others.map((s) => s.name).join(', ')} is taken off: a run carries one spec. Undo brings it back.`,
    );
}

/** Sets surfaces out as one, or lets them join the run among them. The spec is the first one's that has one. */
export function setOutAsOne(picked: readonly Surface[]): void {
  const { project, run } = useProject.getState();
  if (!project || whyNoRun(project, picked)) return;
  const known = picked.find((s) => s.run);
  if (known?.run) {
    const joined = picked.filter((s) => s !== known).map((s) => s.id);
    run([{ kind: 'setRun', id: known.id, members: [...known.run.members, ...joined] }]);
    sayTaken(picked, known.spec);
    useSelection.getState().select([known.id]);
    return;
  }
  const members = picked.map((s) => s.id);
  const laid = picked.find((s) => s.spec)?.spec;
  const spec: Spec | null = laid ? { ...laid, mapping: developed(project) } : null;
  const made: Surface = {
    ...picked[0],
    id: newId('surface'),
    name: runName(project),
    faces: [],
    run: { members },
    spec,
  };
  run([{ kind: 'addRun', run: made }]);
  sayTaken(picked, laid ?? null);
  useSelection.getState().select([made.id]);
}

/** What lets a member leave: the last one parts the run. */
export function leaving(run: Surface, member: string): Command {
  const members = run.run!.members.filter((m) => m !== member);
  return members.length ? { kind: 'setRun', id: run.id, members } : { kind: 'removeRun', id: run.id };
}

/** Lets a member leave; it keeps what is laid. */
export function leaveRun(run: Surface, member: string): void {
  useProject.getState().run([leaving(run, member)]);
  useSelection.getState().select([member]);
}

export function partRun({ id, run: of }: Surface): void {
  useProject.getState().run([{ kind: 'removeRun', id }]);
  useSelection.getState().select(of!.members);
}
