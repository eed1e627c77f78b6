/**
 * A picture as it is worked on: sRGB-encoded, 0 to 65535, row by row from the top, channels side by side.
 * The first three are its colour; the fourth, where there is one, is opacity; any after that are maps that go along
 * with it wherever its places go, as their files have them.
 */
export interface Raster {
  width: number;
  height: number;
  channels: number;
  data: Uint16Array<ArrayBuffer>;
}

/** One number for each pixel, row by row from the top. */
export interface Plane {
  width: number;
  height: number;
  data: Float32Array;
}

export const WHITE = 65535;

const decode = (v: number) => (v <= 0.04045 ? v / 12.92 : Math.pow((v + 0.055) / 1.055, 2.4));
const encode = (v: number) => (v <= 0.0031308 ? v * 12.92 : 1.055 * Math.pow(v, 1 / 2.4) - 0.055);

/** Linear light 0..1 of an encoded value 0..65535 (IEC 61966-2-1). */
export const LINEAR = Float32Array.from({ length: WHITE + 1 }, (_, i) => decode(i / WHITE));
const ENCODED = Uint16Array.from({ length: WHITE + 1 }, (_, i) => Math.round(encode(i / WHITE) * WHITE));

/** Encoded value 0..65535 of linear light; what lies outside 0..1 comes to its nearest end. */
export const toEncoded = (linear: number): number =>
  ENCODED[linear <= 0 ? 0 : linear >= 1 ? WHITE : (linear * WHITE + 0.5) | 0];

/** An encoded 0..1 as linear light, and back. */
export const toLinear = decode;

export const blankRaster = (width: number, height: number, channels: number): Raster => ({
  width,
  height,
  channels,
  data: new Uint16Array(width * height * channels),
});

/** Bytes of red, green, blue and opacity as a picture; its opacity only where it has any. */
export function rasterOfBytes(bytes: Uint8Array | Uint8ClampedArray, width: number, height: number): Raster {
  let clear = false;
  for (let i = 3; i < bytes.length && !clear; i += 4) clear = bytes[i] < 255;
  const made = blankRaster(width, height, clear ? 4 : 3);
  const { data, channels } = made;
  for (let i = 0, k = 0; i < bytes.length; i += 4) for (let c = 0; c < channels; c++) data[k++] = bytes[i + c] * 257;
  return made;
}

/** Copies what a pixel has behind its colour. */
export function keepBehind({ data, channels }: Raster, to: Uint16Array, at: number): void {
  for (let c = 3; c < channels; c++) to[at + c] = data[at + c];
}

export const blankPlane = (width: number, height: number): Plane => ({
  width,
  height,
  data: new Float32Array(width * height),
});

/**
 * Lightness 0..1 as the eye weighs it (Rec. 709 weights on encoded values), averaged over blocks of `by` × `by`
 * pixels.
 */
export function lightnessOf(r: Raster, by = 1): Plane {
  const width = Math.max(1, Math.floor(r.width / by));
  const height = Math.max(1, Math.floor(r.height / by));
  const out = blankPlane(width, height);
  const { data, channels } = r;
  const k = 1 / (WHITE * by * by);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    for (let j = 0; j < by; j++) {
      let at = (y * by + j) * r.width * channels;
      for (let x = 0; x < width; x++) {
        let sum = 0;
        for (let i = 0; i < by; i++, at += channels)
          sum += 0.2126 * data[at] + 0.7152 * data[at + 1] + 0.0722 * data[at + 2];
        out.data[row + x] += sum * k;
      }
    }
  }
  return out;
}

/** The largest whole factor that leaves the longer side at least `side` pixels. */
export const shrinkFor = (r: { width: number; height: number }, side: number): number =>
  Math.max(1, Math.floor(Math.max(r.width, r.height) / side));

/** A picture of which each pixel is the mean of `by` × `by`; what is left over at the right and below goes. */
export function shrinkBy(r: Raster, by: number): Raster {
  if (by === 1) return r;
  const out = blankRaster(Math.floor(r.width / by), Math.floor(r.height / by), r.channels);
  const n = r.channels;
  for (let y = 0, o = 0; y < out.height; y++) {
    for (let x = 0; x < out.width; x++) {
      for (let c = 0; c < n; c++, o++) {
        let sum = 0;
        for (let j = 0; j < by; j++)
          for (let i = 0; i < by; i++) sum += r.data[((y * by + j) * r.width + x * by + i) * n + c];
        out.data[o] = sum / (by * by) + 0.5;
      }
    }
  }
  return out;
}

/** A part of a picture; it may reach over the right and lower edge, and then goes on at the left and upper one. */
export function cutOut(r: Raster, x0: number, y0: number, width: number, height: number): Raster {
  const out = blankRaster(width, height, r.channels);
  const n = r.channels;
  for (let y = 0; y < height; y++) {
    const row = (((y0 + y) % r.height) + r.height) % r.height;
    for (let x = 0; x < width;) {
      const from = (((x0 + x) % r.width) + r.width) % r.width;
      const run = Math.min(width - x, r.width - from);
      out.data.set(r.data.subarray((row * r.width + from) * n, (row * r.width + from + run) * n), (y * width + x) * n);
      x += run;
    }
  }
  return out;
}
