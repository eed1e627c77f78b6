import { readMeshes } from '@/core/formats/meshFile';
import { cutPieces } from '@/core/lay/cutPieces';
import { fingerprint } from '@/core/count/fingerprint';
import { type MaterialsById, openPieces } from '@/core/lay/openPieces';
import { summarise } from '@/core/count/summary';
import type { Spec } from '@/core/specification/schema';
import { openSheet, type SheetSource } from '@/core/lay/region';
import { readBlob } from './data';

export interface PiecesTask {
  mesh: { hash: string; index: number };
  source: SheetSource;
  spec: Spec;
  materials: MaterialsById;
  partOrigin: [number, number, number];
}

/** The pieces of one surface as plain data: lengths in mm on the sheet, angles in degrees. */
export async function listPieces({ mesh: at, source, spec, materials, partOrigin }: PiecesTask) {
  const mesh = readMeshes(await readBlob(at.hash))[at.index];
  const sheet = openSheet(mesh, source);
  const open = openPieces(spec, sheet, materials, partOrigin);
  if (!open) return { pieces: [], summary: null, fingerprint: null };
  const pieces = cutPieces(open, sheet);
  const summary = summarise(open, pieces, sheet.area);
  return {
    fingerprint: fingerprint(pieces),
    summary: {
      pieces: summary.pieces,
      whole: summary.whole,
      cut: summary.cut,
      pieceAreaMm2: summary.pieceArea,
      jointAreaMm2: summary.jointArea,
      byRole: summary.byRole,
      byMaterial: summary.byMaterial,
      prints: summary.prints,
      printsNeeded: summary.needed,
      warnings: summary.warnings,
    },
    pieces: pieces.map((p) => {
      const { look } = p;
      const { material: m, widthMm, heightMm } = open.materials[p.material];
      // from the piece's own axes to the picture's
      const a = look.uAlong * widthMm;
      const c = look.vAlong * heightMm;
      const det = a * (look.vAcross * heightMm) - c * (look.uAcross * widthMm);
      return {
        id: `${p.course},${p.index}`,
        course: p.course,
        index: p.index,
        role: p.role,
        whole: p.whole,
        outline: p.outline,
        areaMm2: p.area,
        cellAreaMm2: p.cellArea,
        lengthMm: p.length,
        widthMm: p.width,
        material: m.id,
        print: {
          number: look.print,
          originMm: [look.u * widthMm, look.v * heightMm],
          turnDeg: (Math.atan2(c, a) * 180) / Math.PI,
          flipped: det < 0,
          sizePercent: 100 / Math.hypot(a, c),
        },
        tone: [...look.gain],
      };
    }),
  };
}
