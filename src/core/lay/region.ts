import type { Plane } from '../geometry/plane';
import { normalise, type Vec3 } from '../geometry/vec';
import type { Mappings } from '../mapping/registry';
import type { MappingSpec } from '../mapping/schema';
import { mirrorSheet } from '../mapping/mirrorSheet';
import { buildSheet, type Sheet } from '../mapping/sheet';
import { flipFaces } from '../mesh/flip';
import { mirrorMesh } from '../mesh/mirror';
import type { PartMesh } from '../mesh/types';
import { pictureFrame } from '../setout/handles';
import { place, type Setting } from '../setout/placement';
import { type Whole, wholeField } from '../setout/wholeField';
import type { Spec } from '../specification/schema';
import { cutSheet, cutStrips } from '../zones/cutSheet';
import { borderStrips, tidied, zonePolygons } from '../zones/outlines';
import type { WearSpec } from '../wear/schema';
import type { ZoneShape } from '../zones/schema';
import { breakAtArrises, tieToArrises } from './arris';
import { joinPatches, type Patch } from './joinPatches';

/** What is done to a region's sheet before anything is laid on it, in order. */
export type Cut =
  | { kind: 'zone'; shape: ZoneShape; keep: 'inside' | 'outside' }
  /** Sides set apart at every arris, so that pieces begin anew there. */
  | {
      kind: 'arris';
      how: 'break' | 'return';
      pitchMm: number;
      /** Where pieces have a thickness. */
      body?: { thicknessMm: number; jointMm: number };
      setting: Setting;
    }
  /** Arrises moved to where the lines of a picture's band fall, shares of its height. */
  | { kind: 'tie'; lines: number[] }
  /** The one picture that is laid once, or what lies beside it. */
  | { kind: 'once'; keep: 'inside' | 'outside'; setting: Setting }
  /** What whole pieces cover, or the margins beside them. */
  | { kind: 'whole'; keep: 'inside' | 'outside'; whole: Whole; direction: Spec['direction'] };

/** Everything that decides the sheet of what is laid in one go. */
export interface SheetSource {
  /** One, or several where surfaces are set out together; charts name theirs. */
  patches: Patch[];
  mapping: MappingSpec;
  cuts: Cut[];
  /** The part's own origin in the world, mm: the datum “part”. */
  origin: Vec3;
}

/** What is laid in one go: a surface less its zones, a zone, or what lies beside a picture that is laid once. */
export interface Region extends SheetSource {
  id: string;
  /** Null where nothing is laid. */
  spec: Spec | null;
  /** Seen where nothing is laid. */
  colour: string | null;
  /** What has come over all of it since; absent where nothing has. */
  wear?: WearSpec;
}

/**
 * Lays a region flat and cuts from its sheet what is asked; one that is laid mirrored as its image in the mirror.
 * @param meshes one for each patch: the mesh of its part
 */
export function openSheet(meshes: readonly PartMesh[], source: SheetSource, mappings?: Mappings): Sheet {
  const { patches } = source;
  const mirror = source.mapping.mirror && planeOf(source.mapping.mirror);
  const turned = patches.map(({ flipped }, n) => (flipped?.length ? flipFaces(meshes[n], flipped) : meshes[n]));
  if (!mirror) return cutOpen(turned, source, mappings);
  const images = turned.map((mesh) => mirrorMesh(mesh, mirror));
  return mirrorSheet(cutOpen(images, source, mappings), mirror, { image: images[0], mesh: turned[0] });
}

/** Whoever gave it may have given a direction of any length. */
const planeOf = ({ normal, atMm }: Plane): Plane => ({ normal: normalise(normal), atMm });

function cutOpen(turned: readonly PartMesh[], source: SheetSource, mappings?: Mappings): Sheet {
  const { patches, mapping, cuts, origin } = source;
  const whole =
    patches.length === 1
      ? buildSheet(turned[0], patches[0].faces, mapping, mappings)
      : joinPatches(turned, patches, mapping, mappings);
  let sheet = whole;
  for (const cut of cuts) {
    switch (cut.kind) {
      case 'once':
        sheet = cutOnce(sheet, cut, origin);
        break;
      case 'whole':
        sheet = keepBounds(sheet, cutSheet(sheet, [[wholeField(cut.whole, cut.direction, sheet.bounds)]], cut.keep));
        break;
      case 'tie':
        sheet = tieToArrises(sheet, cut.lines);
        break;
      case 'arris':
        sheet = breakAtArrises(sheet, {
          how: cut.how,
          pitch: cut.pitchMm,
          origin: place(cut.setting, sheet, origin).at[0],
          ...(cut.body ? { body: { thickness: cut.body.thicknessMm, joint: cut.body.jointMm } } : {}),
        });
        break;
      case 'zone':
        // zones are drawn on the whole sheet, whatever other zones take from it
        sheet =
          cut.keep === 'inside' && cut.shape.kind === 'border'
            ? cutStrips(sheet, borderStrips(cut.shape, whole))
            : cutSheet(sheet, zonePolygons(cut.shape, whole), cut.keep);
    }
  }
  return sheet;
}

function cutOnce(sheet: Sheet, { setting, keep }: Extract<Cut, { kind: 'once' }>, origin: Vec3): Sheet {
  const picture = tidied(pictureFrame(place(setting, sheet, origin)));
  return keepBounds(sheet, cutSheet(sheet, [[picture]], keep));
}

/** A part of a sheet that is set out as all of it is. */
function keepBounds(sheet: Sheet, made: Sheet): Sheet {
  return { ...made, bounds: sheet.bounds, ring: sheet.ring, notes: sheet.notes, breaks: sheet.breaks };
}
