'use client';

import { type Remote, wrap } from 'comlink';
import type { Project, Surface } from '@/core/project/schema';
import { type MappingSpec, materialsOf, type Spec } from '@/core/spec/schema';
import type { PiecesRequest, SheetRequest, SheetService } from '@/workers/sheet.worker';

let service: Remote<SheetService> | null = null;

/** The worker that lays surfaces flat and dresses them. */
export function sheetService(): Remote<SheetService> {
  service ??= wrap<SheetService>(
    new Worker(new URL('../../workers/sheet.worker.ts', import.meta.url), { type: 'module', name: 'sheets' }),
  );
  return service;
}

export const BARE_MAPPING: MappingSpec = { kind: 'flat', direction: 'auto' };

/** Meshes are addressed with their hash, so that a cached answer is never the wrong one. */
export const meshUrl = (project: Project, model: string): string => `/api/projects/${project.id}/models/${model}/mesh?v=${project.models[model].mesh.slice(0, 12)}`; // prettier-ignore

export function sheetRequest(project: Project, surface: Surface, spec: Spec | null): SheetRequest {
  const part = project.parts[surface.part];
  return {
    url: meshUrl(project, part.model),
    mesh: part.mesh,
    faces: surface.faces,
    mapping: spec?.mapping ?? BARE_MAPPING,
  };
}

export function piecesRequest(project: Project, surface: Surface, spec: Spec): PiecesRequest {
  return {
    ...sheetRequest(project, surface, spec),
    spec,
    materials: Object.fromEntries(materialsOf(spec).map((id) => [id, project.materials[id]])),
    partOrigin: project.parts[surface.part].origin,
  };
}
