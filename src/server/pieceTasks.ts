import { readMeshes } from '@/core/formats/meshFile';
import { cutPieces } from '@/core/pieces/cutPieces';
import { fingerprint } from '@/core/pieces/fingerprint';
import { type MaterialsById, openPieces } from '@/core/pieces/openPieces';
import { summarise } from '@/core/pieces/summary';
import type { Spec } from '@/core/spec/schema';
import { openSheet, type SheetSource } from '@/core/zones/region';
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
