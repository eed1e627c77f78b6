import type { Module } from './modules';

/**
 * How much of a footprint is piece and not joint, 0 … 1: the formula of the views' shader, for whatever else must show
 * joints thinner than what it samples.
 *
 * Rectangles exactly, as a box filter over a pulse that is 1 on pieces and 0 on joints and repeats at the piece's own
 * pitch. Other shapes by the distance to the nearest side near by, and by the share of the area far away.
 *
 * @param coverage the formula of the piece’s module
 * @param l from the piece's middle along its length, mm
 * @param w across it
 * @param half half sides of the piece, mm
 * @param inset half a joint along and across, mm
 * @param footprint sides of what is sampled along and across, mm
 */
export function pieceShare(
  coverage: Module['coverage'],
  l: number,
  w: number,
  half: readonly [number, number],
  inset: readonly [number, number],
  footprint: readonly [number, number],
): number {
  if (coverage === 'rectangle') {
    return pulse(l, half[0], inset[0], footprint[0]) * pulse(w, half[1], inset[1], footprint[1]);
  }
  const flat = coverage === 'hexagonFlatUp';
  return hexagonShare(
    Math.abs(flat ? w : l),
    Math.abs(flat ? l : w),
    flat ? half[1] : half[0],
    flat ? inset[1] : inset[0],
    Math.max(footprint[0], footprint[1]),
  );
}

/** Share of x − f/2 … x + f/2 that lies on pieces of half side h with half a joint j on either side. */
function pulse(x: number, h: number, j: number, f: number): number {
  if (!(f > 0)) return Math.abs(x) <= h ? 1 : 0;
  const pitch = 2 * (h + j);
  const covered = (to: number) => {
    const n = Math.floor(to / pitch + 0.5);
    return n * 2 * h + Math.min(h, Math.max(-h, to - n * pitch));
  };
  return Math.min(1, Math.max(0, (covered(x + f / 2) - covered(x - f / 2)) / f));
}

/** @param apothem half the piece across its flats, which lie along `across` */
function hexagonShare(across: number, up: number, apothem: number, inset: number, f: number): number {
  const d = apothem - Math.max(across, across * 0.5 + up * (Math.sqrt(3) / 2));
  if (!(f > 0)) return d >= 0 ? 1 : 0;
  const share = apothem ** 2 / (apothem + inset) ** 2;
  const clamp = (v: number) => Math.min(1, Math.max(0, v));
  // between, the joint takes its own width of the footprint and no more
  const thin = 1 - Math.min(1, (2 * inset) / f) * clamp(1 - Math.abs(d + inset) / (f * 0.5 + inset));
  const near = f > 2 * inset ? thin : clamp(0.5 + d / f);
  const t = clamp((f / apothem - 0.4) / 0.8);
  const far = t * t * (3 - 2 * t);
  return near + (share - near) * far;
}
