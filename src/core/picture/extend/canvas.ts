import type { Vec2 } from '../../geometry/vec';
import { keptOf } from './cut';
import { COUNT, type Planes } from './planes';

/** Nothing has been laid there. */
export const NOTHING = 0xffff;

/** The growing picture: which patch lies at each pixel, and which pixel of the sample it shows. */
export class Canvas {
  readonly labels: Uint16Array;
  readonly source: Int32Array;
  /** How often each pixel of the sample is shown, and all of them together. */
  readonly shown: Int32Array;
  total = 0;
  /** How many of its pixels each feature shows, over all its places. */
  readonly features: Int32Array;
  private readonly featureAt: Int16Array;

  /** @param features pixels of what is noticed in the sample wherever it appears, one after another */
  constructor(
    readonly width: number,
    readonly height: number,
    readonly sample: Planes,
    features: readonly (readonly number[])[],
  ) {
    this.labels = new Uint16Array(width * height).fill(NOTHING);
    this.source = new Int32Array(width * height).fill(-1);
    this.shown = new Int32Array(sample.width * sample.height);
    this.features = new Int32Array(features.length);
    this.featureAt = new Int16Array(sample.width * sample.height).fill(-1);
    features.forEach((pixels, f) => pixels.forEach((p) => (this.featureAt[p] = f)));
  }

  /** Index of a pixel; −1 outside. */
  at(x: number, y: number): number {
    return x < 0 || y < 0 || x >= this.width || y >= this.height ? -1 : y * this.width + x;
  }

  lies(at: number): boolean {
    return at >= 0 && this.labels[at] !== NOTHING;
  }

  /** @param source pixel of the sample; −1 for nothing */
  put(at: number, label: number, source: number): void {
    this.count(this.source[at], -1);
    this.count(source, 1);
    this.labels[at] = label;
    this.source[at] = source;
  }

  private count(source: number, by: number): void {
    if (source < 0) return;
    this.shown[source] += by;
    this.total += by;
    const feature = this.featureAt[source];
    if (feature >= 0) this.features[feature] += by;
  }

  /** How far two pixels of the sample are apart, 0 for alike. */
  apart(a: number, b: number): number {
    const { data } = this.sample;
    let sum = 0;
    for (let c = 0; c < COUNT; c++) sum += Math.abs(data[a * COUNT + c] - data[b * COUNT + c]);
    return sum;
  }
}

/** A square of the canvas that a patch is to fill. */
export class Footprint {
  /** Indices of its pixels on the canvas, −1 outside. */
  readonly at: Int32Array;
  /** Pixels that need nothing: something lies there, or they are outside. */
  filled = 0;

  constructor(
    readonly canvas: Canvas,
    readonly to: Vec2,
    readonly side: number,
  ) {
    this.at = new Int32Array(side * side);
    for (let j = 0, k = 0; j < side; j++)
      for (let i = 0; i < side; i++, k++) {
        const at = canvas.at(to[0] + i, to[1] + j);
        this.at[k] = at;
        if (at < 0 || canvas.lies(at)) this.filled++;
      }
  }

  /** Whether something lies at one of its pixels. */
  lies(k: number): boolean {
    return this.canvas.lies(this.at[k]);
  }

  /**
   * Lays a square of the sample here: where nothing lies, and beyond that up to the line of least difference.
   *
   * @param goes what is to be covered in any case
   */
  lay([sx, sy]: Vec2, label: number, goes: Uint8Array | null): void {
    const { side, canvas, at } = this;
    const kept = keptOf(this, this.differences(sx, sy), goes);
    for (let j = 0, k = 0; j < side; j++)
      for (let i = 0; i < side; i++, k++)
        if (at[k] >= 0 && !kept[k]) canvas.put(at[k], label, (sy + j) * canvas.sample.width + sx + i);
  }

  /** How far a square of the sample differs from what lies here, pixel by pixel; a seam is seen over some of them. */
  private differences(sx: number, sy: number): Float32Array {
    const { side, canvas, at } = this;
    const raw = new Float32Array(side * side);
    for (let j = 0, k = 0; j < side; j++)
      for (let i = 0; i < side; i++, k++)
        if (this.lies(k)) raw[k] = canvas.apart(canvas.source[at[k]], (sy + j) * canvas.sample.width + sx + i);
    const out = new Float32Array(side * side);
    for (let j = 0, k = 0; j < side; j++)
      for (let i = 0; i < side; i++, k++) {
        if (!this.lies(k)) continue;
        let [sum, n] = [0, 0];
        for (let v = Math.max(0, j - 1); v <= Math.min(side - 1, j + 1); v++)
          for (let u = Math.max(0, i - 1); u <= Math.min(side - 1, i + 1); u++) {
            if (!this.lies(v * side + u)) continue;
            sum += raw[v * side + u];
            n++;
          }
        out[k] = sum / n;
      }
    return out;
  }
}
