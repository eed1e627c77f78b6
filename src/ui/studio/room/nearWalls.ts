'use client';

import { Box3 as Box, DoubleSide, type Intersection, MeshBasicMaterial, Raycaster, Vector3 } from 'three';
import { create } from 'zustand';
import type { Box3 } from '@/core/geometry/vec';
import type { Entry } from './entry';
import type { RoomCamera } from './RoomCamera';

/** A room on the inside: its faces lie about this far out of it, m. */
const WITHIN = 0.12;
/** The room is looked for at so many places along each side. */
const PLACES = [0.04, 0.5, 0.96];

interface SeeInState {
  on: boolean;
  set: (on: boolean) => void;
}

/** A way of looking, not of the project: gone when the page is. */
export const useSeeIn = create<SeeInState>((set) => ({ on: false, set: (on) => set({ on }) }));

/** Where one looks from and at. */
export interface Look {
  eye: Vector3;
  target: Vector3;
}

/** The room that is looked at from without: the one the target lies in, or is nearest to; null from within a room. */
export function roomLookedAt(rooms: readonly Box[], { eye, target }: Look): Box | null {
  if (rooms.some((room) => room.containsPoint(eye))) return null;
  const away = (room: Box) => room.distanceToPoint(target);
  return rooms.reduce<Box | null>((best, room) => (best && away(best) <= away(room) ? best : room), null);
}

/** Told of its hits both ways: what one sees the back of hides as well. */
const bothWays = new MeshBasicMaterial({ side: DoubleSide });

/** What stands between the eye and the inside of a room. Metres round the room's middle. */
export function wallsBetween(entries: Iterable<Entry>, room: Box, eye: Vector3): Set<Entry> {
  const inside = room.clone().expandByScalar(-WITHIN);
  const rays = PLACES.flatMap((x) =>
    PLACES.flatMap((y) =>
      PLACES.map((z) => {
        const size = inside.getSize(new Vector3());
        const to = new Vector3(x, y, z).multiply(size).add(inside.min);
        const caster = new Raycaster(eye, to.clone().sub(eye).normalize(), 0, eye.distanceTo(to));
        caster.firstHitOnly = true;
        return caster;
      }),
    ),
  );
  const out = new Set<Entry>();
  const box = new Box();
  const hits: Intersection[] = [];
  for (const entry of entries) {
    const { mesh } = entry;
    if (!mesh.visible) continue;
    if (!mesh.geometry.boundingBox) mesh.geometry.computeBoundingBox();
    box.copy(mesh.geometry.boundingBox!).applyMatrix4(mesh.matrixWorld);
    // what stands in the room is what one looks at
    if (box.intersectsBox(inside)) continue;
    const { material } = mesh;
    mesh.material = bothWays;
    const hides = rays.some((ray) => {
      if (!ray.ray.intersectsBox(box)) return false;
      hits.length = 0;
      mesh.raycast(ray, hits);
      return hits.length > 0;
    });
    mesh.material = material;
    if (hides) out.add(entry);
  }
  return out;
}

/**
 * Marks what stands between the eye and the room one looks at; nothing where it is off or one is in a room.
 * @returns entries of which it has become another
 */
export function dropNearWalls(
  entries: readonly Entry[],
  view: Pick<RoomCamera, 'camera' | 'controls' | 'local'>,
  { rooms, seeIn }: { rooms: readonly Box3[]; seeIn: boolean },
): Entry[] {
  const eye = view.camera.position;
  const boxes = rooms.map(({ min, max }) => new Box(view.local(min), view.local(max)));
  const room = seeIn ? roomLookedAt(boxes, { eye, target: view.controls.target }) : null;
  const between = room ? wallsBetween(entries, room, eye) : new Set<Entry>();
  const changed = entries.filter((e) => e.dropped !== between.has(e));
  for (const entry of changed) entry.dropped = !entry.dropped;
  return changed;
}
