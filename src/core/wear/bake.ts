import { linearOfHex } from '../colour/srgb';
import { toEncoded } from '../picture/raster';
import { type Bounds2, joinBounds } from '../geometry/bounds';
import type { Sheet } from '../mapping/sheet';
import { sampleRaster } from './pictures';
import { type Places, placesOn } from './places';
import { wearKindOf } from './registry';
import { isWorn, type WearMark, type WearSpec } from './schema';
import type { CoverAt, Surroundings, WearPicture, WearSite } from './types';

/** Wear over a sheet as pictures, row by row from the bottom. */
export interface BakedWear {
  /** What the pictures cover, sheet mm. */
  bounds: Bounds2;
  width: number;
  height: number;
  /** Side of a pixel, mm. */
  pixelMm: number;
  /** Four bytes a pixel: colour, sRGB, and how much it covers. */
  colour: Uint8Array<ArrayBuffer>;
  /** Four bytes a pixel: roughness; how its surface rises to the right and upwards, −1..1; 255. */
  relief: Uint8Array<ArrayBuffer>;
  /** Some of it rises. */
  isRaised: boolean;
}

/** What wear is worked out from besides the sheet. */
export interface WearSources {
  surroundings: Surroundings | null;
  northDeg: number;
  pictures: Readonly<Record<string, WearPicture>>;
}

/** Pixels of a picture, and to a side. */
const MOST_PIXELS = 4e6;
const MOST_SIDE = 4096;
/** Nothing is worked out finer, mm. */
const LEAST_MM = 1;
/** Places in space at which rays are asked, at most. */
const MOST_PLACES = 30_000;

/** Slope that a byte holds at most. */
export const MOST_SLOPE = 1;

/**
 * How fine wear is worked out on a sheet, mm a pixel, and how fine what it shows is.
 * @param materialWidth how wide a material's picture is, mm
 * @param pixelsOf how many pixels the picture of a material is wide; undefined where it has none
 */
export function grainOf(
  { charts }: Pick<Sheet, 'charts'>,
  wear: WearSpec,
  materialWidth: (material: string) => number | undefined,
  pixelsOf: (material: string) => number | undefined,
): { pixelMm: number; wantedMm: number } {
  const { minX, minY, maxX, maxY } = joinBounds(charts.map((c) => c.bounds));
  const [wide, high] = [maxX - minX, maxY - minY];
  const wanted: number[] = wear.layers.filter(isSeen).map((l) => wearKindOf(l).finest(l));
  for (const mark of wear.marks.filter(isSeen)) {
    const [mm, px] = [materialWidth(mark.material), pixelsOf(mark.material)];
    if (mm && px) wanted.push((mm * mark.percent) / 100 / px);
  }
  const wantedMm = Math.min(...wanted, Math.max(wide, high) / 8);
  const least = Math.max(Math.sqrt((wide * high) / MOST_PIXELS), Math.max(wide, high) / MOST_SIDE, LEAST_MM);
  return { pixelMm: Math.max(least, wantedMm), wantedMm };
}

const isSeen = ({ on, strength }: { on: boolean; strength: number }) => on && strength > 0;

/**
 * Wear as it lies on a sheet: one function of the place, whatever is laid below and however it is dealt. Layers cover
 * one another as they are listed, marks all of them.
 * @returns null where there is none to be seen
 */
export function bakeWear(sheet: Sheet, wear: WearSpec, sources: WearSources): BakedWear | null {
  if (!isWorn(wear) || !sheet.faces.length) return null;
  const layers = wear.layers.filter(isSeen).map((l) => ({ layer: l, kind: wearKindOf(l) }));
  const marks = wear.marks.flatMap((mark) => placeMark(mark, sources.pictures[mark.material]));
  if (!layers.length && !marks.length) return null;
  const within = joinBounds(sheet.charts.map((c) => c.bounds));
  const [wide, high] = [within.maxX - within.minX, within.maxY - within.minY];
  const { pixelMm } = grainOf(
    sheet,
    wear,
    (id) => sources.pictures[id]?.widthMm,
    (id) => sources.pictures[id]?.raster.width,
  );
  // a pixel more on every side: what is read at an edge has neighbours
  const width = Math.max(1, Math.ceil(wide / pixelMm - 1e-9)) + 2;
  const height = Math.max(1, Math.ceil(high / pixelMm - 1e-9)) + 2;
  const [minX, minY] = [within.minX - pixelMm, within.minY - pixelMm];
  const bounds = { minX, minY, maxX: minX + width * pixelMm, maxY: minY + height * pixelMm };

  const places = new Map<number, Places>();
  const site = (finestMm: number): WearSite => ({
    finestMm,
    surroundings: sources.surroundings,
    northDeg: sources.northDeg,
    picture: (id: string) => sources.pictures[id],
    places(stepMm: number) {
      const step = Math.max(stepMm, Math.sqrt((wide * high) / MOST_PLACES));
      let known = places.get(step);
      if (!known) places.set(step, (known = placesOn(sheet, within, step)));
      return known;
    },
  });
  /** What is coarser than a pixel is worked out as coarsely, and read between. */
  const coverOf = ({ layer, kind }: (typeof layers)[number]): CoverAt => {
    const step = kind.finest(layer);
    if (step < pixelMm * 1.5) return kind.open(layer, site(pixelMm));
    return between(kind.open(layer, site(step)), bounds, step);
  };
  const open = layers.map((l) => ({
    cover: coverOf(l),
    linear: linearOfHex(l.layer.colour),
    layer: l.layer,
  }));

  const colour = new Uint8Array(width * height * 4);
  const relief = new Uint8Array(width * height * 4);
  const isRaised = layers.some(({ layer }) => layer.reliefMm > 0);
  const heights = isRaised ? new Float32Array(width * height) : null;
  const seen: [number, number, number, number] = [0, 0, 0, 0];
  // where nothing covers, the colour is what covers on the whole: pictures are averaged from afar
  const plain = open[0]?.linear ?? [0.2, 0.2, 0.2];
  for (let j = 0; j < height; j++) {
    const y = bounds.minY + (j + 0.5) * pixelMm;
    for (let i = 0; i < width; i++) {
      const x = bounds.minX + (i + 0.5) * pixelMm;
      let [r, g, b, rough, covered] = [0, 0, 0, 0, 0];
      const over = (cover: number, red: number, green: number, blue: number, roughness: number) => {
        const left = 1 - cover;
        r = r * left + red * cover;
        g = g * left + green * cover;
        b = b * left + blue * cover;
        rough = rough * left + roughness * cover;
        covered = covered * left + cover;
      };
      const n = j * width + i;
      for (const { cover, linear, layer } of open) {
        const share = cover(x, y);
        if (!(share > 0)) continue;
        over(share * layer.strength, linear[0], linear[1], linear[2], layer.roughness);
        if (heights) heights[n] += layer.reliefMm * share;
      }
      for (const mark of marks) {
        if (!mark.at(x, y, pixelMm, seen)) continue;
        over(seen[3], seen[0], seen[1], seen[2], MARK_ROUGHNESS);
      }
      const by = covered > 1e-4 ? 1 / covered : 0;
      colour[n * 4] = byteOf(by ? r * by : plain[0]);
      colour[n * 4 + 1] = byteOf(by ? g * by : plain[1]);
      colour[n * 4 + 2] = byteOf(by ? b * by : plain[2]);
      colour[n * 4 + 3] = Math.round(covered * 255);
      relief[n * 4] = Math.round((by ? rough * by : 0.9) * 255);
    }
  }
  spreadColours(colour, width, height);
  slopes(heights, width, height, pixelMm, relief);
  return { bounds, width, height, pixelMm, colour, relief, isRaised };
}

/** A function of the place at every `step`, straight between. Steps count from zero, whatever the bounds are. */
function between(at: CoverAt, { minX, minY, maxX, maxY }: Bounds2, step: number): CoverAt {
  const [i0, j0] = [Math.floor(minX / step), Math.floor(minY / step)];
  const columns = Math.ceil(maxX / step) - i0 + 2;
  const rows = Math.ceil(maxY / step) - j0 + 2;
  const values = new Float32Array(columns * rows);
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < columns; i++) values[j * columns + i] = at((i0 + i) * step, (j0 + j) * step);
  return (x, y) => {
    const [u, v] = [x / step - i0, y / step - j0];
    const [i, j] = [Math.floor(u), Math.floor(v)];
    const n = j * columns + i;
    const [s, t] = [u - i, v - j];
    const low = values[n] * (1 - s) + values[n + 1] * s;
    return low * (1 - t) + (values[n + columns] * (1 - s) + values[n + columns + 1] * s) * t;
  };
}

/** Linear light as a byte of sRGB. */
const byteOf = (linear: number): number => Math.round(toEncoded(linear) / 257);

/** What is spilt or drawn is duller than what it lies on. */
const MARK_ROUGHNESS = 0.8;

/** A mark as it is asked for at places of the sheet; none where it cannot be seen. */
function placeMark(mark: WearMark, picture: WearPicture | undefined) {
  if (!isSeen(mark) || !picture) return [];
  const { strength, xMm, yMm, turnDeg, percent } = mark;
  const { raster } = picture;
  const [w, h] = [(picture.widthMm * percent) / 100, (picture.heightMm * percent) / 100];
  const turn = (turnDeg * Math.PI) / 180;
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
  const reach = Math.hypot(w, h) / 2;
  const at = (x: number, y: number, pixelMm: number, out: [number, number, number, number]): boolean => {
    const [dx, dy] = [x - xMm, y - yMm];
    if (Math.abs(dx) > reach + pixelMm || Math.abs(dy) > reach + pixelMm) return false;
    const u = (dx * cos + dy * sin) / w + 0.5;
    const v = (-dx * sin + dy * cos) / h + 0.5;
    const edge = pixelMm / Math.min(w, h);
    if (u < -edge || v < -edge || u > 1 + edge || v > 1 + edge) return false;
    sampleRaster(raster, u, v, pixelMm / w, false, out);
    out[3] *= strength;
    return out[3] > 0;
  };
  return [{ at }];
}

/** Beside what covers lies the colour of what covers: nothing else shines in where pixels are read between. */
function spreadColours(colour: Uint8Array, width: number, height: number): void {
  for (let n = 0; n < width * height; n++) {
    if (colour[n * 4 + 3]) continue;
    const [i, j] = [n % width, Math.floor(n / width)];
    const beside = [
      i > 0 ? n - 1 : n,
      i < width - 1 ? n + 1 : n,
      j > 0 ? n - width : n,
      j < height - 1 ? n + width : n,
    ];
    let most = n;
    for (const b of beside) if (colour[b * 4 + 3] > colour[most * 4 + 3]) most = b;
    if (most !== n) colour.copyWithin(n * 4, most * 4, most * 4 + 3);
  }
}

/** How what lies there rises, from one pixel to the next. */
function slopes(heights: Float32Array | null, width: number, height: number, pixelMm: number, out: Uint8Array): void {
  const byte = (slope: number) => Math.round(127.5 + 127.5 * Math.min(1, Math.max(-1, slope / MOST_SLOPE)));
  for (let j = 0; j < height; j++) {
    for (let i = 0; i < width; i++) {
      const n = j * width + i;
      out[n * 4 + 1] = out[n * 4 + 2] = 128;
      out[n * 4 + 3] = 255;
      if (!heights) continue;
      const [l, r] = [i > 0 ? n - 1 : n, i < width - 1 ? n + 1 : n];
      const [d, u] = [j > 0 ? n - width : n, j < height - 1 ? n + width : n];
      if (r > l) out[n * 4 + 1] = byte((heights[r] - heights[l]) / ((r - l) * pixelMm));
      if (u > d) out[n * 4 + 2] = byte((heights[u] - heights[d]) / (((u - d) / width) * pixelMm));
    }
  }
}

/** What lies at a place of the sheet: between the four nearest pixels, as graphics cards read a picture. */
export interface WearAt {
  /** sRGB, 0..1. */
  colour: [number, number, number];
  cover: number;
  roughness: number;
}

/** The pictures are the function: what is read of them here is what view and export show. */
export function wearAt({ bounds, width, height, pixelMm, colour, relief }: BakedWear, x: number, y: number): WearAt {
  const u = Math.min(width - 1, Math.max(0, (x - bounds.minX) / pixelMm - 0.5));
  const v = Math.min(height - 1, Math.max(0, (y - bounds.minY) / pixelMm - 0.5));
  const [i, j] = [Math.floor(u), Math.floor(v)];
  const out: WearAt = { colour: [0, 0, 0], cover: 0, roughness: 0 };
  for (let k = 0; k < 4; k++) {
    const [dx, dy] = [k & 1, k >> 1];
    const weight = (dx ? u - i : 1 - u + i) * (dy ? v - j : 1 - v + j);
    if (!weight) continue;
    const n = (Math.min(height - 1, j + dy) * width + Math.min(width - 1, i + dx)) * 4;
    for (let c = 0; c < 3; c++) out.colour[c] += (colour[n + c] / 255) * weight;
    out.cover += (colour[n + 3] / 255) * weight;
    out.roughness += (relief[n] / 255) * weight;
  }
  return out;
}
