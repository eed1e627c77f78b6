import { Quaternion, Vector3 } from 'three';

/** Nearer than this to straight up or down one does not tilt, radians. */
const UPRIGHT = 0.02;

export interface Stand {
  eye: Vector3;
  target: Vector3;
}

/**
 * Turns about a point as a hand turns a model: the point stays where it is seen, and what one looked at turns with one.
 * @param round radians about the vertical
 * @param over radians upwards (the eye sinks) or downwards; stops before it would be upside down
 */
export function turnAbout({ eye, target }: Stand, pivot: Vector3, round: number, over: number): Stand {
  const back = eye.clone().sub(target);
  const turn = new Quaternion().setFromAxisAngle(new Vector3(0, 1, 0), round);
  back.applyQuaternion(turn);
  const polar = back.angleTo(new Vector3(0, 1, 0));
  const tilt = Math.min(Math.PI - UPRIGHT, Math.max(UPRIGHT, polar + over)) - polar;
  const across = new Vector3(0, 1, 0).cross(back);
  // straight down (or up) any way over will do
  if (across.lengthSq() < 1e-20) across.set(1, 0, 0);
  turn.premultiply(new Quaternion().setFromAxisAngle(across.normalize(), tilt));
  const about = (p: Vector3) => p.clone().sub(pivot).applyQuaternion(turn).add(pivot);
  return { eye: about(eye), target: about(target) };
}

/**
 * A target straight ahead, as far away as a point is deep in the picture: moving towards it by shares slows down as one
 * comes near, and never passes the point.
 * @returns null where the point lies behind the eye
 */
export function targetAtDepth({ eye, target }: Stand, point: Vector3): Vector3 | null {
  const ahead = target.clone().sub(eye).normalize();
  const depth = point.clone().sub(eye).dot(ahead);
  return depth > 1e-3 ? eye.clone().addScaledVector(ahead, depth) : null;
}
