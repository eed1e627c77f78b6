'use client';

import type { Material } from '@/core/material/schema';
import { useProject } from '../project/projectStore';

/** A project keeps the version it was laid with; what was changed here since is taken over by one press. */
export function NewerVersions({ materials }: { materials: readonly Material[] }) {
  const { project, run } = useProject();
  const newer = materials.filter((m) => (project?.materials[m.id]?.version ?? m.version) < m.version);
  if (!newer.length) return null;
  return (
    <p role="status" className="asks flex items-center justify-between gap-2">
      {newer.length === 1
        ? `${project!.name} is laid with an older version of it.`
        : `${project!.name} is laid with older versions of ${newer.length} of them.`}
      <button
        type="button"
        className="tool tool-line shrink-0"
        onClick={() => run(newer.map((material) => ({ kind: 'useMaterial', material })))}
      >
        Use {newer.length === 1 ? 'it' : 'them'} in this project
      </button>
    </p>
  );
}
