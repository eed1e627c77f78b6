import { create } from 'zustand';
import { toast } from 'sonner';
import type { Job } from '@/api/answers';
import type { PictureRegion, StillView } from '@/core/still/view';
import type { Still } from '@/core/project/schema';
import { useProject } from '../../project/projectStore';
import { call, messageOf } from '../../shared/api';
import { followJob } from '../../shared/followJob';
import { newId } from '../../shared/ids';

/** What is traced: a view, its size, and what of it. */
export interface Traced extends StillView {
  name: string;
  widthPx: number;
  heightPx: number;
  samples: number;
  region?: PictureRegion;
  /** The picture of a kept still that the region is put into. */
  within?: string;
}

interface Tracing {
  /** Under way or stopped; null where nothing is. */
  what: Traced | null;
  project: string | null;
  job: Job | null;
  begin(project: string, what: Traced): Promise<void>;
  /** Ends it with the light there is, and keeps that. */
  enough(): void;
  /** Ends it; what was gathered is kept to go on with. */
  stop(): void;
  goOn(): Promise<void>;
  /** Keeps with the open project what is ready: by itself, unless another was open when it became so. */
  keep(): void;
  /** Throws away what was gathered. */
  leave(): void;
}

/** A still that is traced on the server: it goes on while the menu is closed, and is kept when it is ready. */
export const useTracing = create<Tracing>()((set, get) => {
  const send = async (project: string, what: Traced, goesOn?: string) => {
    const { name: _name, ...body } = what;
    try {
      const job = await call('POST /api/projects/{id}/stills', {
        id: project,
        body: { ...body, ...(goesOn ? { goesOn } : {}) },
      });
      set({ what, project, job });
      followJob(job.id, heard);
    } catch (error) {
      toast.error('The still could not be traced', { description: messageOf(error) });
    }
  };
  const heard = (job: Job) => {
    if (get().job?.id !== job.id) return;
    set({ job });
    if (job.state === 'failed') {
      toast.error('The still could not be traced', { description: job.message });
      set({ what: null, job: null });
    }
    if (job.state === 'done' && useProject.getState().project?.id === get().project) get().keep();
  };
  const keep = () => {
    const { what, job } = get();
    const result = job?.result;
    set({ what: null, job: null });
    if (!what || !result?.image) return;
    const { name, eye, target, lensMm, widthPx, heightPx } = what;
    const still: Still = {
      id: newId('still'),
      name,
      eye,
      target,
      ...(lensMm ? { lensMm } : {}),
      widthPx: what.region && !what.within ? what.region.width : widthPx,
      heightPx: what.region && !what.within ? what.region.height : heightPx,
      image: result.image,
      revision: result.revision ?? 0,
      samples: Math.max(1, result.samples ?? 1),
    };
    useProject.getState().run([{ kind: 'saveStill', still }]);
  };
  const end = (id: string) => void call('DELETE /api/jobs/{id}', { id }).catch(() => undefined);
  return {
    what: null,
    project: null,
    job: null,
    begin: (project, what) => send(project, what),
    enough: () => {
      const { job } = get();
      if (job) void call('POST /api/jobs/{id}/enough', { id: job.id }).catch(() => undefined);
    },
    stop: () => {
      const { job } = get();
      if (job) end(job.id);
    },
    goOn: async () => {
      const { job, what, project } = get();
      if (job && what && project) await send(project, what, job.id);
    },
    keep,
    leave: () => {
      const { job } = get();
      if (job) end(job.id);
      set({ what: null, job: null });
    },
  };
});
