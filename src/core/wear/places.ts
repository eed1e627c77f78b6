import type { Bounds2 } from '../geometry/bounds';
import type { Vec3 } from '../geometry/vec';
import type { Sheet } from '../mapping/sheet';

/** Places of a sheet in rows and columns, each with where it lies in space. */
export interface Places {
  columns: number;
  rows: number;
  /** Sheet mm of the first place, and from one to the next. */
  x: number;
  y: number;
  stepMm: number;
  /** Of each place the face of the sheet it lies on; −1 where there is none. */
  face: Int32Array;
  /** World mm. */
  at: Float64Array;
  /** Of length 1. */
  normal: Float32Array;
}

/** The places in the middles of squares of `stepMm`, from the lower left of the bounds up. */
export function placesOn(sheet: Pick<Sheet, 'mesh' | 'faces' | 'corners'>, bounds: Bounds2, stepMm: number): Places {
  const columns = Math.max(1, Math.ceil((bounds.maxX - bounds.minX) / stepMm - 1e-9));
  const rows = Math.max(1, Math.ceil((bounds.maxY - bounds.minY) / stepMm - 1e-9));
  const [x0, y0] = [bounds.minX + stepMm / 2, bounds.minY + stepMm / 2];
  const face = new Int32Array(columns * rows).fill(-1);
  const at = new Float64Array(columns * rows * 3);
  const normal = new Float32Array(columns * rows * 3);
  const { mesh, faces, corners } = sheet;
  for (let f = 0; f < faces.length; f++) {
    const [ax, ay, bx, by, cx, cy] = corners.subarray(f * 6, f * 6 + 6);
    const det = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
    if (Math.abs(det) < 1e-9) continue;
    const column = (x: number) => (x - x0) / stepMm;
    const row = (y: number) => (y - y0) / stepMm;
    const [fromX, toX] = [Math.ceil(column(Math.min(ax, bx, cx)) - EDGE), column(Math.max(ax, bx, cx)) + EDGE];
    const [fromY, toY] = [Math.ceil(row(Math.min(ay, by, cy)) - EDGE), row(Math.max(ay, by, cy)) + EDGE];
    for (let j = Math.max(0, fromY); j <= Math.min(rows - 1, toY); j++) {
      for (let i = Math.max(0, fromX); i <= Math.min(columns - 1, toX); i++) {
        const [x, y] = [x0 + i * stepMm, y0 + j * stepMm];
        const b = ((x - ax) * (cy - ay) - (y - ay) * (cx - ax)) / det;
        const c = ((bx - ax) * (y - ay) - (by - ay) * (x - ax)) / det;
        const a = 1 - b - c;
        if (Math.min(a, b, c) < -EDGE) continue;
        const n = j * columns + i;
        face[n] = f;
        put(mesh, faces[f], [a, b, c], n, at, normal);
      }
    }
  }
  return { columns, rows, x: x0, y: y0, stepMm, face, at, normal };
}

/** A place on an edge belongs to one of its faces whatever rounding makes of it; shares. */
const EDGE = 1e-6;

function put(
  { positions, normals, indices, origin }: Sheet['mesh'],
  face: number,
  shares: Vec3,
  n: number,
  at: Float64Array,
  normal: Float32Array,
): void {
  const sum: Vec3 = [0, 0, 0];
  for (let c = 0; c < 3; c++) {
    at[n * 3 + c] = origin[c];
    for (let k = 0; k < 3; k++) {
      const v = indices[face * 3 + k] * 3 + c;
      at[n * 3 + c] += positions[v] * shares[k];
      sum[c] += normals[v] * shares[k];
    }
  }
  const l = Math.hypot(...sum) || 1;
  for (let c = 0; c < 3; c++) normal[n * 3 + c] = sum[c] / l;
}

/** A number for every place, as a smooth function of the sheet; places without a face take after their neighbours. */
export function fieldOver(places: Places, valueAt: (n: number) => number): (x: number, y: number) => number {
  const { columns, rows, face } = places;
  let values = Float32Array.from(face, (f, n) => (f < 0 ? NaN : valueAt(n)));
  // as far as the two nearest places may be asked for from within a face
  for (let round = 0; round < 2; round++) values = spread(values, columns, rows);
  return (x, y) => {
    const u = Math.min(columns - 1, Math.max(0, (x - places.x) / places.stepMm));
    const v = Math.min(rows - 1, Math.max(0, (y - places.y) / places.stepMm));
    const [i, j] = [Math.min(columns - 2, Math.floor(u)), Math.min(rows - 2, Math.floor(v))];
    const get = (c: number, r: number) => {
      const value = values[Math.max(0, r) * columns + Math.max(0, c)];
      return value === value ? value : 0;
    };
    const [s, t] = [u - i, v - j];
    return (get(i, j) * (1 - s) + get(i + 1, j) * s) * (1 - t) + (get(i, j + 1) * (1 - s) + get(i + 1, j + 1) * s) * t;
  };
}

function spread(values: Float32Array<ArrayBuffer>, columns: number, rows: number): Float32Array<ArrayBuffer> {
  const out = values.slice();
  for (let n = 0; n < values.length; n++) {
    if (!Number.isNaN(values[n])) continue;
    const [i, j] = [n % columns, Math.floor(n / columns)];
    let [sum, count] = [0, 0];
    for (let r = Math.max(0, j - 1); r <= Math.min(rows - 1, j + 1); r++)
      for (let c = Math.max(0, i - 1); c <= Math.min(columns - 1, i + 1); c++)
        if (!Number.isNaN(values[r * columns + c])) {
          sum += values[r * columns + c];
          count++;
        }
    if (count) out[n] = sum / count;
  }
  return out;
}
