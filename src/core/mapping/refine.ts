import type { PartMesh } from '../mesh/types';

/** A corner of a polygon within a triangle: its shares of the triangle's three corners. */
export type Shares = [number, number, number];

/** The two sides of a polygon along a line; either may be empty. `distance` is linear over the triangle. */
export function splitPolygon(
  polygon: Shares[],
  distance: (s: Shares) => number,
  tolerance: number,
): [Shares[], Shares[]] {
  const left: Shares[] = [];
  const right: Shares[] = [];
  const d = polygon.map(distance).map((v) => (Math.abs(v) <= tolerance ? 0 : v));
  for (let i = 0; i < polygon.length; i++) {
    const j = (i + 1) % polygon.length;
    if (d[i] >= 0) left.push(polygon[i]);
    if (d[i] <= 0) right.push(polygon[i]);
    if (d[i] * d[j] < 0) {
      const t = d[i] / (d[i] - d[j]);
      const cut = polygon[i].map((v, k) => v + (polygon[j][k] - v) * t) as Shares;
      left.push(cut);
      right.push(cut);
    }
  }
  return [d.some((v) => v > 0) ? left : [], d.some((v) => v < 0) ? right : []];
}

/** Collects polygons cut from the faces of a mesh as a mesh of its own; corners that are not cut stay shared. */
export class CutMesh {
  private readonly positions: number[] = [];
  private readonly normals: number[] = [];
  private readonly uvs: number[][];
  private readonly indices: number[] = [];
  private readonly slots: number[] = [];
  private readonly known = new Map<number, number>();
  /** For each face made, the face of the source it is cut from. */
  readonly source: number[] = [];

  constructor(private readonly from: PartMesh) {
    this.uvs = from.uvs.map(() => []);
  }

  private corner(face: number, s: Shares): number {
    const { from } = this;
    const whole = s.findIndex((v) => v > 1 - 1e-9);
    const v = [0, 1, 2].map((k) => from.indices[face * 3 + k]);
    if (whole >= 0) {
      const known = this.known.get(v[whole]);
      if (known !== undefined) return known;
      this.known.set(v[whole], this.positions.length / 3);
    }
    const mix = (array: ArrayLike<number>, size: number, c: number) =>
      s[0] * array[v[0] * size + c] + s[1] * array[v[1] * size + c] + s[2] * array[v[2] * size + c];
    for (let c = 0; c < 3; c++) this.positions.push(mix(from.positions, 3, c));
    const n = [0, 1, 2].map((c) => mix(from.normals, 3, c));
    const l = Math.hypot(...n) || 1;
    this.normals.push(n[0] / l, n[1] / l, n[2] / l);
    from.uvs.forEach((uv, i) => this.uvs[i].push(mix(uv, 2, 0), mix(uv, 2, 1)));
    return this.positions.length / 3 - 1;
  }

  /** Adds a convex polygon of a face; gives how many faces it became, and calls back with the shares of each corner. */
  add(face: number, polygon: Shares[], each?: (shares: Shares) => void): number {
    const ids = polygon.map((s) => this.corner(face, s));
    let made = 0;
    for (let i = 1; i + 1 < polygon.length; i++) {
      // slivers that float32 would fold up are left out
      if (Math.abs(areaOf(polygon[0], polygon[i], polygon[i + 1])) < 1e-10) continue;
      this.indices.push(ids[0], ids[i], ids[i + 1]);
      this.slots.push(this.from.slots[face]);
      this.source.push(face);
      if (each) for (const k of [0, i, i + 1]) each(polygon[k]);
      made++;
    }
    return made;
  }

  finish(): PartMesh {
    const { polygons } = this.from;
    return {
      origin: this.from.origin,
      positions: Float32Array.from(this.positions),
      normals: Float32Array.from(this.normals),
      uvs: this.uvs.map((uv) => Float32Array.from(uv)),
      indices: Uint32Array.from(this.indices),
      slots: Uint16Array.from(this.slots),
      ...(polygons ? { polygons: Uint32Array.from(this.source, (face) => polygons[face]) } : {}),
    };
  }
}

export const WHOLE_FACE: Shares[] = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
];

/** Signed share of the triangle's area. */
const areaOf = (a: Shares, b: Shares, c: Shares): number =>
  (b[1] - a[1]) * (c[2] - a[2]) - (b[2] - a[2]) * (c[1] - a[1]);
