'use client';

import { useEffect, useState } from 'react';
import type { OwnVerdict } from '@/core/mapping/own';
import type { Suggestion } from '@/core/mapping/suggest';
import type { Project, Surface } from '@/core/project/schema';
import { useProject } from '../project/projectStore';
import { meshUrl, sheetService } from '../project/sheetService';
import { developed } from './surfaces/runs';

export interface ShapeAdvice {
  suggestions: Suggestion[];
  /** One for each coordinate set the model brought; the first stands for none. */
  own: OwnVerdict[];
}

/** A run is set out as one development, whatever its members are; their coordinates are their own. */
const adviceForRun = (project: Project): ShapeAdvice => ({
  suggestions: [{ mapping: developed(project), reason: 'surfaces that are set out as one' }],
  own: [],
});

const known = new Map<string, Promise<ShapeAdvice>>();

/** What suits a surface's shape; asked once for each shape. A zone is advised as its surface is. */
export function adviceFor(project: Project, surface: Surface): Promise<ShapeAdvice> {
  const base = surface.zone ? (project.surfaces[surface.zone.of] ?? surface) : surface;
  if (base.run) return Promise.resolve(adviceForRun(project));
  const part = project.parts[base.part];
  const request = { url: meshUrl(project, part.model), mesh: part.mesh, faces: base.faces, flipped: part.flipped };
  const key = JSON.stringify(request);
  let asked = known.get(key);
  if (!asked) {
    if (known.size > 500) known.clear();
    asked = sheetService().advise(request);
    known.set(key, asked);
    asked.catch(() => known.delete(key));
  }
  return asked;
}

/** Advice for the surface; null until it is there. */
export function useSuggestions(id: string | null): ShapeAdvice | null {
  const project = useProject((s) => s.project);
  const surface = id ? project?.surfaces[id] : undefined;
  const [result, setResult] = useState<{ id: string; advice: ShapeAdvice } | null>(null);
  useEffect(() => {
    if (!project || !surface) return;
    let stale = false;
    adviceFor(project, surface)
      .then((advice) => {
        if (!stale) setResult({ id: surface.id, advice });
      })
      // without advice every mapping can still be chosen
      .catch(() => undefined);
    return () => {
      stale = true;
    };
  }, [project, surface]);
  return result && result.id === id ? result.advice : null;
}
