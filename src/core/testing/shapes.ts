import earcut from 'earcut';
import type { Vec2, Vec3 } from '../geometry/vec';
import type { PartMesh } from '../mesh/types';

/** Shapes whose lengths and areas are known exactly, in mm, for tests. */

/** A part of loose triangles, nine numbers each; faces keep their own corners. */
export function looseMesh(triangles: number[], origin: Vec3 = [0, 0, 0]): PartMesh {
  const count = triangles.length / 9;
  const normals = new Float32Array(count * 9);
  for (let f = 0; f < count; f++) {
    const [a, b, c] = [0, 1, 2].map((k) => triangles.slice(f * 9 + k * 3, f * 9 + k * 3 + 3));
    const [u, v] = [b.map((x, i) => x - a[i]), c.map((x, i) => x - a[i])];
    const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
    const l = Math.hypot(...n) || 1;
    for (let k = 0; k < 3; k++) for (let i = 0; i < 3; i++) normals[f * 9 + k * 3 + i] = n[i] / l;
  }
  return {
    origin,
    positions: Float32Array.from(triangles, (v, i) => v - origin[i % 3]),
    normals,
    uvs: [],
    indices: Uint32Array.from({ length: count * 3 }, (_, i) => i),
    slots: new Uint16Array(count),
  };
}

export const facesOf = (mesh: PartMesh) => Uint32Array.from({ length: mesh.indices.length / 3 }, (_, i) => i);

const quad = (a: Vec3, b: Vec3, c: Vec3, d: Vec3) => [...a, ...b, ...c, ...a, ...c, ...d];

/** Triangles of a grid of points, outside where columns run right and rows run up. */
export function patch(columns: number, rows: number, at: (u: number, v: number) => Vec3): number[] {
  const out: number[] = [];
  for (let i = 0; i < columns; i++) {
    for (let j = 0; j < rows; j++) {
      const [u, w, v, x] = [i / columns, (i + 1) / columns, j / rows, (j + 1) / rows];
      out.push(...quad(at(u, v), at(w, v), at(w, x), at(u, x)));
    }
  }
  return out;
}

const round = (angle: number, r: number, y: number): Vec3 => [r * Math.cos(angle), y, -r * Math.sin(angle)];

/** The side of an upright cylinder or cone about x = z = 0, seen from outside. */
export const frustum = (low: number, high: number, height: number, sides: number, turn = 2 * Math.PI, rows = 1) =>
  patch(sides, rows, (u, v) => round(u * turn, low + (high - low) * v, v * height));

/** A ball between two latitudes, radians. */
export const sphereBand = (radius: number, from: number, to: number, sides: number, rows: number) =>
  patch(sides, rows, (u, v) => {
    const phi = from + (to - from) * v;
    return round(u * 2 * Math.PI, radius * Math.cos(phi), radius * Math.sin(phi));
  });

/** A quarter of a ring of tube: radius of the ring, radius of the tube. */
export const quarterTorus = (ring: number, tube: number, sides: number) =>
  patch(sides, sides, (u, v) => {
    const a = v * 2 * Math.PI;
    return round((u * Math.PI) / 2, ring + tube * Math.cos(a), tube * Math.sin(a));
  });

/** The face of an arch, facing south (+z), centre at x = y = 0. Angles in radians, counter-clockwise from the east. */
export const archFace = (inner: number, outer: number, from: number, to: number, sides: number) =>
  patch(sides, 1, (u, v) => {
    const a = to + (from - to) * u;
    const r = inner + (outer - inner) * v;
    return [r * Math.cos(a), r * Math.sin(a), 0];
  });

/** The underside of an arch, seen from below; z from 0 back to −depth. */
export const archSoffit = (radius: number, depth: number, from: number, to: number, sides: number) =>
  patch(sides, 1, (u, v) => {
    const a = from + (to - from) * u;
    return [radius * Math.cos(a), radius * Math.sin(a), -depth * v];
  });

/** A profile (in [out, up]) run along a level path of [east, south] points, mitred at its corners. */
export function moulding(profile: Vec2[], path: Vec2[]): number[] {
  const out: number[] = [];
  const directions = path.slice(1).map(([x, z], i): Vec2 => {
    const l = Math.hypot(x - path[i][0], z - path[i][1]);
    return [(x - path[i][0]) / l, (z - path[i][1]) / l];
  });
  // outside lies to the right of the way one walks, seen from above with south down
  const station = (i: number): Vec2 => {
    const [a, b] = [directions[Math.max(0, i - 1)], directions[Math.min(directions.length - 1, i)]];
    const [na, nb]: Vec2[] = [
      [-a[1], a[0]],
      [-b[1], b[0]],
    ];
    const k = 1 + na[0] * nb[0] + na[1] * nb[1];
    return [(na[0] + nb[0]) / k, (na[1] + nb[1]) / k];
  };
  const at = (i: number, [off, up]: Vec2): Vec3 => [
    path[i][0] + station(i)[0] * off,
    up,
    path[i][1] + station(i)[1] * off,
  ];
  for (let i = 0; i + 1 < path.length; i++) {
    for (let k = 0; k + 1 < profile.length; k++) {
      out.push(...quad(at(i, profile[k]), at(i + 1, profile[k]), at(i + 1, profile[k + 1]), at(i, profile[k + 1])));
    }
  }
  return out;
}

/** A flat face with holes, facing south, triangulated as modellers leave it. */
export function plateFace([outer, ...holes]: Vec2[][]): number[] {
  const points = [outer, ...holes].flat();
  const starts = holes.map((_, i) => [outer, ...holes.slice(0, i)].flat().length);
  const found = earcut(points.flat(), starts);
  const out: number[] = [];
  for (let f = 0; f < found.length; f += 3) {
    const t = [0, 1, 2].map((k) => points[found[f + k]]);
    const area = (t[1][0] - t[0][0]) * (t[2][1] - t[0][1]) - (t[2][0] - t[0][0]) * (t[1][1] - t[0][1]);
    for (const [x, y] of area > 0 ? t : [t[0], t[2], t[1]]) out.push(x, y, 0);
  }
  return out;
}
