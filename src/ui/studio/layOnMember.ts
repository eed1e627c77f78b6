import { toast } from 'sonner';
import { type Command, runCommands } from '@/core/project/commands';
import { runOf } from '@/core/project/runs';
import type { Project } from '@/core/project/schema';
import { useProject } from '../project/projectStore';
import { useSelection } from '../project/selection';
import { leaving } from './surfaces/runs';

/**
 * What is laid on a member of a run: asked is whether the whole run takes it, or the member leaves and takes it alone.
 * @param member where it was laid; no member of a run, it is laid there at once
 */
export function layOnMember(member: string, lay: (project: Project, id: string) => Command[]): void {
  const { project } = useProject.getState();
  if (!project?.surfaces[member]) return;
  const run = runOf(project, member);
  const put = (id: string, first: Command[]) => {
    const now = useProject.getState();
    if (now.project?.id !== project.id) return;
    now.run([...first, ...lay(runCommands(now.project, first), id)]);
    useSelection.getState().select([id]);
  };
  if (!run) return put(member, []);
  const { name } = project.surfaces[member];
  toast(`${name} is part of ${run.name}: ${run.run!.members.length} surfaces set out as one.`, {
    duration: 30_000,
    action: { label: 'Lay on the whole run', onClick: () => put(run.id, []) },
    cancel: { label: `${name} leaves`, onClick: () => put(member, [leaving(run, member)]) },
  });
}
