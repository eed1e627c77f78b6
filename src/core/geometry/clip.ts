/**
 * Clips a convex polygon by a convex polygon (Sutherland and Hodgman 1974), both counter-clockwise, on preallocated
 * arrays: a curved surface asks for this a million times.
 */
export class ConvexClipper {
  private a = new Float64Array(64);
  private b = new Float64Array(64);

  /** The corners of the last result: x, y, x, y, … */
  result = this.a;

  /**
   * @param subject corners x, y, …; `count` of them
   * @param window corners of what is kept, from `at` on
   * @returns how many corners are left; 0 when nothing is
   */
  clip(subject: Float64Array, count: number, window: Float64Array, sides: number, at = 0): number {
    // every side of the window adds a corner at most
    if (2 * (count + sides) > this.a.length) {
      this.a = new Float64Array(4 * (count + sides));
      this.b = new Float64Array(4 * (count + sides));
    }
    let from = this.a;
    let to = this.b;
    for (let i = 0; i < count * 2; i++) from[i] = subject[i];
    let n = count;
    for (let e = 0; e < sides && n > 0; e++) {
      const px = window[at + e * 2];
      const py = window[at + e * 2 + 1];
      const next = at + (e + 1 === sides ? 0 : e + 1) * 2;
      const dx = window[next] - px;
      const dy = window[next + 1] - py;
      let m = 0;
      let lastX = from[n * 2 - 2];
      let lastY = from[n * 2 - 1];
      let lastSide = dx * (lastY - py) - dy * (lastX - px);
      for (let i = 0; i < n; i++) {
        const x = from[i * 2];
        const y = from[i * 2 + 1];
        const side = dx * (y - py) - dy * (x - px);
        if (side >= 0 ? lastSide < 0 : lastSide > 0) {
          const t = lastSide / (lastSide - side);
          // a corner that lies on the line is kept as it is below
          if (side !== 0 && lastSide !== 0) {
            to[m * 2] = lastX + t * (x - lastX);
            to[m * 2 + 1] = lastY + t * (y - lastY);
            m++;
          }
        }
        if (side >= 0) {
          to[m * 2] = x;
          to[m * 2 + 1] = y;
          m++;
        }
        lastX = x;
        lastY = y;
        lastSide = side;
      }
      n = m;
      const swap = from;
      from = to;
      to = swap;
    }
    this.result = from;
    return n < 3 ? 0 : n;
  }
}

/** Signed area of the first `count` corners, positive counter-clockwise. */
export function areaOfCorners(p: ArrayLike<number>, count: number): number {
  let sum = 0;
  for (let i = 0, j = count - 1; i < count; j = i++) sum += p[j * 2] * p[i * 2 + 1] - p[i * 2] * p[j * 2 + 1];
  return sum / 2;
}
