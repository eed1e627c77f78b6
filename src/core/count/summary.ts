import { trimNumber } from '../units/length';
import type { Arrangement } from '../lay/arrange';
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
  /** What the artist should know: too few prints, a picture smaller than a piece, … */
  warnings: string[];
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
    warnings: warningsOf(open),
  };
}

function warningsOf(open: Arrangement): string[] {
  if (!open.variation.on) return [];
  const needed = open.layout.mostNeighbours + 1;
  const out: string[] = [];
  for (const { material, prints, widthMm, heightMm } of open.materials) {
    const [l, w] = open.layout.largest;
    // a print a hair larger than its leaf is nobody's concern
    if (prints.enlarged > 1.05) {
      out.push(
        `A piece of ${trimNumber(l, 1)} × ${trimNumber(w, 1)} mm is larger than what is seamless ` +
          `of “${material.name}”; it is shown ${trimNumber(prints.enlarged, 2)} times as large.`,
      );
    } else if (material.seamless && (l > widthMm || w > heightMm) && !material.leaves) {
      out.push(
        `A piece is larger than the picture of “${material.name}” (${trimNumber(widthMm, 0)} ` +
          `× ${trimNumber(heightMm, 0)} mm): within one piece it repeats.`,
      );
    }
    if (prints.distinct < needed) {
      out.push(
        `“${material.name}” has ${prints.count === 1 ? 'one print' : `${prints.count} different prints`} ` +
          `of this size; ${needed} are needed for neighbours never to look alike.`,
      );
    }
  }
  return [...new Set(out)];
}
