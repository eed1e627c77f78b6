import { Box3, BoxGeometry, Mesh, MeshBasicMaterial, Vector3 } from 'three';
import { acceleratedRaycast } from 'three-mesh-bvh';
import type { Entry } from './entry';
import { dropNearWalls, roomLookedAt, wallsBetween } from './nearWalls';

/** A slab as the room has it, metres. */
function slab(name: string, from: [number, number, number], to: [number, number, number]): Entry {
  const size = to.map((v, i) => v - from[i]) as [number, number, number];
  const mesh = new Mesh(new BoxGeometry(...size), new MeshBasicMaterial());
  mesh.position.set(...(from.map((v, i) => v + size[i] / 2) as [number, number, number]));
  mesh.raycast = acceleratedRaycast;
  mesh.updateMatrixWorld();
  return { mesh, dropped: false, region: { id: name } } as unknown as Entry;
}

/** A room of 4 × 3 × 4 m between its walls, with a table in it and a tree before it. */
const entries = [
  slab('south', [-0.2, 0, 4], [4.2, 3, 4.2]),
  slab('north', [-0.2, 0, -0.2], [4.2, 3, 0]),
  slab('east', [4, 0, 0], [4.2, 3, 4]),
  slab('west', [-0.2, 0, 0], [0, 3, 4]),
  slab('floor', [-0.2, -0.2, -0.2], [4.2, 0, 4.2]),
  slab('roof', [-0.2, 3, -0.2], [4.2, 3.2, 4.2]),
  slab('table', [1.5, 0, 1.5], [2.5, 0.8, 2.5]),
  slab('tree', [1.8, 0, 7], [2.2, 5, 7.4]),
  slab('beside', [9, 0, 7], [10, 2, 8]),
];
const room = new Box3(new Vector3(0, 0, 0), new Vector3(4, 3, 4));
const names = (found: Iterable<Entry>) => [...found].map((e) => e.region.id).sort();
const from = (x: number, y: number, z: number) => names(wallsBetween(entries, room, new Vector3(x, y, z)));

test('what stands between the eye and the room drops away; the room, what is in it and what is beside stay', () => {
  expect(from(2, 1.6, 12)).toEqual(['south', 'tree']);
  expect(from(2, 1.6, -9)).toEqual(['north']);
  expect(from(2, 12, 2)).toEqual(['roof']);
  expect(from(12, 9, 12)).toEqual(['east', 'roof', 'south']);
  // the materials are those they had
  for (const { mesh } of entries) expect((mesh.material as MeshBasicMaterial).side).toBe(0);
});

test('the room is the one that is looked at, from without alone', () => {
  const other = new Box3(new Vector3(20, 0, 0), new Vector3(24, 3, 4));
  const eye = new Vector3(2, 1.6, 12);
  expect(roomLookedAt([other, room], { eye, target: new Vector3(2, 1, 2) })).toBe(room);
  expect(roomLookedAt([other, room], { eye, target: new Vector3(30, 1, 2) })).toBe(other);
  expect(roomLookedAt([other, room], { eye: new Vector3(1, 1, 1), target: new Vector3(22, 1, 2) })).toBeNull();
  expect(roomLookedAt([], { eye, target: eye })).toBeNull();
});

test('tells which have changed, and all come back when it is off', () => {
  const view = {
    camera: { position: new Vector3(2, 1.6, 12) },
    controls: { target: new Vector3(2, 1, 2) },
    local: (p: readonly number[]) => new Vector3(p[0], p[1], p[2]).multiplyScalar(0.001),
  } as unknown as Parameters<typeof dropNearWalls>[1];
  const rooms = [{ min: [0, 0, 0] as [number, number, number], max: [4000, 3000, 4000] as [number, number, number] }];
  expect(names(dropNearWalls(entries, view, { rooms, seeIn: true }))).toEqual(['south', 'tree']);
  expect(dropNearWalls(entries, view, { rooms, seeIn: true })).toEqual([]);
  view.camera.position.set(2, 1.6, -9);
  expect(names(dropNearWalls(entries, view, { rooms, seeIn: true }))).toEqual(['north', 'south', 'tree']);
  expect(names(dropNearWalls(entries, view, { rooms, seeIn: false }))).toEqual(['north']);
  expect(entries.some((e) => e.dropped)).toBe(false);
});
