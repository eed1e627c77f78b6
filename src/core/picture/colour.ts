import { blankRaster, keepBehind, LINEAR, type Raster, toEncoded, toLinear, WHITE } from './raster';

export interface ColourOptions {
  /** Stops: each doubles the light. */
  exposure: number;
  /** −1 colder to 1 warmer. */
  warmth: number;
  /** 0 grey, 1 as it is. */
  saturation: number;
  /** How far colours that are strong already are spared by it, 0..1. */
  spare?: number;
  /** Turn of the hue, degrees. */
  hueDeg: number;
  /** Encoded values 0..1 that become black and white, and the exponent between them. */
  black: number;
  white: number;
  gamma: number;
}

export const plainColour: ColourOptions = {
  exposure: 0,
  warmth: 0,
  saturation: 1,
  hueDeg: 0,
  black: 0,
  white: 1,
  gamma: 1,
};

/** Exposure, warmth, saturation and hue in linear light, then levels on encoded values. */
export function colour(r: Raster, o: ColourOptions): Raster {
  const out = blankRaster(r.width, r.height, r.channels);
  const n = r.channels;
  const gain = Math.pow(2, o.exposure);
  const { spare = 0 } = o;
  const m = matrix(spare ? { ...o, saturation: 1 } : o).map((v) => v * gain);
  const levels = levelTable(o.black, o.white, o.gamma);
  const { data } = r;
  for (let i = 0; i < data.length; i += n) {
    const red = LINEAR[data[i]];
    const green = LINEAR[data[i + 1]];
    const blue = LINEAR[data[i + 2]];
    const a = m[0] * red + m[1] * green + m[2] * blue;
    const b = m[3] * red + m[4] * green + m[5] * blue;
    const c = m[6] * red + m[7] * green + m[8] * blue;
    // as the matrix does it, by less where colour is strong
    const k = spare ? 1 + (o.saturation - 1) * (1 - spare * strengthOf(a, b, c)) : 1;
    const grey = (1 - k) * (0.2126 * a + 0.7152 * b + 0.0722 * c);
    out.data[i] = levels[toEncoded(grey + k * a)];
    out.data[i + 1] = levels[toEncoded(grey + k * b)];
    out.data[i + 2] = levels[toEncoded(grey + k * c)];
    keepBehind(r, out.data, i);
  }
  return out;
}

/** How strong a colour of linear light is: 0 for grey, 1 where one of its three is missing. */
function strengthOf(a: number, b: number, c: number): number {
  const most = Math.max(a, b, c);
  return most > 0 ? (most - Math.max(0, Math.min(a, b, c))) / most : 0;
}

/** Warmth, then saturation and hue about grey (P. Haeberli, “Matrix operations for image processing”, 1993). */
function matrix({ warmth, saturation, hueDeg }: ColourOptions): number[] {
  const [r, g, b] = [0.2126, 0.7152, 0.0722];
  const t = (hueDeg * Math.PI) / 180;
  const [c, s] = [Math.cos(t), Math.sin(t)];
  // the hue turned in the plane of equal luminance
  const hue = [
    r + c * (1 - r) - s * r,
    g - c * g - s * g,
    b - c * b + s * (1 - b),
    r - c * r + s * 0.143,
    g + c * (1 - g) + s * 0.14,
    b - c * b - s * 0.283,
    r - c * r - s * (1 - r),
    g - c * g + s * g,
    b + c * (1 - b) + s * b,
  ];
  const k = saturation;
  const grey = [r, g, b];
  const saturate = [0, 1, 2].flatMap((row) => [0, 1, 2].map((col) => (1 - k) * grey[col] + (row === col ? k : 0)));
  const warm = [Math.pow(2, warmth * 0.35), 1, Math.pow(2, -warmth * 0.35)];
  // luminance of grey stays
  const sum = r * warm[0] + g * warm[1] + b * warm[2];
  const product = [0, 1, 2].flatMap((row) =>
    [0, 1, 2].map((col) => [0, 1, 2].reduce((v, i) => v + saturate[row * 3 + i] * hue[i * 3 + col], 0)),
  );
  return product.map((v, i) => (v * warm[i % 3]) / sum);
}

/** What each encoded value becomes between black and white. */
export function levelTable(black: number, white: number, gamma: number): Uint16Array {
  const span = Math.max(1e-6, white - black);
  return Uint16Array.from({ length: WHITE + 1 }, (_, i) => {
    const t = Math.min(1, Math.max(0, (i / WHITE - black) / span));
    return Math.round(Math.pow(t, 1 / gamma) * WHITE);
  });
}

/** Mean of linear light, as encoded 0..1 for each colour. */
export function meanColour(r: Raster): [number, number, number] {
  const sum = [0, 0, 0];
  const n = r.channels;
  const step = Math.max(1, Math.floor(Math.sqrt((r.width * r.height) / 4e6)));
  let count = 0;
  for (let y = 0; y < r.height; y += step) {
    for (let x = 0; x < r.width; x += step, count++) {
      const at = (y * r.width + x) * n;
      for (let c = 0; c < 3; c++) sum[c] += LINEAR[r.data[at + c]];
    }
  }
  return sum.map((v) => toEncoded(v / count) / WHITE) as [number, number, number];
}

/** How many pixels have each of `bins` lightnesses: for levels. */
export function histogram(r: Raster, bins: number): { red: number[]; green: number[]; blue: number[] } {
  const counts = [0, 1, 2].map(() => new Array<number>(bins).fill(0));
  const step = Math.max(1, Math.floor(Math.sqrt((r.width * r.height) / 1e6)));
  for (let y = 0; y < r.height; y += step) {
    for (let x = 0; x < r.width; x += step) {
      const at = (y * r.width + x) * r.channels;
      for (let c = 0; c < 3; c++) counts[c][Math.min(bins - 1, Math.floor((r.data[at + c] / (WHITE + 1)) * bins))]++;
    }
  }
  return { red: counts[0], green: counts[1], blue: counts[2] };
}

/** “#a1b2c3” in linear light. */
export const hexToLinear = (hex: string): [number, number, number] =>
  [1, 3, 5].map((i) => toLinear(parseInt(hex.slice(i, i + 2), 16) / 255)) as [number, number, number];
