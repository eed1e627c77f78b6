import type { OpenLayout } from '../layout/types';
import { below, hash, rehash, unit } from '../noise/hash';
import { ACCENT, type MixEntry, type MixSpec } from '../layout/mix';
import type { Prints } from './prints';
import type { VariationSpec } from './schema';

/** Classes are few, and a piece looks only at lower ones: calls never go deeper. */
const DEEPEST = 12;
/** A power of two. */
const KEPT = 8192;
/** Prints for each class from which on the prints are shared out among the classes. */
const SHARED_OUT = 16;

/**
 * Decides for every piece of a surface its chance, its material and its print; a pure function of what it is made of.
 */
export interface Dealer {
  seedOf(course: number, index: number): number;
  /** Index into the materials of the surface; 0 is the main one. */
  materialOf(course: number, index: number): number;
  /** The print of a piece, one its neighbours of lower class do not have while there are others. */
  printOf(course: number, index: number): number;
  /** All three for many pieces. */
  deal(rows: PieceRows): void;
}

/** Pieces to be dealt to, and what they get. */
export interface PieceRows {
  count: number;
  course: Int32Array;
  index: Int32Array;
  seed: Uint32Array;
  material: Uint8Array;
  print: Int32Array;
}

/**
 * @param prints one for each material of the surface
 * @param mix which of them a piece is of; entry n means material n + 1
 */
export function openDealer(
  layout: Pick<OpenLayout, 'classes' | 'classOf' | 'neighbours' | 'roleOf' | 'mostNeighbours'>,
  variation: VariationSpec,
  prints: Prints[],
  mix: MixSpec,
): Dealer {
  const { shuffle } = variation;
  const pins = new Map(variation.pins.map((p) => [keyOf(p.course, p.index), p]));
  const deals = new Map(variation.deals.map((d) => [keyOf(d.course, d.index), d.deal]));
  const beside = Array.from({ length: DEEPEST }, () => new Int32Array(layout.mostNeighbours * 2 + 2));
  const taken = Array.from({ length: DEEPEST }, () => new Int32Array(layout.mostNeighbours + 1));

  const seedOf = (course: number, index: number): number => {
    if (pins.size) {
      const pin = pins.get(keyOf(course, index));
      if (pin) return pin.seed;
    }
    return hash(shuffle, course, index, deals.size ? (deals.get(keyOf(course, index)) ?? 0) : 0);
  };

  const active = mix.entries.map((entry, n) => ({ ...entry, n: n + 1 })).filter((e) => e.on);
  const shares = active.reduce((n, e) => n + e.share, 0);
  // what is switched off keeps its place, and the main material fills it
  const sequence = [...times(0, mix.times), ...mix.entries.flatMap((e, n) => times(e.on ? n + 1 : 0, e.times))];
  const materialOf = (course: number, index: number): number => {
    if (!active.length) return 0;
    if (mix.by === 'sequence') return sequence[mod(mix.runs === 'across' ? course : index, sequence.length)];
    if (mix.by === 'accent') return active.find((e) => isAccent(e, shuffle, course, index))?.n ?? 0;
    if (mix.by === 'share') {
      // shares beyond the whole are drawn in proportion; the main material has what is left. From the piece's own seed,
      // so that a pinned piece keeps its material with its print
      let left = unit(rehash(seedOf(course, index), 77)) * Math.max(1, shares);
      for (const e of active) {
        left -= e.share;
        if (left < 0) return e.n;
      }
      return 0;
    }
    for (const e of active) {
      const fits = mix.by === 'role' ? layout.roleOf(course, index) === e.role : mod(course - e.first, e.every) === 0;
      if (fits) return e.n;
    }
    return 0;
  };

  // a piece is asked for by each of its neighbours: the last few thousand answers are kept
  const keptCourse = new Int32Array(KEPT).fill(-2147483648);
  const keptIndex = new Int32Array(KEPT);
  const keptPrint = new Int32Array(KEPT);
  const dealTo = (course: number, index: number, depth: number): number => {
    const slot = (Math.imul(course, 1031) + index) & (KEPT - 1);
    if (keptCourse[slot] === course && keptIndex[slot] === index) return keptPrint[slot];
    const print = draw(course, index, depth);
    keptCourse[slot] = course;
    keptIndex[slot] = index;
    keptPrint[slot] = print;
    return print;
  };

  const draw = (course: number, index: number, depth: number): number => {
    const material = materialOf(course, index);
    const { distinct } = prints[material];
    if (pins.size) {
      const pin = pins.get(keyOf(course, index));
      if (pin) return pin.print % distinct;
    }
    const seed = seedOf(course, index);
    if (distinct >= layout.classes * SHARED_OUT) return drawOwn(course, index, material, seed, distinct);
    let print = below(seed, distinct);
    if (distinct < 2 || depth >= DEEPEST) return print;
    const rank = layout.classOf(course, index);
    if (rank === 0 && !pins.size) return print;
    const near = beside[depth];
    const used = taken[depth];
    const found = layout.neighbours(course, index, near);
    let n = 0;
    for (let k = 0; k < found; k++) {
      const c = near[k * 2];
      const i = near[k * 2 + 1];
      // pinned pieces come first, then lower classes
      const pinned = pins.size > 0 && pins.has(keyOf(c, i));
      if (!pinned && layout.classOf(c, i) >= rank) continue;
      if (active.length && materialOf(c, i) !== material) continue;
      n = insert(used, n, dealTo(c, i, depth + 1));
    }
    if (n < distinct && holds(used, n, print)) print = freeOne(used, n, below(rehash(seed, 20), distinct - n));
    return print;
  };

  const countOwn = (distinct: number, rank: number) => Math.floor((distinct - rank - 1) / layout.classes) + 1;
  /** With prints in plenty each class has its own, every n-th: neighbours need not be asked, but for pinned ones. */
  const drawOwn = (course: number, index: number, material: number, seed: number, distinct: number): number => {
    const { classes } = layout;
    const rank = layout.classOf(course, index);
    const own = countOwn(distinct, rank);
    const nth = below(seed, own);
    if (pins.size === 0) return rank + nth * classes;
    const near = beside[0];
    const used = taken[0];
    const found = layout.neighbours(course, index, near);
    let n = 0;
    for (let k = 0; k < found; k++) {
      const pin = pins.get(keyOf(near[k * 2], near[k * 2 + 1]));
      const print = pin && materialOf(near[k * 2], near[k * 2 + 1]) === material ? pin.print % distinct : -1;
      if (print >= 0 && print % classes === rank) n = insert(used, n, (print - rank) / classes);
    }
    if (n < own && holds(used, n, nth)) return rank + freeOne(used, n, below(rehash(seed, 20), own - n)) * classes;
    return rank + nth * classes;
  };
  const plain = active.length === 0 && pins.size === 0 && prints[0].distinct >= layout.classes * SHARED_OUT;
  const ownOf = Int32Array.from({ length: layout.classes }, (_, rank) => countOwn(prints[0].distinct, rank));
  const printOf = (course: number, index: number): number => dealTo(course, index, 0);
  return {
    seedOf,
    materialOf,
    printOf,
    deal({ count, course, index, seed, material, print }) {
      if (!pins.size && !deals.size) for (let k = 0; k < count; k++) seed[k] = hash(shuffle, course[k], index[k], 0);
      else for (let k = 0; k < count; k++) seed[k] = seedOf(course[k], index[k]);
      if (plain) {
        material.fill(0, 0, count);
        for (let k = 0; k < count; k++) {
          const rank = layout.classOf(course[k], index[k]);
          print[k] = rank + layout.classes * below(seed[k], ownOf[rank]);
        }
        return;
      }
      for (let k = 0; k < count; k++) {
        material[k] = materialOf(course[k], index[k]);
        print[k] = printOf(course[k], index[k]);
      }
    },
  };
}

const mod = (v: number, n: number): number => ((v % n) + n) % n;
const times = (n: number, count = 1): number[] => Array.from({ length: count }, () => n);

/**
 * One piece in each block of courses and indices, at a place drawn for the block, so far from its upper and right edges
 * that between two there are always as many pieces as asked.
 */
function isAccent({ n, ...entry }: MixEntry & { n: number }, shuffle: number, course: number, index: number): boolean {
  const { oneIn = ACCENT.oneIn, apart = ACCENT.apart } = entry;
  // not so small that two of them cannot keep their distance
  const high = Math.max(apart + 1, Math.floor(Math.sqrt(oneIn)));
  const wide = Math.max(apart + 1, Math.round(oneIn / high));
  const [block, along] = [Math.floor(course / high), Math.floor(index / wide)];
  const bits = hash(shuffle, block, along, 900 + n);
  return (
    mod(course, high) === below(rehash(bits, 1), high - apart) &&
    mod(index, wide) === below(rehash(bits, 2), wide - apart)
  );
}

const keyOf = (course: number, index: number): string => `${course},${index}`;

function holds(list: Int32Array, count: number, value: number): boolean {
  for (let i = 0; i < count; i++) if (list[i] === value) return true;
  return false;
}

/** Puts a value into a rising list, once; gives how many there are then. */
function insert(list: Int32Array, count: number, value: number): number {
  let at = count;
  while (at > 0 && list[at - 1] >= value) at--;
  if (at < count && list[at] === value) return count;
  for (let i = count; i > at; i--) list[i] = list[i - 1];
  list[at] = value;
  return count + 1;
}

/** The nth of the numbers 0, 1, 2 … that are not in a rising list. */
function freeOne(list: Int32Array, count: number, nth: number): number {
  for (let i = 0; i < count && list[i] <= nth; i++) nth++;
  return nth;
}
