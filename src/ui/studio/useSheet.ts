'use client';

import { useEffect, useState } from 'react';
import type { SheetSummary } from '@/core/mapping/sheet';
import { useProject } from '../project/projectStore';
import { sheetRequest, sheetService, shownRegion } from '../project/sheetService';

/** The sheet of a surface; the last one stays until a newer is ready, and tells which surface it belongs to. */
export function useSheet(id: string | null): { surface: string; sheet: SheetSummary } | null {
  const project = useProject((s) => s.project);
  const preview = useProject((s) => s.preview);
  const region = shownRegion(project, preview, id);
  const [result, setResult] = useState<{ surface: string; sheet: SheetSummary } | null>(null);
  // a picture laid once is set out on all of the surface, not on what it covers
  const cuts = region?.cuts.filter((c) => c.kind !== 'once') ?? [];
  const key = project && region ? JSON.stringify(sheetRequest(project, { ...region, cuts })) : null;
  useEffect(() => {
    if (!key || !id) {
      setResult(null);
      return;
    }
    let stale = false;
    sheetService()
      .summary(JSON.parse(key))
      .then((sheet) => {
        if (!stale) setResult({ surface: id, sheet });
      })
      .catch(() => {
        if (!stale) setResult(null);
      });
    return () => {
      stale = true;
    };
  }, [key, id]);
  return result;
}
