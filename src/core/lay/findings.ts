import { type Finding, finding } from '../finding/finding';
import type { Sheet } from '../mapping/sheet';
import type { Vec2 } from '../geometry/vec';
import { layoutOf } from '../layout/registry';
import { aroundOf } from '../mapping/schema';
import { gaugedOn } from '../setout/gauge';
import { goAround } from '../setout/around';
import { type LayoutFrame, toSheet } from '../setout/layoutFrame';
import { liesInPieces, type Spec } from '../specification/schema';
import type { Arrangement } from './arrange';
import { edgeOnArea, edgeOnFaces } from './edgeOn';

/** What people should know of what is laid, beyond how its sheet lies. */
export function findingsOf(spec: Spec | null, sheet: Sheet, arrangement: Arrangement | null): Finding[] {
  const why = spec ? goAround(spec, sheet.ring)?.why : null;
  const out = [...(why ? [why] : []), ...(spec ? gaugedOn(spec, sheet).findings : [])];
  if (!arrangement) return out;
  const areaMm2 = edgeOnArea(sheet);
  if (areaMm2 > 0)
    out.push(
      finding(
        'facesEdgeOn',
        { areaMm2 },
        edgeOnFaces(sheet).map((f) => middleOf(sheet, f)),
      ),
    );
  out.push(...leftAtCuts(spec, sheet));
  const ofLayout = (arrangement.layout.findings?.() ?? []).map((f) => onSheet(f, arrangement.frame));
  return [...out, ...ofLayout, ...printFindings(arrangement)];
}

/** What is left of a piece where a development closes, where its pieces have one pitch and run level. */
function leftAtCuts(spec: Spec | null, { breaks }: Sheet): Finding[] {
  if (!spec || !liesInPieces(spec) || spec.direction.turnDeg % 180 !== 0 || aroundOf(spec.mapping)) return [];
  const { layout, joint } = spec.pieces;
  const pitchMm = layoutOf(layout).pitch?.(layout, joint);
  if (!pitchMm) return [];
  return breaks.flatMap(({ finding: { code }, shift }) =>
    code === 'developmentCut' ? [finding('leftAtCut', { mm: leftOf(shift, pitchMm), pitchMm })] : [],
  );
}

/** What of a length whole pitches leave; a hair short of a whole one is none. */
const leftOf = (length: number, pitch: number): number => {
  const left = length % pitch;
  return pitch - left < 1e-3 ? 0 : left;
};

const onSheet = (f: Finding, frame: LayoutFrame): Finding =>
  f.where ? { ...f, where: f.where.map(([x, y]) => toSheet(frame, x, y)) } : f;

const middleOf = ({ corners: c }: Sheet, face: number): Vec2 => [
  (c[face * 6] + c[face * 6 + 2] + c[face * 6 + 4]) / 3,
  (c[face * 6 + 1] + c[face * 6 + 3] + c[face * 6 + 5]) / 3,
];

/** Prints a hair larger than their leaf are not worth a word; this share is. */
const WORTH_A_WORD = 1.002;

function printFindings({ variation, layout, materials }: Arrangement): Finding[] {
  if (!variation.on) return [];
  const needed = layout.mostNeighbours + 1;
  const [lengthMm, widthMm] = layout.largest;
  return [...new Set(materials)].flatMap(({ material, prints, ...size }) => {
    const found: Finding[] = [];
    if (prints.enlarged > WORTH_A_WORD) {
      found.push(finding('printEnlarged', { material: material.name, lengthMm, widthMm, times: prints.enlarged }));
    } else if (material.seamless && (lengthMm > size.widthMm || widthMm > size.heightMm) && !material.leaves) {
      const { widthMm: wide, heightMm: high } = size;
      found.push(finding('pieceLargerThanPicture', { material: material.name, widthMm: wide, heightMm: high }));
    }
    if (prints.distinct < needed) {
      found.push(finding('printsTooFew', { material: material.name, prints: prints.count, needed }));
    }
    return found;
  });
}
