import { datumOf, type Placement, placeSpec } from '../setout/placement';
import { pictureFrame } from '../setout/handles';
import type { Vec3 } from '../geometry/vec';
import type { MultiPolygon } from 'polygon-clipping';
import { buildSheet, type Sheet, type SheetSummary } from '../mapping/sheet';
import type { Material } from '../material/schema';
import { flipFaces } from '../mesh/flip';
import type { FaceRuns, PartMesh } from '../mesh/types';
import type { Spec } from '../specification/schema';
import type { MappingSpec } from '../mapping/schema';
import { breakAtArrises, tieToArrises } from './arris';
import { cutSheet, cutStrips } from '../zones/cutSheet';
import { borderStrips, tidied, zonePolygons } from '../zones/outlines';
import type { ZoneShape } from '../zones/schema';

/** Where a picture or a piece starts: what of a spec says so, its material's size, and its part's origin. */
interface Start {
  spec: Spec;
  material: Pick<Material, 'widthMm' | 'heightMm'>;
  partOrigin: Vec3;
}

/** What is done to a surface's sheet before anything is laid on it, in order. */
export type Cut =
  | { kind: 'zone'; shape: ZoneShape; keep: 'inside' | 'outside' }
  /** Sides set apart at every arris, so that pieces begin anew there. */
  | ({ kind: 'arris'; how: 'break' | 'return'; pitchMm: number } & Start)
  /** Arrises moved to where the lines of a picture's band fall, shares of its height. */
  | { kind: 'tie'; lines: number[] }
  /** The one picture that is laid once, or what lies around it. */
  | ({ kind: 'once'; keep: 'inside' | 'outside' } & Start);

/** Everything that decides the sheet of a surface, a zone, or what lies around a single picture. */
export interface SheetSource {
  faces: FaceRuns;
  /** Faces of the part that are turned the other way round. */
  flipped?: FaceRuns;
  mapping: MappingSpec;
  cuts?: Cut[];
}

/** Lays a surface flat and cuts from its sheet what is asked. */
export function openSheet(mesh: PartMesh, { faces, flipped, mapping, cuts = [] }: SheetSource): Sheet {
  const whole = buildSheet(flipped?.length ? flipFaces(mesh, flipped) : mesh, faces, mapping);
  let sheet = whole;
  for (const cut of cuts) {
    if (cut.kind === 'once') sheet = cutOnce(sheet, cut);
    else if (cut.kind === 'tie') sheet = tieToArrises(sheet, cut.lines);
    else if (cut.kind === 'arris')
      sheet = breakAtArrises(sheet, {
        how: cut.how,
        pitch: cut.pitchMm,
        origin: placeSpec(cut.spec, cut.material, sheet, cut.partOrigin).at[0],
      });
    // zones are drawn on the whole sheet, whatever other zones take from it
    else if (cut.keep === 'inside' && cut.shape.kind === 'border')
      sheet = cutStrips(sheet, borderStrips(cut.shape, whole));
    else sheet = cutSheet(sheet, zonePolygons(cut.shape, whole), cut.keep);
  }
  return sheet;
}

function cutOnce(sheet: Sheet, { spec, material, partOrigin, keep }: Extract<Cut, { kind: 'once' }>): Sheet {
  const placement = placeSpec(spec, material, sheet, partOrigin);
  const made = cutSheet(sheet, oncePolygons(placement), keep);
  return { ...made, bounds: sheet.bounds, ring: sheet.ring, notes: sheet.notes, breaks: sheet.breaks };
}

/** The rectangle of a picture that is laid once. */
export const oncePolygons = (placement: Placement): MultiPolygon => [[tidied(pictureFrame(placement))]];

/** The picture has slid off the sheet: nothing of it is seen. */
export function slidAway(placement: Placement, sheet: SheetSummary): boolean {
  const corners = pictureFrame(placement);
  const { bounds: b } = sheet;
  const xs = corners.map((p) => p[0]);
  const ys = corners.map((p) => p[1]);
  return (
    Math.max(...xs) <= b.minX || Math.min(...xs) >= b.maxX || Math.max(...ys) <= b.minY || Math.min(...ys) >= b.maxY
  );
}

/** The start that puts a picture's middle on the middle of its sheet. */
export function centredStart(spec: Spec, placement: Placement, sheet: SheetSummary, partOrigin: Vec3): Spec['start'] {
  const [x, y] = datumOf(spec, sheet, partOrigin);
  const corners = pictureFrame(placement);
  const middle = [0, 1].map((c) => corners.reduce((sum, p) => sum + p[c], 0) / 4);
  const { bounds: b } = sheet;
  const tidy = (v: number) => Math.round(v * 100) / 100;
  return {
    ...spec.start,
    xMm: tidy(placement.at[0] + (b.minX + b.maxX) / 2 - middle[0] - x),
    yMm: tidy(placement.at[1] + (b.minY + b.maxY) / 2 - middle[1] - y),
  };
}
