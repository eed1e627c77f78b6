import { bandsOf, blendBands, type ChangeOver, likenessAlong, reachOfBands } from './bands';
import { blur } from './blur';
import { compareStep, linesOf, REACHES, type SeamFigure, worstOf } from './judge';
import { Overlap, type Strips } from './overlap';
import { blankPlane, cutOut, type Plane, type Raster, WHITE } from './raster';
import { cheapestPath, forgiveNoise, type Lead, leadAlong } from './seamPath';

/** A picture made to close in one direction, and where its seam runs. */
export interface Joined {
  raster: Raster;
  /** For each line across the seam, how far along that line the seam lies, pixels from the picture's edge. */
  seam: Int32Array;
  /** How far the seam itself stands out. */
  figure: SeamFigure;
}

export interface JoinOptions {
  /** The picture closes across already, and the seam must meet itself. */
  closed: boolean;
  /** Laid pieces meet piece on piece: nothing is moved to fit, and nothing fades from one to the other. */
  laid: boolean;
  /** Lines are drawn for it, which lie where they were drawn: nothing is moved to fit. */
  drawn?: boolean;
  /** Where the seam is led; it finds its own way without. */
  led?: Lead | null;
  /** Pixels of the overlap that are worked on at a time. */
  atATime?: number;
}

/** The margin of the overlap that the seam keeps away from, as a share. */
export const MARGIN = 1 / 6;
/** Planes of fractions take four bytes for each of these, and a blend of three colours has some twenty of them. */
const AT_A_TIME = 1 << 22;

/**
 * Makes a picture close left to right (or top to bottom): its last `overlap` pixels are laid over its first, cut along
 * the path where the two differ least (A. Efros and W. Freeman, “Image quilting”, 2001) and blended band by band: fine
 * detail at once, large light over all of the overlap. Large overlaps are worked on some lines at a time.
 */
export function join(r: Raster, down: boolean, overlap: number, o: JoinOptions): Joined {
  const { closed, laid, led = null } = o;
  // maps that go along have planes of their own
  const atATime = o.atATime ?? Math.floor((AT_A_TIME * 3) / r.channels);
  const strips = new Overlap(r, down, overlap, !laid && !closed && !o.drawn);
  const cost = differences(strips, atATime);
  if (laid) forgiveNoise(cost);
  if (led) leadAlong(cost, led);
  const seam = cheapestPath(cost, Math.max(1, laid ? 2 : Math.floor(overlap * MARGIN)), closed, laid || !!led);
  const raster = down ? cutOut(r, 0, 0, r.width, r.height - overlap) : cutOut(r, 0, 0, r.width - overlap, r.height);
  const near = new NearSeam(seam, overlap);
  const change = changeOver(strips, seam, Math.max(r.width, r.height), laid);
  for (const part of partsOf(strips, reachOfBands(change.sigmas), closed, atATime)) {
    const { first, last } = strips.at(part.from, part.to);
    const mask = blankPlane(overlap, part.to - part.from);
    for (let l = part.from; l < part.to; l++) {
      const row = (l - part.from) * overlap;
      mask.data.fill(1, row + seam[(l + seam.length) % seam.length], row + overlap);
    }
    const made = blendBands(first, last, mask, change, part.wraps);
    for (let c = 0; c < made.length; c++) putBack(raster, down, c, made[c], part);
    near.keep(part, { first, last }, made);
  }
  return { raster, seam, figure: judgeSeam(raster, down, near) };
}

/** Longer side up to which a seam changes over sharply, pixels. */
const SHARP_SIDE = 1024;
/** A large picture's own lines are quieter, close to, than a small one's: its seam must be, too. */
const SOFTEST = 4;

function changeOver(strips: Overlap, seam: Int32Array, side: number, laid: boolean): ChangeOver {
  const sigmas = bandsOf((strips.size * MARGIN) / 4, laid);
  const softness = laid ? 1 : Math.max(1, Math.min(SOFTEST, 1 + 6 * (side / SHARP_SIDE - 1)));
  if (softness === 1) return { sigmas, softness, alike: sigmas.map(() => 1), laid };
  const { from, to } = strips.sample;
  const { first, last } = strips.at(from, to);
  return { sigmas, softness, alike: likenessAlong(first, last, seam.subarray(from, to), sigmas), laid };
}

/** Lines that are worked on by themselves, `begin` to `end`, with those on either side that count for them. */
interface Part {
  begin: number;
  end: number;
  from: number;
  to: number;
  /** They are all lines, and close on themselves. */
  wraps: boolean;
}

function partsOf({ lines, size }: Overlap, margin: number, closed: boolean, atATime: number): Part[] {
  if (lines * size <= atATime) return [{ begin: 0, end: lines, from: 0, to: lines, wraps: closed }];
  const count = Math.max(margin, 16, Math.floor(atATime / size) - 2 * margin);
  const parts: Part[] = [];
  for (let begin = 0; begin < lines; begin += count) {
    const end = Math.min(lines, begin + count);
    const [from, to] = [begin - margin, end + margin];
    parts.push({
      begin,
      end,
      from: closed ? from : Math.max(0, from),
      to: closed ? to : Math.min(lines, to),
      wraps: false,
    });
  }
  return parts;
}

/** How much two strips differ at each place: in colour, and in how colour changes. */
function differences(strips: Overlap, atATime: number): Plane {
  const width = strips.size;
  const out = blankPlane(width, strips.lines);
  for (const part of partsOf(strips, 0, false, atATime)) {
    const { first, last } = strips.at(part.from, part.to);
    for (let c = 0; c < 3; c++) {
      const [a, b] = [first[c].data, last[c].data];
      const o = part.from * width;
      for (let i = 0, k = 0; i < a.length; i++) {
        const d = a[i] - b[i];
        const e = k > 0 ? d - (a[i - 1] - b[i - 1]) : 0;
        out.data[o + i] += d * d + 2 * e * e;
        if (++k === width) k = 0;
      }
    }
  }
  // a path through a single lucky pixel is no good one
  return blur(out, 1, false);
}

function putBack(r: Raster, down: boolean, c: number, { width, data }: Plane, { begin, end, from }: Part): void {
  const n = r.channels;
  for (let l = begin; l < end; l++) {
    for (let k = 0; k < width; k++) {
      const v = data[(l - from) * width + k] * WHITE;
      r.data[(down ? k * r.width + l : l * r.width + k) * n + c] = v <= 0 ? 0 : v >= WHITE ? WHITE : v + 0.5;
    }
  }
}

/** The widest that a seam is looked at, to either side. */
const WIDEST = Math.max(...REACHES);

/** Lightness of the few pixels on either side of a seam: of what was made, and of the two strips it was made from. */
class NearSeam {
  readonly width: number;
  /** Where along its line each of them begins. */
  readonly starts: Int32Array;
  readonly made: Float32Array;
  readonly first: Float32Array;
  readonly last: Float32Array;

  constructor(
    readonly seam: Int32Array,
    readonly overlap: number,
  ) {
    this.width = Math.min(overlap, WIDEST * 2);
    this.starts = seam.map((s) => Math.max(0, Math.min(overlap - this.width, s - WIDEST)));
    [this.made, this.first, this.last] = [0, 1, 2].map(() => new Float32Array(seam.length * this.width));
  }

  keep({ begin, end, from }: Part, { first, last }: Strips, made: Plane[]): void {
    for (let l = begin; l < end; l++) {
      const p = (l - from) * this.overlap + this.starts[l];
      for (let i = 0; i < this.width; i++) {
        const o = l * this.width + i;
        this.made[o] = lightnessAt(made, p + i);
        this.first[o] = lightnessAt(first, p + i);
        this.last[o] = lightnessAt(last, p + i);
      }
    }
  }
}

const lightnessAt = ([r, g, b]: Plane[], i: number): number =>
  0.2126 * r.data[i] + 0.7152 * g.data[i] + 0.0722 * b.data[i];

/**
 * How far a seam stands out: steps over it that neither of the two pictures had there, against the steps over the
 * picture's own inner lines. An edge of the material that a seam follows is no fault of the seam.
 */
function judgeSeam(
  r: Raster,
  down: boolean,
  { seam, overlap, width, starts, made, first, last }: NearSeam,
): SeamFigure {
  const figures: SeamFigure[] = [];
  const lines = linesOf(r, down);
  for (const reach of REACHES) {
    if (overlap < reach * 3 || lines.width < reach * 8) continue;
    let excess = 0;
    for (let l = 0; l < seam.length; l++) {
      const at = l * width + Math.max(reach, Math.min(overlap - reach, seam[l])) - starts[l];
      const step = (data: Float32Array) => {
        let sum = 0;
        for (let i = 0; i < reach; i++) sum += data[at + i] - data[at - 1 - i];
        return sum / reach;
      };
      const s = step(made);
      excess += Math.min(Math.abs(s - step(first)), Math.abs(s - step(last)));
    }
    figures.push(compareStep(excess / seam.length, lines, reach));
  }
  return worstOf(figures);
}
