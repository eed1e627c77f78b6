import { Nearest } from './nearest';
import { lightnessOf, type Plane, type Raster, shrinkFor } from './raster';
import { WindowNumbers } from './windows';

/** Where a picture was joined: for each row how far across, for each column how far down, shares of its size. */
export interface Seams {
  upright: Float32Array | null;
  level: Float32Array | null;
}

/** How often what lies over the edge or on a seam is like nothing within the picture: lines that end there. */
export interface BrokenFigure {
  /** Share of the places over the edge that are strange, 0..1; and of those along the seam. */
  edge: number;
  seam: number;
  /** The places that are, in shares of the picture. */
  places: { x: number; y: number }[];
}

/** More strange places than this are seen: a line that ends, a course that tapers, an edge of tone through a piece. */
export const BROKEN = 0.08;

const SIDE = 200;
/** A window's side, pixels of the shrunk picture: holds a joint and what lies on either side of it. */
const WINDOW = 13;
/** Cosines of a window that are compared, along each axis: finer ones are grain and noise. */
const WAVES = 6;
/** Windows within the picture that tell how strange is usual. */
const USUAL = 240;
/** So many of them may be stranger than what is usual: two of a hundred. */
const RARE = 4;
/** A place is strange beyond so many times what is usual. */
const BEYOND = 1.5;
/** What is less strange than this nobody sees, however even the rest is. */
const UNSEEN = 0.09;

/**
 * Every window over the edge and along a seam is looked for within the picture. What is laid has the like of every
 * place elsewhere; a joint that ends, a course that tapers, a thread that fades has not. Strange is a window whose
 * nearest like is further than those of nearly all windows within are from theirs, each measured by how much there is
 * to be seen in it. Windows are compared by their lowest cosines, their mean left out, since pieces differ in tone.
 *
 * @param r a picture that is to close on itself
 */
export function measureBroken(r: Raster, seams: Seams, closes: { across: boolean; down: boolean }): BrokenFigure {
  const by = shrinkFor(r, SIDE);
  const plane = lightnessOf(r, by);
  const { width, height } = plane;
  if (Math.min(width, height) < WINDOW * 4) return { edge: 0, seam: 0, places: [] };
  const at = (x: number, y: number): [number, number] => [
    ((Math.floor(x * width) % width) + width) % width,
    ((Math.floor(y * height) % height) + height) % height,
  ];
  const along = (n: number, place: (t: number) => [number, number]) =>
    Array.from({ length: n }, (_, k) => place((k + 0.5) / n));
  const of = (line: Float32Array, t: number) => line[Math.min(line.length - 1, Math.floor(t * line.length))];
  const edges = [
    ...(closes.across ? along(height, (t) => at(0, t)) : []),
    ...(closes.down ? along(width, (t) => at(t, 0)) : []),
  ];
  const { upright, level } = seams;
  const joined = [
    ...(upright ? along(height, (t) => at(of(upright, t), t)) : []),
    ...(level ? along(width, (t) => at(t, of(level, t))) : []),
  ];
  const windows = new Windows(plane, [...edges, ...joined]);
  if (windows.count < USUAL) return { edge: 0, seam: 0, places: [] };
  const limit = Math.max(UNSEEN, BEYOND * windows.rarelyPassed());
  const places: BrokenFigure['places'] = [];
  const share = (list: [number, number][]) => {
    const looked = list.filter((_, i) => i % 3 === 0);
    const strange = looked.filter(([x, y]) => windows.strangeness(x, y, limit) > limit);
    places.push(...strange.map(([x, y]) => ({ x: (x + 0.5) / width, y: (y + 0.5) / height })));
    return looked.length ? strange.length / looked.length : 0;
  };
  return { edge: share(edges), seam: share(joined), places };
}

/** All windows of a plane that keep away from some places. */
class Windows {
  private readonly numbers: WindowNumbers;
  private readonly places: Int32Array;
  private readonly nearest: Nearest;
  private readonly usual: number;
  readonly count: number;

  constructor(
    private readonly plane: Plane,
    away: readonly [number, number][],
  ) {
    const { width, height } = plane;
    const half = WINDOW >> 1;
    const kept = new Uint8Array(width * height).fill(1);
    for (const [x, y] of away)
      for (let j = -half; j <= half; j++)
        for (let i = -half; i <= half; i++) kept[((y + j + height) % height) * width + ((x + i + width) % width)] = 0;
    const found: number[] = [];
    for (let y = half; y < height - half; y++)
      for (let x = half; x < width - half; x++) if (kept[y * width + x]) found.push(y * width + x);
    this.numbers = new WindowNumbers(plane, WINDOW, WAVES);
    this.count = found.length;
    this.places = Int32Array.from(found);
    const all = new Float32Array(this.count * this.numbers.count);
    // by energy: where most is plain, lines still count against lines
    let energy = 0;
    found.forEach((p, i) => {
      energy += this.numbers.read(p % width, Math.floor(p / width), all, i * this.numbers.count);
    });
    this.usual = energy / Math.max(1, this.count);
    this.nearest = new Nearest(all, this.numbers.count);
  }

  /**
   * How far the nearest like of a window is, in shares of what there is to be seen in it.
   * @param enough what is no stranger than this is not measured further
   */
  strangeness(x: number, y: number, enough: number): number {
    const { width } = this.plane;
    const own = new Float32Array(this.numbers.count);
    const seen = this.numbers.read(x, y, own, 0) + this.usual / 2 + 1e-9;
    // what lies over the window itself is no like of it
    const least = this.nearest.distance(
      own,
      (i) => {
        const p = this.places[i];
        return Math.abs((p % width) - x) >= WINDOW || Math.abs(Math.floor(p / width) - y) >= WINDOW;
      },
      enough * seen,
    );
    return least / seen;
  }

  /** What only a few of the windows from everywhere are stranger than. */
  rarelyPassed(): number {
    const { width } = this.plane;
    const strangest = Array.from({ length: RARE + 1 }, () => -1);
    for (let i = 0; i < USUAL; i++) {
      const p = this.places[Math.floor(((i + 0.5) * this.count) / USUAL)];
      const own = this.strangeness(p % width, Math.floor(p / width), strangest[0]);
      if (own <= strangest[0]) continue;
      strangest[0] = own;
      strangest.sort((a, b) => a - b);
    }
    return strangest[0];
  }
}
