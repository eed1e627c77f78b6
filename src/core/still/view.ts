import { cross, normalise, subtract, type Vec3 } from '../geometry/vec';

/** Of the usual lens, degrees from top to bottom. */
export const USUAL_FOV = 50;
/** Half of what the film is high, mm: it is 36 × 24. */
export const HALF_FILM = 12;

/** Where one stands and looks; world, any unit of length. */
export interface StillView {
  eye: Vec3;
  target: Vec3;
  lensMm?: number;
}

/** Part of a picture, px from its upper left. */
export interface PictureRegion {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** A picture's size and what of it is made. */
export interface StillFrame {
  widthPx: number;
  heightPx: number;
  region: PictureRegion;
}

/** All of a picture. */
export const wholeFrame = (widthPx: number, heightPx: number): StillFrame => ({
  widthPx,
  heightPx,
  region: { x: 0, y: 0, width: widthPx, height: heightPx },
});

/** Where rays of a picture go: from px, from its upper left, to a direction of length 1. y is up. */
export function raysOf(
  { eye, target, lensMm }: StillView,
  { widthPx, heightPx }: Pick<StillFrame, 'widthPx' | 'heightPx'>,
): (x: number, y: number) => Vec3 {
  const half = lensMm === undefined ? Math.tan((USUAL_FOV * Math.PI) / 360) : HALF_FILM / lensMm;
  const ahead = normalise(subtract(target, eye));
  // straight up or down, north is above
  const right = normalise(cross(ahead, Math.abs(ahead[1]) > 1 - 1e-9 ? [0, 0, Math.sign(ahead[1])] : [0, 1, 0]));
  const up = cross(right, ahead);
  return (x, y) => {
    const across = ((x / widthPx) * 2 - 1) * half * (widthPx / heightPx);
    const over = (1 - (y / heightPx) * 2) * half;
    return normalise([0, 1, 2].map((n) => ahead[n] + right[n] * across + up[n] * over) as Vec3);
  };
}
