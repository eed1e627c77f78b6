import type { Placement } from './placement';
import { turnOf } from '../geometry/turn';
import type { Vec2 } from '../geometry/vec';
import type { Bounds2 } from '../geometry/bounds';

/** What dragging the handles on a sheet means; screens only tell where the pointer is, in sheet millimetres. */

/** Corners of one picture: start, along its width, opposite, along its height. */
export function pictureFrame(p: Placement): [Vec2, Vec2, Vec2, Vec2] {
  const [c, s] = turnOf(p.turnDeg);
  const w = p.mirrorX ? -p.widthMm : p.widthMm;
  const h = p.mirrorY ? -p.heightMm : p.heightMm;
  const [x, y] = p.at;
  const along: Vec2 = [c * w, s * w];
  const up: Vec2 = [-s * h, c * h];
  return [
    [x, y],
    [x + along[0], y + along[1]],
    [x + along[0] + up[0], y + along[1] + up[1]],
    [x + up[0], y + up[1]],
  ];
}

/** Rounds to the coarsest of 1, 2, 5 × 10ⁿ mm that is finer than `grain` mm, so that a drag lands on round values. */
export function roundStep(grain: number): number {
  const power = 10 ** Math.floor(Math.log10(Math.max(grain, 0.01)));
  for (const m of [5, 2, 1]) if (m * power <= grain) return m * power;
  return power;
}

const roundTo = (v: number, step: number) => Math.round(Math.round(v / step) * step * 1e6) / 1e6;

export interface Snapped {
  at: Vec2;
  /** Sheet lines the picture snapped to, for guides: x and y or null. */
  guides: [number | null, number | null];
}

/**
 * Where a slid picture comes to lie: on an edge or middle of the sheet when one of its own lines (edges or middle, any
 * repeat) is within `reach` of it, else on a round offset from the datum.
 *
 * @param at where the pointer would put it
 * @param step round values, mm; 0 for free
 */
export function snapSlide(p: Placement, at: Vec2, datum: Vec2, bounds: Bounds2, reach: number, step: number): Snapped {
  const free: Vec2 =
    step > 0 ? [datum[0] + roundTo(at[0] - datum[0], step), datum[1] + roundTo(at[1] - datum[1], step)] : at;
  const quarter = ((Math.round(p.turnDeg / 90) % 4) + 4) % 4;
  if (!(step > 0) || Math.abs(p.turnDeg / 90 - Math.round(p.turnDeg / 90)) > 1e-9)
    return { at: free, guides: [null, null] };
  const [w, h] = quarter % 2 ? [p.heightMm, p.widthMm] : [p.widthMm, p.heightMm];
  const lines: [number[], number[]] = [
    [bounds.minX, (bounds.minX + bounds.maxX) / 2, bounds.maxX],
    [bounds.minY, (bounds.minY + bounds.maxY) / 2, bounds.maxY],
  ];
  const out: Snapped = { at: [...free], guides: [null, null] };
  for (const axis of [0, 1] as const) {
    const period = axis === 0 ? w : h;
    let best = reach;
    for (const line of lines[axis]) {
      for (const part of [0, 0.5]) {
        // distance from the line to the nearest repeat of this line of the picture
        const off = line - at[axis] - part * period;
        const rest = off - Math.round(off / period) * period;
        if (Math.abs(rest) < best) {
          best = Math.abs(rest);
          out.at[axis] = Math.round((at[axis] + rest) * 1e4) / 1e4;
          out.guides[axis] = line;
        }
      }
    }
  }
  return out;
}

/** The size a picture gets when its far corner is pulled to `to`; at least a millimetre. */
export function pullSize(p: Placement, to: Vec2, locked: boolean, step: number): { widthMm: number; heightMm: number } {
  const [c, s] = turnOf(p.turnDeg);
  const dx = to[0] - p.at[0];
  const dy = to[1] - p.at[1];
  const along = (c * dx + s * dy) * (p.mirrorX ? -1 : 1);
  const up = (-s * dx + c * dy) * (p.mirrorY ? -1 : 1);
  const tidy = (v: number) => Math.max(1, step > 0 ? roundTo(v, step) : v);
  if (!locked) return { widthMm: tidy(along), heightMm: tidy(up) };
  const aspect = p.heightMm / p.widthMm;
  // the pointer's place projected on the picture's diagonal
  const widthMm = tidy((along + up * aspect) / (1 + aspect * aspect));
  return { widthMm, heightMm: Math.round(widthMm * aspect * 1e4) / 1e4 };
}

/** The angle of the picture when its turning handle (above its middle of width) is pulled to `to`, −180..180. */
export function pullTurn(p: Placement, to: Vec2, free: boolean): number {
  const raw = (Math.atan2(to[1] - p.at[1], to[0] - p.at[0]) * 180) / Math.PI - (p.mirrorX ? 180 : 0);
  const deg = ((((raw + 180) % 360) + 360) % 360) - 180;
  if (free) return Math.round(deg * 100) / 100;
  const near = Math.round(deg / 15) * 15;
  const value = Math.abs(deg - near) < 3 ? near : Math.round(deg);
  return value === -180 ? 180 : value;
}
