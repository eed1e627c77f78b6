import { once } from '../geometry/once';
import type { Finding } from '../finding/finding';
import type { Layouts } from '../layout/registry';
import type { Mappings } from '../mapping/registry';
import type { Sheet } from '../mapping/sheet';
import type { PartMesh } from '../mesh/types';
import { type Placement, placeSpec } from '../setout/placement';
import { arrange, type Arrangement, type MaterialsById } from './arrange';
import { findingsOf } from './findings';
import { jointMaterial, type LaidMaterial, materialsLaid } from './materials';
import { listPieces, type Piece } from './pieces';
import { openSheet, type Region } from './region';

/** What comes of laying a region. Each of it is worked out when it is first asked for, and kept. */
export interface Laid {
  readonly region: Region;
  readonly sheet: Sheet;
  /** Null where nothing is laid, or the picture lies as one whole. */
  readonly arrangement: Arrangement | null;
  /** Where the whole picture lies; null where nothing is laid. Pieces take their frame from it. */
  readonly placement: Placement | null;
  /** Every piece with its true outline; none where nothing is laid in pieces. */
  readonly pieces: Piece[];
  /** The main one first, then those mixed in; none where nothing is laid. */
  readonly materials: LaidMaterial[];
  /** What fills the joints, where that is a material. */
  readonly joint: LaidMaterial | null;
  /** What people should know of it; what concerns the sheet alone is said with the sheet. */
  readonly findings: Finding[];
}

/** Layouts and mappings other than the application's own, for a studio's and for tests. */
export interface LayOptions {
  layouts?: Layouts;
  mappings?: Mappings;
  /** The region's sheet, where it was laid flat before. */
  sheet?: Sheet;
}

/**
 * Lays a region: the one way from faces to sheet, cells and pieces. Room, sheet view, API and export read its result.
 *
 * @param meshes one for each patch of the region: the mesh of its part
 * @param materials those that the spec names; one that is missing leaves its place to the main one
 * @example
 * const laid = lay(region, [mesh], { oak });
 * laid.sheet.area; // mm²
 * laid.pieces.length; // outlines are cut now, and kept
 */
export function lay(
  region: Region,
  meshes: readonly PartMesh[],
  materials: MaterialsById,
  { layouts, mappings, sheet: known }: LayOptions = {},
): Laid {
  const { spec, origin } = region;
  const sheet = once(() => known ?? openSheet(meshes, region, mappings));
  const arrangement = once(() => arrange(region, sheet(), materials, layouts));
  const main = spec ? materials[spec.material] : undefined;
  const placement = once(() => (spec && main ? placeSpec(spec, main, sheet(), origin) : null));
  const pieces = once(() => {
    const open = arrangement();
    return open ? listPieces(open) : [];
  });
  const laid = once(() => (spec ? materialsLaid(spec, sheet(), arrangement(), materials) : []));
  const joint = once(() => {
    const open = arrangement();
    return open && jointMaterial(open, materials);
  });
  const findings = once(() => findingsOf(spec, sheet(), arrangement()));
  return {
    region,
    get findings() {
      return findings();
    },
    get sheet() {
      return sheet();
    },
    get arrangement() {
      return arrangement();
    },
    get placement() {
      return placement();
    },
    get pieces() {
      return pieces();
    },
    get materials() {
      return laid();
    },
    get joint() {
      return joint();
    },
  };
}
