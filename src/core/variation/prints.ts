import { turnOf } from '../geometry/turn';
import { leafNumber, leafPlaces } from '../material/leaves';
import type { Material } from '../material/schema';
import { below, rehash, unit } from '../noise/hash';
import type { Slide, VariationSpec } from './schema';

/**
 * The different prints a picture can give to pieces of a size: leaves, and places within a leaf (or within the whole
 * picture) so far apart that two of them overlap by no more than the set share. A print is one number.
 */
export interface Prints {
  /** How many different ones there are. */
  count: number;
  leaves: number;
  /** Neighbours are told apart by their leaf alone when there are enough leaves, else by the print. */
  byLeaf: boolean;
  /** Numbers that must differ between neighbours: leaves or prints. */
  distinct: number;
  /** How much larger the picture must be shown for a piece to fit into what is seamless of it; 1 when it fits. */
  enlarged: number;
  /** Writes picture mm of the middles of those pieces of `rows` that are of material `n` to `u` and `v`. */
  place(rows: DealtRows, n: number): void;
}

/** Pieces with their prints dealt. */
export interface DealtRows {
  count: number;
  material: Uint8Array;
  seed: Uint32Array;
  print: Int32Array;
  u: Float64Array;
  v: Float64Array;
}

/** Places along one side of the picture: slot n begins at `first + n · apart`, and has some play. */
interface Axis {
  count: number;
  first: number;
  apart: number;
  /** Up to how far beyond its slot's place a print may lie, mm; in whole steps where there are some. */
  play: number;
  step: number;
}

const within = ({ play, step }: Axis, bits: number) => (step ? step * below(bits, play / step + 1) : unit(bits) * play);

/** Slots along one side: more would only make the table of them large. */
const MOST_ALONG = 512;

/**
 * Slots of equal spacing; what is left over is shared among them as play, so that places differ from piece to piece
 * and yet two slots never come closer than the spacing.
 */
function openAxis(
  from: number,
  size: number,
  footprint: number,
  wraps: boolean,
  overlap: number,
  slide: Slide | null,
): Axis {
  const spacing = Math.max(0.01, footprint * (1 - overlap));
  const room = wraps ? size : Math.max(0, size - footprint);
  const even = (first: number, total: number): Axis => {
    const count = Math.min(MOST_ALONG, Math.max(1, Math.floor(total / spacing + 1e-9)));
    const play = Math.max(0, total / count - spacing);
    return { count, first, apart: spacing + play, play, step: 0 };
  };
  // round a picture that closes on itself the last slot needs its distance to the first as well
  if (!slide) return even(from + footprint / 2, wraps ? room : room + spacing);
  const low = Math.min(slide.fromMm, slide.toMm);
  const start = wraps ? low : Math.min(Math.max(low, 0), room);
  const reach = Math.min(Math.abs(slide.toMm - slide.fromMm), wraps ? Math.max(0, room - spacing) : room - start);
  const first = from + footprint / 2 + start;
  const { stepMm: step } = slide;
  if (!(step > 0)) return even(first, reach + spacing);
  const places = Math.floor(reach / step + 1e-9) + 1;
  const apart = Math.max(1, Math.ceil(spacing / step - 1e-9));
  const count = Math.min(MOST_ALONG, Math.max(1, Math.floor((places - 1) / apart) + 1));
  const play = Math.floor((places - 1 - (count - 1) * apart) / count);
  return { count, first, apart: step * (apart + play), play: play * step, step };
}

/**
 * @param repeat the picture's real size on this surface, mm
 * @param largest length and width of the largest piece, mm
 * @param mostNeighbours pieces that one piece can touch
 */
export function openPrints(
  material: Material,
  repeat: { widthMm: number; heightMm: number },
  variation: VariationSpec,
  largest: readonly [number, number],
  mostNeighbours: number,
): Prints {
  const smallest = Math.min(variation.sizePercent.from, variation.sizePercent.to) / 100;
  // what a piece covers of the picture, along the picture's own sides
  const grainTurns = material.grain === 'y' ? 90 : 0;
  const turnStep = variation.turnStepDeg;
  let [fw, fh] = grainTurns ? [largest[1], largest[0]] : [largest[0], largest[1]];
  if (turnStep > 0 && turnStep % 180 !== 0) {
    const reach = turnStep % 90 === 0 ? Math.max(fw, fh) : Math.hypot(fw, fh);
    [fw, fh] = [reach, reach];
  }
  fw /= smallest;
  fh /= smallest;
  const { leaves, wraps, enlarged } = fittingLeaves(material, repeat, variation.leaf, fw, fh);
  fw /= enlarged;
  fh /= enlarged;
  const [slideX, slideY] = grainTurns
    ? [variation.slideAcross, variation.slideAlong]
    : [variation.slideAlong, variation.slideAcross];
  // uneven leaves have room for different numbers of prints
  const slots = leaves.map(({ x, y, width, height }) => ({
    across: openAxis(x, width, fw, wraps[0], variation.overlapShare, slideX),
    up: openAxis(y, height, fh, wraps[1], variation.overlapShare, slideY),
  }));
  const firsts = [0];
  for (const { across, up } of slots) firsts.push(firsts[firsts.length - 1] + across.count * up.count);
  const count = firsts[slots.length];
  const byLeaf = leaves.length > mostNeighbours;
  const table = openTable(slots, firsts, count);
  return {
    count,
    leaves: leaves.length,
    byLeaf,
    distinct: byLeaf ? leaves.length : count,
    enlarged,
    place({ count: pieces, material: of, seed, print, u, v }, which) {
      for (let k = 0; k < pieces; k++) {
        if (of[k] !== which) continue;
        let n = print[k];
        if (byLeaf) {
          const own = firsts[n + 1] - firsts[n];
          n = firsts[n] + (own > 1 ? below(rehash(seed[k], 7), own) : 0);
        }
        const { across, up } = slots[slots.length > 1 ? table.leaf[n] : 0];
        u[k] = table.x[n];
        v[k] = table.y[n];
        if (across.play > 0) u[k] += within(across, rehash(seed[k], 8));
        if (up.play > 0) v[k] += within(up, rehash(seed[k], 9));
      }
    },
  };
}

/** Where every print's slot begins, mm: a table, since hundreds of thousands of pieces ask. */
function openTable(slots: { across: Axis; up: Axis }[], firsts: number[], count: number) {
  const [x, y, leaf] = [new Float64Array(count), new Float64Array(count), new Uint16Array(count)];
  slots.forEach(({ across, up }, n) => {
    for (let i = firsts[n]; i < firsts[n + 1]; i++) {
      const slot = i - firsts[n];
      x[i] = across.first + (slot % across.count) * across.apart;
      y[i] = up.first + Math.floor(slot / across.count) * up.apart;
      leaf[i] = n;
    }
  });
  return { x, y, leaf };
}

/** Leaves a hair too small for a piece are enlarged that hair along with the others. */
const A_HAIR = 1.05;

/**
 * The leaves, less their insets, that a piece of fw × fh mm is cut from: all in which it has room, or, where it has in
 * none, those that need to be shown larger the least. They stand on the picture's lower edge.
 */
function fittingLeaves(
  material: Material,
  { widthMm: w, heightMm: h }: { widthMm: number; heightMm: number },
  chosen: VariationSpec['leaf'],
  fw: number,
  fh: number,
) {
  const declared = material.leaves ?? { columns: 1, rows: 1, insetMm: 0 };
  const { columns, rows, places } = declared;
  const declaredPlaces = leafPlaces(declared);
  // a single column of a picture that closes on itself has no edge there
  const wraps = [columns, rows].map((n) => material.seamless && !places && n === 1);
  const [insetX, insetY] = wraps.map((closed) => (closed ? 0 : declared.insetMm));
  const all = (chosen ? [declaredPlaces[leafNumber(declared, chosen)]] : declaredPlaces).map((place) => {
    const width = place.width * w - 2 * insetX;
    const height = place.height * h - 2 * insetY;
    const larger = Math.max(wraps[0] ? 1 : fw / Math.max(width, 0.01), wraps[1] ? 1 : fh / Math.max(height, 0.01));
    const short = larger > 1 + 1e-9 ? larger : 1;
    return { x: place.x * w + insetX, y: (1 - place.y - place.height) * h + insetY, width, height, short };
  });
  const least = Math.min(...all.map((l) => l.short));
  const leaves = all.filter((l) => l.short <= least * A_HAIR);
  return { leaves, wraps, enlarged: Math.max(...leaves.map((l) => l.short)) };
}

/** Cosine and sine of the turns a print can have: the grain along the piece, and the variation's own turns on it. */
export function turnsOfPrints(material: Material, variation: VariationSpec): readonly (readonly [number, number])[] {
  const grain = material.grain === 'y' ? 90 : 0;
  const step = variation.turnStepDeg;
  const steps = step > 0 ? Math.max(1, Math.round(360 / step)) : 1;
  return Array.from({ length: steps }, (_, i) => turnOf(grain + i * step));
}
