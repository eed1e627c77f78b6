import { type Static, Type } from '@sinclair/typebox';
import { everyMapping } from './parts';
import { oneOf } from '../schema/choice';
import { cross, dot, normalise, type Vec2, type Vec3 } from '../geometry/vec';
import type { PartMesh } from '../mesh/types';
import type { Frame, LaidFaces, Mapping } from './types';

export const FlatMapping = Type.Object({
  ...everyMapping,
  kind: Type.Literal('flat'),
  direction: oneOf('auto', 'up', 'down', 'north', 'east', 'south', 'west', 'given'),
  /** Where it is thrown from, as a direction in the world, for one that is given. */
  from: Type.Optional(Type.Tuple([Type.Number(), Type.Number(), Type.Number()])),
});
export type FlatMapping = Static<typeof FlatMapping>;

const FACING_WORDS: Record<FlatMapping['direction'], string> = {
  auto: '',
  up: ' from above',
  down: ' from below',
  north: ' from the north',
  east: ' from the east',
  south: ' from the south',
  west: ' from the west',
  given: ' from a direction of its own',
};

const DIRECTIONS: Record<Exclude<FlatMapping['direction'], 'auto' | 'given'>, Vec3> = {
  up: [0, 1, 0],
  down: [0, -1, 0],
  north: [0, 0, -1],
  south: [0, 0, 1],
  east: [1, 0, 0],
  west: [-1, 0, 0],
};

/**
 * Axes of a sheet looked at along −normal: never mirrored (x × y = normal). On walls y points up; on floors and
 * ceilings x points east (+x).
 */
export function frameFacing(normal: Vec3): Frame {
  const n = normalise(normal);
  if (Math.abs(n[1]) > 0.996) {
    const x: Vec3 = normalise([1 - n[0] * n[0], -n[0] * n[1], -n[0] * n[2]]);
    return { x, y: cross(n, x), offset: [0, 0] };
  }
  const y = normalise([-n[1] * n[0], 1 - n[1] * n[1], -n[1] * n[2]]);
  return { x: cross(y, n), y, offset: [0, 0] };
}

export const applyFrame = (frame: Frame, p: Vec3): Vec2 => [
  dot(frame.x, p) + frame.offset[0],
  dot(frame.y, p) + frame.offset[1],
];

/** Twice the area times the normal, summed over faces. */
export function summedNormal(mesh: PartMesh, faces: ArrayLike<number>): Vec3 {
  const { positions: p, indices } = mesh;
  const sum: Vec3 = [0, 0, 0];
  for (let i = 0; i < faces.length; i++) {
    const a = indices[faces[i] * 3] * 3;
    const b = indices[faces[i] * 3 + 1] * 3;
    const c = indices[faces[i] * 3 + 2] * 3;
    const ux = p[b] - p[a];
    const uy = p[b + 1] - p[a + 1];
    const uz = p[b + 2] - p[a + 2];
    const vx = p[c] - p[a];
    const vy = p[c + 1] - p[a + 1];
    const vz = p[c + 2] - p[a + 2];
    sum[0] += uy * vz - uz * vy;
    sum[1] += uz * vx - ux * vz;
    sum[2] += ux * vy - uy * vx;
  }
  return sum;
}

/** Lays one face through a frame; `out` gets six numbers from `at`. */
export function placeFace(mesh: PartMesh, face: number, frame: Frame, out: Float64Array, at: number): void {
  const { positions: p, indices, origin } = mesh;
  const { x, y, offset } = frame;
  for (let k = 0; k < 3; k++) {
    const v = indices[face * 3 + k] * 3;
    const px = p[v] + origin[0];
    const py = p[v + 1] + origin[1];
    const pz = p[v + 2] + origin[2];
    out[at + k * 2] = x[0] * px + x[1] * py + x[2] * pz + offset[0];
    out[at + k * 2 + 1] = y[0] * px + y[1] * py + y[2] * pz + offset[1];
  }
}

/** Where it is thrown from; null for the surface's own face. */
function directionOf({ direction, from }: FlatMapping): Vec3 | null {
  if (direction === 'auto') return null;
  return direction === 'given' ? (from ?? null) : DIRECTIONS[direction];
}

/** A direction that is taken up by name begins as the one it was. */
function become(spec: FlatMapping, direction: FlatMapping['direction']): FlatMapping {
  const { from, ...rest } = spec;
  return direction === 'given'
    ? { ...rest, direction, from: from ?? directionOf(spec) ?? [0, 0, 1] }
    : { ...rest, direction };
}

/** Everything thrown straight onto one plane. True size where the surface lies square to the direction. */
export const flat: Mapping<FlatMapping> = {
  kind: 'flat',
  label: 'Flat',
  also: ['plane', 'wall', 'floor', 'thrown on'],
  schema: FlatMapping,
  first: { kind: 'flat', direction: 'auto' },
  fields: [
    {
      kind: 'choice',
      label: 'Thrown on from',
      options: [
        ['auto', 'its own face'],
        ['up', 'above'],
        ['down', 'below'],
        ['north', 'north'],
        ['east', 'east'],
        ['south', 'south'],
        ['west', 'west'],
        ['given', 'a direction of its own'],
      ],
      get: (s) => s.direction,
      set: (s, direction) => become(s, direction as FlatMapping['direction']),
    },
  ],
  describe: ({ direction }) => `flat${FACING_WORDS[direction]}`,
  drawing: [
    { as: 'face', d: 'M6 26 22 32 40 22 24 16z' },
    { as: 'arrow', d: 'M23 4v9m-4-4 4 4 4-4' },
  ],
  lay(mesh: PartMesh, faces: Uint32Array, options: FlatMapping): LaidFaces {
    let normal = directionOf(options) ?? summedNormal(mesh, faces);
    // a surface closed all round has no direction of its own; its largest face lends one
    if (Math.hypot(...normal) < 1e-9) normal = faces.length ? summedNormal(mesh, [faces[0]]) : [0, 1, 0];
    const frame = frameFacing(normal);
    const corners = new Float64Array(faces.length * 6);
    for (let i = 0; i < faces.length; i++) placeFace(mesh, faces[i], frame, corners, i * 6);
    return { corners, chartOf: new Uint32Array(faces.length), frames: [frame], groupOf: [0], breaks: [] };
  },
};
