import type { AppearanceRows, Appearance } from '../variation/appearance';
import type { MeshMap } from '../lay/meshMap';
import type { Part, Shape, Side } from '../layout/modules';

/**
 * What a renderer draws of the pieces of one material and module: cells, in whose shader joints and edges are drawn.
 */
export interface PieceBuffers {
  /** Index into the surface's materials. */
  material: number;
  /** Index into the layout's modules; −1 for cells whose vertices tell the nearest side of their pieces. */
  module: number;
  /** xyz, mm relative to the part's mesh origin. */
  positions: Float32Array;
  /** xyz and 0, in 1/32767. */
  normals: Int16Array;
  /** Repeats of the picture. */
  uvs: Float32Array;
  /** mm from the middle of the piece, along and across it. */
  local: Float32Array;
  /** Half sides of the piece, or of the box round it, mm; empty where vertices tell the nearest side. */
  half: Float32Array;
  /**
   * The side of the piece nearest to all of the triangle: its outward normal, how far it lies from the middle, and half
   * the joint beyond it, mm. Empty where a shader looks at all sides.
   */
  sides: Float32Array;
  /** Of the area, how much is piece; and the mean area of a cell, mm². 0 where all are rectangles. */
  share: number;
  cellArea: number;
  /** Linear gain as bytes, red, green, blue, and 255. */
  tones: Uint8Array;
  /** Place in the layout's frame, mm, for what lies still while prints move; empty unless asked for. */
  places: Float32Array;
  indices: Uint32Array;
}

/** A cell as it is written: the corners of its convex parts, in its half sides, and as they are in mm. */
export interface Template {
  /** Mm; of a rectangle in half sides. */
  parts: readonly (Pick<Part, 'corners'> & { side: Side | null })[];
  /** All of them one after the other, in half sides of the cell. */
  corners: Float64Array;
  /** Half sides of the piece, mm; null where they are what its joints leave of the cell. */
  half: readonly [number, number] | null;
}

/** Growing buffers of one material and of modules that are drawn alike. */
export class PieceStore {
  private room: number;
  private count = 0;
  indexCount = 0;
  private positions: Float32Array;
  private normals: Int16Array;
  private uvs: Float32Array;
  private local: Float32Array;
  private half: Float32Array;
  private sides: Float32Array;
  private pieceArea = 0;
  private cellArea = 0;
  private weighed = 0;
  private tones: Uint32Array;
  private places: Float32Array;
  private indices: Uint32Array;

  constructor(
    readonly kind: { material: number; module: number },
    vertices: number,
    private readonly withPlaces: boolean,
    private readonly withSides = false,
  ) {
    this.room = Math.ceil(vertices);
    this.positions = new Float32Array(this.room * 3);
    this.normals = new Int16Array(this.room * 4);
    this.uvs = new Float32Array(this.room * 2);
    this.local = new Float32Array(this.room * 2);
    this.half = new Float32Array(withSides ? 0 : this.room * 2);
    this.sides = new Float32Array(withSides ? this.room * 4 : 0);
    this.tones = new Uint32Array(this.room);
    this.places = new Float32Array(withPlaces ? this.room * 2 : 0);
    this.indices = new Uint32Array(Math.ceil(this.room * 1.6));
  }

  /** A convex polygon of a cell, counter-clockwise in the layout's frame. */
  polygon(
    corners: Float64Array,
    n: number,
    x: number,
    y: number,
    ax: number,
    ay: number,
    halfLength: number,
    halfWidth: number,
    side: Side | null,
    appearance: Appearance,
    onMesh: MeshMap,
  ): void {
    if (this.count + n > this.room || this.indexCount + n * 3 > this.indices.length) this.grow(n);
    const first = this.count;
    const { position: p, normal: q } = onMesh;
    const tone = toneBytes(appearance.gain[0], appearance.gain[1], appearance.gain[2]);
    const { positions, normals, uvs, local, half, sides, tones, withPlaces } = this;
    let nx = 0;
    let ny = 0;
    let nz = 0;
    const steady = onMesh.level;
    if (steady) {
      leaning(q[0], q[1], q[2], p, ax, ay, appearance.leanAlong, appearance.leanAcross);
      nx = leaned[0] * 32767;
      ny = leaned[1] * 32767;
      nz = leaned[2] * 32767;
    }
    const { u, v, uAlong, uAcross, vAlong, vAcross } = appearance;
    const leans = appearance.leanAlong !== 0 || appearance.leanAcross !== 0;
    for (let k = 0; k < n; k++) {
      const cx = corners[k * 2];
      const cy = corners[k * 2 + 1];
      const at = first + k;
      positions[at * 3] = p[0] + cx * p[3] + cy * p[6];
      positions[at * 3 + 1] = p[1] + cx * p[4] + cy * p[7];
      positions[at * 3 + 2] = p[2] + cx * p[5] + cy * p[8];
      if (!steady) {
        nx = q[0] + cx * q[3] + cy * q[6];
        ny = q[1] + cx * q[4] + cy * q[7];
        nz = q[2] + cx * q[5] + cy * q[8];
        if (leans) {
          leaning(nx, ny, nz, p, ax, ay, appearance.leanAlong, appearance.leanAcross);
          nx = leaned[0] * 32767;
          ny = leaned[1] * 32767;
          nz = leaned[2] * 32767;
        } else {
          const l = 32767 / (Math.sqrt(nx * nx + ny * ny + nz * nz) || 1);
          nx *= l;
          ny *= l;
          nz *= l;
        }
      }
      normals[at * 4] = nx;
      normals[at * 4 + 1] = ny;
      normals[at * 4 + 2] = nz;
      const dx = cx - x;
      const dy = cy - y;
      const along = dx * ax + dy * ay;
      const across = dy * ax - dx * ay;
      local[at * 2] = along;
      local[at * 2 + 1] = across;
      if (side) {
        sides[at * 4] = side.x;
        sides[at * 4 + 1] = side.y;
        sides[at * 4 + 2] = side.away;
        sides[at * 4 + 3] = side.joint;
      } else {
        half[at * 2] = halfLength;
        half[at * 2 + 1] = halfWidth;
      }
      uvs[at * 2] = u + along * uAlong + across * uAcross;
      uvs[at * 2 + 1] = v + along * vAlong + across * vAcross;
      tones[at] = tone;
      if (withPlaces) {
        this.places[at * 2] = cx;
        this.places[at * 2 + 1] = cy;
      }
    }
    this.fans(first, 1, n, onMesh.turnedOver);
  }

  /** Whole cells of a flat chart, what most of a large surface is made of: one kind of number after the other. */
  uncut(
    template: Template,
    rows: AppearanceRows,
    insetAlong: number,
    insetAcross: number,
    { position: p, normal: q, turnedOver }: MeshMap,
  ): void {
    const { count } = rows;
    const { corners: shape } = template;
    const sides = shape.length >> 1;
    const more = count * sides;
    if (this.count + more > this.room || this.indexCount + more * 3 > this.indices.length) this.grow(more);
    const first = this.count;
    const { positions, local, half, uvs, tones, places, withPlaces } = this;
    const { x, y, a, b, ax, ay, u, v, uAlong, uAcross, vAlong, vAcross, red, green, blue } = rows;
    let at = first * 3;
    for (let n = 0; n < count; n++) {
      // from the middle, half the cell along and half across: corners are sums of these
      const lx = a[n] * ax[n];
      const ly = a[n] * ay[n];
      const wx = -b[n] * ay[n];
      const wy = b[n] * ax[n];
      const px = p[0] + x[n] * p[3] + y[n] * p[6];
      const py = p[1] + x[n] * p[4] + y[n] * p[7];
      const pz = p[2] + x[n] * p[5] + y[n] * p[8];
      const lpx = lx * p[3] + ly * p[6];
      const lpy = lx * p[4] + ly * p[7];
      const lpz = lx * p[5] + ly * p[8];
      const wpx = wx * p[3] + wy * p[6];
      const wpy = wx * p[4] + wy * p[7];
      const wpz = wx * p[5] + wy * p[8];
      for (let k = 0; k < shape.length; k += 2) {
        const l = shape[k];
        const w = shape[k + 1];
        positions[at] = px + l * lpx + w * wpx;
        positions[at + 1] = py + l * lpy + w * wpy;
        positions[at + 2] = pz + l * lpz + w * wpz;
        at += 3;
      }
    }
    at = first * 2;
    for (let n = 0; n < count; n++) {
      const ul = a[n] * uAlong[n];
      const vl = a[n] * vAlong[n];
      const uw = b[n] * uAcross[n];
      const vw = b[n] * vAcross[n];
      for (let k = 0; k < shape.length; k += 2) {
        uvs[at] = u[n] + shape[k] * ul + shape[k + 1] * uw;
        uvs[at + 1] = v[n] + shape[k] * vl + shape[k + 1] * vw;
        at += 2;
      }
    }
    at = first * 2;
    for (let n = 0; n < count; n++) {
      for (let k = 0; k < shape.length; k += 2) {
        local[at] = shape[k] * a[n];
        local[at + 1] = shape[k + 1] * b[n];
        at += 2;
      }
    }
    if (this.withSides) this.uncutSides(template, first, count);
    else {
      at = first * 2;
      for (let n = 0; n < count; n++) {
        const halfLength = template.half ? template.half[0] : a[n] - insetAlong;
        const halfWidth = template.half ? template.half[1] : b[n] - insetAcross;
        for (let k = 0; k < sides; k++) {
          half[at] = halfLength;
          half[at + 1] = halfWidth;
          at += 2;
        }
      }
    }
    at = first;
    for (let n = 0; n < count; n++) {
      const tone = toneBytes(red[n], green[n], blue[n]);
      for (let k = 0; k < sides; k++) tones[at++] = tone;
    }
    this.uncutNormals(rows, sides, p, q);
    if (withPlaces) {
      at = first * 2;
      for (let n = 0; n < count; n++) {
        for (let k = 0; k < shape.length; k += 2) {
          const l = shape[k] * a[n];
          const w = shape[k + 1] * b[n];
          places[at++] = x[n] + l * ax[n] - w * ay[n];
          places[at++] = y[n] + l * ay[n] + w * ax[n];
        }
      }
    }
    if (template.parts.length === 1) this.fans(first, count, sides, turnedOver);
    else {
      let from = first;
      for (let n = 0; n < count; n++) {
        for (const { corners } of template.parts) {
          this.fans(from, 1, corners.length >> 1, turnedOver);
          from += corners.length >> 1;
        }
      }
    }
  }

  /** The sides of one cell, and copies of them. */
  private uncutSides({ parts, corners }: Template, first: number, count: number): void {
    const start = first * 4;
    let at = start;
    for (const { corners: own, side } of parts) {
      for (let k = 0; k < own.length; k += 2) {
        this.sides[at++] = side!.x;
        this.sides[at++] = side!.y;
        this.sides[at++] = side!.away;
        this.sides[at++] = side!.joint;
      }
    }
    const one = corners.length * 2;
    const end = start + count * one;
    for (let n = one; start + n < end; n *= 2) this.sides.copyWithin(start + n, start, Math.min(start + n, end - n));
  }

  /** Counts cells towards the share of the area that is piece. */
  weigh({ pieceArea, cellArea }: Shape, cells: number): void {
    this.pieceArea += pieceArea * cells;
    this.cellArea += cellArea * cells;
    this.weighed += cells;
  }

  /** Two of a normal's four numbers are written at a time; faces that do not lean have one for all. */
  private uncutNormals(
    { count, ax, ay, lean, leanAlong, leanAcross }: AppearanceRows,
    sides: number,
    p: Float64Array,
    q: Float64Array,
  ): void {
    const pairs = new Int32Array(this.normals.buffer, 0, this.room * 2);
    let at = this.count * 2;
    if (!lean) {
      leaning(q[0], q[1], q[2], p, 1, 0, 0, 0);
      pairs[at] = packed(0) | (packed(1) << 16);
      pairs[at + 1] = packed(2);
      const end = at + count * sides * 2;
      for (let n = 2; at + n < end; n *= 2) pairs.copyWithin(at + n, at, Math.min(at + n, end - n));
      return;
    }
    for (let n = 0; n < count; n++) {
      leaning(q[0], q[1], q[2], p, ax[n], ay[n], leanAlong[n], leanAcross[n]);
      const xy = packed(0) | (packed(1) << 16);
      const z = packed(2);
      for (let k = 0; k < sides; k++) {
        pairs[at] = xy;
        pairs[at + 1] = z;
        at += 2;
      }
    }
  }

  /** Triangles of convex polygons whose corners were written from `first` on. */
  private fans(first: number, count: number, sides: number, turnedOver: boolean): void {
    const { indices } = this;
    const b = turnedOver ? 1 : 0;
    let i = this.indexCount;
    for (let n = 0; n < count; n++) {
      for (let k = first + 1; k < first + sides - 1; k++) {
        indices[i] = first;
        indices[i + 1] = k + b;
        indices[i + 2] = k + 1 - b;
        i += 3;
      }
      first += sides;
    }
    this.indexCount = i;
    this.count = first;
  }

  private grow(n: number): void {
    this.room = Math.ceil(this.room * 1.5) + n;
    const larger = <T extends Float32Array | Int16Array | Uint32Array>(old: T, length: number): T => {
      const made = new (old.constructor as new (length: number) => T)(length);
      made.set(old as never);
      return made;
    };
    this.positions = larger(this.positions, this.room * 3);
    this.normals = larger(this.normals, this.room * 4);
    this.uvs = larger(this.uvs, this.room * 2);
    this.local = larger(this.local, this.room * 2);
    if (this.withSides) this.sides = larger(this.sides, this.room * 4);
    else this.half = larger(this.half, this.room * 2);
    this.tones = larger(this.tones, this.room);
    if (this.withPlaces) this.places = larger(this.places, this.room * 2);
    this.indices = larger(this.indices, Math.max(Math.ceil(this.room * 1.6), this.indexCount + n * 3));
  }

  finish(): PieceBuffers {
    const { count: n } = this;
    return {
      ...this.kind,
      positions: this.positions.subarray(0, n * 3),
      normals: this.normals.subarray(0, n * 4),
      uvs: this.uvs.subarray(0, n * 2),
      local: this.local.subarray(0, n * 2),
      half: this.half.subarray(0, this.withSides ? 0 : n * 2),
      sides: this.sides.subarray(0, this.withSides ? n * 4 : 0),
      share: this.weighed ? this.pieceArea / this.cellArea : 0,
      cellArea: this.weighed ? this.cellArea / this.weighed : 0,
      tones: new Uint8Array(this.tones.buffer, 0, n * 4),
      places: this.places.subarray(0, this.withPlaces ? n * 2 : 0),
      indices: this.indices.subarray(0, this.indexCount),
    };
  }
}

/** Bytes in memory order red, green, blue, 255: every machine this runs on is little-endian. */
const toneBytes = (red: number, green: number, blue: number): number =>
  (255 << 24) | (((blue * 255 + 0.5) | 0) << 16) | (((green * 255 + 0.5) | 0) << 8) | ((red * 255 + 0.5) | 0);

const leaned = new Float64Array(3);

/** One number of the leaned normal as 16 bits. */
const packed = (n: number): number => (leaned[n] * 32767) & 0xffff;

/** A normal of length 1, leaning as the piece's face does, into `leaned`. */
function leaning(
  x: number,
  y: number,
  z: number,
  p: Float64Array,
  ax: number,
  ay: number,
  l0: number,
  l1: number,
): void {
  if (l0 || l1) {
    x += (p[3] * ax + p[6] * ay) * l0 + (p[6] * ax - p[3] * ay) * l1;
    y += (p[4] * ax + p[7] * ay) * l0 + (p[7] * ax - p[4] * ay) * l1;
    z += (p[5] * ax + p[8] * ay) * l0 + (p[8] * ax - p[5] * ay) * l1;
  }
  const l = 1 / (Math.sqrt(x * x + y * y + z * z) || 1);
  leaned[0] = x * l;
  leaned[1] = y * l;
  leaned[2] = z * l;
}
