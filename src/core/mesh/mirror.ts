import { type Plane, reflectDirection, reflectPoint } from '../geometry/plane';
import type { Vec3 } from '../geometry/vec';
import type { PartMesh } from './types';

/** A mesh as it is seen in the mirror: its faces look the way their images do, and keep their numbers. */
export function mirrorMesh(mesh: PartMesh, plane: Plane): PartMesh {
  const turn = (from: Float32Array) => {
    const out = new Float32Array(from.length);
    for (let i = 0; i < from.length; i += 3) {
      const v = reflectDirection(plane, [from[i], from[i + 1], from[i + 2]] as Vec3);
      out[i] = v[0];
      out[i + 1] = v[1];
      out[i + 2] = v[2];
    }
    return out;
  };
  const indices = mesh.indices.slice();
  for (let i = 0; i < indices.length; i += 3) [indices[i + 1], indices[i + 2]] = [indices[i + 2], indices[i + 1]];
  return {
    ...mesh,
    origin: reflectPoint(plane, mesh.origin),
    positions: turn(mesh.positions),
    normals: turn(mesh.normals),
    indices,
  };
}
