import { layoutOf, type Layouts } from '../layout/registry';
import type { Material } from '../material/schema';
import { defaultSpec, liesInPieces, type OnceSpec, type Spec } from '../specification/schema';
import { FIRST_MAPPING } from '../mapping/schema';
import { patchFace } from '../lay/joinPatches';
import type { Cut, Region as LaidRegion } from '../lay/region';
import { wholeOf } from '../setout/wholeField';
import { isWorn } from '../wear/schema';
import { settingOf } from '../setout/placement';
import { patchesOf, runOf } from './runs';
import type { ZoneShape } from '../zones/schema';
import type { Part, Project, Surface } from './schema';

/** A region of a project: what is laid in one go, with the surface or zone whose spec it carries. */
export interface Region extends LaidRegion {
  surface: Surface;
  /** The first patch's. */
  part: Part;
  /** One for each patch. */
  parts: Part[];
  /** Whose faces each patch has: the surface, or the run's members. */
  members: Surface[];
}

export const BARE_MAPPING = FIRST_MAPPING.flat;
const BARE_RUN = FIRST_MAPPING.develop;
/** Marks the region beside a picture that is laid once. */
export const BESIDE = '#beside';

/** Zones by the surface they are drawn on, found once for a document: its surfaces are never changed in place. */
const zonesBySurface = new WeakMap<Project['surfaces'], Map<string, Surface[]>>();
const NONE: Surface[] = [];

/** The zones drawn on a surface, the lowest first. */
export function zonesOn({ surfaces }: Pick<Project, 'surfaces'>, surface: string): Surface[] {
  let index = zonesBySurface.get(surfaces);
  if (!index) {
    index = new Map();
    for (const s of Object.values(surfaces)) {
      if (!s.zone) continue;
      const known = index.get(s.zone.of);
      if (known) known.push(s);
      else index.set(s.zone.of, [s]);
    }
    for (const list of index.values()) list.sort((a, b) => a.zone!.rank - b.zone!.rank || (a.id < b.id ? -1 : 1));
    zonesBySurface.set(surfaces, index);
  }
  return index.get(surface) ?? NONE;
}

/** A border, or a band at a height, of so many courses is as wide as they and their joints. */
function settled(shape: ZoneShape, spec: Spec | null, layouts?: Layouts): ZoneShape {
  const courses = shape.kind === 'border' || shape.kind === 'height' ? shape.courses : null;
  const course = courses && spec ? courseOf(spec, layouts) : null;
  if (!courses || !course) return shape;
  const mm = Math.max(1, courses * course);
  if (shape.kind === 'border') return { ...shape, widthMm: mm };
  return shape.kind === 'height' ? { ...shape, bandMm: mm } : shape;
}

/** One course of what is laid and its joint, mm; null where that has no one size. */
function courseOf({ pieces, direction }: Spec, layouts?: Layouts): number | null {
  if (!pieces) return null;
  const { layout, joint } = pieces;
  const def = layoutOf(layout, layouts);
  const size = def.size?.get(layout);
  if (!size) return null;
  if (Math.round(direction.turnDeg / 90) % 2 !== 0) return size[0] + joint.alongMm;
  return def.course?.(layout, joint) || size[1] + joint.acrossMm;
}

/** Picks the spec that counts for a surface; a view may show one that is not stored yet. */
export type SpecOf = (surface: Surface) => Spec | null;

/** The regions made of a surface last, and everything they were made of. */
const made = new WeakMap<Surface, { of: unknown[]; regions: Region[] }>();

/**
 * The regions of one surface or zone: one, or two where a picture is laid once. While nothing that decides them has
 * changed they are the same objects, so that what was laid of them can be kept by identity.
 */
export function regionsOf(
  project: Project,
  surface: Surface,
  specOf: SpecOf = (s) => s.spec,
  layouts?: Layouts,
): Region[] {
  const base = surface.zone ? project.surfaces[surface.zone.of] : surface;
  // what belongs to a run is laid with it
  if (!base || runOf(project, base.id)) return [];
  const members = patchesOf(project, base);
  const zones = zonesOn(project, base.id);
  const spec = specOf(surface);
  const { rest } = spec?.repeat.once ?? {};
  const of: unknown[] = [
    base,
    ...members,
    ...members.map((m) => project.parts[m.part]),
    layouts,
    spec,
    specOf(base),
    spec && project.materials[spec.material],
    rest?.kind === 'material' && project.materials[rest.material],
    rest?.kind === 'below' && project.materials[rest.spec.material],
    spec?.pieces?.margins?.material && project.materials[spec.pieces.margins.material],
  ];
  for (const zone of zones) of.push(zone, specOf(zone));
  const known = made.get(surface);
  if (known && areSame(known.of, of)) return known.regions;
  const regions = makeRegions(project, surface, { base, members, zones }, specOf, layouts);
  made.set(surface, { of, regions });
  return regions;
}

function areSame(a: readonly unknown[], b: readonly unknown[]): boolean {
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
}

function makeRegions(
  project: Project,
  surface: Surface,
  { base, members, zones }: { base: Surface; members: Surface[]; zones: Surface[] },
  specOf: SpecOf,
  layouts?: Layouts,
): Region[] {
  const parts = members.map((m) => project.parts[m.part]);
  const [part] = parts;
  const spec = specOf(surface);
  const wear = spec?.wear;
  const above = surface.zone ? zones.slice(zones.findIndex((z) => z.id === surface.id) + 1) : zones;
  const cuts: Cut[] = above.map((z) => ({
    kind: 'zone',
    shape: settled(z.zone!.shape, specOf(z), layouts),
    keep: 'outside',
  }));
  if (surface.zone) cuts.push({ kind: 'zone', shape: settled(surface.zone.shape, spec, layouts), keep: 'inside' });
  const common = {
    surface,
    part,
    parts,
    members,
    patches: members.map(({ faces }, n) => ({
      faces,
      ...(parts[n].flipped?.length ? { flipped: parts[n].flipped } : {}),
    })),
    mapping: specOf(base)?.mapping ?? (base.run ? BARE_RUN : BARE_MAPPING),
    origin: part.origin,
    ...(isWorn(wear) ? { wear } : {}),
  };
  // a zone is drawn on its surface's sheet: that one's mapping lays it flat
  const laid = spec && surface.zone ? { ...spec, mapping: common.mapping } : spec;
  const material = laid ? project.materials[laid.material] : undefined;
  const arris = laid && material ? arrisCut(laid, material, layouts) : null;
  if (arris) cuts.push(arris);
  const tie = laid ? tieCut(laid) : null;
  if (tie) cuts.push(tie);
  const once = laid?.repeat.once;
  const whole = laid && wholeOf(laid, layouts);
  if (laid && whole) {
    const { direction } = laid;
    const cut = (keep: 'inside' | 'outside'): Cut => ({ kind: 'whole', whole, direction, keep });
    const beside = laid.pieces!.margins!.material;
    const spec = beside && project.materials[beside] ? { ...defaultSpec(beside), mapping: laid.mapping } : null;
    return [
      { id: surface.id, ...common, cuts: [...cuts, cut('inside')], spec: laid, colour: null },
      { id: surface.id + BESIDE, ...common, cuts: [...cuts, cut('outside')], spec, colour: null },
    ];
  }
  if (!laid || !material || !once) return [{ id: surface.id, ...common, cuts, spec: laid, colour: null }];
  const cut = (keep: 'inside' | 'outside'): Cut => ({ kind: 'once', setting: settingOf(laid, material), keep });
  const rest = once.rest;
  return [
    { id: surface.id, ...common, cuts: [...cuts, cut('inside')], spec: laid, colour: null },
    {
      id: surface.id + BESIDE,
      ...common,
      cuts: [...cuts, cut('outside')],
      spec: besideOnce(rest, project, laid),
      colour: rest.kind === 'colour' ? rest.colour : null,
    },
  ];
}

/** What is laid beside a picture that is laid once, on the same sheet. */
function besideOnce(rest: OnceSpec['rest'], { materials }: Project, { mapping }: Spec): Spec | null {
  if (rest.kind === 'below') return materials[rest.spec.material] ? { ...rest.spec, mapping } : null;
  return rest.kind === 'material' && materials[rest.material] ? { ...defaultSpec(rest.material), mapping } : null;
}

/** Where pieces do not fold over arrises: only courses that lie level on the sheet can begin anew at one. */
function arrisCut(spec: Spec, material: Material, layouts?: Layouts): Cut | null {
  const how = spec.pieces?.arris ?? 'fold';
  if (how === 'fold' || !liesInPieces(spec) || spec.direction.turnDeg % 180 !== 0) return null;
  const { layout, joint } = spec.pieces;
  const pitchMm = layoutOf(layout, layouts).pitch?.(layout, joint);
  if (!pitchMm) return null;
  const { thicknessMm } = spec.pieces;
  const body = thicknessMm === undefined ? {} : { body: { thicknessMm, jointMm: joint.alongMm } };
  return { kind: 'arris', how, pitchMm, ...body, setting: settingOf(spec, material) };
}

/** The lines of a band as shares of the strip it covers. */
function tieCut({ repeat, pieces }: Spec): Cut | null {
  const { band } = repeat;
  if (!band?.lines?.length || (pieces && pieces.layout.kind !== 'whole')) return null;
  const [low, high] = [Math.min(band.from, band.to), Math.max(band.from, band.to)];
  const lines = band.lines.filter((l) => l > low && l < high).map((l) => (l - low) / (high - low));
  return lines.length ? { kind: 'tie', lines } : null;
}

/**
 * What is laid where a surface is: the regions of the run it belongs to, or its own. One at least where the surface is
 * there.
 */
export const regionsAt = (project: Project, surface: Surface, specOf?: SpecOf): Region[] =>
  regionsOf(project, runOf(project, surface.zone?.of ?? surface.id) ?? surface, specOf);

/** Which surface of a region has a face of its sheet, counted as its `source` counts, and which face of its part. */
export function memberAt({ patches, members }: Region, source: number): { surface: Surface; face: number } {
  const { patch, face } = patchFace(patches, source);
  return { surface: members[patch], face };
}

/** All regions of a document as it is stored. */
interface Listed {
  project: Project;
  surfaces: Surface[];
  /** In the order of the surfaces. */
  regions: Region[][];
  all: Region[];
}

/** What was listed last of documents with the same parts: several views ask after every change. */
const listed = new WeakMap<Project['parts'], Listed>();

/** Every region of a project; without `specOf` the list is found once for a document, and costs what has changed. */
export function allRegions(project: Project, specOf?: SpecOf): readonly Region[] {
  const surfaces = Object.values(project.surfaces);
  if (specOf) return surfaces.flatMap((s) => regionsOf(project, s, specOf));
  const before = listed.get(project.parts);
  if (before?.project === project) return before.all;
  const changed = before && changedSince(before, project, surfaces);
  const regions = surfaces.map((s, n) =>
    changed && !changed.has(groundOf(project, s)) ? before.regions[n] : regionsOf(project, s),
  );
  const all = regions.flat();
  listed.set(project.parts, { project, surfaces, regions, all });
  return all;
}

/** The surface whose sheet it lies on: the one a zone is drawn on, the run a member belongs to. */
const groundOf = (project: Project, { id, zone }: Surface): string => zone?.of ?? runOf(project, id)?.id ?? id;

/** The surfaces that are others or have other zones since a list was made; null where that does not tell all. */
function changedSince(before: Listed, project: Project, surfaces: Surface[]): Set<string> | null {
  if (before.project.materials !== project.materials || before.surfaces.length !== surfaces.length) return null;
  const changed = new Set<string>();
  for (const [n, surface] of surfaces.entries()) {
    const was = before.surfaces[n];
    if (was === surface) continue;
    if (was.id !== surface.id) return null;
    changed.add(groundOf(before.project, was)).add(groundOf(project, surface));
    for (const member of [...(was.run?.members ?? []), ...(surface.run?.members ?? [])]) changed.add(member);
  }
  return changed;
}
