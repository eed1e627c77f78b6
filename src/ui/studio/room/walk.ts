import { Vector3 } from 'three';

/** What is met first from a place in a direction, metres; null where nothing is. */
export type Feel = (from: Vector3, direction: Vector3) => { distance: number; normal: Vector3 } | null;

/** Eyes above what is underfoot, m. */
export const EYE = 1.6;
/** Nobody walks nearer to a wall than this, m. */
const BODY = 0.28;
/** What is higher is no step one takes, m. */
const STEP = 0.45;
/** Heights at which walls are felt, above what is underfoot, m. */
const FELT = [STEP + 0.05, 1.1, EYE];
const DOWN = new Vector3(0, -1, 0);

/**
 * A step of someone who walks: along walls, up and down stairs, never through anything. Where nothing is underfoot one
 * stays at the height one has.
 * @param by how far, in the plane, metres
 * @returns where the eyes are then
 */
export function walk(eye: Vector3, by: Vector3, feel: Feel): Vector3 {
  const foot = eye.y - (underfoot(eye, feel) ?? EYE);
  let go = new Vector3(by.x, 0, by.z);
  // first what stands in the way, then what stands in the way of going along that
  for (let n = 0; n < 2; n++) {
    const met = nearestWall(eye, foot, go, feel);
    if (!met) break;
    const out = new Vector3(met.x, 0, met.z).normalize();
    go = go.addScaledVector(out, -Math.min(0, go.dot(out)));
    if (n === 1) return eye.clone();
  }
  const there = eye.clone().add(go);
  const below = underfoot(there, feel);
  if (below === null) return there;
  const rise = there.y - below - foot;
  return rise > STEP ? eye.clone() : there.setY(foot + rise + EYE);
}

const underfoot = (at: Vector3, feel: Feel): number | null => feel(at, DOWN)?.distance ?? null;

/** The side of what is too near in the way; null where the way is free. */
function nearestWall(eye: Vector3, foot: number, go: Vector3, feel: Feel): Vector3 | null {
  const far = go.length();
  if (far < 1e-6) return null;
  const ahead = go.clone().divideScalar(far);
  let nearest: { distance: number; normal: Vector3 } | null = null;
  for (const height of FELT) {
    const met = feel(new Vector3(eye.x, foot + height, eye.z), ahead);
    if (met && met.distance < far + BODY && (!nearest || met.distance < nearest.distance)) nearest = met;
  }
  if (!nearest) return null;
  return nearest.normal.dot(ahead) > 0 ? nearest.normal.clone().negate() : nearest.normal;
}
