import type { Plane } from '@/core/geometry/plane';
import { reflectDirection } from '@/core/geometry/plane';
import type { FoundMirror } from '@/core/lay/findMirrors';
import type { MirrorSpec } from '@/core/mapping/mirrorSchema';
import type { Command } from '@/core/project/commands';
import { regionsOf, zonesOn } from '@/core/project/regions';
import { laidAlone } from '@/core/project/runs';
import type { Project, Surface } from '@/core/project/schema';
import { sheetRequest, sheetService, uncutRequest } from '../../project/sheetService';
import { newId } from '../../shared/ids';

/** A sheet that is farther off being the same is no mirror image, mm. */
const SAME_SHEET = 0.5;
/** Surfaces whose areas differ by less than this share are compared. */
const LIKE = 0.003;

/** The planes through which what is picked has images; or what comes of one that is given. */
export async function mirrorsOf(
  project: Project,
  picked: readonly Surface[],
  withinMm: number,
  plane: Plane | null,
): Promise<FoundMirror[]> {
  const alike = laidAlone(project).filter(
    (s) => !s.zone && picked.some((p) => p.id === s.id || Math.abs(p.areaMm2 - s.areaMm2) <= LIKE * p.areaMm2),
  );
  const all = alike.flatMap((s) => {
    const [region] = regionsOf(project, s);
    return region ? [{ id: s.id, sheet: uncutRequest(project, region) }] : [];
  });
  const ids = picked.map((s) => s.id);
  return sheetService().findMirrors(ids, all, withinMm, plane);
}

/** What comes of laying mirrored, for people to read. */
export interface Mirrored {
  commands: Command[];
  laid: string[];
  /** Surfaces on which nothing was laid, each with the reason. */
  left: { name: string; why: string }[];
}

/** The commands that lay what is on surfaces on their images, zones and all. */
export async function layMirrored(
  project: Project,
  { plane, pairs, alone, astride }: FoundMirror,
  prints: MirrorSpec['prints'],
): Promise<Mirrored> {
  const nameOf = (id: string) => project.surfaces[id]?.name ?? id;
  const out: Mirrored = { commands: [], laid: [], left: [] };
  const leave = (id: string, why: string) => out.left.push({ name: nameOf(id), why });
  for (const id of alone) leave(id, 'nothing stands where its image is');
  for (const id of astride) leave(id, 'it lies across the plane');
  for (const [id, image] of pairs) {
    const from = project.surfaces[id];
    const onto = project.surfaces[image];
    const zones = zonesOn(project, id);
    if (!from.spec && !zones.some((z) => z.spec)) leave(id, 'it is bare');
    else if (project.parts[onto.part].locked) leave(image, 'its part is locked');
    else {
      const mirror: MirrorSpec = { ...plane, prints, of: id };
      const made = await mirrorPair(project, { from, onto, zones }, mirror);
      if (made) {
        out.commands.push(...made);
        out.laid.push(image);
      } else leave(image, 'its sheet is no mirror image: its faces, or the model’s own coordinates, are not');
    }
  }
  return out;
}

async function mirrorPair(
  project: Project,
  { from, onto, zones }: { from: Surface; onto: Surface; zones: Surface[] },
  mirror: MirrorSpec,
): Promise<Command[] | null> {
  const laid = [from, ...zones].flatMap((s) => {
    const [region] = regionsOf(project, s);
    return s.spec && region ? [{ id: s.id, spec: s.spec, sheet: sheetRequest(project, region) }] : [];
  });
  const { specs, offMm } = await sheetService().mirrorOnto({
    from: uncutRequest(project, regionsOf(project, from)[0]),
    onto: uncutRequest(project, regionsOf(project, onto)[0]),
    mirror,
    laid,
  });
  if (offMm > SAME_SHEET) return null;
  const specOf = (id: string) => specs[laid.findIndex((l) => l.id === id)] ?? null;
  return [
    ...zonesOn(project, onto.id).map((z): Command => ({ kind: 'removeZone', id: z.id })),
    { kind: 'setSpecs', specs: { [onto.id]: specOf(from.id) } },
    ...zones.map((z): Command => ({
      kind: 'addZone',
      zone: {
        ...z,
        id: newId('zone'),
        part: onto.part,
        slot: onto.slot,
        normal: reflectDirection(mirror, z.normal),
        zone: { ...z.zone!, of: onto.id },
        spec: specOf(z.id),
        driven: undefined,
      },
    })),
  ];
}
