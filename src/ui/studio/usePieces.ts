'use client';

import { finishOn } from '@/core/specification/finish';
import type { Finding } from '@/core/finding/finding';
import type { PiecesSummary } from '@/core/count/summary';
import type { Project } from '@/core/project/schema';
import { liesInPieces, type Spec } from '@/core/specification/schema';
import type { LaidRequest } from '@/workers/held';
import { useProject } from '../project/projectStore';
import { laidRequest, sheetService, shownRegion } from '../project/sheetService';
import { imageUrl } from '../shared/api';
import { useLatest } from '../shared/useLatest';

export type CountedPieces = PiecesSummary & { findings: Finding[]; fingerprint: string };

/** Counts and warnings of a surface laid in pieces; the last ones stay until newer are there. */
export function usePieces(id: string | null): {
  request: LaidRequest | null;
  counted: CountedPieces | null;
  busy: boolean;
} {
  const project = useProject((s) => s.project);
  const preview = useProject((s) => s.preview);
  const region = shownRegion(project, preview, id);
  const spec = region?.spec;
  const request = project && region && spec && liesInPieces(spec) ? laidRequest(project, region, spec) : null;
  const answer = useLatest(request, (asked) => sheetService().countPieces(asked));
  // an answer for another surface is not shown for this one
  const own = answer && request && answer.asked.region.id === request.region.id;
  return {
    request,
    counted: own ? answer.value : null,
    busy: request !== null && answer?.asked.key !== request.key,
  };
}

const materialsIn = (project: Project, spec: Spec) =>
  [spec.material, ...(spec.pieces?.mix.entries ?? []).map((e) => e.material)].map(
    (id) => project.materials[id] ?? project.materials[spec.material],
  );

/** What the finish makes of the colours of all materials of a surface, as its pieces count them. */
export const tintsOf = (project: Project, spec: Spec) =>
  materialsIn(project, spec).map((m) => (m ? finishOn(spec.finish, m).tint : ([1, 1, 1] as const)));

/** Addresses of the base colours of all materials of a surface, as its pieces count them. */
export function picturesOf(project: Project, spec: Spec, size: number): (string | null)[] {
  return materialsIn(project, spec).map((m) => {
    const image = m?.maps.baseColour?.image;
    return image ? imageUrl(image, size) : null;
  });
}
