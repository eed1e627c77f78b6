import { SHAPES } from '../layout/shapes';
import type { Sheet } from '../mapping/sheet';
import type { Bodies } from '../pieces/bodies';
import { chartFaces } from '../pieces/chartFaces';
import { blankLook, lookAtPiece, type OpenPieces, type PieceLook } from '../pieces/openPieces';
import { blankLift, type Lift, liftTriangle } from './lift';
import { shapeCorners, walkCells } from './walkCells';

/** What a renderer draws of the pieces of one material: cells, in whose shader joints and edges are drawn. */
export interface PieceBuffers {
  /** Index into the surface's materials. */
  material: number;
  /** xyz, mm relative to the part's mesh origin. */
  positions: Float32Array;
  /** xyz and 0, in 1/32767. */
  normals: Int16Array;
  /** Repeats of the picture. */
  uvs: Float32Array;
  /** mm from the middle of the piece, along and across it. */
  local: Float32Array;
  /** Half sides of the piece, mm. */
  half: Float32Array;
  /** Linear gain as bytes, red, green, blue, and 255. */
  tones: Uint8Array;
  /** Place in the layout's frame, mm, for what lies on the surface as a whole; empty unless asked for. */
  whole: Float32Array;
  indices: Uint32Array;
}

/**
 * Cells of a surface as buffers for drawing. Cells wholly within a flat chart go straight to the buffers; those on its
 * outline, and all on curved charts, are clipped by the chart's triangles. Coordinates come from the piece, so that
 * grain runs on over the triangles' edges.
 */
export function dressPieces(sheet: Sheet, open: OpenPieces, options: { whole?: boolean } = {}): PieceBuffers[] {
  const stores = open.materials.map((m, i) => {
    const share = open.materials.length > 1 ? 0.5 : 1;
    const cells = (sheet.area / open.layout.cellArea) * 4.1 + 256;
    // where a chart bends, every triangle cuts the cells it touches
    const cuts = sheet.faces.length > 64 ? sheet.faces.length * 10.5 : 0;
    return new Store(i, (cells + cuts) * share, !!options.whole);
  });
  if (open.bodies) {
    dressBodies(sheet, open, open.bodies, stores);
    return stores.filter((s) => s.indexCount > 0).map((s) => s.finish());
  }
  const { layout } = open;
  const look = blankLook();
  const shape = Float64Array.from(SHAPES[layout.shape].corners);
  const sides = shape.length / 2;
  const corners = new Float64Array(sides * 2);
  const insetAlong = layout.inset[0];
  const insetAcross = layout.inset[1];
  walkCells(sheet, open, (cell, clip) => {
    const { x, y, a, b, axis, whole } = cell;
    const ax = axis[0];
    const ay = axis[1];
    if (whole) {
      lookAtPiece(open, cell.course, cell.index, x, y, axis, look);
      stores[look.material].whole(shape, x, y, a, b, ax, ay, a - insetAlong, b - insetAcross, look, whole);
      return;
    }
    shapeCorners(shape, x, y, a, b, axis, corners);
    let looked = false;
    clip(corners, sides, (part, count, lift) => {
      if (!looked) lookAtPiece(open, cell.course, cell.index, x, y, axis, look);
      looked = true;
      stores[look.material].polygon(part, count, x, y, ax, ay, a - insetAlong, b - insetAcross, look, lift);
    });
  });
  return stores.filter((s) => s.indexCount > 0).map((s) => s.finish());
}

/** Pieces found in the mesh: every face as it is, with the coordinates of its body. */
function dressBodies(sheet: Sheet, open: OpenPieces, bodies: Bodies, stores: Store[]): void {
  const { layout, frame } = open;
  const looks = Array.from({ length: bodies.count }, (_, n) => {
    const box = bodies.boxOf(n);
    const axis = layout.axes[box.axis];
    return { ...box, axis, look: lookAtPiece(open, 0, n, box.x, box.y, axis, blankLook()) };
  });
  const lift = blankLift();
  for (let chart = 0; chart < sheet.charts.length; chart++) {
    const faces = chartFaces(sheet, chart, frame);
    // the faces of a chart come in the order of the sheet
    let t = 0;
    for (let i = 0; i < sheet.faces.length; i++) {
      if (sheet.chartOf[i] !== chart) continue;
      if (liftTriangle(sheet.mesh, faces, t, lift)) {
        const { look, x, y, a, b, axis } = looks[bodies.of[i]];
        stores[look.material].polygon(faces.corners.subarray(t * 6, t * 6 + 6), 3, x, y, axis[0], axis[1], a, b, look, lift);
      }
      t++;
    }
  }
} // prettier-ignore

/** Growing buffers of one material. */
class Store {
  private room: number;
  private count = 0;
  indexCount = 0;
  private positions: Float32Array;
  private normals: Int16Array;
  private uvs: Float32Array;
  private local: Float32Array;
  private half: Float32Array;
  private tones: Uint32Array;
  private places: Float32Array;
  private indices: Uint32Array;

  constructor(
    private readonly material: number,
    vertices: number,
    private readonly withWhole: boolean,
  ) {
    this.room = Math.ceil(vertices);
    this.positions = new Float32Array(this.room * 3);
    this.normals = new Int16Array(this.room * 4);
    this.uvs = new Float32Array(this.room * 2);
    this.local = new Float32Array(this.room * 2);
    this.half = new Float32Array(this.room * 2);
    this.tones = new Uint32Array(this.room);
    this.places = new Float32Array(withWhole ? this.room * 2 : 0);
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
    look: PieceLook,
    lift: Lift,
  ): void {
    if (this.count + n > this.room || this.indexCount + n * 3 > this.indices.length) this.grow(n);
    const first = this.count;
    const { position: p, normal: q } = lift;
    const tone = toneBytes(look.gain);
    const { positions, normals, uvs, local, half, tones, withWhole } = this;
    let nx = 0;
    let ny = 0;
    let nz = 0;
    const steady = lift.level;
    if (steady) {
      leaning(q[0], q[1], q[2], p, ax, ay, look);
      nx = leaned[0] * 32767;
      ny = leaned[1] * 32767;
      nz = leaned[2] * 32767;
    }
    const { u, v, uAlong, uAcross, vAlong, vAcross } = look;
    const leans = look.leanAlong !== 0 || look.leanAcross !== 0;
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
          leaning(nx, ny, nz, p, ax, ay, look);
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
      half[at * 2] = halfLength;
      half[at * 2 + 1] = halfWidth;
      uvs[at * 2] = u + along * uAlong + across * uAcross;
      uvs[at * 2 + 1] = v + along * vAlong + across * vAcross;
      tones[at] = tone;
      if (withWhole) {
        this.places[at * 2] = cx;
        this.places[at * 2 + 1] = cy;
      }
    }
    this.fan(first, n, lift.turned);
  }

  /** A whole cell of a flat chart: what most of a large surface is made of. */
  whole(
    shape: Float64Array,
    x: number,
    y: number,
    a: number,
    b: number,
    ax: number,
    ay: number,
    halfLength: number,
    halfWidth: number,
    look: PieceLook,
    lift: Lift,
  ): void {
    const sides = shape.length >> 1;
    if (this.count + sides > this.room || this.indexCount + sides * 3 > this.indices.length) this.grow(sides);
    const first = this.count;
    const { position: p, normal: q } = lift;
    const tone = toneBytes(look.gain);
    leaning(q[0], q[1], q[2], p, ax, ay, look);
    const nx = leaned[0] * 32767;
    const ny = leaned[1] * 32767;
    const nz = leaned[2] * 32767;
    const { positions, normals, uvs, local, half, tones } = this;
    const u = look.u;
    const v = look.v;
    const { uAlong, uAcross, vAlong, vAcross } = look;
    // from the middle, half the cell along and half across: corners are sums of these
    const lx = a * ax;
    const ly = a * ay;
    const wx = -b * ay;
    const wy = b * ax;
    const px = p[0] + x * p[3] + y * p[6];
    const py = p[1] + x * p[4] + y * p[7];
    const pz = p[2] + x * p[5] + y * p[8];
    const lpx = lx * p[3] + ly * p[6];
    const lpy = lx * p[4] + ly * p[7];
    const lpz = lx * p[5] + ly * p[8];
    const wpx = wx * p[3] + wy * p[6];
    const wpy = wx * p[4] + wy * p[7];
    const wpz = wx * p[5] + wy * p[8];
    const ul = a * uAlong;
    const vl = a * vAlong;
    const uw = b * uAcross;
    const vw = b * vAcross;
    let i3 = first * 3;
    let i2 = first * 2;
    for (let k = 0; k < sides; k++) {
      const l = shape[k * 2];
      const w = shape[k * 2 + 1];
      positions[i3] = px + l * lpx + w * wpx;
      positions[i3 + 1] = py + l * lpy + w * wpy;
      positions[i3 + 2] = pz + l * lpz + w * wpz;
      normals[i2 * 2] = nx;
      normals[i2 * 2 + 1] = ny;
      normals[i2 * 2 + 2] = nz;
      local[i2] = l * a;
      local[i2 + 1] = w * b;
      half[i2] = halfLength;
      half[i2 + 1] = halfWidth;
      uvs[i2] = u + l * ul + w * uw;
      uvs[i2 + 1] = v + l * vl + w * vw;
      tones[first + k] = tone;
      if (this.withWhole) {
        this.places[i2] = x + l * lx + w * wx;
        this.places[i2 + 1] = y + l * ly + w * wy;
      }
      i3 += 3;
      i2 += 2;
    }
    this.fan(first, sides, lift.turned);
  }

  /** Triangles of a convex polygon whose corners were written from `first` on. */
  private fan(first: number, sides: number, turned: boolean): void {
    const { indices } = this;
    const b = turned ? 1 : 0;
    let i = this.indexCount;
    for (let k = 1; k + 1 < sides; k++) {
      indices[i] = first;
      indices[i + 1] = first + k + b;
      indices[i + 2] = first + k + 1 - b;
      i += 3;
    }
    this.indexCount = i;
    this.count = first + sides;
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
    this.half = larger(this.half, this.room * 2);
    this.tones = larger(this.tones, this.room);
    if (this.withWhole) this.places = larger(this.places, this.room * 2);
    this.indices = larger(this.indices, Math.max(Math.ceil(this.room * 1.6), this.indexCount + n * 3));
  }

  finish(): PieceBuffers {
    const { count: n, material } = this;
    return {
      material,
      positions: this.positions.subarray(0, n * 3),
      normals: this.normals.subarray(0, n * 4),
      uvs: this.uvs.subarray(0, n * 2),
      local: this.local.subarray(0, n * 2),
      half: this.half.subarray(0, n * 2),
      tones: new Uint8Array(this.tones.buffer, 0, n * 4),
      whole: this.places.subarray(0, this.withWhole ? n * 2 : 0),
      indices: this.indices.subarray(0, this.indexCount),
    };
  }
}

/** Bytes in memory order red, green, blue, 255: every machine this runs on is little-endian. */
const toneBytes = (gain: Float64Array): number =>
  (255 << 24) | (((gain[2] * 255 + 0.5) | 0) << 16) | (((gain[1] * 255 + 0.5) | 0) << 8) | ((gain[0] * 255 + 0.5) | 0);

const leaned = new Float64Array(3);

/** A normal of length 1, leaning as the piece's face does, into `leaned`. */
function leaning(x: number, y: number, z: number, p: Float64Array, ax: number, ay: number, look: PieceLook): void {
  const { leanAlong: l0, leanAcross: l1 } = look;
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
