import { LRUCache } from 'lru-cache';
import { listFaces, type FaceRuns } from '@/core/mesh/types';
import { flipFaces } from '@/core/mesh/flip';
import { measureSurface } from '@/core/mesh/measureSurface';
import { findRooms, type RoomsFound } from '@/core/rooms/findRooms';
import { type PlacedSurface, placeInRooms, type Rooms } from '@/core/rooms/inRooms';
import { readMesh } from './meshes';

export interface RoomsTask {
  parts: { id: string; name: string; hash: string; mesh: number; flipped: FaceRuns }[];
  surfaces: { id: string; part: string; name: string; faces: FaceRuns }[];
  northDeg: number;
}

/** Rooms change with meshes alone: kept for the next question of the same thread. */
const found = new LRUCache<string, RoomsFound>({ max: 4 });

/** The rooms of a project, and where each of its surfaces lies. */
export async function roomsOf({ parts, surfaces, northDeg }: RoomsTask): Promise<Rooms> {
  const meshes = await Promise.all(
    parts.map(async ({ hash, mesh, flipped }) => {
      const read = await readMesh(hash, mesh);
      return flipped.length ? flipFaces(read, flipped) : read;
    }),
  );
  const key = parts.map((p) => `${p.hash} ${p.mesh} ${p.flipped.join()}`).join(';');
  let rooms = found.get(key);
  if (!rooms) found.set(key, (rooms = findRooms(meshes)));
  const index = new Map(parts.map((p, n) => [p.id, n]));
  const placed = surfaces.flatMap((s): PlacedSurface[] => {
    const n = index.get(s.part);
    if (n === undefined || !s.faces.length) return [];
    const { area, normal, bounds } = measureSurface(meshes[n], s.faces);
    const before = mostBefore(rooms.before[n], s.faces, meshes[n]);
    return [{ id: s.id, part: parts[n].name, name: s.name, normal, areaMm2: area, bounds, before }];
  });
  return placeInRooms(placed, rooms, northDeg);
}

/** What lies before most of a surface, by area. */
function mostBefore(before: Uint16Array, faces: FaceRuns, mesh: Parameters<typeof measureSurface>[0]): number {
  const areas = new Map<number, number>();
  let most = 0;
  let best = 0;
  for (const f of listFaces(faces)) {
    const area = (areas.get(before[f]) ?? 0) + measureSurface(mesh, [f, 1]).area;
    areas.set(before[f], area);
    if (area > most) [most, best] = [area, before[f]];
  }
  return best;
}
