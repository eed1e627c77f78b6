import type { MeshMap } from '../lay/meshMap';
import type { Appearance } from '../variation/appearance';
import type { DressedSurface } from './dressSurface';

/** Growing lists of numbers. */
export class Floats {
  private data = new Float32Array(1024);
  count = 0;

  push3(x: number, y: number, z: number): void {
    if (this.count + 4 > this.data.length) this.grow();
    this.data[this.count++] = x;
    this.data[this.count++] = y;
    this.data[this.count++] = z;
  }

  push1(v: number): void {
    if (this.count + 1 > this.data.length) this.grow();
    this.data[this.count++] = v;
  }

  private grow(): void {
    const larger = new Float32Array(this.data.length * 2);
    larger.set(this.data);
    this.data = larger;
  }

  /** What was pushed; the list is let go of, so that a large one is not held twice. */
  finish(): Float32Array {
    const out = this.data.slice(0, this.count);
    this.data = new Float32Array(0);
    return out;
  }
}

/** A growing list of triangles. */
class Indices {
  private data = new Uint32Array(1024);
  count = 0;

  push(a: number, b: number, c: number): void {
    if (this.count + 3 > this.data.length) {
      const larger = new Uint32Array(this.data.length * 2);
      larger.set(this.data);
      this.data = larger;
    }
    this.data[this.count++] = a;
    this.data[this.count++] = b;
    this.data[this.count++] = c;
  }

  finish(): Uint32Array {
    const out = this.data.slice(0, this.count);
    this.data = new Uint32Array(0);
    return out;
  }
}

/** A mesh that grows by parts of pieces and of joints. */
export class Triangles {
  private readonly positions = new Floats();
  private readonly normals = new Floats();
  private readonly uvs = new Floats();
  private readonly tangents = new Floats();
  private readonly tones = new Floats();
  private readonly indices = new Indices();

  private readonly places = new Floats();

  constructor(
    private readonly withTangents: boolean,
    private readonly withPlaces = false,
  ) {}

  get isEmpty(): boolean {
    return !this.indices.count;
  }

  /** A convex part of a piece, counter-clockwise in the layout's frame. */
  piece(
    corners: Float64Array,
    n: number,
    x: number,
    y: number,
    axis: readonly [number, number],
    appearance: Appearance,
    onMesh: MeshMap,
  ): void {
    const { position: p } = onMesh;
    // directions in space along and across the piece, for one mm of each
    const along = [0, 1, 2].map((c) => p[3 + c] * axis[0] + p[6 + c] * axis[1]);
    const across = [0, 1, 2].map((c) => p[6 + c] * axis[0] - p[3 + c] * axis[1]);
    this.fan(n, onMesh);
    for (let k = 0; k < n; k++) {
      const normal = this.place(corners[k * 2], corners[k * 2 + 1], onMesh, along, across, appearance);
      const dx = corners[k * 2] - x;
      const dy = corners[k * 2 + 1] - y;
      const l = dx * axis[0] + dy * axis[1];
      const w = dy * axis[0] - dx * axis[1];
      this.uvs.push1(appearance.u + l * appearance.uAlong + w * appearance.uAcross);
      this.uvs.push1(appearance.v + l * appearance.vAlong + w * appearance.vAcross);
      this.tones.push3(appearance.gain[0], appearance.gain[1], appearance.gain[2]);
      if (this.withPlaces) {
        this.places.push1(corners[k * 2]);
        this.places.push1(corners[k * 2 + 1]);
      }
      if (this.withTangents) this.tangent(normal, along, across, appearance);
    }
  }

  /** A convex part of a joint. */
  plain(corners: Float64Array, n: number, onMesh: MeshMap): void {
    this.fan(n, onMesh);
    for (let k = 0; k < n; k++) {
      this.place(corners[k * 2], corners[k * 2 + 1], onMesh);
      this.uvs.push1(corners[k * 2]);
      this.uvs.push1(corners[k * 2 + 1]);
    }
  }

  private fan(n: number, onMesh: MeshMap): void {
    const first = this.positions.count / 3;
    const [b, c] = onMesh.turnedOver ? [1, 0] : [0, 1];
    for (let k = 1; k + 1 < n; k++) this.indices.push(first, first + k + b, first + k + c);
  }

  private place(
    cx: number,
    cy: number,
    onMesh: MeshMap,
    along?: number[],
    across?: number[],
    appearance?: Appearance,
  ): number[] {
    const { position: p, normal: q } = onMesh;
    this.positions.push3(p[0] + cx * p[3] + cy * p[6], p[1] + cx * p[4] + cy * p[7], p[2] + cx * p[5] + cy * p[8]);
    const level = onMesh.level ? 0 : 1;
    const normal = [0, 1, 2].map(
      (c) =>
        q[c] +
        level * (cx * q[3 + c] + cy * q[6 + c]) +
        (appearance ? along![c] * appearance.leanAlong + across![c] * appearance.leanAcross : 0),
    );
    const l = Math.hypot(...normal) || 1;
    for (let c = 0; c < 3; c++) normal[c] /= l;
    this.normals.push3(normal[0], normal[1], normal[2]);
    return normal;
  }

  /** Along the picture's x, square to the normal; the sign makes cross(normal, tangent) · w point up in the picture. */
  private tangent(n: number[], along: number[], across: number[], appearance: Appearance): void {
    // the direction in which u grows and v stays; the piece's own axes are square, so the gradient will do
    const t = [0, 1, 2].map((c) => along[c] * appearance.uAlong + across[c] * appearance.uAcross);
    const up = [0, 1, 2].map((c) => along[c] * appearance.vAlong + across[c] * appearance.vAcross);
    const off = t[0] * n[0] + t[1] * n[1] + t[2] * n[2];
    for (let c = 0; c < 3; c++) t[c] -= off * n[c];
    const l = Math.hypot(...t) || 1;
    for (let c = 0; c < 3; c++) t[c] /= l;
    const side =
      (n[1] * t[2] - n[2] * t[1]) * up[0] + (n[2] * t[0] - n[0] * t[2]) * up[1] + (n[0] * t[1] - n[1] * t[0]) * up[2];
    this.tangents.push3(t[0], t[1], t[2]);
    this.tangents.push1(side < 0 ? -1 : 1);
  }

  finish(): DressedSurface {
    return {
      positions: this.positions.finish(),
      normals: this.normals.finish(),
      uvs: this.uvs.finish(),
      tangents: this.tangents.finish(),
      indices: this.indices.finish(),
      tones: this.tones.finish(),
      ...(this.withPlaces ? { placesMm: this.places.finish() } : {}),
    };
  }
}
