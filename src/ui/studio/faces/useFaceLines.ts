'use client';

import { useMemo } from 'react';
import type { FaceRuns } from '@/core/mesh/types';
import type { Project } from '@/core/project/schema';
import { meshUrl, sheetService } from '../../project/sheetService';
import { useLatest } from '../../shared/useLatest';

/** Lines round the picked faces; the last ones stay until newer are there. */
export function useFaceLines(
  project: Project,
  part: string | null,
  faces: FaceRuns,
): { part: string; lines: Float32Array } | null {
  const of = part ? project.parts[part] : undefined;
  const key = of && faces.length ? JSON.stringify({ url: meshUrl(project, of.model), mesh: of.mesh, faces }) : null;
  const answer = useLatest(key, (asked) =>
    sheetService().facesBorder(JSON.parse(asked) as { url: string; mesh: number; faces: FaceRuns }),
  );
  const lines = key ? (answer?.value ?? null) : null;
  return useMemo(() => (part && lines ? { part, lines } : null), [part, lines]);
}
