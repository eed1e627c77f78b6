import type { Laid } from '../lay/lay';
import type { Sheet } from '../mapping/sheet';

/** What can be said of the pieces of a surface in a few numbers and sentences. */
export interface PiecesSummary {
  pieces: number;
  whole: number;
  cut: number;
  /** Piece area and joint area on the sheet, mm². */
  pieceArea: number;
  jointArea: number;
  byRole: Record<string, number>;
  /** Pieces of each material of the surface, the main one first. */
  byMaterial: { material: string; name: string; pieces: number }[];
  /** Different prints of the main material, and how many neighbours ask for. */
  prints: number;
  needed: number;
}

type Counted = Pick<Laid, 'arrangement' | 'pieces'> & { sheet: Pick<Sheet, 'area'> };

/** @returns null where nothing is laid in pieces */
export function summarise({ arrangement: open, pieces, sheet }: Counted): PiecesSummary | null {
  if (!open) return null;
  const sheetArea = sheet.area;
  const byRole: Record<string, number> = {};
  const perMaterial = open.materials.map(() => 0);
  let whole = 0;
  let pieceArea = 0;
  for (const p of pieces) {
    byRole[p.role] = (byRole[p.role] ?? 0) + 1;
    perMaterial[p.material]++;
    if (p.whole) whole++;
    pieceArea += p.area;
  }
  return {
    pieces: pieces.length,
    whole,
    cut: pieces.length - whole,
    pieceArea,
    jointArea: Math.max(0, sheetArea - pieceArea),
    byRole,
    byMaterial: open.materials.map(({ material: m }, i) => ({ material: m.id, name: m.name, pieces: perMaterial[i] })),
    prints: open.materials[0].prints.count,
    needed: open.layout.mostNeighbours + 1,
  };
}
