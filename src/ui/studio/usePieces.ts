'use client';

import { useEffect, useState } from 'react';
import type { PiecesSummary } from '@/core/pieces/summary';
import type { Project } from '@/core/project/schema';
import { liesInPieces, type Spec } from '@/core/spec/schema';
import type { PiecesRequest } from '@/workers/sheet.worker';
import { useProject } from '../project/projectStore';
import { piecesRequest, sheetService } from '../project/sheetService';
import { imageUrl } from '../shared/api';

export type CountedPieces = PiecesSummary & { fingerprint: string };

/** Counts and warnings of a surface laid in pieces; the last ones stay until newer are there. */
export function usePieces(id: string | null): {
  request: PiecesRequest | null;
  counted: CountedPieces | null;
  busy: boolean;
} {
  const project = useProject((s) => s.project);
  const preview = useProject((s) => (id ? s.preview[id] : undefined));
  const surface = id ? project?.surfaces[id] : undefined;
  const spec = preview ?? surface?.spec ?? null;
  const request = project && surface && spec && liesInPieces(spec) ? piecesRequest(project, surface, spec) : null;
  const key = request ? JSON.stringify(request) : null;
  const [state, setState] = useState<{ key: string; surface: string; counted: CountedPieces | null } | null>(null);
  useEffect(() => {
    if (!key || !id) {
      setState(null);
      return;
    }
    let stale = false;
    sheetService()
      .countPieces(JSON.parse(key) as PiecesRequest)
      .then((counted) => {
        if (!stale) setState({ key, surface: id, counted });
      })
      .catch(() => {
        if (!stale) setState({ key, surface: id, counted: null });
      });
    return () => {
      stale = true;
    };
  }, [key, id]);
  return { request, counted: state?.surface === id ? state.counted : null, busy: key !== null && state?.key !== key };
}

/** Addresses of the base colours of all materials of a surface, as its pieces count them. */
export function picturesOf(project: Project, spec: Spec, size: number): (string | null)[] {
  const ids = [spec.material, ...(spec.pieces?.mix.entries ?? []).map((e) => e.material)];
  return ids.map((id) => {
    const image = (project.materials[id] ?? project.materials[spec.material])?.maps.baseColour?.image;
    return image ? imageUrl(image, size) : null;
  });
}
