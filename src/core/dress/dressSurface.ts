import type { PartMesh } from '../mesh/types';
import type { Sheet } from '../mapping/sheet';
import { type Placement, repeatMatrix } from './placement';

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
export function shapeSurface(mesh: PartMesh, sheet: Sheet): SurfaceShape {
  const { faces, chartOf } = sheet;
  const indices = new Uint32Array(faces.length * 3);
  const source = new Uint32Array(faces.length * 3);
  const corner = new Uint32Array(faces.length * 3);
  const several = sheet.charts.length > 1;
  const newIndex = new Map<number, number>();
  const vertexTotal = mesh.positions.length / 3;
  const direct = several ? null : new Int32Array(vertexTotal).fill(-1);
  let count = 0;
  for (let i = 0; i < faces.length; i++) {
    for (let k = 0; k < 3; k++) {
      const v = mesh.indices[faces[i] * 3 + k];
      const key = several ? chartOf[i] * vertexTotal + v : v;
      let n = direct ? direct[v] : (newIndex.get(key) ?? -1);
      if (n < 0) {
        n = count++;
        source[n] = v;
        corner[n] = i * 3 + k;
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

/** Buffers for a surface with `placement` laid on its sheet (or bare when null). */
export function dressSurface(
  mesh: PartMesh,
  sheet: Sheet,
  placement: Placement | null,
  options: { tangents?: boolean } = {},
): DressedSurface {
  const { corner, ...shape } = shapeSurface(mesh, sheet);
  const none = new Float32Array(0);
  if (!placement) return { ...shape, uvs: none, tangents: none };
  return {
    ...shape,
    uvs: layCoordinates(sheet, corner, placement),
    tangents: options.tangents ? layTangents(sheet, shape.normals, corner, placement) : none,
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
 * Tangents along the picture's x. Every chart is an affine image of its frame, so the direction is the frame's own,
 * made square to each vertex normal.
 */
function layTangents(sheet: Sheet, normals: Float32Array, corner: Uint32Array, placement: Placement): Float32Array {
  const [a, b, c, d] = repeatMatrix({ ...placement, widthMm: 1, heightMm: 1 });
  const out = new Float32Array(corner.length * 4);
  const directions = sheet.charts.map(({ frame: { x, y } }) => ({
    t: [0, 1, 2].map((i) => a * x[i] + b * y[i]),
    up: [0, 1, 2].map((i) => c * x[i] + d * y[i]),
  }));
  for (let n = 0; n < corner.length; n++) {
    const { t, up } = directions[sheet.chartOf[Math.floor(corner[n] / 3)]];
    const nx = normals[n * 3];
    const ny = normals[n * 3 + 1];
    const nz = normals[n * 3 + 2];
    const along = t[0] * nx + t[1] * ny + t[2] * nz;
    let tx = t[0] - along * nx;
    let ty = t[1] - along * ny;
    let tz = t[2] - along * nz;
    let l = Math.sqrt(tx * tx + ty * ty + tz * tz);
    if (l < 1e-6) {
      // the picture's x runs straight into the surface; anything square to the normal will do
      [tx, ty, tz] = Math.abs(nx) < 0.9 ? [0, nz, -ny] : [-nz, 0, nx];
      l = Math.sqrt(tx * tx + ty * ty + tz * tz) || 1;
    }
    tx /= l;
    ty /= l;
    tz /= l;
    const bx = ny * tz - nz * ty;
    const by = nz * tx - nx * tz;
    const bz = nx * ty - ny * tx;
    out[n * 4] = tx;
    out[n * 4 + 1] = ty;
    out[n * 4 + 2] = tz;
    out[n * 4 + 3] = bx * up[0] + by * up[1] + bz * up[2] < 0 ? -1 : 1;
  }
  return out;
}
