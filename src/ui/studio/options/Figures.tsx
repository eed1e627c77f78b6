'use client';

import { useEffect, useState } from 'react';
import { regionsOf } from '@/core/project/regions';
import type { Project } from '@/core/project/schema';
import type { Spec } from '@/core/specification/schema';
import { laidRequest, sheetService } from '../../project/sheetService';

/** Pieces, and how many of them are cut, over some surfaces as they would be laid. */
export function Figures({ project, specs }: { project: Project; specs: Record<string, Spec> }) {
  const [said, setSaid] = useState<string | null>(null);
  useEffect(() => {
    let stale = false;
    void figuresOf(project, specs).then(
      (figures) => stale || setSaid(figures),
      () => stale || setSaid(null),
    );
    return () => void (stale = true);
  }, [project, specs]);
  return <span className="num quiet text-2xs">{said ?? '…'}</span>;
}

async function figuresOf(project: Project, specs: Record<string, Spec>): Promise<string> {
  let [pieces, cut] = [0, 0];
  for (const id of Object.keys(specs)) {
    const surface = project.surfaces[id];
    const region = surface && regionsOf(project, surface, (s) => specs[s.id] ?? s.spec)[0];
    if (!region?.spec) continue;
    const counted = await sheetService().countPieces(laidRequest(project, region, region.spec));
    pieces += counted?.pieces ?? 0;
    cut += counted?.cut ?? 0;
  }
  return pieces ? `${pieces.toLocaleString('en')} pieces, ${cut.toLocaleString('en')} cut` : 'as one whole';
}

/** More surfaces than this are not counted for a look. */
const MOST_COUNTED = 40;

/** What is laid in a project on the surfaces that are laid otherwise in another. */
export function laidOtherwise(project: Project, other: Project): Record<string, Spec> {
  const out: Record<string, Spec> = {};
  for (const [id, { spec }] of Object.entries(project.surfaces)) {
    const before = other.surfaces[id];
    if (!spec || !before || before.spec === spec) continue;
    if (JSON.stringify(before.spec) !== JSON.stringify(spec)) out[id] = spec;
    if (Object.keys(out).length === MOST_COUNTED) break;
  }
  return out;
}
