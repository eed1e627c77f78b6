import type { Sheet } from '../mapping/sheet';
import { type Placement, repeatMatrix } from '../setout/placement';

/** Buffers of one surface as a renderer or an exporter takes them. */
export interface DressedSurface {
  /** xyz per vertex, mm relative to the part's mesh origin. */
  positions: Float32Array;
  normals: Float32Array;
  /** Repeats of the picture, x right and y up; empty when nothing is laid. */
  uvs: Float32Array;
  /** xyz and handedness: cross(normal, tangent) · w points up in the picture. Empty unless asked for. */
  tangents: Float32Array;
  /** Linear RGB gain 0..1 for each vertex; absent or empty where there is none. */
  tones?: Float32Array;
  /** Coordinates of the surface as a whole, mm, for maps that do not move with pieces; absent where all move. */
  placesMm?: Float32Array;
  indices: Uint32Array;
}

/** The part of the buffers that depends on the sheet alone. */
export interface SurfaceShape {
  positions: Float32Array;
  normals: Float32Array;
  indices: Uint32Array;
  /** For each vertex the corner of the sheet (face × 3 + k) it stands for. */
  corner: Uint32Array;
}

/** Vertices of a surface: shared between faces of one chart, split between charts. */
export function shapeSurface(sheet: Sheet): SurfaceShape {
  const { mesh, faces, chartOf } = sheet;
  const indices = new Uint32Array(faces.length * 3);
  const source = new Uint32Array(faces.length * 3);
  const corner = new Uint32Array(faces.length * 3);
  const several = sheet.charts.length > 1;
  const newIndex = new Map<number, number>();
  const twin = new Map<number, number>();
  const vertexTotal = mesh.positions.length / 3;
  const direct = several ? null : new Int32Array(vertexTotal).fill(-1);
  let count = 0;
  for (let i = 0; i < faces.length; i++) {
    for (let k = 0; k < 3; k++) {
      const v = mesh.indices[faces[i] * 3 + k];
      const key = several ? chartOf[i] * vertexTotal + v : v;
      let n = direct ? direct[v] : (newIndex.get(key) ?? -1);
      // a chart may be cut: then one vertex lies in several places of the sheet
      while (n >= 0 && !liesAt(sheet.corners, corner[n], i * 3 + k)) n = twin.get(n) ?? -1;
      if (n < 0) {
        n = count++;
        source[n] = v;
        corner[n] = i * 3 + k;
        const before = direct ? direct[v] : (newIndex.get(key) ?? -1);
        if (before >= 0) twin.set(n, before);
        if (direct) direct[v] = n;
        else newIndex.set(key, n);
      }
      indices[i * 3 + k] = n;
    }
  }
  const positions = new Float32Array(count * 3);
  const normals = new Float32Array(count * 3);
  for (let n = 0; n < count; n++) {
    for (let c = 0; c < 3; c++) {
      positions[n * 3 + c] = mesh.positions[source[n] * 3 + c];
      normals[n * 3 + c] = mesh.normals[source[n] * 3 + c];
    }
  }
  return { positions, normals, indices, corner: corner.slice(0, count) };
}

const liesAt = (corners: Float64Array, a: number, b: number) =>
  Math.abs(corners[a * 2] - corners[b * 2]) < 0.01 && Math.abs(corners[a * 2 + 1] - corners[b * 2 + 1]) < 0.01;

/** Buffers for a surface with `placement` laid on its sheet (or bare when null). */
export function dressSurface(
  sheet: Sheet,
  placement: Placement | null,
  options: { tangents?: boolean } = {},
): DressedSurface {
  const { corner, ...shape } = shapeSurface(sheet);
  const none = new Float32Array(0);
  if (!placement) return { ...shape, uvs: none, tangents: none };
  return {
    ...shape,
    uvs: layCoordinates(sheet, corner, placement),
    tangents: options.tangents ? layTangents(sheet, { ...shape, corner }, placement) : none,
  };
}

/** Some faces of a sheet as they are on the mesh, with nothing laid on them. */
export function dressFaces({ mesh, faces }: Sheet, chosen: readonly number[]): DressedSurface {
  const none = new Float32Array(0);
  const vertices = chosen.flatMap((i) => [0, 1, 2].map((k) => mesh.indices[faces[i] * 3 + k]));
  const take = (from: Float32Array) =>
    Float32Array.from({ length: vertices.length * 3 }, (_, n) => from[vertices[Math.floor(n / 3)] * 3 + (n % 3)]);
  return {
    positions: take(mesh.positions),
    normals: take(mesh.normals),
    uvs: none,
    tangents: none,
    indices: Uint32Array.from(vertices, (_, n) => n),
  };
}

/** Coordinates in repeats, moved by whole repeats towards zero so that float32 keeps them sharp. */
export function layCoordinates(sheet: Sheet, corner: Uint32Array, placement: Placement): Float32Array {
  const { corners } = sheet;
  const [a, b, c, d] = repeatMatrix(placement);
  const [x0, y0] = placement.at;
  const mx = (sheet.bounds.minX + sheet.bounds.maxX) / 2 - x0;
  const my = (sheet.bounds.minY + sheet.bounds.maxY) / 2 - y0;
  const du = Math.round(a * mx + b * my);
  const dv = Math.round(c * mx + d * my);
  const uvs = new Float32Array(corner.length * 2);
  for (let n = 0; n < corner.length; n++) {
    const x = corners[corner[n] * 2] - x0;
    const y = corners[corner[n] * 2 + 1] - y0;
    uvs[n * 2] = a * x + b * y - du;
    uvs[n * 2 + 1] = c * x + d * y - dv;
  }
  return uvs;
}

/**
 * Tangents along the picture's x: for each vertex the mean, over its faces, of the directions in which the sheet's x
 * and y grow, made square to its normal.
 */
function layTangents(sheet: Sheet, shape: SurfaceShape, placement: Placement): Float32Array {
  const [a, b, c, d] = repeatMatrix({ ...placement, widthMm: 1, heightMm: 1 });
  const { normals, indices } = shape;
  const growth = sumGrowth(sheet, indices, normals.length / 3);
  const out = new Float32Array((normals.length / 3) * 4);
  for (let n = 0; n < out.length / 4; n++) {
    const g = growth.subarray(n * 6, n * 6 + 6);
    const nx = normals[n * 3];
    const ny = normals[n * 3 + 1];
    const nz = normals[n * 3 + 2];
    let tx = a * g[0] + b * g[3];
    let ty = a * g[1] + b * g[4];
    let tz = a * g[2] + b * g[5];
    const along = tx * nx + ty * ny + tz * nz;
    tx -= along * nx;
    ty -= along * ny;
    tz -= along * nz;
    let l = Math.sqrt(tx * tx + ty * ty + tz * tz);
    if (l < 1e-6) {
      // the picture's x runs straight into the surface; anything square to the normal will do
      [tx, ty, tz] = Math.abs(nx) < 0.9 ? [0, nz, -ny] : [-nz, 0, nx];
      l = Math.sqrt(tx * tx + ty * ty + tz * tz) || 1;
    }
    tx /= l;
    ty /= l;
    tz /= l;
    const up = [c * g[0] + d * g[3], c * g[1] + d * g[4], c * g[2] + d * g[5]];
    const side = (ny * tz - nz * ty) * up[0] + (nz * tx - nx * tz) * up[1] + (nx * ty - ny * tx) * up[2];
    out[n * 4] = tx;
    out[n * 4 + 1] = ty;
    out[n * 4 + 2] = tz;
    out[n * 4 + 3] = side < 0 ? -1 : 1;
  }
  return out;
}

/** Six numbers per vertex: the gradients of the sheet's x and y in space, summed over its faces by area. */
function sumGrowth(sheet: Sheet, indices: Uint32Array, count: number): Float64Array {
  const { mesh } = sheet;
  const sums = new Float64Array(count * 6);
  const p = mesh.positions;
  for (let i = 0; i < sheet.faces.length; i++) {
    const [va, vb, vc] = [0, 1, 2].map((k) => mesh.indices[sheet.faces[i] * 3 + k] * 3);
    const u = [0, 1, 2].map((k) => p[vb + k] - p[va + k]);
    const v = [0, 1, 2].map((k) => p[vc + k] - p[va + k]);
    const [uu, uv, vv] = [dot3(u, u), dot3(u, v), dot3(v, v)];
    const det = uu * vv - uv * uv;
    if (!(det > 0)) continue;
    const weight = Math.sqrt(det);
    for (let axis = 0; axis < 2; axis++) {
      const q = i * 6 + axis;
      const s = sheet.corners[q + 2] - sheet.corners[q];
      const t = sheet.corners[q + 4] - sheet.corners[q];
      // the vector in the face's plane whose products with u and v are s and t
      const e = ((s * vv - t * uv) / det) * weight;
      const f = ((t * uu - s * uv) / det) * weight;
      for (let k = 0; k < 3; k++) {
        const n = indices[i * 3 + k] * 6 + axis * 3;
        for (let c = 0; c < 3; c++) sums[n + c] += u[c] * e + v[c] * f;
      }
    }
  }
  return sums;
}

const dot3 = (a: number[], b: number[]) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
