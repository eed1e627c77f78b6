import fc from 'fast-check';
import { emptyBox, type Vec3 } from '../geometry/vec';
import { boxTriangles } from '../testing/fixtures';
import { looseMesh } from '../testing/shapes';
import { CLOSED_IN, findRooms, FIRST_ROOM, OUTSIDE } from './findRooms';
import { kindsOf, placeInRooms, type PlacedSurface } from './inRooms';
import { clearances } from './voxels';

const box = (min: Vec3, max: Vec3) => looseMesh(boxTriangles(min, max));
/** Faces of a box come as top, underside, south, north, east, west: two triangles each. */
const TOP = 0;
const SOUTH = 4;
const NORTH = 6;

/**
 * Two rooms in a row, 4 × 5 m and 3 × 5 m, 2.6 m high, walls of 200 mm; between them an opening `wide` mm, 2.1 m high.
 */
function house(wide: number) {
  const walls = [
    box([-200, 0, -200], [7400, 2600, 0]),
    box([-200, 0, 5000], [7400, 2600, 5200]),
    box([-200, 0, 0], [0, 2600, 5000]),
    box([7200, 0, 0], [7400, 2600, 5000]),
    box([4000, 0, 0], [4200, 2600, 2500 - wide / 2]),
    box([4000, 0, 2500 + wide / 2], [4200, 2600, 5000]),
    box([4000, 2100, 2500 - wide / 2], [4200, 2600, 2500 + wide / 2]),
  ];
  const slabs = [box([-200, -200, -200], [7400, 0, 5200]), box([-200, 2600, -200], [7400, 2800, 5200])];
  return [...walls, ...slabs];
}

describe('rooms found in a scene', () => {
  test.each([
    [700, 2],
    [1100, 2],
    [1700, 1],
  ])('an opening of %i mm leaves %i rooms', (wide, count) => {
    expect(findRooms(house(wide)).volumes).toHaveLength(count);
  });

  test('the larger one comes first, near to its own volume, however the house is turned', () => {
    for (const degrees of [0, 17, 45]) {
      const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
      const turned = house(900).map((mesh) => ({
        ...mesh,
        positions: mesh.positions.map((v, i, p) =>
          i % 3 === 0 ? c * v - s * p[i + 2] : i % 3 === 2 ? s * p[i - 2] + c * v : v,
        ),
      }));
      const { volumes } = findRooms(turned);
      expect(volumes).toHaveLength(2);
      // 4 × 5 × 2.6 = 52 m³ and 3 × 5 × 2.6 = 39 m³, less the cubes that walls pass through
      expect(volumes[0] / 52).toBeGreaterThan(0.8);
      expect(volumes[0] / 52).toBeLessThan(1.1);
      expect(volumes[1] / 39).toBeGreaterThan(0.8);
      expect(volumes[1] / 39).toBeLessThan(1.1);
    }
  });

  // half of a doorway belongs to each of the rooms it joins
  test('each has a box that its walls’ faces lie in and that goes no farther than through their openings', () => {
    const { boxes } = findRooms(house(900));
    expect(boxes).toHaveLength(2);
    const walls = [
      [
        [0, 4000],
        [0, 2600],
        [0, 5000],
      ],
      [
        [4200, 7200],
        [0, 2600],
        [0, 5000],
      ],
    ];
    boxes.forEach(({ min, max }, n) =>
      walls[n].forEach(([from, to], c) => {
        expect(min[c]).toBeLessThanOrEqual(from);
        expect(min[c]).toBeGreaterThan(from - 310);
        expect(max[c]).toBeGreaterThanOrEqual(to);
        expect(max[c]).toBeLessThan(to + 310);
      }),
    );
  });

  test('the inside of a block is no room: its faces look away from it', () => {
    const foundation = box([-1000, -2500, -1000], [8400, -250, 6200]);
    const { volumes, before } = findRooms([...house(900), foundation]);
    expect(volumes).toHaveLength(2);
    expect([...before.at(-1)!].every((b) => b === OUTSIDE || b === CLOSED_IN)).toBe(true);
  });

  test('each face knows what lies before it: a room, the outside, or nothing that one could stand in', () => {
    const { before } = findRooms(house(900));
    const [northWall, southWall] = before;
    expect(northWall[SOUTH]).toBeGreaterThanOrEqual(FIRST_ROOM);
    expect(northWall[NORTH]).toBe(OUTSIDE);
    expect(southWall[NORTH]).toBeGreaterThanOrEqual(FIRST_ROOM);
    expect(southWall[SOUTH]).toBe(OUTSIDE);
    // the top of a wall stands against the ceiling's slab
    expect(northWall[TOP]).toBe(CLOSED_IN);
  });

  test('wide windows and a wide gate leave a room one; a porch and the space under a table are outside', () => {
    const open = [
      box([0, 0, -200], [6000, 400, 0]),
      box([0, 2400, -200], [6000, 2600, 0]),
      box([0, 0, 5000], [6000, 2600, 5200]),
      box([-200, 0, -200], [0, 2600, 5200]),
      box([6000, 0, -200], [6200, 2600, 1000]),
      box([6000, 0, 4000], [6200, 2600, 5200]),
    ];
    const slabs = [box([-200, -200, -200], [6200, 0, 5200]), box([-200, 2600, -200], [6200, 2800, 5200])];
    expect(findRooms([...open, ...slabs]).volumes).toHaveLength(1);
    const posts = [0, 1].flatMap((i) =>
      [0, 1].map((k) => box([i * 3800, 0, k * 3800], [i * 3800 + 200, 2600, k * 3800 + 200])),
    );
    const porch = [...posts, box([0, 2600, 0], [4000, 2800, 4000]), box([-2000, -200, -2000], [6000, 0, 6000])];
    expect(findRooms(porch).volumes).toEqual([]);
  });

  test('a scene of nothing has no rooms', () => {
    expect(findRooms([])).toEqual({ volumes: [], boxes: [], before: [] });
  });

  test('a hall far from zero, and one as large as a town, are found within bounds', () => {
    const far = house(900).map((m) => ({ ...m, origin: [5e6, 0, -4e6] as Vec3 }));
    expect(findRooms(far).volumes).toHaveLength(2);
    const town = [box([0, 0, 0], [900_000, 60_000, 700_000])];
    expect(findRooms(town).before[0]).toHaveLength(12);
  });
});

test('distances are those that are measured one by one', () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.nat(8), fc.nat(8), fc.nat(8)), { minLength: 1, maxLength: 6 }), (points) => {
      const size = [9, 9, 9] as const;
      const solid = new Uint8Array(729);
      for (const [x, y, z] of points) solid[(z * 9 + y) * 9 + x] = 1;
      const got = clearances({ cell: 100, origin: [0, 0, 0], size, solid }, 4);
      for (let i = 0; i < 729; i++) {
        const [x, y, z] = [i % 9, Math.floor(i / 9) % 9, Math.floor(i / 81)];
        const least = Math.min(...points.map(([a, b, c]) => (a - x) ** 2 + (b - y) ** 2 + (c - z) ** 2));
        expect(got[i]).toBe(Math.min(least, 17));
      }
    }),
    { numRuns: 20 },
  );
});

test('no way leads through a face, however it stands: a closed box is one room', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 0, max: 3, noNaN: true }),
      fc.double({ min: -1.2, max: 1.2, noNaN: true }),
      (turn, lean) => {
        const [c, s, d, t] = [Math.cos(turn), Math.sin(turn), Math.cos(lean), Math.sin(lean)];
        const turned = box([-1500, -1500, -1500], [1500, 1500, 1500]);
        const p = turned.positions;
        for (let i = 0; i < p.length; i += 3) {
          const [x, y, z] = [p[i], p[i + 1] * d - p[i + 2] * t, p[i + 1] * t + p[i + 2] * d];
          p.set([x * c - z * s, y, x * s + z * c], i);
        }
        // seen from within: facing outwards it would be solid
        const inwards = { ...turned, indices: turned.indices.slice().reverse() };
        const { volumes } = findRooms([inwards]);
        expect(volumes).toHaveLength(1);
        expect(Math.abs(volumes[0] / 27 - 0.85)).toBeLessThan(0.15);
      },
    ),
    { numRuns: 15 },
  );
});

const up: Vec3 = [0, 1, 0];
const placed = (id: string, rest: Partial<PlacedSurface>): PlacedSurface => ({
  id,
  part: 'House',
  name: 'Floor',
  normal: up,
  areaMm2: 2e7,
  bounds: { min: [0, 0, 0], max: [4000, 0, 5000] },
  before: FIRST_ROOM,
  ...rest,
});
const flat = (y: number, x0: number, z0: number, x1: number, z1: number) => ({
  bounds: { min: [x0, y, z0] as Vec3, max: [x1, y, z1] as Vec3 },
  areaMm2: (x1 - x0) * (z1 - z0),
});

describe('what a surface is', () => {
  const surfaces = [
    placed('floor', {}),
    placed('table', flat(750, 1000, 1000, 2800, 1900)),
    placed('rim', flat(560, 0, 0, 1700, 80)),
    placed('reveal', flat(0, 4000, 1000, 4200, 1900)),
    placed('stage', flat(400, 0, 2500, 3000, 5000)),
    placed('gallery', flat(2600, 0, 0, 4000, 1500)),
    placed('ceiling', { normal: [0, -1, 0], ...flat(5200, 0, 0, 4000, 5000) }),
    placed('underside of the table', { normal: [0, -1, 0], ...flat(720, 1000, 1000, 2800, 1900) }),
    placed('roof', { ...flat(5400, -200, -200, 4200, 5200), before: OUTSIDE }),
    placed('wall', { normal: [0, 0, 1], areaMm2: 1e7, bounds: { min: [0, 0, 0], max: [4000, 2600, 0] } }),
    placed('column', {
      normal: [0, 0, 0],
      areaMm2: 5e6,
      bounds: { min: [0, 0, 0], max: [460, 3400, 460] },
    }),
    placed('kerb', { normal: [0, 0, 1], areaMm2: 2e6, bounds: { min: [0, 0, 0], max: [20_000, 100, 0] } }),
    placed('back of a cupboard', {
      normal: [0, 0, 1],
      areaMm2: 1e7,
      bounds: { min: [0, 0, 0], max: [4000, 2600, 0] },
      before: CLOSED_IN,
    }),
  ];

  test('goes by facing, size and height: tables, rims and reveals are no floors', () => {
    expect(Object.fromEntries(surfaces.map((s, n) => [s.id, kindsOf(surfaces)[n]]))).toEqual({
      floor: 'floor',
      table: 'other',
      rim: 'other',
      reveal: 'other',
      stage: 'floor',
      gallery: 'floor',
      ceiling: 'ceiling',
      'underside of the table': 'other',
      roof: 'roof',
      wall: 'wall',
      column: 'other',
      kerb: 'other',
      'back of a cupboard': 'other',
    });
  });

  test('walls are called after the side they stand on: seen from within the other way round than from outside', () => {
    const wall = (id: string, before: number, z: 1 | -1, name = 'Wall south') =>
      placed(id, { name, normal: [0, 0, z], before, areaMm2: 1e7, bounds: { min: [0, 0, 0], max: [4000, 2600, 0] } });
    const { of, rooms } = placeInRooms(
      [
        placed('floor', { part: 'Hall floor' }),
        wall('a', FIRST_ROOM, 1),
        wall('b', FIRST_ROOM, 1),
        wall('c', OUTSIDE, 1),
        wall('d', FIRST_ROOM, -1, 'Chimney side'),
      ],
      { volumes: [52], boxes: [emptyBox()] },
      0,
    );
    expect(rooms.map((r) => r.name)).toEqual(['Hall', 'Outside']);
    expect(of.a).toEqual({ room: 0, kind: 'wall', called: 'North wall' });
    expect(of.b.called).toBe('North wall 2');
    expect(of.c).toEqual({ room: 1, kind: 'wall', called: 'South wall' });
    expect(of.d.called).toBe('Chimney side');
  });

  test('north turns names with it; rooms whose floors have no name of their own are numbered', () => {
    const east = placed('w', {
      normal: [1, 0, 0],
      name: 'Wall east',
      bounds: { min: [0, 0, 0], max: [0, 2600, 4000] },
      areaMm2: 1e7,
    });
    expect(placeInRooms([east], { volumes: [52], boxes: [emptyBox()] }, 90).of.w.called).toBe('South wall');
    const rooms = (a: string, b: string) =>
      placeInRooms(
        [placed('x', { part: a }), placed('y', { part: b, before: FIRST_ROOM + 1 })],
        { volumes: [50, 40], boxes: [emptyBox(), emptyBox()] },
        0,
      ).rooms;
    expect(rooms('Floor', 'Floor slab').map((r) => r.name)).toEqual(['Room 1', 'Room 2']);
    expect(rooms('Floor of the kitchen', 'floor_lobby').map((r) => r.name)).toEqual(['Kitchen', 'Lobby']);
  });
});
