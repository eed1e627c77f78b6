'use client';

import { useEffect, useMemo, useState } from 'react';
import type { MaterialLaid } from '@/core/count/materials';
import type { Region } from '@/core/project/regions';
import type { Project } from '@/core/project/schema';
import type { Material } from '@/core/material/schema';
import { PORTIONS } from '@/core/specification/portions';
import { repeatOf, type Spec } from '@/core/specification/schema';
import { formatLength } from '@/core/units/length';
import { laidRequest, sheetService } from '../project/sheetService';
import { useAreas } from '../project/useAreas';

export interface MaterialRow extends MaterialLaid {
  surfaces: number;
  /** How it is laid: “planks 1200 × 190 mm, joints 2 mm”; null for a picture that lies as a whole. */
  pieces: string | null;
}

function piecesOf(spec: Spec, material: Material, { unit }: Project): string | null {
  const length = (mm: number, withUnit = true) => formatLength(mm, unit, { withUnit });
  const words = PORTIONS.find((p) => p.key === 'pieces')!.words;
  return words({ spec, material, unit, length });
}

/** Only laying tells how much there is of each, or how large it comes out. */
const mustBeLaid = ({ spec }: Region) =>
  !!spec &&
  (!!spec.pieces?.mix.entries.some((e) => e.on) ||
    !!spec.repeat.band ||
    !!spec.repeat.once?.fitted ||
    ('around' in spec.mapping && spec.mapping.around !== null));

/** What is laid in a project, by material and size, the largest area first. */
export function useMaterialsLaid(project: Project): MaterialRow[] {
  const areas = useAreas(project);
  const [counted, setCounted] = useState(new Map<string, MaterialLaid[]>());
  const asked = useMemo(
    () =>
      [...areas.values()].flatMap(({ region }) =>
        region.spec && mustBeLaid(region) ? [laidRequest(project, region, region.spec)] : [],
      ),
    [project, areas],
  );
  useEffect(() => {
    let stale = false;
    void Promise.allSettled(
      asked.map(async (request) => [request.region.id, await sheetService().listMaterials(request)] as const),
    ).then((answers) => {
      const known = answers.flatMap((a) => (a.status === 'fulfilled' ? [a.value] : []));
      if (!stale) setCounted(new Map(known));
    });
    return () => {
      stale = true;
    };
  }, [asked]);
  return useMemo(() => {
    const rows = new Map<string, MaterialRow>();
    for (const { region, areaMm2 } of areas.values()) {
      const material = region.spec ? project.materials[region.spec.material] : null;
      if (!region.spec || !material) continue;
      const plain = [{ material: material.id, ...repeatOf(region.spec, material), areaMm2 }];
      for (const laid of counted.get(region.id) ?? plain) {
        const pieces = piecesOf(region.spec, material, project);
        const key = `${laid.material} ${pieces} ${laid.widthMm.toFixed(2)} ${laid.heightMm.toFixed(2)}`;
        const row = rows.get(key) ?? { ...laid, pieces, areaMm2: 0, surfaces: 0 };
        rows.set(key, { ...row, surfaces: row.surfaces + 1, areaMm2: row.areaMm2 + laid.areaMm2 });
      }
    }
    return [...rows.values()].sort((a, b) => b.areaMm2 - a.areaMm2);
  }, [project, areas, counted]);
}
