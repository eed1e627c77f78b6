import type { InRoom, Rooms, SurfaceKind } from '@/core/rooms/inRooms';
import { facingOf } from '@/core/mesh/naming';
import { zonesOn } from '@/core/project/regions';
import { laidAlone, patchesOf, runOf } from '@/core/project/runs';
import type { Part, Project, Surface } from '@/core/project/schema';

/** What surfaces are grouped by. */
export type GroupBy = 'room' | 'part' | 'material' | 'facing';

export interface Listed {
  surface: Surface;
  /** What people call it where it lies. */
  called: string;
  /** Its part's name, where the group is not the part. */
  of: string | null;
  /** The run it belongs to. */
  run: Surface | null;
}

export interface Group {
  key: string;
  name: string;
  /** Set where it is one part, which can be locked. */
  part: Part | null;
  listed: Listed[];
  /** Folded until one asks for them: small ones, what is left bare. */
  folded: { key: string; name: string; listed: Listed[] }[];
  /** Nobody could stand before any of it. */
  closedIn: boolean;
  /** Its walls, where it is a room. */
  walls: string[];
}

/** Smaller ones are slivers, reveals, edges of boards, mm². */
const SMALL = 1.5e5;
const KIND_ORDER: readonly SurfaceKind[] = ['floor', 'wall', 'ceiling', 'roof', 'other'];
const FACINGS = ['up', 'down', 'north', 'east', 'south', 'west', 'round'];
const FACING_NAMES: Record<string, string> = {
  up: 'Facing up',
  down: 'Facing down',
  north: 'Facing north',
  east: 'Facing east',
  south: 'Facing south',
  west: 'Facing west',
  round: 'Curved all round',
};

/** A run lies where its first member does. */
const inRoom = ({ id, run }: Surface): string => run?.members[0] ?? id;

interface Place {
  key: string;
  name: string;
  /** Groups stand in this order. */
  rank: number;
  part?: Part;
  closedIn?: boolean;
}

function placeOf(by: GroupBy, surface: Surface, project: Project, rooms: Rooms | null): Place {
  const part = project.parts[surface.part];
  if (by === 'facing') {
    const facing = facingOf(surface.normal, project.northDeg);
    return { key: facing, name: FACING_NAMES[facing], rank: FACINGS.indexOf(facing) };
  }
  if (by === 'material') {
    const material = surface.spec ? project.materials[surface.spec.material] : undefined;
    return material ? { key: material.id, name: material.name, rank: 0 } : { key: 'bare', name: 'Bare', rank: 1 };
  }
  const found = by === 'room' && rooms ? rooms.of[inRoom(surface)] : undefined;
  if (!found || !rooms) return { key: part.id, name: part.name, rank: rankOf(part, project), part };
  if (found.room === null) return { key: 'closed in', name: 'Closed in', rank: 1e6, closedIn: true };
  return { key: `room ${found.room}`, name: rooms.rooms[found.room].name, rank: found.room };
}

const ranks = new WeakMap<Project['parts'], Map<string, number>>();

/** Parts stand in the order in which they came. */
function rankOf(part: Part, { parts }: Project): number {
  let known = ranks.get(parts);
  if (!known) ranks.set(parts, (known = new Map(Object.keys(parts).map((id, n) => [id, n]))));
  return known.get(part.id) ?? 0;
}

/** Words that all have to be found; “walls” finds a wall, “top” a ceiling’s top. */
function finder(text: string): (of: string) => boolean {
  const words = text
    .toLowerCase()
    .split(/[\s,]+/)
    .filter(Boolean)
    .map((word) => [word, word.replace(/(?<=..)s$/, '')]);
  return (of) => {
    const there = of.toLowerCase();
    return words.every((forms) => forms.some((form) => there.includes(form)));
  };
}

/** What a surface can be found by. */
function findable(s: Surface, project: Project, found: InRoom | undefined, rooms: Rooms | null): string {
  const part = project.parts[s.part];
  const material = s.spec ? (project.materials[s.spec.material]?.name ?? '') : 'bare';
  const room = found && rooms && found.room !== null ? rooms.rooms[found.room].name : '';
  // a roof’s top that the importer called a floor is not found as one
  const name = found && !s.zone ? found.called : s.name;
  return [
    part.name,
    ...part.path,
    name,
    material,
    room,
    found?.kind ?? '',
    facingOf(s.normal, project.northDeg),
    s.zone ? 'zone' : '',
    s.run ? 'run' : '',
    s.hidden ? 'hidden' : '',
    s.leftBare ? 'left bare' : '',
  ].join(' ');
}

/**
 * All surfaces in groups, the largest of each kind first; zones follow the surface they are drawn on, and members their
 * run.
 * @param rooms null until they are found: by part then
 */
export function groupSurfaces(project: Project, rooms: Rooms | null, by: GroupBy, filter: string): Group[] {
  const finds = finder(filter);
  const groups = new Map<string, Group & { rank: number }>();
  const kindOf = (s: Surface) => rooms?.of[inRoom(s)]?.kind ?? 'other';
  const bases = laidAlone(project)
    .filter((s) => !s.zone)
    .sort((a, b) => KIND_ORDER.indexOf(kindOf(a)) - KIND_ORDER.indexOf(kindOf(b)) || b.areaMm2 - a.areaMm2);
  for (const base of bases) {
    const members = base.run ? patchesOf(project, base) : [];
    for (const surface of [base, ...members, ...zonesOn(project, base.id)]) {
      const found = rooms?.of[surface.zone ? inRoom(base) : inRoom(surface)];
      const run = members.includes(surface) ? base : null;
      if (filter && !finds(findable(surface, project, found, rooms))) continue;
      // a zone stays below its surface, but for its material
      const place = placeOf(by, by === 'material' ? surface : base, project, rooms);
      let group = groups.get(place.key);
      if (!group) {
        group = {
          key: place.key,
          name: place.name,
          rank: place.rank,
          part: place.part ?? null,
          listed: [],
          folded: [],
          closedIn: !!place.closedIn,
          walls: [],
        };
        groups.set(place.key, group);
      }
      const own = surface.zone ?? surface.run ?? by === 'part';
      const called = own ? surface.name : (found?.called ?? surface.name);
      const of = place.part ? null : project.parts[surface.part].name;
      if (by === 'room' && !surface.zone && !run && !surface.leftBare && found?.kind === 'wall')
        group.walls.push(surface.id);
      const aside = filter ? null : surface.leftBare ? 'left bare' : base.areaMm2 < SMALL ? 'small' : null;
      if (!aside) group.listed.push({ surface, called, of, run });
      else {
        const key = `${place.key} ${aside}`;
        let fold = group.folded.find((f) => f.key === key);
        if (!fold) group.folded.push((fold = { key, name: aside, listed: [] }));
        fold.listed.push({ surface, called, of, run });
      }
    }
  }
  return [...groups.values()].sort((a, b) => a.rank - b.rank);
}

/** Surfaces of a kind that are not hidden, locked or left bare. */
export function ofKind(project: Project, rooms: Rooms, kind: SurfaceKind): string[] {
  const found = Object.values(project.surfaces)
    .filter(
      (s) => !s.zone && !s.hidden && !s.leftBare && !project.parts[s.part].locked && rooms.of[s.id]?.kind === kind,
    )
    .map((s) => runOf(project, s.id)?.id ?? s.id);
  return [...new Set(found)];
}
