import type { Sheet } from '../mapping/sheet';
import type { PartMesh } from '../mesh/types';
import type { ChartFaces } from './chartFaces';
import { type LayoutFrame, toSheet } from '../setout/layoutFrame';

/**
 * From the layout's frame back onto the mesh: position = p0 + x·px + y·py and normal alike, nine numbers each,
 * relative to the mesh's origin. One holds for a flat chart, else one for each triangle.
 */
export interface MeshMap {
  position: Float64Array;
  normal: Float64Array;
  /** Normals are the same everywhere. */
  level: boolean;
  /** Counter-clockwise in the layout is clockwise seen from the front. */
  turnedOver: boolean;
}

/** A point of a flat chart may lie this far off its plane, mm. */
const FLATNESS = 0.05;

/** The onMesh of a chart that is flat, undistorted and faces one way; null where each triangle needs its own. */
export function mapFlatChart(sheet: Sheet, chart: number, frame: LayoutFrame, faces: ChartFaces): MeshMap | null {
  const { x, y, offset } = sheet.charts[chart].frame;
  const n = [x[1] * y[2] - x[2] * y[1], x[2] * y[0] - x[0] * y[2], x[0] * y[1] - x[1] * y[0]];
  // round and the model's own mappings have no frame in space
  if (!(n[0] * n[0] + n[1] * n[1] + n[2] * n[2] > 0.99)) return null;
  const { positions: p, origin } = sheet.mesh;
  let d = NaN;
  for (let t = 0; t < faces.count; t++) {
    if (faces.turnedOver[t] !== faces.turnedOver[0]) return null;
    for (let k = 0; k < 3; k++) {
      const v = faces.vertices[t * 3 + k] * 3;
      const off = n[0] * (p[v] + origin[0]) + n[1] * (p[v + 1] + origin[1]) + n[2] * (p[v + 2] + origin[2]);
      if (Number.isNaN(d)) d = off;
      if (Math.abs(off - d) > FLATNESS) return null;
    }
  }
  // the point and the directions of the layout on the sheet, then in space
  const [ox, oy] = toSheet(frame, 0, 0);
  const [ax, ay] = toSheet(frame, 1, 0);
  const [bx, by] = toSheet(frame, 0, 1);
  const position = new Float64Array(9);
  const normal = new Float64Array(9);
  const front = faces.turnedOver[0] === (frame.m[0] * frame.m[3] - frame.m[1] * frame.m[2] < 0 ? 1 : 0) ? 1 : -1;
  for (let c = 0; c < 3; c++) {
    position[c] = x[c] * (ox - offset[0]) + y[c] * (oy - offset[1]) + n[c] * d - origin[c];
    position[3 + c] = x[c] * (ax - ox) + y[c] * (ay - oy);
    position[6 + c] = x[c] * (bx - ox) + y[c] * (by - oy);
    normal[c] = n[c] * front;
  }
  return { position, normal, level: true, turnedOver: faces.turnedOver[0] === 1 };
}

/** The onMesh of one triangle, written to `out`; false where the triangle has no area on the sheet. */
export function mapTriangle(mesh: PartMesh, faces: ChartFaces, t: number, out: MeshMap): boolean {
  const q = faces.corners;
  const o = t * 6;
  const x0 = q[o];
  const y0 = q[o + 1];
  const ux = q[o + 2] - x0;
  const uy = q[o + 3] - y0;
  const vx = q[o + 4] - x0;
  const vy = q[o + 5] - y0;
  const det = ux * vy - vx * uy;
  if (!(det > 1e-6)) return false;
  const a = faces.vertices[t * 3] * 3;
  const b = faces.vertices[t * 3 + 1] * 3;
  const c = faces.vertices[t * 3 + 2] * 3;
  const { positions, normals } = mesh;
  for (let n = 0; n < 3; n++) {
    affine(positions[a + n], positions[b + n], positions[c + n], x0, y0, ux, uy, vx, vy, det, out.position, n);
    affine(normals[a + n], normals[b + n], normals[c + n], x0, y0, ux, uy, vx, vy, det, out.normal, n);
  }
  out.turnedOver = faces.turnedOver[t] === 1;
  out.level = false;
  return true;
}

/** Coefficients of the affine function that has values r, s, t at a triangle's corners. */
function affine(
  r: number,
  s: number,
  t: number,
  x0: number,
  y0: number,
  ux: number,
  uy: number,
  vx: number,
  vy: number,
  det: number,
  out: Float64Array,
  n: number,
): void {
  const e = s - r;
  const f = t - r;
  const dx = (e * vy - f * uy) / det;
  const dy = (f * ux - e * vx) / det;
  out[n] = r - dx * x0 - dy * y0;
  out[3 + n] = dx;
  out[6 + n] = dy;
}

const lifts = new WeakMap<ChartFaces, TriangleMaps>();

/** The lifts of a curved chart, kept as long as its faces are. */
export function triangleMapsOf(mesh: PartMesh, faces: ChartFaces): TriangleMaps {
  let known = lifts.get(faces);
  if (!known) lifts.set(faces, (known = new TriangleMaps(mesh, faces)));
  return known;
}

/** Lifts of triangles that are asked for once by every cell they meet: worked out the first time, then copied. */
class TriangleMaps {
  private readonly known: Float64Array;
  /** 1 known, 2 without area. */
  private readonly state: Uint8Array;
  private readonly out = blankMeshMap();

  constructor(
    private readonly mesh: PartMesh,
    private readonly faces: ChartFaces,
  ) {
    this.known = new Float64Array(faces.count * 18);
    this.state = new Uint8Array(faces.count);
  }

  /** @returns the onMesh, until the next call; null where the triangle has no area on the sheet */
  of(t: number): MeshMap | null {
    const { known, state, out } = this;
    const { position, normal } = out;
    const at = t * 18;
    if (state[t] === 1) {
      for (let i = 0; i < 9; i++) {
        position[i] = known[at + i];
        normal[i] = known[at + 9 + i];
      }
      out.turnedOver = this.faces.turnedOver[t] === 1;
      return out;
    }
    if (state[t] === 2 || !mapTriangle(this.mesh, this.faces, t, out)) {
      state[t] = 2;
      return null;
    }
    known.set(position, at);
    known.set(normal, at + 9);
    state[t] = 1;
    return out;
  }
}

export const blankMeshMap = (): MeshMap => ({
  position: new Float64Array(9),
  normal: new Float64Array(9),
  level: false,
  turnedOver: false,
});
