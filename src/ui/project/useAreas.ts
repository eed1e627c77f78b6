import { useEffect, useMemo, useState } from 'react';
import { allRegions, BESIDE, type Region } from '@/core/project/regions';
import type { Project, Surface } from '@/core/project/schema';
import { sheetRequest, sheetService } from './sheetService';

/** What every region of a project covers, mm², by the region's id. */
export type Areas = Map<string, { region: Region; areaMm2: number }>;

/** True areas of regions that were measured, mm², by what was asked. */
const measured = new Map<string, number>();
const KEPT = 2000;

/**
 * What every region covers: a surface less its zones, a zone less those above it.
 * Regions that are cut are measured in the worker; until then a surface counts whole.
 */
export function useAreas(project: Project): Areas {
  const [count, setCount] = useState(0);
  const regions = useMemo(
    () =>
      allRegions(project).map((region) => {
        const cut = region.cuts.some((c) => c.kind === 'zone' || c.kind === 'once' || c.kind === 'whole');
        return { region, request: cut ? sheetRequest(project, region) : null };
      }),
    [project],
  );
  useEffect(() => {
    let stale = false;
    const missing = regions.flatMap(({ request }) => (request && !measured.has(request.key) ? [request] : []));
    if (!missing.length) return;
    void Promise.allSettled(
      missing.map(async (request) => {
        const { trueArea } = await sheetService().summary(request);
        if (measured.size >= KEPT) measured.clear();
        measured.set(request.key, trueArea);
      }),
    ).then(() => !stale && setCount((n) => n + 1));
    return () => {
      stale = true;
    };
  }, [regions]);
  return useMemo(
    () =>
      new Map(
        regions.map(({ region, request }) => [region.id, { region, areaMm2: areaOf(region, request?.key ?? null) }]),
      ),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- measured areas arrive with the count
    [regions, count],
  );
}

/** While a cut region is not measured its surface counts whole, once. */
function areaOf({ id, surface }: Region, key: string | null): number {
  if (key === null) return surface.areaMm2;
  return measured.get(key) ?? (id === surface.id ? surface.areaMm2 : 0);
}

/** What a surface covers less its zones: its picture laid once, and what lies beside that. */
export const surfaceArea = (areas: Areas, surface: Surface): number =>
  (areas.get(surface.id)?.areaMm2 ?? surface.areaMm2) + (areas.get(surface.id + BESIDE)?.areaMm2 ?? 0);
