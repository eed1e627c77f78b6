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
  const url = of ? meshUrl(project, of.model) : '';
  const question = of && faces.length ? { key: `${url}#${of.mesh}#${faces.join()}`, url, mesh: of.mesh, faces } : null;
  const answer = useLatest(question, ({ key: _key, ...asked }) => sheetService().facesBorder(asked));
  const lines = question ? (answer?.value ?? null) : null;
  return useMemo(() => (part && lines ? { part, lines } : null), [part, lines]);
}
