import type { Plane } from './raster';

/**
 * What square windows of a plane look like: their lowest cosines along both axes, without the mean, so that places
 * which differ in tone alone are alike. Scaled so that distances stay what they are (N. Ahmed, T. Natarajan, K. Rao,
 * 1974).
 */
export class WindowNumbers {
  /** Numbers of each window; coarse waves first: they tell soonest that two windows differ. */
  readonly count: number;
  /** cos(π/N (k + ½) w) */
  private readonly cosines: Float32Array[];
  private readonly across: Uint8Array;
  private readonly down: Uint8Array;
  /** The plane's cosines along its rows, one plane for each wave. */
  private readonly rows: Float32Array[];

  /**
   * @param side of a window, pixels: an odd number
   * @param waves along each axis
   */
  constructor(
    private readonly plane: Plane,
    readonly side: number,
    waves: number,
  ) {
    this.count = waves * waves - 1;
    this.cosines = Array.from({ length: waves }, (_, w) =>
      Float32Array.from(
        { length: side },
        (_, k) => Math.sqrt((w ? 2 : 1) / side) * Math.cos((Math.PI / side) * (k + 0.5) * w),
      ),
    );
    const order = Array.from({ length: waves * waves }, (_, i) => [i % waves, Math.floor(i / waves)] as const)
      .slice(1)
      .sort((a, b) => a[0] + a[1] - (b[0] + b[1]) || a[0] - b[0]);
    this.across = Uint8Array.from(order, ([u]) => u);
    this.down = Uint8Array.from(order, ([, v]) => v);
    const { width, height, data } = plane;
    const half = side >> 1;
    this.rows = this.cosines.map((cosine) => {
      const row = new Float32Array(width * height);
      for (let y = 0, o = 0; y < height; y++)
        for (let x = 0; x < width; x++, o++)
          for (let i = 0, k = (x - half + width) % width; i < side; i++) {
            row[o] += cosine[i] * data[y * width + k];
            if (++k === width) k = 0;
          }
      return row;
    });
  }

  /** Writes the numbers of the window about a place, which goes on over the edges; their energy. */
  read(x: number, y: number, out: Float32Array, o: number): number {
    const { side, count } = this;
    const { width, height } = this.plane;
    const top = (y - (side >> 1) + height) % height;
    let energy = 0;
    for (let n = 0; n < count; n++) {
      const row = this.rows[this.across[n]];
      const cosine = this.cosines[this.down[n]];
      let sum = 0;
      for (let j = 0, k = top; j < side; j++) {
        sum += cosine[j] * row[k * width + x];
        if (++k === height) k = 0;
      }
      out[o + n] = sum;
      energy += out[o + n] ** 2;
    }
    return energy;
  }
}
