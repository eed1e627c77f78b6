import { rehash, unit } from '../noise/hash';
import { type Cells, CHUNK } from '../layout/cells';
import type { OpenLayout } from '../layout/types';
import type { Material } from '../material/schema';
import type { Dealer } from './deal';
import type { Prints } from './prints';
import type { VariationSpec } from './schema';
import type { Tones } from './tone';

/** One of the materials pieces are made of. */
export interface PieceMaterial {
  material: Material;
  widthMm: number;
  heightMm: number;
  prints: Prints;
  /** [cos, sin] of the turns a print can have. */
  turns: readonly (readonly [number, number])[];
  tones: Tones;
}

/** Everything that decides what pieces look like. */
export interface Varied {
  variation: VariationSpec;
  /** The main material first, then those mixed in. */
  materials: readonly PieceMaterial[];
  dealer: Dealer;
  /** Pieces lie mirrored, their pictures do not. */
  upright: boolean;
}

/** What a piece looks like: where in which picture it is cut from, and how it differs from others. */
export interface Appearance {
  material: number;
  print: number;
  seed: number;
  /** Repeats of the picture at the piece's middle, and their change for each mm along and across it. */
  u: number;
  v: number;
  uAlong: number;
  uAcross: number;
  vAlong: number;
  vAcross: number;
  /** Linear gains 0..1. */
  gain: Float64Array;
  /** Lean of the face along and across, radians. */
  leanAlong: number;
  leanAcross: number;
}

export const blankAppearance = (): Appearance => ({
  material: 0,
  print: 0,
  seed: 0,
  u: 0,
  v: 0,
  uAlong: 0,
  uAcross: 0,
  vAlong: 0,
  vAcross: 0,
  gain: new Float64Array([1, 1, 1]),
  leanAlong: 0,
  leanAcross: 0,
});

/**
 * Pieces and their looks as rows of numbers, used again and again: a large floor has hundreds of thousands, and one
 * kind of number after the other is worked out several times as fast as one piece after the other.
 */
export class AppearanceRows {
  count = 0;
  /** Which pieces: middle and direction of their length in the layout's frame, half sides of their cells. */
  readonly course: Int32Array;
  readonly index: Int32Array;
  readonly x: Float64Array;
  readonly y: Float64Array;
  readonly ax: Float64Array;
  readonly ay: Float64Array;
  readonly a: Float64Array;
  readonly b: Float64Array;
  /** Index into the layout's modules. */
  readonly module: Uint16Array;
  /** What they look like, as in `Appearance`. */
  readonly material: Uint8Array;
  readonly seed: Uint32Array;
  readonly print: Int32Array;
  readonly u: Float64Array;
  readonly v: Float64Array;
  readonly uAlong: Float64Array;
  readonly uAcross: Float64Array;
  readonly vAlong: Float64Array;
  readonly vAcross: Float64Array;
  readonly red: Float64Array;
  readonly green: Float64Array;
  readonly blue: Float64Array;
  /** Whether any of them lean. */
  lean = false;
  readonly leanAlong: Float64Array;
  readonly leanAcross: Float64Array;

  /** Places of the pieces by material and module, and where each pair of these begins; found when asked for. */
  private readonly order: Uint16Array;
  private starts: Uint32Array | null = null;
  private modulesSeen = 1;

  constructor(room = CHUNK) {
    this.order = new Uint16Array(room);
    this.course = new Int32Array(room);
    this.index = new Int32Array(room);
    this.module = new Uint16Array(room);
    this.material = new Uint8Array(room);
    this.seed = new Uint32Array(room);
    this.print = new Int32Array(room);
    const floats = () => new Float64Array(room);
    [this.x, this.y, this.ax, this.ay, this.a, this.b] = [floats(), floats(), floats(), floats(), floats(), floats()];
    [this.u, this.v, this.uAlong, this.uAcross, this.vAlong, this.vAcross] = [
      floats(),
      floats(),
      floats(),
      floats(),
      floats(),
      floats(),
    ];
    [this.red, this.green, this.blue, this.leanAlong, this.leanAcross] = [
      floats(),
      floats(),
      floats(),
      floats(),
      floats(),
    ];
  }

  /** Asks for the first `count` cells that `which` names, in rising order. */
  ask(cells: Cells, which: Uint16Array, count: number, { axes, modules }: Pick<OpenLayout, 'axes' | 'modules'>): void {
    this.count = count;
    this.starts = null;
    const { course, index, module, x, y, a, b, ax, ay } = this;
    if (count === cells.count) {
      // all of them, as they are
      course.set(cells.course);
      index.set(cells.index);
      x.set(cells.x);
      y.set(cells.y);
      a.set(cells.halfLength);
      b.set(cells.halfWidth);
    } else {
      for (let k = 0; k < count; k++) {
        const n = which[k];
        course[k] = cells.course[n];
        index[k] = cells.index[n];
        x[k] = cells.x[n];
        y[k] = cells.y[n];
        a[k] = cells.halfLength[n];
        b[k] = cells.halfWidth[n];
      }
    }
    if (modules.length > 1) for (let k = 0; k < count; k++) module[k] = cells.kind[which[k]].module;
    if (axes.length === 1) {
      ax.fill(axes[0][0]);
      ay.fill(axes[0][1]);
      return;
    }
    for (let k = 0; k < count; k++) {
      const axis = axes[cells.axis[which[k]]];
      ax[k] = axis[0];
      ay[k] = axis[1];
    }
  }

  /** The pieces of one material and module alone, copied to `out`: all that is needed to draw them. */
  only(material: number, module: number, out: AppearanceRows): AppearanceRows {
    if (!this.starts) this.sortByModule();
    const { order, starts, modulesSeen } = this;
    const key = module < modulesSeen ? material * modulesSeen + module : starts!.length;
    const [from, to] = key + 1 < starts!.length ? [starts![key], starts![key + 1]] : [0, 0];
    out.count = to - from;
    out.lean = this.lean;
    if (out.count) for (const column of DRAWN) pick(this[column], order, from, out[column], out.count);
    return out;
  }

  /** Where the pieces of each material and module stand in `order`: looked through once for all of them. */
  private sortByModule(): void {
    const { count, material, module, order } = this;
    let [materials, modules] = [1, 1];
    for (let k = 0; k < count; k++) {
      if (material[k] >= materials) materials = material[k] + 1;
      if (module[k] >= modules) modules = module[k] + 1;
    }
    const starts = new Uint32Array(materials * modules + 1);
    for (let k = 0; k < count; k++) starts[material[k] * modules + module[k] + 1]++;
    for (let n = 1; n < starts.length; n++) starts[n] += starts[n - 1];
    const next = starts.slice();
    for (let k = 0; k < count; k++) order[next[material[k] * modules + module[k]]++] = k;
    this.starts = starts;
    this.modulesSeen = modules;
  }
}

function pick(from: Float64Array, order: Uint16Array, first: number, to: Float64Array, count: number): void {
  for (let k = 0; k < count; k++) to[k] = from[order[first + k]];
}

const DRAWN = [
  'x',
  'y',
  'ax',
  'ay',
  'a',
  'b',
  'u',
  'v',
  'uAlong',
  'uAcross',
  'vAlong',
  'vAcross',
  'red',
  'green',
  'blue',
  'leanAlong',
  'leanAcross',
] as const;

const SALT = { turn: 3, size: 4, flipAlong: 5, flipAcross: 6, leanAlong: 14, leanAcross: 15 };

/** Works out the looks of all the pieces asked for. */
export function showPieces(varied: Varied, rows: AppearanceRows): void {
  const { dealer, variation, materials } = varied;
  dealer.deal(rows);
  materials.forEach((m, n) => {
    if (n > 0 && !rows.material.includes(n)) return;
    if (!variation.on) {
      showPlain(varied, m, n, rows);
      return;
    }
    m.prints.place(rows, n);
    orient(varied, m, n, rows);
    m.tones.gain(rows, n);
  });
  lean(variation.on ? (variation.tiltDeg * Math.PI) / 180 : 0, rows);
}

/** From picture mm to repeats, and how the picture lies on the piece. */
function orient({ variation, materials, upright }: Varied, m: PieceMaterial, n: number, rows: AppearanceRows): void {
  const { count, seed, material, u, v, uAlong, uAcross, vAlong, vAcross } = rows;
  const { turns } = m;
  const { from, to } = variation.sizePercent;
  const { flipAlong, flipAcross } = variation;
  const perWidth = 1 / m.widthMm;
  const perHeight = 1 / m.heightMm;
  const plain = 100 / from / m.prints.enlarged;
  const way = upright ? -1 : 1;
  const [cos, sin] = turns[0];
  if (materials.length === 1 && turns.length === 1 && from === to && !flipAlong && !flipAcross) {
    for (let k = 0; k < count; k++) {
      u[k] *= perWidth;
      v[k] *= perHeight;
    }
    uAlong.fill(cos * way * plain * perWidth, 0, count);
    uAcross.fill(-sin * plain * perWidth, 0, count);
    vAlong.fill(sin * way * plain * perHeight, 0, count);
    vAcross.fill(cos * plain * perHeight, 0, count);
    return;
  }
  for (let k = 0; k < count; k++) {
    if (material[k] !== n) continue;
    const s = seed[k];
    const [c, d] = turns.length > 1 ? turns[Math.floor(chance(s, SALT.turn) * turns.length)] : turns[0];
    const size = from === to ? plain : 100 / (from + (to - from) * chance(s, SALT.size)) / m.prints.enlarged;
    const along = way * (flipAlong && chance(s, SALT.flipAlong) < 0.5 ? -size : size);
    const across = flipAcross && chance(s, SALT.flipAcross) < 0.5 ? -size : size;
    u[k] *= perWidth;
    v[k] *= perHeight;
    uAlong[k] = c * along * perWidth;
    uAcross[k] = -d * across * perWidth;
    vAlong[k] = d * along * perHeight;
    vAcross[k] = c * across * perHeight;
  }
}

/** @param most radians */
function lean(most: number, rows: AppearanceRows): void {
  const { count, seed, leanAlong, leanAcross } = rows;
  rows.lean = most > 0;
  if (!rows.lean) {
    leanAlong.fill(0, 0, count);
    leanAcross.fill(0, 0, count);
    return;
  }
  for (let k = 0; k < count; k++) {
    // across no more than is left of the limit
    const along = 2 * chance(seed[k], SALT.leanAlong) - 1;
    leanAlong[k] = most * along;
    leanAcross[k] = most * Math.sqrt(1 - along * along) * (2 * chance(seed[k], SALT.leanAcross) - 1);
  }
}

/** Without variation the picture lies on all pieces as on one whole. */
function showPlain({ variation, upright }: Varied, m: PieceMaterial, n: number, rows: AppearanceRows): void {
  const way = upright ? -1 : 1;
  const [px, py] = variation.pictureAtMm ?? [0, 0];
  for (let k = 0; k < rows.count; k++) {
    if (rows.material[k] !== n) continue;
    const { u, v, uAlong, uAcross, vAlong, vAcross } = wholeAt(
      m,
      rows.x[k] - px,
      rows.y[k] - py,
      rows.ax[k],
      rows.ay[k],
    );
    rows.print[k] = 0;
    rows.u[k] = way * u;
    rows.v[k] = v;
    rows.uAlong[k] = way * uAlong;
    rows.uAcross[k] = way * uAcross;
    rows.vAlong[k] = vAlong;
    rows.vAcross[k] = vAcross;
    rows.red[k] = rows.green[k] = rows.blue[k] = 1 / m.tones.most;
  }
}

const one = new AppearanceRows(1);

/**
 * The look of one piece, written to `out`.
 * @param x middle of the piece in the layout's frame, mm
 * @param axis [cos, sin] of its length
 */
export function showPiece(
  varied: Varied,
  course: number,
  index: number,
  x: number,
  y: number,
  axis: readonly [number, number],
  out: Appearance,
): Appearance {
  one.count = 1;
  one.course[0] = course;
  one.index[0] = index;
  one.x[0] = x;
  one.y[0] = y;
  one.ax[0] = axis[0];
  one.ay[0] = axis[1];
  showPieces(varied, one);
  out.material = one.material[0];
  out.print = one.print[0];
  out.seed = one.seed[0];
  out.u = one.u[0];
  out.v = one.v[0];
  out.uAlong = one.uAlong[0];
  out.uAcross = one.uAcross[0];
  out.vAlong = one.vAlong[0];
  out.vAcross = one.vAcross[0];
  out.gain[0] = one.red[0];
  out.gain[1] = one.green[0];
  out.gain[2] = one.blue[0];
  out.leanAlong = one.leanAlong[0];
  out.leanAcross = one.leanAcross[0];
  return out;
}

/**
 * Coordinates of the picture as it lies on the whole surface, for a piece with its middle at `at` in the layout's
 * frame.
 */
export function showOnWhole(
  size: { widthMm: number; heightMm: number },
  at: readonly [number, number],
  axis: readonly [number, number],
  out: Appearance,
): Appearance {
  return Object.assign(out, wholeAt(size, at[0], at[1], axis[0], axis[1]));
}

const wholeAt = (
  { widthMm, heightMm }: { widthMm: number; heightMm: number },
  x: number,
  y: number,
  ax: number,
  ay: number,
) => ({
  u: x / widthMm,
  v: y / heightMm,
  uAlong: ax / widthMm,
  uAcross: -ay / widthMm,
  vAlong: ay / heightMm,
  vAcross: ax / heightMm,
});

const chance = (seed: number, salt: number) => unit(rehash(seed, salt));
