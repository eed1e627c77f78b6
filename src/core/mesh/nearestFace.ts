import { distanceToTriangle } from '../geometry/triangle';
import type { Vec3 } from '../geometry/vec';
import type { PartMesh } from './types';

/** A corner of a face in the world, mm. */
export function cornerOf({ positions: p, indices, origin }: PartMesh, face: number, k: number): Vec3 {
  const v = indices[face * 3 + k] * 3;
  return [p[v] + origin[0], p[v + 1] + origin[1], p[v + 2] + origin[2]];
}

/** The middle of a face, in the world, mm. */
export function middleOfFace(mesh: PartMesh, face: number): Vec3 {
  const [a, b, c] = [0, 1, 2].map((k) => cornerOf(mesh, face, k));
  return [(a[0] + b[0] + c[0]) / 3, (a[1] + b[1] + c[1]) / 3, (a[2] + b[2] + c[2]) / 3];
}

/** Which of some faces lies nearest to a point of the world: its place among them, and how far off it is, mm. */
export function nearestFace(mesh: PartMesh, faces: ArrayLike<number>, p: Vec3): { place: number; mm: number } {
  let found = { place: -1, mm: Infinity };
  for (let i = 0; i < faces.length; i++) {
    const mm = distanceToTriangle(
      p,
      cornerOf(mesh, faces[i], 0),
      cornerOf(mesh, faces[i], 1),
      cornerOf(mesh, faces[i], 2),
    );
    if (mm < found.mm) found = { place: i, mm };
    if (mm < 1e-6) break;
  }
  return found;
}
