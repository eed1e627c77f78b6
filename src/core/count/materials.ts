import type { Laid } from '../lay/lay';

/** How much of a material lies on a region, at which size. */
export interface MaterialLaid {
  material: string;
  widthMm: number;
  heightMm: number;
  /** On the mesh, mm²; joints count with the pieces they go round. */
  areaMm2: number;
}

/** What lies on a region, by material and size; where pieces are mixed, by what each of them covers. */
export function listMaterials({ sheet, materials, arrangement, pieces }: Laid): MaterialLaid[] {
  const areas = materials.map(() => 0);
  if (!arrangement) areas.fill(sheet.trueArea, 0, 1);
  else for (const p of pieces) areas[p.material] += p.cellArea;
  const covered = areas.reduce((sum, a) => sum + a, 0);
  const scale = covered > 0 ? sheet.trueArea / covered : 0;
  return materials.flatMap(({ material, widthMm, heightMm }, i) =>
    areas[i] > 0 ? [{ material: material.id, widthMm, heightMm, areaMm2: areas[i] * scale }] : [],
  );
}
