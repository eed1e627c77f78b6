'use client';

import { type Remote, wrap } from 'comlink';
import { type Region, regionsOf } from '@/core/project/regions';
import type { Project } from '@/core/project/schema';
import { materialsOf, type Spec } from '@/core/specification/schema';
import type { PiecesRequest, SheetRequest, SheetService } from '@/workers/sheet.worker';

let service: Remote<SheetService> | null = null;

/** The worker that lays surfaces flat and dresses them. */
export function sheetService(): Remote<SheetService> {
  service ??= wrap<SheetService>(
    new Worker(new URL('../../workers/sheet.worker.ts', import.meta.url), { type: 'module', name: 'sheets' }),
  );
  return service;
}

/** Meshes are addressed with their hash, so that a cached answer is never the wrong one. */
export const meshUrl = (project: Project, model: string): string =>
  `/api/projects/${project.id}/models/${model}/mesh?v=${project.models[model].mesh.slice(0, 12)}`;

export const sheetRequest = (project: Project, { part, faces, flipped, mapping, cuts }: Region): SheetRequest => ({
  url: meshUrl(project, part.model),
  mesh: part.mesh,
  faces,
  flipped,
  mapping,
  cuts,
});

export const piecesRequest = (project: Project, region: Region, spec: Spec): PiecesRequest => ({
  ...sheetRequest(project, region),
  spec,
  materials: Object.fromEntries(materialsOf(spec).map((id) => [id, project.materials[id]])),
  partOrigin: region.part.origin,
});

/** The region in which a surface's own spec lies, as it is shown now; null for a surface that is not there. */
export function shownRegion(project: Project | null, preview: Record<string, Spec>, id: string | null): Region | null {
  const surface = id && project ? project.surfaces[id] : undefined;
  return (surface && regionsOf(project!, surface, (s) => preview[s.id] ?? s.spec)[0]) ?? null;
}
