import type { Ground } from '../picture/camera';
import { hashUnit, tileNoise } from '../noise/tiles';

/** Twelve patterns as they lie laid, on which no step of prep was tuned: for tests alone. */
const { abs, floor, max, min } = Math;
const FAR = 4096;

type Colour = readonly [number, number, number];

/** Which piece a place lies in, and how far it is from the piece's edge, mm. */
type Cells = (x: number, y: number, out: { i: number; j: number; edge: number }) => void;

/** Pieces of differing tones with joints between them; arrises a little worn. */
const laid = (cells: Cells, jointMm: number, piece: Colour, joint: Colour, seed: number): Ground => {
  const at = { i: 0, j: 0, edge: 0 };
  return (x, y, out) => {
    cells(x, y, at);
    const wear = tileNoise(x / 12, y / 12, FAR, FAR, seed) * 0.5;
    const sand = 0.04 * tileNoise(x / 2.2, y / 2.2, FAR, FAR, seed + 1);
    const tone =
      at.edge < jointMm / 2 + wear
        ? 1 + sand
        : 1 +
          (hashUnit(at.i, at.j, seed + 2) - 0.5) * 0.16 +
          0.04 * tileNoise(x / 24, y / 18, FAR, FAR, seed + 3) +
          sand;
    const of = at.edge < jointMm / 2 + wear ? joint : piece;
    for (let c = 0; c < 3; c++) out[c] = of[c] * tone;
  };
};

/** Courses of one height, each moved on by a share of a piece. */
const courses =
  (length: number, height: number, shift: number): Cells =>
  (x, y, out) => {
    out.j = floor(y / height);
    const s = x / length - out.j * shift;
    out.i = floor(s);
    const [u, v] = [(s - out.i) * length, y - out.j * height];
    out.edge = min(u, length - u, v, height - v);
  };

/** Two by one laid at right angles, in steps. */
const herringbone =
  (broad: number): Cells =>
  (x, y, out) => {
    const [i, j] = [floor(x / broad), floor(y / broad)];
    const turn = (((i - j) % 4) + 4) % 4;
    // 0 and 1: the left and the right half of one that lies; 2 and 3: the upper and the lower half of one that stands
    const lies = turn < 2;
    out.i = lies ? i - turn : i;
    out.j = lies ? j : j - (turn === 2 ? 1 : 0);
    const [u, v] = [x - out.i * broad, y - out.j * broad];
    const [w, h] = lies ? [2 * broad, broad] : [broad, 2 * broad];
    out.edge = min(u, w - u, v, h - v);
    if (!lies) out.i += 100_000;
  };

/** Octagons with squares set on edge where four of them meet. */
const octagons =
  (side: number, cut: number): Cells =>
  (x, y, out) => {
    [out.i, out.j] = [floor(x / side), floor(y / side)];
    const [u, v] = [x - (out.i + 0.5) * side, y - (out.j + 0.5) * side];
    const corner = (side - cut - abs(u) - abs(v)) / Math.SQRT2;
    if (corner < 0) {
      [out.i, out.j] = [out.i + (u > 0 ? 1 : 0) + 100_000, out.j + (v > 0 ? 1 : 0)];
      out.edge = -corner;
    } else out.edge = min(side / 2 - abs(u), side / 2 - abs(v), corner);
  };

/** Bands of three widths crossing at right angles, as in a checked cloth; its threads are seen. */
const checked =
  (period: number, of: Colour, band: Colour, seed: number): Ground =>
  (x, y, out) => {
    const share = (t: number) => {
      const u = (((t / period) % 1) + 1) % 1;
      return u < 0.3 ? 1 : u > 0.55 && u < 0.62 ? 0.7 : 0;
    };
    const k = max(0, min(1, (share(x) + share(y)) / 2));
    const thread =
      1 + 0.06 * tileNoise(x / 1.5, y / 6, FAR, FAR, seed) + 0.06 * tileNoise(x / 6, y / 1.5, FAR, FAR, seed + 1);
    for (let c = 0; c < 3; c++) out[c] = (of[c] + (band[c] - of[c]) * k) * thread;
  };

const LIME: Colour = [0.78, 0.75, 0.69];
const SOOT: Colour = [0.2, 0.19, 0.18];

export const PATTERNS: Record<string, { ground: Ground; seenMm: number }> = {
  'half bond, light joints': { seenMm: 1150, ground: laid(courses(230, 72, 0.5), 11, [0.58, 0.34, 0.25], LIME, 201) },
  'half bond, dark joints': { seenMm: 1400, ground: laid(courses(250, 64, 0.5), 9, [0.7, 0.62, 0.5], SOOT, 211) },
  'third bond, light joints': { seenMm: 1300, ground: laid(courses(210, 60, 1 / 3), 8, [0.42, 0.4, 0.42], LIME, 221) },
  'third bond, dark joints': { seenMm: 1500, ground: laid(courses(240, 70, 1 / 3), 10, [0.66, 0.45, 0.33], SOOT, 231) },
  'tiles, light joints': { seenMm: 900, ground: laid(courses(150, 150, 0), 4, [0.33, 0.44, 0.46], LIME, 241) },
  'tiles, dark joints': { seenMm: 1000, ground: laid(courses(200, 100, 0), 5, [0.82, 0.8, 0.76], SOOT, 251) },
  'checks, light bands': { seenMm: 400, ground: checked(62, [0.3, 0.24, 0.3], [0.72, 0.68, 0.6], 261) },
  'checks, dark bands': { seenMm: 500, ground: checked(84, [0.75, 0.7, 0.62], [0.24, 0.3, 0.36], 271) },
  'herringbone, light joints': { seenMm: 800, ground: laid(herringbone(65), 5, [0.5, 0.33, 0.24], LIME, 281) },
  'herringbone, dark joints': { seenMm: 900, ground: laid(herringbone(70), 4, [0.62, 0.52, 0.4], SOOT, 291) },
  'octagons, light joints': { seenMm: 900, ground: laid(octagons(150, 42), 5, [0.4, 0.35, 0.33], LIME, 301) },
  'octagons, dark joints': { seenMm: 1000, ground: laid(octagons(170, 50), 5, [0.8, 0.76, 0.7], SOOT, 311) },
};
