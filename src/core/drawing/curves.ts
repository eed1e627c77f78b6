import svgpath from 'svgpath';
import { type Affine, apply, stretchOf } from './affine';
import { CHORD_MM } from './types';

/** A line as it was drawn, in mm: closed where it ends as it began. */
export interface Line {
  points: [number, number][];
  closed: boolean;
}

/** Ends nearer than this are one, mm. */
const JOINED = 0.02;

/**
 * The lines of an SVG path, its curves as chords.
 * @param to mm from the path's own units
 * @throws Error where it is no path
 */
export function linesOfPath(d: string, to: Affine): Line[] {
  const path = svgpath(d).abs().unshort().unarc();
  const problem = (path as unknown as { err: string }).err;
  if (problem) throw new Error(problem.replace(/^SvgPath: /, ''));
  const lines: Line[] = [];
  let now: Line | null = null;
  const scale = stretchOf(to);
  const point = (x: number, y: number) => {
    if (!now) lines.push((now = { points: [], closed: false }));
    now.points.push(apply(to, x, y));
  };
  let first: [number, number] = [0, 0];
  path.iterate((segment, _n, x, y) => {
    const s = segment as [string, ...number[]];
    if (s[0] === 'M') {
      now = null;
      first = [s[1], s[2]];
      point(s[1], s[2]);
    } else if (s[0] === 'Z' || s[0] === 'z') {
      if (now) now.closed = true;
      now = null;
    } else {
      // a path may go on after it was closed, from where it began
      if (!now) point(...first);
      if (s[0] === 'H') point(s[1], y);
      else if (s[0] === 'V') point(x, s[1]);
      else if (s[0] === 'L') point(s[1], s[2]);
      else if (s[0] === 'Q') {
        const [qx, qy, ex, ey] = s.slice(1) as number[];
        curve(
          x,
          y,
          x + (2 / 3) * (qx - x),
          y + (2 / 3) * (qy - y),
          ex + (2 / 3) * (qx - ex),
          ey + (2 / 3) * (qy - ey),
          ex,
          ey,
        );
      } else if (s[0] === 'C') {
        const [ax, ay, bx, by, ex, ey] = s.slice(1) as number[];
        curve(x, y, ax, ay, bx, by, ex, ey);
      }
    }
  });

  function curve(x: number, y: number, ax: number, ay: number, bx: number, by: number, ex: number, ey: number): void {
    // a cubic lies off n chords by at most √3 / 18 of its largest second difference / n² × 6 / 8: Wang's bound, the
    // same read forwards and backwards, so that what two shapes share stays shared
    const bend = Math.max(Math.hypot(x - 2 * ax + bx, y - 2 * ay + by), Math.hypot(ax - 2 * bx + ex, ay - 2 * by + ey));
    const chords = Math.min(500, Math.max(1, Math.ceil(Math.sqrt((0.75 * bend * scale) / CHORD_MM))));
    for (let n = 1; n <= chords; n++) {
      const [t, u] = [n / chords, 1 - n / chords];
      const [p, q, r, s] = [u * u * u, 3 * u * u * t, 3 * u * t * t, t * t * t];
      point(p * x + q * ax + r * bx + s * ex, p * y + q * ay + r * by + s * ey);
    }
  }
  return lines.map(ended);
}

/** A line that ends as it began is closed; its end is not said twice. */
export function ended({ points, closed }: Line): Line {
  const out = points.filter((p, n) => !n || Math.hypot(p[0] - points[n - 1][0], p[1] - points[n - 1][1]) > 1e-6);
  const [a, b] = [out[0], out[out.length - 1]];
  const meets = out.length > 3 && Math.hypot(a[0] - b[0], a[1] - b[1]) < JOINED;
  return { points: meets ? out.slice(0, -1) : out, closed: closed || meets };
}

/** A full ellipse, or a circle, about a middle. */
export function ellipse(cx: number, cy: number, rx: number, ry: number, to: Affine): [number, number][] {
  const r = Math.max(rx, ry) * stretchOf(to);
  const step = 2 * Math.acos(Math.max(0, 1 - CHORD_MM / Math.max(r, 2 * CHORD_MM)));
  // by fours, so that it reaches as far as the round on every side
  const chords = 4 * Math.min(120, Math.max(3, Math.ceil(Math.PI / 2 / step)));
  return Array.from({ length: chords }, (_, n) => {
    const at = (2 * Math.PI * n) / chords;
    return apply(to, cx + rx * Math.cos(at), cy + ry * Math.sin(at));
  });
}

/**
 * Points of an arc from one to another, both left out; `bulge` is the tangent of a quarter of its angle, as DXF has it.
 */
export function bulged(
  [x0, y0]: readonly [number, number],
  [x1, y1]: readonly [number, number],
  bulge: number,
  to: Affine,
): [number, number][] {
  const chord = Math.hypot(x1 - x0, y1 - y0);
  const angle = 4 * Math.atan(bulge);
  const r = chord / (2 * Math.abs(Math.sin(angle / 2)));
  const real = r * stretchOf(to);
  const step = 2 * Math.acos(Math.max(0, 1 - CHORD_MM / Math.max(real, 2 * CHORD_MM)));
  const chords = Math.min(480, Math.max(1, Math.ceil(Math.abs(angle) / step)));
  // the middle lies to the left of the chord for a bulge above zero
  const away =
    Math.sqrt(Math.max(0, r * r - (chord * chord) / 4)) * (Math.abs(angle) > Math.PI ? -1 : 1) * Math.sign(bulge);
  const [mx, my] = [(x0 + x1) / 2 - ((y1 - y0) / chord) * away, (y0 + y1) / 2 + ((x1 - x0) / chord) * away];
  const from = Math.atan2(y0 - my, x0 - mx);
  return Array.from({ length: chords - 1 }, (_, n) => {
    const at = from + (angle * (n + 1)) / chords;
    return apply(to, mx + r * Math.cos(at), my + r * Math.sin(at));
  });
}
