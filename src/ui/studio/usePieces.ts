'use client';

import type { PiecesSummary } from '@/core/count/summary';
import type { Project } from '@/core/project/schema';
import { liesInPieces, type Spec } from '@/core/specification/schema';
import type { PiecesRequest } from '@/workers/sheet.worker';
import { useProject } from '../project/projectStore';
import { piecesRequest, sheetService, shownRegion } from '../project/sheetService';
import { imageUrl } from '../shared/api';
import { useLatest } from '../shared/useLatest';

export type CountedPieces = PiecesSummary & { fingerprint: string };

/** Counts and warnings of a surface laid in pieces; the last ones stay until newer are there. */
export function usePieces(id: string | null): {
  request: PiecesRequest | null;
  counted: CountedPieces | null;
  busy: boolean;
} {
  const project = useProject((s) => s.project);
  const preview = useProject((s) => s.preview);
  const region = shownRegion(project, preview, id);
  const request =
    project && region?.spec && liesInPieces(region.spec) ? piecesRequest(project, region, region.spec) : null;
  const key = request ? JSON.stringify(request) : null;
  const answer = useLatest(key, (asked) => sheetService().countPieces(JSON.parse(asked) as PiecesRequest));
  // an answer for another surface is not shown for this one
  const own = answer && request && sameSurface(answer.key, request);
  return { request, counted: own ? answer.value : null, busy: key !== null && answer?.key !== key };
}

/** Which surface or zone a request is about, whatever is laid on it. */
export const placeOf = ({ url, mesh, faces, cuts = [] }: PiecesRequest) => JSON.stringify([url, mesh, faces, cuts]);

const sameSurface = (key: string, request: PiecesRequest) =>
  placeOf(JSON.parse(key) as PiecesRequest) === placeOf(request);

/** Addresses of the base colours of all materials of a surface, as its pieces count them. */
export function picturesOf(project: Project, spec: Spec, size: number): (string | null)[] {
  const ids = [spec.material, ...(spec.pieces?.mix.entries ?? []).map((e) => e.material)];
  return ids.map((id) => {
    const image = (project.materials[id] ?? project.materials[spec.material])?.maps.baseColour?.image;
    return image ? imageUrl(image, size) : null;
  });
}
