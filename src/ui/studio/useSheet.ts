'use client';

import { useEffect, useRef, useState } from 'react';
import type { Region } from '@/core/project/regions';
import type { SheetSummary } from '@/core/mapping/sheet';
import { useProject } from '../project/projectStore';
import { sheetRequest, sheetService, shownRegion, uncutRequest } from '../project/sheetService';

/** The sheet of a surface; the last one stays until a newer is ready, and tells which surface it belongs to. */
export function useSheet(id: string | null): { surface: string; sheet: SheetSummary } | null {
  const project = useProject((s) => s.project);
  const preview = useProject((s) => s.preview);
  const region = shownRegion(project, preview, id);
  const [result, setResult] = useState<{ surface: string; sheet: SheetSummary } | null>(null);
  // a picture laid once is set out on all of the surface, not on what it covers
  const once = region?.cuts.some((c) => isWithin(c));
  const request =
    !project || !region
      ? null
      : once
        ? uncutRequest(project, region, beforeOnce(region))
        : sheetRequest(project, region);
  const asked = useRef(request);
  useEffect(() => {
    asked.current = request;
  });
  const key = request?.key ?? null;
  useEffect(() => {
    if (!key || !id) {
      setResult(null);
      return;
    }
    let stale = false;
    sheetService()
      .summary(asked.current!)
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

/** Cuts that part what is set out together. */
const isWithin = ({ kind }: Region['cuts'][number]) => kind === 'once' || kind === 'whole';
const beforeOnce = ({ cuts }: Region) => cuts.filter((c) => !isWithin(c));
