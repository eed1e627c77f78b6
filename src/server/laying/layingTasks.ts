import type { LaidAnswer, PieceAnswer, SheetAnswer } from '@/api/answers';
import { fingerprint } from '@/core/count/fingerprint';
import { summarise } from '@/core/count/summary';
import { sayFinding } from '@/core/finding/finding';
import type { MaterialsById } from '@/core/lay/arrange';
import { lay } from '@/core/lay/lay';
import type { Piece } from '@/core/lay/pieces';
import type { Region } from '@/core/lay/region';
import type { LengthUnit } from '@/core/units/length';
import type { PieceMaterial } from '@/core/variation/appearance';
import { countsAcross } from '@/core/setout/placement';
import { readMesh } from './meshes';

/** What a sheet's answer says of the surface itself. */
type LaidSheet = Omit<SheetAnswer, 'surface' | 'revision'>;

/** A region, and what laying it needs. */
export interface LayingTask {
  /** One for each patch. */
  meshes: { hash: string; index: number }[];
  region: Region;
  materials: MaterialsById;
  /** Of the project, for sentences. */
  unit: LengthUnit;
}

const readAll = (meshes: LayingTask['meshes']) => Promise.all(meshes.map(({ hash, index }) => readMesh(hash, index)));

/** The pieces of one region as plain data: lengths in mm on the sheet, angles in degrees. */
export async function listPieces({ meshes, region, materials, unit }: LayingTask): Promise<LaidAnswer> {
  const laid = lay(region, await readAll(meshes), materials);
  const { arrangement, pieces } = laid;
  const summary = summarise(laid);
  if (!arrangement || !summary) return { pieces: [], summary: null, findings: laid.findings, fingerprint: null };
  const { pieceArea, jointArea, needed, ...counts } = summary;
  return {
    fingerprint: fingerprint(pieces),
    summary: {
      ...counts,
      warnings: laid.findings.map((f) => sayFinding(f, unit)),
      pieceAreaMm2: pieceArea,
      jointAreaMm2: jointArea,
      printsNeeded: needed,
    },
    findings: laid.findings,
    pieces: pieces.map((p) => describePiece(p, arrangement.materials[p.material])),
  };
}

/** One region laid flat, in mm. */
export async function laySheet({ meshes, region, materials, unit }: LayingTask): Promise<LaidSheet> {
  const { sheet, placement, materials: laidOf } = lay(region, await readAll(meshes), materials);
  const [main] = laidOf;
  const laid =
    placement && main
      ? {
          ...placement,
          counts: countsAcross(sheet, main, placement.turnDeg),
          pxPerMm: main.material.maps.baseColour ? main.material.maps.baseColour.widthPx / main.widthMm : null,
        }
      : null;
  return {
    charts: sheet.charts.map((c) => ({
      outline: c.outline,
      boundsMm: c.bounds,
      areaMm2: c.area,
      trueAreaMm2: c.trueArea,
    })),
    boundsMm: sheet.bounds,
    areaMm2: sheet.area,
    trueAreaMm2: sheet.trueArea,
    stretch: sheet.stretch,
    breaks: sheet.breaks.map(({ finding, ...rest }) => ({ ...rest, finding, text: sayFinding(finding, unit) })),
    ringMm: sheet.ring,
    notes: sheet.notes.map((n) => sayFinding(n, unit)),
    findings: sheet.notes,
    laid,
  };
}

function describePiece(p: Piece, { material, widthMm, heightMm }: PieceMaterial): PieceAnswer {
  const { appearance: shown } = p;
  // from the piece's own axes to the picture's
  const a = shown.uAlong * widthMm;
  const c = shown.vAlong * heightMm;
  const det = a * (shown.vAcross * heightMm) - c * (shown.uAcross * widthMm);
  return {
    id: `${p.course},${p.index}`,
    course: p.course,
    index: p.index,
    role: p.role,
    board: p.board.join(','),
    whole: p.whole,
    outline: p.outline,
    areaMm2: p.area,
    cellAreaMm2: p.cellArea,
    lengthMm: p.length,
    widthMm: p.width,
    material: material.id,
    print: {
      number: shown.print,
      originMm: [shown.u * widthMm, shown.v * heightMm],
      turnDeg: (Math.atan2(c, a) * 180) / Math.PI,
      flipped: det < 0,
      sizePercent: 100 / Math.hypot(a, c),
    },
    tone: [...shown.gain],
  };
}
