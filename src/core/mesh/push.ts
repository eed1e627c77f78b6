import type { Vec3 } from '../geometry/vec';
import { type FaceRuns, listFaces, type PartMesh } from './types';
import { weldPositions } from './weld';

/** Faces lie in one plane when their mean normal is as long as this. */
const FLAT = 0.999;
/** Corners nearer than this stand in one place, mm. */
const ONE_PLACE = 0.01;

/** What cannot be pushed; the message is for people. */
export class PushError extends Error {}

/**
 * A part's mesh with some of its faces pushed out along their normal (or in, by a negative length): every corner that
 * stands where one of theirs does goes along, so that the faces beside them grow or shrink and nothing opens.
 * @param runs faces in one plane
 * @param by mm
 * @returns a mesh with the same faces, and the direction, of length 1
 * @throws PushError where the faces lie in no one plane
 */
export function pushFaces(mesh: PartMesh, runs: FaceRuns, by: number): { mesh: PartMesh; along: Vec3 } {
  const { positions: p, indices } = mesh;
  const faces = listFaces(runs);
  let area = 0;
  const sum: Vec3 = [0, 0, 0];
  for (const f of faces) {
    const [a, b, c] = [indices[f * 3] * 3, indices[f * 3 + 1] * 3, indices[f * 3 + 2] * 3];
    const u = [0, 1, 2].map((i) => p[b + i] - p[a + i]);
    const v = [0, 1, 2].map((i) => p[c + i] - p[a + i]);
    const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
    area += Math.hypot(...n);
    for (let i = 0; i < 3; i++) sum[i] += n[i];
  }
  const length = Math.hypot(...sum);
  if (!(area > 0)) throw new PushError('there are no faces to push');
  if (length < area * FLAT) throw new PushError('the faces lie in no one plane; pick those of one flat side');
  const along = sum.map((v) => v / length) as Vec3;
  const welded = weldPositions(p, ONE_PLACE);
  const moved = new Set<number>();
  for (const f of faces) for (let k = 0; k < 3; k++) moved.add(welded[indices[f * 3 + k]]);
  const positions = p.slice();
  for (let v = 0; v < welded.length; v++) {
    if (!moved.has(welded[v])) continue;
    for (let i = 0; i < 3; i++) positions[v * 3 + i] += along[i] * by;
  }
  return { mesh: { ...mesh, positions }, along };
}
