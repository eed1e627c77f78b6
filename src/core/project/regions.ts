import { LAYOUTS, isLaid, type LaidSpec } from '../layout/registry';
import type { Layout } from '../layout/types';
import type { FaceRuns } from '../mesh/types';
import type { Material } from '../material/schema';
import { defaultSpec, liesInPieces, type Spec } from '../specification/schema';
import { FIRST_MAPPING, type MappingSpec } from '../mapping/schema';
import type { Cut } from '../lay/region';
import type { ZoneShape } from '../zones/schema';
import type { Part, Project, Surface } from './schema';

/** What is laid in one go: a surface less its zones, a zone, or what lies around a picture that is laid once. */
export interface Region {
  /** The surface's, with a mark where it is what lies around its picture. */
  id: string;
  surface: Surface;
  part: Part;
  faces: FaceRuns;
  flipped?: FaceRuns;
  mapping: MappingSpec;
  cuts: Cut[];
  /** Null where nothing is laid. */
  spec: Spec | null;
  /** Seen where nothing is laid and a colour was chosen for it. */
  colour: string | null;
}

export const BARE_MAPPING = FIRST_MAPPING.flat;
/** Marks the region around a picture that is laid once. */
export const BESIDE = '#around';

/** The zones drawn on a surface, the lowest first. */
export const zonesOn = (project: Project, surface: string): Surface[] =>
  Object.values(project.surfaces)
    .filter((s) => s.zone?.of === surface)
    .sort((a, b) => a.zone!.rank - b.zone!.rank || (a.id < b.id ? -1 : 1));

/** A border of so many courses is as wide as they and their joints. */
function settled(shape: ZoneShape, spec: Spec | null): ZoneShape {
  if (shape.kind !== 'border' || shape.courses === null || !spec?.pieces || !isLaid(spec.pieces.layout)) return shape;
  const { layout, joint } = spec.pieces;
  const size = (LAYOUTS[layout.kind] as Layout<LaidSpec>).size.get(layout);
  if (!size) return shape;
  const standing = Math.round(spec.direction.turnDeg / 90) % 2 !== 0;
  const course = standing ? size[0] + joint.alongMm : size[1] + joint.acrossMm;
  return { ...shape, widthMm: Math.max(1, shape.courses * course) };
}

/** Picks the spec that counts for a surface; a view may show one that is not stored yet. */
export type SpecOf = (surface: Surface) => Spec | null;

/** The regions of one surface or zone: one, or two where a picture is laid once. */
export function regionsOf(project: Project, surface: Surface, specOf: SpecOf = (s) => s.spec): Region[] {
  const base = surface.zone ? project.surfaces[surface.zone.of] : surface;
  if (!base) return [];
  const part = project.parts[surface.part];
  const spec = specOf(surface);
  const zones = zonesOn(project, base.id);
  const above = surface.zone ? zones.slice(zones.findIndex((z) => z.id === surface.id) + 1) : zones;
  const cuts: Cut[] = above.map((z) => ({ kind: 'zone', shape: settled(z.zone!.shape, specOf(z)), keep: 'outside' }));
  if (surface.zone) cuts.push({ kind: 'zone', shape: settled(surface.zone.shape, spec), keep: 'inside' });
  const flipped = part.flipped?.length ? { flipped: part.flipped } : {};
  const common = { surface, part, faces: base.faces, ...flipped, mapping: specOf(base)?.mapping ?? BARE_MAPPING };
  // a zone is drawn on its surface's sheet: that one's mapping lays it flat
  const laid = spec && surface.zone ? { ...spec, mapping: common.mapping } : spec;
  const material = laid ? project.materials[laid.material] : undefined;
  const arris = laid && material ? arrisCut(laid, material, part) : null;
  if (arris) cuts.push(arris);
  const tie = laid ? tieCut(laid) : null;
  if (tie) cuts.push(tie);
  const once = laid?.repeat.once;
  if (!laid || !material || !once) return [{ id: surface.id, ...common, cuts, spec: laid, colour: null }];
  const size = { widthMm: material.widthMm, heightMm: material.heightMm };
  const cut = (keep: 'inside' | 'outside'): Cut => ({
    kind: 'once',
    spec: forCut(laid),
    material: size,
    partOrigin: part.origin,
    keep,
  });
  const rest = once.rest;
  return [
    { id: surface.id, ...common, cuts: [...cuts, cut('inside')], spec: laid, colour: null },
    {
      id: surface.id + BESIDE,
      ...common,
      cuts: [...cuts, cut('outside')],
      spec:
        rest.kind === 'material' && project.materials[rest.material]
          ? { ...defaultSpec(rest.material), mapping: laid.mapping }
          : null,
      colour: rest.kind === 'colour' ? rest.colour : null,
    },
  ];
}

/** Where pieces do not fold over arrises: only courses that lie level on the sheet can begin anew at one. */
function arrisCut(spec: Spec, { widthMm, heightMm }: Material, part: Part): Cut | null {
  const how = spec.pieces?.arris ?? 'fold';
  if (how === 'fold' || !liesInPieces(spec) || !isLaid(spec.pieces.layout) || spec.direction.turnDeg % 180 !== 0)
    return null;
  const { layout, joint } = spec.pieces;
  const pitchMm = (LAYOUTS[layout.kind] as Layout<LaidSpec>).pitch?.(layout, joint);
  if (!pitchMm) return null;
  return { kind: 'arris', how, pitchMm, spec: forCut(spec), material: { widthMm, heightMm }, partOrigin: part.origin };
}

/** The lines of a band as shares of the strip it covers. */
function tieCut({ repeat, pieces }: Spec): Cut | null {
  const { band } = repeat;
  if (!band?.lines?.length || (pieces && pieces.layout.kind !== 'whole')) return null;
  const [low, high] = [Math.min(band.from, band.to), Math.max(band.from, band.to)];
  const lines = band.lines.filter((l) => l > low && l < high).map((l) => (l - low) / (high - low));
  return lines.length ? { kind: 'tie', lines } : null;
}

/** What of a spec decides where its single picture lies; the rest must not make a sheet anew. */
const forCut = ({ material, mapping, repeat, start, direction }: Spec): Spec => ({
  material,
  mapping,
  repeat,
  start,
  direction,
  finish: {},
});

/** Every region of a project. */
export const allRegions = (project: Project, specOf?: SpecOf): Region[] =>
  Object.values(project.surfaces).flatMap((s) => regionsOf(project, s, specOf));
