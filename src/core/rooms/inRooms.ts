import type { Box3, Vec3 } from '../geometry/vec';
import { facingOf } from '../mesh/naming';
import { CLOSED_IN, FIRST_ROOM, OUTSIDE, type RoomsFound } from './findRooms';

/** What a surface is to those who stand in the room. */
export type SurfaceKind = 'floor' | 'wall' | 'ceiling' | 'roof' | 'other';

/** A surface as it lies in the building. */
export interface PlacedSurface {
  id: string;
  /** Name of its part, and its own. */
  part: string;
  name: string;
  normal: Vec3;
  areaMm2: number;
  bounds: Box3;
  /** What lies before most of it: see `findRooms`. */
  before: number;
}

/** Where a surface lies, and what people call it there. */
export interface InRoom {
  /** Index into the rooms; null where it is closed in, seen by nobody. */
  room: number | null;
  kind: SurfaceKind;
  /** “North wall”: the wall on the room's north side, which faces south. */
  called: string;
}

export interface Rooms {
  /** Outside, where there is any of it, comes last. */
  rooms: { name: string; outside: boolean; volumeM3: number; box: Box3 | null }[];
  of: Record<string, InRoom>;
}

const OPPOSITE = { north: 'South', east: 'West', south: 'North', west: 'East' } as const;

/**
 * Rooms by name, and each surface's place in them.
 * @param found volumes of the rooms, m³, and boxes, mm; `before` of surfaces counts them from `FIRST_ROOM`
 * @param northDeg clockwise angle from −z to north, seen from above
 */
export function placeInRooms(
  surfaces: readonly PlacedSurface[],
  { volumes, boxes }: Pick<RoomsFound, 'volumes' | 'boxes'>,
  northDeg: number,
): Rooms {
  const kinds = kindsOf(surfaces);
  const rooms: Rooms['rooms'] = nameRooms(surfaces, kinds, volumes).map((name, n) => ({
    name,
    outside: false,
    volumeM3: volumes[n],
    box: boxes[n],
  }));
  const outside = surfaces.some((s) => s.before === OUTSIDE);
  if (outside) rooms.push({ name: 'Outside', outside: true, volumeM3: 0, box: null });
  const of: Record<string, InRoom> = {};
  const seen = new Map<string, number>();
  const largestFirst = surfaces.map((_, n) => n).sort((a, b) => surfaces[b].areaMm2 - surfaces[a].areaMm2 || a - b);
  for (const n of largestFirst) {
    const s = surfaces[n];
    const room = s.before === CLOSED_IN ? null : s.before === OUTSIDE ? rooms.length - 1 : s.before - FIRST_ROOM;
    const plain = calledIn(s, kinds[n], room === null || rooms[room].outside, northDeg);
    const key = `${room} ${kinds[n] === 'other' ? s.part : ''} ${plain}`;
    const count = (seen.get(key) ?? 0) + 1;
    seen.set(key, count);
    of[s.id] = { room, kind: kinds[n], called: count === 1 ? plain : `${plain} ${count}` };
  }
  return { rooms, of };
}

/** A name that the program gave, by what it says. */
const GIVEN = /^(Wall|Side|Floor|Top|Ceiling|Underside|Curved face)( north| east| south| west)?( \d+)?$/;

/** What people call it who stand before it; a name that somebody gave it stays. */
function calledIn(s: PlacedSurface, kind: SurfaceKind, fromOutside: boolean, northDeg: number): string {
  if (!GIVEN.test(s.name)) return s.name;
  const facing = facingOf(s.normal, northDeg);
  const side = facing === 'up' || facing === 'down' || facing === 'round' ? null : facing;
  if (kind === 'wall' && side) return `${fromOutside ? capital(side) : OPPOSITE[side]} wall`;
  if (kind === 'wall') return 'Round wall';
  if (kind === 'floor' || kind === 'ceiling' || kind === 'roof') return capital(kind);
  if (facing === 'round') return 'round face';
  if (facing === 'up') return 'top';
  if (facing === 'down') return 'underside';
  return `${side} side`;
}

const capital = (word: string) => word[0].toUpperCase() + word.slice(1);

/** A floor takes at least so much, mm² and mm; so does a ceiling. */
const LEAST_FLOOR = 1e6;
const LEAST_WIDE = 700;
/** A wall is at least so high and so large. */
const LEAST_WALL = 1500;
/** What goes all round is a wall from so wide on, mm. */
const LEAST_ROUND = 1500;
/** What stands this high over a floor is a table, a bench or a rim, unless it is as large as a stage. */
const OVER_FLOOR = [150, 1500] as const;
const STAGE = 6e6;
/** Room to stand upright. */
const HEADROOM = 1900;

/** Kinds by facing, size and height: a table top, a rim and a sill face up and are no floors. */
export function kindsOf(
  surfaces: readonly Pick<PlacedSurface, 'normal' | 'areaMm2' | 'bounds' | 'before'>[],
): SurfaceKind[] {
  const facings = surfaces.map((s) => facingOf(s.normal, 0));
  const wide = ({ bounds: b }: Pick<PlacedSurface, 'bounds'>) => Math.min(b.max[0] - b.min[0], b.max[2] - b.min[2]);
  const level = (f: string) =>
    surfaces
      .map((_, n) => n)
      .filter((n) => facings[n] === f && surfaces[n].areaMm2 >= LEAST_FLOOR && wide(surfaces[n]) >= LEAST_WIDE);
  const ups = level('up').filter((n) => surfaces[n].before !== CLOSED_IN);
  const floors = new Set(ups);
  const grid = new PlanGrid(ups.map((n) => surfaces[n].bounds));
  const below = (n: number) =>
    grid
      .over(surfaces[n].bounds)
      .map((m) => ups[m])
      .filter((m) => m !== n && covers(surfaces[m].bounds, surfaces[n].bounds))
      .map((m) => ({ drop: surfaces[n].bounds.max[1] - surfaces[m].bounds.max[1], before: surfaces[m].before }));
  return surfaces.map((s, n) => {
    const large = s.areaMm2 >= LEAST_FLOOR;
    if (facings[n] === 'up') {
      if (!floors.has(n)) return 'other';
      const drops = below(n);
      const raised = drops.some(({ drop }) => drop > OVER_FLOOR[0] && drop < OVER_FLOOR[1]);
      if (raised && s.areaMm2 < STAGE) return 'other';
      return s.before === OUTSIDE && drops.some(({ drop, before }) => drop > HEADROOM && before !== OUTSIDE)
        ? 'roof'
        : 'floor';
    }
    if (facings[n] === 'down') {
      if (!large || wide(s) < LEAST_WIDE || s.before === CLOSED_IN) return 'other';
      return below(n).some(({ drop }) => drop > HEADROOM) ? 'ceiling' : 'other';
    }
    // a column is no wall
    if (facings[n] === 'round' && wide(s) < LEAST_ROUND) return 'other';
    return large && s.bounds.max[1] - s.bounds.min[1] >= LEAST_WALL && s.before !== CLOSED_IN ? 'wall' : 'other';
  });
}

/** More than half of `upper`, seen from above, lies over `lower`. */
function covers(lower: Box3, upper: Box3): boolean {
  const side = (c: 0 | 2) => Math.min(lower.max[c], upper.max[c]) - Math.max(lower.min[c], upper.min[c]);
  const [x, z] = [side(0), side(2)];
  const own = (upper.max[0] - upper.min[0]) * (upper.max[2] - upper.min[2]);
  return x > 0 && z > 0 && x * z > own / 2;
}

/** Boxes found by where they lie in plan. */
class PlanGrid {
  private static readonly CELL = 4000;
  private readonly cells = new Map<string, number[]>();
  constructor(boxes: readonly Box3[]) {
    boxes.forEach((box, n) => {
      for (const key of this.keys(box)) {
        const there = this.cells.get(key);
        if (there) there.push(n);
        else this.cells.set(key, [n]);
      }
    });
  }

  over(box: Box3): number[] {
    return [...new Set(this.keys(box).flatMap((key) => this.cells.get(key) ?? []))];
  }

  private keys({ min, max }: Box3): string[] {
    const at = (v: number) => Math.floor(v / PlanGrid.CELL);
    const keys: string[] = [];
    for (let x = at(min[0]); x <= at(max[0]); x++)
      for (let z = at(min[2]); z <= at(max[2]); z++) keys.push(`${x} ${z}`);
    return keys;
  }
}

/** What is left of “Hall floor” or “Floor of the hall”. */
const OF_FLOOR = /\b(floor|slab|deck|screed|ground|planks?|parquet)s?\b|\bof( the)?\b/gi;

/** Rooms after the parts that are their floors (“Hall floor” gives the hall); else they are numbered. */
function nameRooms(
  surfaces: readonly PlacedSurface[],
  kinds: readonly SurfaceKind[],
  volumes: readonly number[],
): string[] {
  const area = volumes.map(() => new Map<string, number>());
  surfaces.forEach((s, n) => {
    const room = s.before - FIRST_ROOM;
    if (kinds[n] !== 'floor' || room < 0) return;
    const name = s.part
      .replace(/[\s_.-]+/g, ' ')
      .replace(OF_FLOOR, ' ')
      .replace(/ +/g, ' ')
      .trim();
    if (/[a-z]{3}/i.test(name)) area[room].set(name, (area[room].get(name) ?? 0) + s.areaMm2);
  });
  const wished = area.map((names) => [...names].sort((a, b) => b[1] - a[1])[0]?.[0] ?? null);
  let numbered = 0;
  return wished.map((name) => {
    if (name !== null && wished.indexOf(name) === wished.lastIndexOf(name)) return capital(name);
    numbered++;
    return `Room ${numbered}`;
  });
}
