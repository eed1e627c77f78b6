import type { Vec2 } from '@/core/geometry/vec';
import {
  arc,
  block,
  circle,
  draft,
  type DraftMesh,
  plate,
  quad,
  rectangle,
  slab,
  turned,
  wallEast,
  wallSouth,
} from './build';

/*
 * Pellow Landing, a small ferry landing. Metres; x east, y up, −z north. The hall floor is level 0; the landing stage
 * lies east of it at −0.6; the watch room stands above the west end, set back from the south front. All of it stands on
 * a quay; the water lies at −1.35.
 */

const HALL = { width: 12.4, depth: 7.2, height: 3.4 };
const STAGE = { width: 6.6, level: -0.6 };
const WALL = 0.3;
const QUAY = { foot: -1.9 };
const LOBBY = { x0: 9.6, x1: 12.4, z1: 2.2 };
const WATCH = { width: 5.4, depth: 4.2, height: 2.6, x: 0.6, z: -1.2 };

const COLUMNS: Vec2[] = [
  [4.2, -3.9],
  [8.2, -3.9],
];
const WINDOWS = [2.6, 9.8];
const DOOR = { x: 4.9, width: 2.6, spring: 2.05, rise: 0.35 };

/** A circle through the springers of a segmental arch and its crown. */
function segment(width: number, rise: number) {
  const radius = (width * width) / (8 * rise) + rise / 2;
  const half = (Math.asin(width / 2 / radius) * 180) / Math.PI;
  return { radius, half };
}

/** Every part of the demo model. */
export function buildPellowLanding(): DraftMesh[] {
  return [
    ...hall(),
    ...longWall(),
    ...stage(),
    ...watchRoom(),
    ...furniture(),
    ...fittings(),
    ...lobbyScreen(),
    ...quay(),
  ];
}

function hall(): DraftMesh[] {
  const floor = draft('Hall floor', ['Hall']);
  const mat = { x0: 10.2, x1: 11.8, y0: 0.5, y1: 1.4 };
  // the lobby is cut out of the oak floor; round holes where the columns stand
  plate(
    floor,
    slab(0, 0, 0),
    [
      [0, 0],
      [LOBBY.x0, 0],
      [LOBBY.x0, LOBBY.z1],
      [HALL.width, LOBBY.z1],
      [HALL.width, HALL.depth],
      [0, HALL.depth],
    ],
    COLUMNS.map(([x, z]) => circle(x, -z, 0.23, 64)),
    0.022,
    { front: 'floor boards' },
  );
  const lobbyFloor = draft('Lobby floor', ['Hall']);
  plate(
    lobbyFloor,
    slab(LOBBY.x0, 0, 0),
    rectangle(0, 0, LOBBY.x1 - LOBBY.x0, LOBBY.z1),
    [rectangle(mat.x0 - LOBBY.x0, mat.y0, mat.x1 - LOBBY.x0, mat.y1)],
    0.02,
    { front: 'lobby tile', reveal: 'metal' },
  );
  const well = draft('Mat well', ['Hall']);
  plate(well, slab(mat.x0, -0.02, 0), rectangle(0, mat.y0, mat.x1 - mat.x0, mat.y1), [], 0, { front: 'mat' });

  const ceiling = draft('Hall ceiling', ['Hall']);
  block(ceiling, 'plaster', [-WALL, HALL.height, -HALL.depth - WALL], [HALL.width + WALL, HALL.height + 0.25, WALL], {
    top: 'roof',
  });

  const west = draft('West wall', ['Hall']);
  block(west, 'plaster', [-WALL, 0, -HALL.depth], [0, HALL.height, 0], { west: 'brick' });
  const east = draft('East wall', ['Hall']);
  plate(
    east,
    wallEast(HALL.width + WALL, 0, 0),
    rectangle(0, 0, HALL.depth, HALL.height),
    [rectangle(2.9, 0.001, 4.9, 2.3)],
    WALL,
    { front: 'brick', back: 'plaster', reveal: 'painted' },
  );
  const south = draft('South front', ['Hall']);
  plate(
    south,
    wallSouth(-WALL, 0, WALL),
    rectangle(0, 0, HALL.width + 2 * WALL, HALL.height),
    [rectangle(1.3, 0.9, 4.3, 2.7), rectangle(5.3, 0.9, 8.3, 2.7), rectangle(10.2, 0.001, 12, 2.3)],
    WALL,
    { front: 'brick', back: 'plaster', reveal: 'painted' },
  );

  const lining = draft('Lining', ['Hall']);
  const lap = 0.02;
  block(lining, 'painted', [0, 0, -HALL.depth + lap], [lap, 1.1, 0]);
  block(lining, 'painted', [lap, 0, -lap], [10.2 - WALL, 1.1, 0], { south: 'painted' });
  const cap = draft('Lining cap', ['Hall']);
  block(cap, 'painted', [0, 1.1, -HALL.depth + lap], [0.045, 1.13, 0]);

  const columns = COLUMNS.map(([x, z], i) => {
    const column = draft(`Column ${i + 1}`, ['Hall']);
    turned(
      column,
      [x, 0, z],
      [
        [0.23, 0],
        [0.23, HALL.height],
      ],
      64,
      'tile',
    );
    return column;
  });
  return [floor, lobbyFloor, well, ceiling, west, east, south, lining, cap, ...columns];
}

/** What parts the lobby from the hall: a boarded screen to the ceiling, with a doorway of 1 m. */
function lobbyScreen(): DraftMesh[] {
  const { x0, x1, z1 } = LOBBY;
  const thick = 0.1;
  const doorway = { from: 0.6, to: 1.6, head: 2.1 };
  const screen = draft('Lobby screen', ['Lobby']);
  plate(
    screen,
    wallEast(x0, 0, 0),
    rectangle(0, 0, z1, HALL.height),
    [rectangle(doorway.from, 0.001, doorway.to, doorway.head)],
    thick,
    { front: 'painted', back: 'painted', reveal: 'painted' },
  );
  block(screen, 'painted', [x0 - thick, 0, -z1 - thick], [x1, HALL.height, -z1]);
  return [screen];
}

/** The long brick wall along the north: one plate over hall and landing stage, at their two levels. */
function longWall(): DraftMesh[] {
  const wall = draft('Long wall', ['Long wall']);
  const z = -HALL.depth;
  const length = HALL.width + STAGE.width;
  const { radius, half } = segment(DOOR.width, DOOR.rise);
  const crown: Vec2 = [DOOR.x + DOOR.width / 2, DOOR.spring + DOOR.rise - radius];
  const ring = 0.215;
  const outline: Vec2[] = [
    [0, 0],
    [HALL.width, 0],
    [HALL.width, STAGE.level],
    [length, STAGE.level],
    [length, 2.6],
    [HALL.width + WALL, 2.6],
    [HALL.width + WALL, HALL.height],
    [0, HALL.height],
  ];
  const doorway: Vec2[] = [
    [DOOR.x, 0.001],
    [DOOR.x + DOOR.width, 0.001],
    ...arc(crown[0], crown[1], radius + ring, 90 - half, 90 + half, 32),
  ];
  // the arch ring has a radial joint at the springers; the wall keeps clear of ring and opening alike
  doorway.splice(2, 1, [DOOR.x + DOOR.width, DOOR.spring], doorway[2]);
  doorway.push([DOOR.x, DOOR.spring]);
  plate(wall, wallSouth(0, 0, z), outline, [doorway, ...WINDOWS.map((x) => circle(x, 1.75, 0.45 + ring, 64))], WALL, {
    front: 'brick',
    rim: 'brick',
    reveal: 'brick',
  });

  const arch = draft('Boat door arch', ['Long wall']);
  const inner = arc(crown[0], crown[1], radius, 90 - half, 90 + half, 32);
  const outer = arc(crown[0], crown[1], radius + ring, 90 + half, 90 - half, 32);
  plate(arch, wallSouth(0, 0, z + 0.012), [...[...inner].reverse(), ...[...outer].reverse()], [], WALL + 0.024, {
    front: 'brick ring',
  });
  const door = draft('Boat door', ['Long wall']);
  plate(door, wallSouth(0, 0, z - 0.16), [[DOOR.x, 0], [DOOR.x + DOOR.width, 0], ...inner], [], 0.05, {
    front: 'door boards',
  });

  const rings = WINDOWS.map((x, i) => {
    const part = draft(`Round window ring ${i + 1}`, ['Long wall']);
    plate(
      part,
      wallSouth(0, 0, z + 0.012),
      circle(x, 1.75, 0.45 + ring, 64),
      [circle(x, 1.75, 0.45, 64)],
      WALL + 0.024,
      { front: 'brick ring' },
    );
    return part;
  });
  const panes = WINDOWS.map((x, i) => {
    const part = draft(`Round window frame ${i + 1}`, ['Long wall']);
    plate(part, wallSouth(0, 0, z - 0.12), circle(x, 1.75, 0.45, 64), [circle(x, 1.75, 0.4, 64)], 0.06, {
      front: 'metal',
    });
    return part;
  });
  const coping = draft('Coping', ['Long wall']);
  block(coping, 'stone', [HALL.width + WALL, 2.6, z - WALL - 0.03], [length + 0.03, 2.68, z + 0.03]);
  return [wall, arch, door, ...rings, ...panes, coping];
}

function stage(): DraftMesh[] {
  const deck = draft('Landing stage', ['Landing']);
  const x0 = HALL.width + WALL;
  const x1 = HALL.width + STAGE.width;
  block(deck, 'slate', [x0, STAGE.level - 0.2, -HALL.depth], [x1, STAGE.level, 1.2]);
  const steps = draft('Landing steps', ['Landing']);
  for (let i = 0; i < 3; i++) {
    block(steps, 'stone', [x0, STAGE.level, -5.3], [x0 + 0.32 * (3 - i), STAGE.level + 0.2 * (i + 1), -2.5]);
  }
  const bollard = draft('Bollard', ['Landing']);
  turned(
    bollard,
    [17.2, STAGE.level, -1.2],
    [
      [0.16, 0],
      [0.16, 0.5],
      [0.21, 0.58],
      [0.21, 0.66],
      [0.12, 0.7],
      [0, 0.7],
    ],
    48,
    'metal',
  );
  const band = draft('Bollard band', ['Landing']);
  turned(
    band,
    [17.2, STAGE.level, -1.2],
    [
      [0.163, 0.22],
      [0.163, 0.34],
    ],
    48,
    'printed band',
  );
  const base = draft('Bollard base', ['Landing']);
  plate(base, slab(17.2, STAGE.level + 0.03, -1.2), circle(0, 0, 0.85, 48), [circle(0, 0, 0.16, 48)], 0.03, {
    front: 'lobby tile',
    rim: 'stone',
  });
  return [deck, steps, bollard, band, base];
}

/** What hall and stage stand on: a quay of dressed stone that goes down into the water, and the slab within it. */
function quay(): DraftMesh[] {
  const part = draft('Quay', ['Quay']);
  const x1 = HALL.width + WALL;
  const [west, north, south] = [-WALL - 0.9, -HALL.depth - WALL - 0.5, 1.2];
  // what the hall covers is left out: nobody will ever see it, nor should it be counted as a floor
  plate(
    part,
    slab(west, -0.03, south),
    rectangle(0, 0, x1 - west, south - north),
    [rectangle(-west, south, HALL.width - west, south + HALL.depth)],
    -QUAY.foot - 0.03,
    { front: 'stone', rim: 'stone', reveal: 'stone' },
  );
  block(part, 'stone', [x1, QUAY.foot, -HALL.depth], [HALL.width + STAGE.width - 0.1, STAGE.level - 0.2, south - 0.1]);
  const under = draft('Hall slab', ['Quay']);
  // a little smaller than the floor it carries: what covers most of a room is its floor
  block(under, 'stone', [0.3, QUAY.foot, 0.3 - HALL.depth], [HALL.width - 0.3, -0.03, -0.3]);
  return [part, under];
}

function watchRoom(): DraftMesh[] {
  const y = HALL.height + 0.25;
  const { x, z, width, depth, height } = WATCH;
  const path = ['Watch room'];
  const floor = draft('Watch room floor', path);
  plate(floor, slab(x, y + 0.02, z), rectangle(0, 0, width, depth), [], 0.02, { front: 'floor boards' });
  const walls = draft('Watch room walls', path);
  const openings = { south: [rectangle(0.6, 0.9, 4.8, 2.2)], east: [rectangle(0.8, 0.9, 3.4, 2.2)] };
  plate(walls, wallSouth(x, y, z + 0.15), rectangle(-0.15, 0, width + 0.15, height), openings.south, 0.15, {
    front: 'painted',
    back: 'plaster',
    reveal: 'painted',
  });
  plate(walls, wallEast(x + width + 0.15, y, z), rectangle(0, 0, depth, height), openings.east, 0.15, {
    front: 'painted',
    back: 'plaster',
    reveal: 'painted',
  });
  block(walls, 'plaster', [x - 0.15, y, z - depth], [x, y + height, z], { west: 'painted' });
  block(walls, 'plaster', [x - 0.15, y, z - depth - 0.15], [x + width + 0.15, y + height, z - depth], {
    north: 'painted',
  });
  const roof = draft('Watch room roof', path);
  block(roof, 'roof', [x - 0.5, y + height, z - depth - 0.5], [x + width + 0.5, y + height + 0.16, z + 0.5], {
    bottom: 'painted',
  });
  return [floor, walls, roof];
}

function furniture(): DraftMesh[] {
  const counter = draft('Tea counter', ['Furniture']);
  const top = draft('Counter top', ['Furniture']);
  // along the west end, its south end rounded
  const plan = (out: number): Vec2[] => [
    [1.2 - out, 2.6 - out * 0],
    ...arc(1.55, 2.6, 0.35 + out, 180, 360, 24),
    [1.9 + out, 5.4],
    [1.2 - out, 5.4],
  ];
  const outline = plan(0).slice(1);
  plate(counter, slab(0, 1.0, 0), outline, [], 1.0, { front: 'wood', rim: 'tile' });
  plate(top, slab(0, 1.04, 0), plan(0.04).slice(1), [], 0.04, { front: 'stone' });

  const benches = [3.0, 6.2].map((x, i) => {
    const bench = draft(`Bench ${i + 1}`, ['Furniture']);
    const z = -1.2;
    for (const px of [x, x + 1.74])
      for (const pz of [z, z - 0.44]) block(bench, 'wood', [px, 0, pz - 0.06], [px + 0.06, 0.44, pz]);
    block(bench, 'wood', [x, 0.4, z - 0.06], [x + 1.8, 0.45, z]);
    block(bench, 'wood', [x, 0.4, z - 0.5], [x + 1.8, 0.45, z - 0.44]);
    block(bench, 'wood', [x, 0.4, z - 0.44], [x + 0.06, 0.45, z - 0.06]);
    block(bench, 'wood', [x + 1.74, 0.4, z - 0.44], [x + 1.8, 0.45, z - 0.06]);
    quad(
      bench,
      'webbing',
      [x + 0.03, 0.452, z - 0.03],
      [x + 1.77, 0.452, z - 0.03],
      [x + 1.77, 0.452, z - 0.47],
      [x + 0.03, 0.452, z - 0.47],
    );
    return bench;
  });
  const cushion = draft('Bench cushion', ['Furniture']);
  block(cushion, 'cloth', [7.2, 0.456, -1.66], [7.75, 0.53, -1.24]);
  return [counter, top, ...benches, cushion];
}

function fittings(): DraftMesh[] {
  const lamps = [2.2, 6.2, 10.2].map((x, i) => {
    const lamp = draft(`Globe lamp ${i + 1}`, ['Fittings']);
    const sphere: Vec2[] = Array.from({ length: 13 }, (_, k) => {
      const a = (k / 12) * Math.PI;
      return [k === 0 || k === 12 ? 0 : 0.16 * Math.sin(a), -0.16 * Math.cos(a)];
    });
    turned(lamp, [x, 2.55, -2.4], sphere, 32, 'lamp', true);
    turned(
      lamp,
      [x, 2.7, -2.4],
      [
        [0.008, 0],
        [0.008, HALL.height - 2.7],
      ],
      12,
      'metal',
    );
    return lamp;
  });
  const notice = draft('Framed notice', ['Fittings']);
  const [x, y, z] = [0, 1.35, -6.4];
  block(notice, 'wood', [x, y, z - 0.64], [x + 0.03, y + 0.84, z], { east: 'notice' });
  return [...lamps, notice];
}
