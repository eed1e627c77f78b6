import earcut from 'earcut';
import type { Project } from '@/core/project/schema';
import type { Command } from '@/core/project/commands';
import type { Material } from '@/core/material/schema';
import { makeGlb, prismWalls } from '@/core/testing/fixtures';
import { laidSpec } from '@/core/testing/surfaces';
import type { LayoutSpec } from '@/core/layout/schema';
import type { Spec } from '@/core/specification/schema';

/** A room of twelve surfaces: ten walls round a plan with a recess and a nib, a floor and a ceiling; metres. */
const PLAN: [number, number][] = [
  [0, 0],
  [5, 0],
  [5, 4],
  [3.5, 4],
  [3.5, 3],
  [2, 3],
  [2, 4],
  [1, 4],
  [1, 3.5],
  [0, 3.5],
];
const HEIGHT = 2.8;
export const PER_ROOM = PLAN.length + 2;
/** Rooms in a row, rows on a floor. */
const [ACROSS, ALONG] = [20, 10];

function roomTriangles(x: number, y: number, z: number): number[] {
  const flat = earcut(PLAN.flat());
  const level = (height: number, up: boolean) => {
    const out: number[] = [];
    for (let f = 0; f < flat.length; f += 3) {
      const t = [0, 1, 2].map((k) => PLAN[flat[f + k]]);
      const area = (t[1][0] - t[0][0]) * (t[2][1] - t[0][1]) - (t[2][0] - t[0][0]) * (t[1][1] - t[0][1]);
      for (const [px, pz] of area > 0 === up ? [t[0], t[2], t[1]] : t) out.push(px, height, pz);
    }
    return out;
  };
  const all = [...prismWalls(PLAN, HEIGHT), ...level(0, true), ...level(HEIGHT, false)];
  return all.map((v, i) => v + [x, y, z][i % 3]);
}

/** A building of so many surfaces, rounded up to whole rooms, as GLB. */
export function buildingGlb(surfaces: number): Promise<Uint8Array> {
  const rooms = Math.ceil(surfaces / PER_ROOM);
  return makeGlb(
    Array.from({ length: rooms }, (_, n) => {
      const [column, row] = [n % ACROSS, Math.floor(n / ACROSS) % ALONG];
      const storey = Math.floor(n / (ACROSS * ALONG));
      return { name: `Room ${n + 1}`, triangles: roomTriangles(column * 5.4, storey * 3.2, row * 4.6) };
    }),
  );
}

const BOND: LayoutSpec = { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false };
const BOARDS: LayoutSpec = {
  kind: 'planks',
  lengths: { kind: 'range', fromMm: 800, toMm: 2000 },
  widths: { kind: 'one', mm: 190 },
  stagger: { kind: 'random', leastApartMm: 250, leastEndMm: 300, carryOffcuts: true, layoutNumber: 1 },
};

export const isWall = ({ normal }: { normal: readonly number[] }) => Math.abs(normal[1]) < 0.5;

/** The spec of a wall with a joint of so many mm. */
export const wallSpec = (material: string, joint = 10): Spec => ({
  ...laidSpec({ layout: BOND, joint }),
  mapping: { kind: 'box', axes: 'surface' },
  material,
});
const floorSpec = (material: string): Spec => ({
  ...laidSpec({ layout: BOARDS, joint: 2 }),
  material,
});

/** Walls in stretcher bond, floors and ceilings in random planks. */
export function dress({ surfaces }: Project, brick: Material, board: Material): Command {
  const specs = Object.fromEntries(
    Object.values(surfaces).map((s): [string, Spec] => [s.id, isWall(s) ? wallSpec(brick.id) : floorSpec(board.id)]),
  );
  return { kind: 'setSpecs', specs, materials: [brick, board] };
}
