import { turnOf } from '../geometry/turn';
import type { Material } from '../material/schema';
import { below, rehash, unit } from '../layout/hash';
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

/**
 * Slots of equal spacing; what is left over is shared among them as play, so that places differ from piece to piece
 * and yet two slots never come closer than the spacing.
 */
function openAxis(from: number, size: number, footprint: number, wraps: boolean, overlap: number, slide: Slide | null): Axis {
  const spacing = Math.max(0.01, footprint * (1 - overlap));
  const room = wraps ? size : Math.max(0, size - footprint);
  const even = (first: number, total: number): Axis => {
    const count = Math.max(1, Math.floor(total / spacing + 1e-9));
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
  const count = Math.max(1, Math.floor((places - 1) / apart) + 1);
  const play = Math.floor((places - 1 - (count - 1) * apart) / count);
  return { count, first, apart: step * (apart + play), play: play * step, step };
} // prettier-ignore

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
  const { widthMm: w, heightMm: h } = repeat;
  const columns = material.leaves?.columns ?? 1;
  const rows = material.leaves?.rows ?? 1;
  const inset = material.leaves?.insetMm ?? 0;
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
  // a single column of a picture that closes on itself has no edge there
  const wraps = [material.seamless && columns === 1, material.seamless && rows === 1];
  const insets = wraps.map((closed) => (closed ? 0 : inset));
  const size = [w / columns - 2 * insets[0], h / rows - 2 * insets[1]];
  let enlarged = 1;
  if (!wraps[0]) enlarged = Math.max(enlarged, fw / Math.max(size[0], 0.01));
  if (!wraps[1]) enlarged = Math.max(enlarged, fh / Math.max(size[1], 0.01));
  fw /= enlarged;
  fh /= enlarged;
  const [slideX, slideY] = grainTurns ? [variation.slideAcross, variation.slideAlong] : [variation.slideAlong, variation.slideAcross]; // prettier-ignore
  const across = openAxis(insets[0], size[0], fw, wraps[0], variation.overlapShare, slideX);
  const up = openAxis(insets[1], size[1], fh, wraps[1], variation.overlapShare, slideY);
  const chosen = variation.leaf;
  const leaves = chosen ? 1 : columns * rows;
  const count = leaves * across.count * up.count;
  const byLeaf = leaves > mostNeighbours;
  const perLeaf = across.count * up.count;
  /** Where a print's slot begins; leaves are counted from the top, pictures stand on their lower edge. */
  const slotAt = (leaf: number, slot: number): [number, number] => {
    const which = chosen ? Math.min(chosen.row, rows - 1) * columns + Math.min(chosen.column, columns - 1) : leaf;
    const row = Math.floor(which / columns);
    return [
      ((which % columns) * w) / columns + across.first + (slot % across.count) * across.apart,
      ((rows - 1 - row) * h) / rows + up.first + Math.floor(slot / across.count) * up.apart,
    ];
  };
  // a table, since hundreds of thousands of pieces ask; beyond its size they are worked out
  const tabled = count <= MOST_TABLED;
  const table = new Float64Array(tabled ? count * 2 : 0);
  for (let n = 0; n < table.length / 2; n++) table.set(slotAt(Math.floor(n / perLeaf), n % perLeaf), n * 2);
  return {
    count,
    leaves,
    byLeaf,
    distinct: byLeaf ? leaves : count,
    enlarged,
    place({ count: pieces, material: of, seed, print, u, v }, which) {
      for (let k = 0; k < pieces; k++) {
        if (of[k] !== which) continue;
        const n = byLeaf ? print[k] * perLeaf + (perLeaf > 1 ? below(rehash(seed[k], 7), perLeaf) : 0) : print[k];
        if (tabled) {
          u[k] = table[n * 2];
          v[k] = table[n * 2 + 1];
        } else [u[k], v[k]] = slotAt(Math.floor(n / perLeaf), n % perLeaf);
        if (across.play > 0) u[k] += within(across, rehash(seed[k], 8));
        if (up.play > 0) v[k] += within(up, rehash(seed[k], 9));
      }
    },
  };
}

const MOST_TABLED = 65_536;

/** Cosine and sine of the turns a print can have: the grain along the piece, and the variation's own turns on it. */
export function turnsOfPrints(material: Material, variation: VariationSpec): readonly (readonly [number, number])[] {
  const grain = material.grain === 'y' ? 90 : 0;
  const step = variation.turnStepDeg;
  const steps = step > 0 ? Math.max(1, Math.round(360 / step)) : 1;
  return Array.from({ length: steps }, (_, i) => turnOf(grain + i * step));
}
