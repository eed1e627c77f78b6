'use client';

import { useEffect, useState } from 'react';
import type { SheetSummary } from '@/core/mapping/sheet';
import { useProject } from '../project/projectStore';
import { sheetRequest, sheetService } from '../project/sheetService';

/** The sheet of a surface; the last one stays until a newer is ready, and tells which surface it belongs to. */
export function useSheet(id: string | null): { surface: string; sheet: SheetSummary } | null {
  const project = useProject((s) => s.project);
  const preview = useProject((s) => (id ? s.preview[id] : undefined));
  const surface = id ? project?.surfaces[id] : undefined;
  const spec = preview ?? surface?.spec ?? null;
  const [result, setResult] = useState<{ surface: string; sheet: SheetSummary } | null>(null);
  const key = project && surface ? JSON.stringify(sheetRequest(project, surface, spec)) : null;
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
