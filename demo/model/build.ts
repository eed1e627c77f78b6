import earcut from 'earcut';
import type { Vec2, Vec3 } from '@/core/geometry/vec';

/** A mesh under construction: metres, y up, flat-shaded faces with a material slot each. */
export interface DraftMesh {
  name: string;
  path: string[];
  /** Nine numbers per triangle. */
  faces: { slot: string; positions: number[]; normals: number[] | null }[];
}

export const draft = (name: string, path: string[] = []): DraftMesh => ({ name, path, faces: [] });

function bucket(mesh: DraftMesh, slot: string, smooth: boolean) {
  let found = mesh.faces.find((f) => f.slot === slot && (f.normals !== null) === smooth);
  if (!found) mesh.faces.push((found = { slot, positions: [], normals: smooth ? [] : null }));
  return found;
}

export function triangle(mesh: DraftMesh, slot: string, a: Vec3, b: Vec3, c: Vec3, normals?: [Vec3, Vec3, Vec3]): void {
  const into = bucket(mesh, slot, !!normals);
  into.positions.push(...a, ...b, ...c);
  if (normals) into.normals!.push(...normals[0], ...normals[1], ...normals[2]);
}

export function quad(mesh: DraftMesh, slot: string, a: Vec3, b: Vec3, c: Vec3, d: Vec3): void {
  triangle(mesh, slot, a, b, c);
  triangle(mesh, slot, a, c, d);
}

/** An upright box between two corners. `slots` may name faces apart from `slot`. */
export function block(
  mesh: DraftMesh,
  slot: string,
  [x0, y0, z0]: Vec3,
  [x1, y1, z1]: Vec3,
  slots: Partial<Record<'top' | 'bottom' | 'north' | 'south' | 'east' | 'west', string>> = {},
): void {
  quad(mesh, slots.top ?? slot, [x0, y1, z1], [x1, y1, z1], [x1, y1, z0], [x0, y1, z0]);
  quad(mesh, slots.bottom ?? slot, [x0, y0, z0], [x1, y0, z0], [x1, y0, z1], [x0, y0, z1]);
  quad(mesh, slots.south ?? slot, [x0, y0, z1], [x1, y0, z1], [x1, y1, z1], [x0, y1, z1]);
  quad(mesh, slots.north ?? slot, [x1, y0, z0], [x0, y0, z0], [x0, y1, z0], [x1, y1, z0]);
  quad(mesh, slots.east ?? slot, [x1, y0, z1], [x1, y0, z0], [x1, y1, z0], [x1, y1, z1]);
  quad(mesh, slots.west ?? slot, [x0, y0, z0], [x0, y0, z1], [x0, y1, z1], [x0, y1, z0]);
}

/** Takes plane coordinates and depth to space. */
export type Plane = (u: number, v: number, depth: number) => Vec3;

/** u east, v up, depth to the north: a wall seen from the south. */
export const wallSouth =
  (x: number, y: number, z: number): Plane =>
  (u, v, d) => [x + u, y + v, z - d];
/** u to the north, v up, depth to the west: a wall seen from the east. */
export const wallEast =
  (x: number, y: number, z: number): Plane =>
  (u, v, d) => [x - d, y + v, z - u];
/** u east, v north, depth down: a slab seen from above. */
export const slab =
  (x: number, y: number, z: number): Plane =>
  (u, v, d) => [x + u, y - d, z - v];

/**
 * A plate of some thickness with openings: front, back, rim and reveals.
 * @param outline counter-clockwise in the plane
 */
export function plate(
  mesh: DraftMesh,
  plane: Plane,
  outline: Vec2[],
  holes: Vec2[][],
  thickness: number,
  slots: { front: string; back?: string; rim?: string; reveal?: string },
): void {
  const flat: number[] = [];
  const starts: number[] = [];
  for (const p of outline) flat.push(...p);
  for (const hole of holes) {
    starts.push(flat.length / 2);
    for (const p of hole) flat.push(...p);
  }
  const ears = earcut(flat, starts);
  const at = (i: number, d: number): Vec3 => plane(flat[i * 2], flat[i * 2 + 1], d);
  for (let i = 0; i < ears.length; i += 3) {
    const [a, b, c] = [ears[i], ears[i + 1], ears[i + 2]];
    const area =
      (flat[b * 2] - flat[a * 2]) * (flat[c * 2 + 1] - flat[a * 2 + 1]) -
      (flat[b * 2 + 1] - flat[a * 2 + 1]) * (flat[c * 2] - flat[a * 2]);
    const [p, q, r] = area > 0 ? [a, b, c] : [a, c, b];
    triangle(mesh, slots.front, at(p, 0), at(q, 0), at(r, 0));
    if (thickness > 0) triangle(mesh, slots.back ?? slots.front, at(p, thickness), at(r, thickness), at(q, thickness));
  }
  if (!(thickness > 0)) return;
  const wallRound = (loop: Vec2[], slot: string, inward: boolean) => {
    for (let i = 0; i < loop.length; i++) {
      const p = loop[i];
      const q = loop[(i + 1) % loop.length];
      const [a, b] = inward ? [q, p] : [p, q];
      quad(
        mesh,
        slot,
        plane(a[0], a[1], thickness),
        plane(b[0], b[1], thickness),
        plane(b[0], b[1], 0),
        plane(a[0], a[1], 0),
      );
    }
  };
  wallRound(outline, slots.rim ?? slots.front, false);
  for (const hole of holes) wallRound(ccw(hole), slots.reveal ?? slots.front, true);
}

function ccw(loop: Vec2[]): Vec2[] {
  let sum = 0;
  for (let i = 0; i < loop.length; i++) {
    const [a, b] = [loop[i], loop[(i + 1) % loop.length]];
    sum += a[0] * b[1] - b[0] * a[1];
  }
  return sum > 0 ? loop : [...loop].reverse();
}

export const rectangle = (x0: number, y0: number, x1: number, y1: number): Vec2[] => [
  [x0, y0],
  [x1, y0],
  [x1, y1],
  [x0, y1],
];

export function circle(cx: number, cy: number, r: number, sides: number): Vec2[] {
  return Array.from({ length: sides }, (_, i) => {
    const a = (i / sides) * 2 * Math.PI;
    return [cx + Math.cos(a) * r, cy + Math.sin(a) * r];
  });
}

/** Points of an arc, both ends included, angles in degrees counter-clockwise. */
export function arc(cx: number, cy: number, r: number, from: number, to: number, steps: number): Vec2[] {
  return Array.from({ length: steps + 1 }, (_, i) => {
    const a = ((from + ((to - from) * i) / steps) * Math.PI) / 180;
    return [cx + Math.cos(a) * r, cy + Math.sin(a) * r];
  });
}

/**
 * A profile of (radius, height) pairs turned about the vertical through (x, z), smooth along the turn.
 * @param profile from bottom to top as seen outside
 */
export function turned(
  mesh: DraftMesh,
  [x, y, z]: Vec3,
  profile: Vec2[],
  sides: number,
  slots: string | string[],
  smoothAlong = false,
): void {
  const slotAt = (i: number) => (typeof slots === 'string' ? slots : slots[i]);
  const slopes = profile.slice(1).map(([r, h], i): Vec2 => {
    const [dr, dh] = [r - profile[i][0], h - profile[i][1]];
    const l = Math.hypot(dr, dh) || 1;
    return [dh / l, -dr / l];
  });
  const mean = (a: Vec2, b: Vec2): Vec2 => {
    const s: Vec2 = [a[0] + b[0], a[1] + b[1]];
    const l = Math.hypot(...s) || 1;
    return [s[0] / l, s[1] / l];
  };
  for (let i = 0; i + 1 < profile.length; i++) {
    const low = smoothAlong && i > 0 ? mean(slopes[i], slopes[i - 1]) : slopes[i];
    const high = smoothAlong && i + 1 < slopes.length ? mean(slopes[i], slopes[i + 1]) : slopes[i];
    for (let k = 0; k < sides; k++) {
      // going round so that the outside is to the right when looking up
      const a0 = (k / sides) * 2 * Math.PI;
      const a1 = ((k + 1) / sides) * 2 * Math.PI;
      const point = ([r, h]: Vec2, a: number): Vec3 => [x + r * Math.cos(a), y + h, z - r * Math.sin(a)];
      const normal = ([n, m]: Vec2, a: number): Vec3 => [n * Math.cos(a), m, -n * Math.sin(a)];
      const [p, q] = [profile[i], profile[i + 1]];
      const corners = [point(p, a0), point(p, a1), point(q, a1), point(q, a0)] as const;
      const normals = [normal(low, a0), normal(low, a1), normal(high, a1), normal(high, a0)] as const;
      if (p[0] > 0) triangle(mesh, slotAt(i), corners[0], corners[1], corners[2], [normals[0], normals[1], normals[2]]);
      if (q[0] > 0) triangle(mesh, slotAt(i), corners[0], corners[2], corners[3], [normals[0], normals[2], normals[3]]);
    }
  }
}
