import { normalise, type Vec3 } from './vec';

/**
 * Solves a small dense system by elimination with pivoting; `a` is row by row and is used up.
 * @returns null where the system has no single answer
 */
export function solve(a: number[], b: number[]): number[] | null {
  const n = b.length;
  const x = [...b];
  let largest = 0;
  for (const v of a) largest = Math.max(largest, Math.abs(v));
  for (let c = 0; c < n; c++) {
    let pivot = c;
    for (let r = c + 1; r < n; r++) if (Math.abs(a[r * n + c]) > Math.abs(a[pivot * n + c])) pivot = r;
    if (!(Math.abs(a[pivot * n + c]) > largest * 1e-13)) return null;
    for (let k = 0; k < n; k++) [a[c * n + k], a[pivot * n + k]] = [a[pivot * n + k], a[c * n + k]];
    [x[c], x[pivot]] = [x[pivot], x[c]];
    for (let r = c + 1; r < n; r++) {
      const f = a[r * n + c] / a[c * n + c];
      for (let k = c; k < n; k++) a[r * n + k] -= f * a[c * n + k];
      x[r] -= f * x[c];
    }
  }
  for (let c = n - 1; c >= 0; c--) {
    for (let k = c + 1; k < n; k++) x[c] -= a[c * n + k] * x[k];
    x[c] /= a[c * n + c];
  }
  return x;
}

/** Sums the normal equations of a least-squares problem row by row. */
export class LeastSquares {
  private readonly a: number[];
  private readonly b: number[];

  constructor(private readonly n: number) {
    this.a = new Array<number>(n * n).fill(0);
    this.b = new Array<number>(n).fill(0);
  }

  /** Adds Σ row[i]·x[i] ≈ value. */
  add(row: readonly number[], value: number, weight = 1): void {
    const { n, a, b } = this;
    for (let i = 0; i < n; i++) {
      const w = weight * row[i];
      b[i] += w * value;
      for (let j = 0; j < n; j++) a[i * n + j] += w * row[j];
    }
  }

  solve(): number[] | null {
    return solve([...this.a], [...this.b]);
  }
}

/**
 * Axes of a symmetric 3 × 3 matrix (row by row) by Jacobi's rotations, that of the smallest eigenvalue first.
 */
export function principalAxes(m: readonly number[]): { axis: Vec3; value: number }[] {
  const a = [...m];
  const v = [1, 0, 0, 0, 1, 0, 0, 0, 1];
  for (let sweep = 0; sweep < 30; sweep++) {
    const off = Math.abs(a[1]) + Math.abs(a[2]) + Math.abs(a[5]);
    if (off <= 1e-18 * (Math.abs(a[0]) + Math.abs(a[4]) + Math.abs(a[8]))) break;
    for (const [p, q] of [
      [0, 1],
      [0, 2],
      [1, 2],
    ]) {
      const apq = a[p * 3 + q];
      if (apq === 0) continue;
      const theta = (a[q * 3 + q] - a[p * 3 + p]) / (2 * apq);
      const t = (theta < 0 ? -1 : 1) / (Math.abs(theta) + Math.sqrt(theta * theta + 1));
      const c = 1 / Math.sqrt(t * t + 1);
      const s = t * c;
      for (let k = 0; k < 3; k++) {
        const [x, y] = [a[k * 3 + p], a[k * 3 + q]];
        a[k * 3 + p] = c * x - s * y;
        a[k * 3 + q] = s * x + c * y;
      }
      for (let k = 0; k < 3; k++) {
        const [x, y] = [a[p * 3 + k], a[q * 3 + k]];
        a[p * 3 + k] = c * x - s * y;
        a[q * 3 + k] = s * x + c * y;
        const [e, f] = [v[k * 3 + p], v[k * 3 + q]];
        v[k * 3 + p] = c * e - s * f;
        v[k * 3 + q] = s * e + c * f;
      }
    }
  }
  return [0, 1, 2]
    .map((i) => ({ axis: normalise([v[i], v[3 + i], v[6 + i]]), value: a[i * 4] }))
    .sort((p, q) => p.value - q.value);
}
