import type { Matrix4 } from '../geometry/matrix';
import type { Box3, Vec3 } from '../geometry/vec';

/**
 * Triangles as a file brings them: points already placed in the world of the file (node transforms applied),
 * in the file's own unit and up-axis, relative to `origin` so that float32 loses nothing far from zero.
 */
export interface RawPart {
  name: string;
  /** Names of the nodes above, outermost first. */
  path: string[];
  /** Identity of the node that placed it; the same mesh placed twice gives two parts. */
  node: string;
  origin: Vec3;
  /** xyz per vertex. */
  positions: Float32Array;
  /** What holds all positions, relative to `origin`. */
  box: Box3;
  /** xyz per vertex, or null when the file has none for some of it. */
  normals: Float32Array | null;
  /** uv per vertex, one array per coordinate set. v counts upwards here, whatever the file does. */
  uvs: Float32Array[];
  /** Three per triangle. */
  indices: Uint32Array;
  /** Index into `RawModel.slots`, one per triangle. */
  slots: Uint16Array;
  /** Which polygon of the file each triangle was cut from; absent where the file has triangles alone. */
  polygons?: Uint32Array;
  /** Body each triangle was written in (OBJ group, glTF primitive); only a hint. */
  matrix: Matrix4;
}

/** How far a part's farthest coordinate lies from its origin. */
export const reachOf = ({ box }: Pick<RawPart, 'box'>): number => Math.max(0, ...box.max, ...box.min.map((v) => -v));

/** A material slot of the file, with what can be read of it. */
export interface Slot {
  name: string;
  /** sRGB 0..1 and opacity. */
  colour: [number, number, number, number];
  /** Role to picture path as the file names it. */
  pictures: Record<string, string>;
  twoSided: boolean;
  /** Factors on the linear light of the base colour's picture, where the file has any. */
  factor?: [number, number, number];
  roughness?: number;
  metallic?: number;
  reflection?: number;
  coat?: number;
  coatRoughness?: number;
  /** Size of one picture in units of the coordinate set, after KHR_texture_transform. */
  textureScale?: [number, number];
}

/** A picture that came with the file. */
export interface RawPicture {
  path: string;
  bytes: Uint8Array;
  mime: string;
}

/** Something the reader did or could not do, for people to read. */
export interface Remark {
  kind: 'repaired' | 'left out' | 'missing' | 'note';
  text: string;
}

export interface RawModel {
  name: string;
  format: 'gltf' | 'obj';
  parts: RawPart[];
  slots: Slot[];
  pictures: RawPicture[];
  missingPictures: string[];
  scenes: string[];
  scene: number;
  remarks: Remark[];
  /** What the file says of itself: comments, the name of what wrote it. */
  notes: string;
}

/** A part ready for use: world millimetres, y up, welded, sorted so that each surface is one run of faces. */
export interface PartMesh {
  origin: Vec3;
  positions: Float32Array;
  normals: Float32Array;
  uvs: Float32Array[];
  indices: Uint32Array;
  slots: Uint16Array;
  /** Which polygon of the file each face was cut from; absent where that had triangles alone. */
  polygons?: Uint32Array;
}

/** Faces as runs: [first, count, first, count, …], ascending, never touching. */
export type FaceRuns = number[];

/** Thrown for a file that cannot come in. The message is for people and names the file and the reason. */
export class ImportError extends Error {
  constructor(
    readonly file: string,
    readonly reason: string,
  ) {
    super(`${file}: ${reason}`);
    this.name = 'ImportError';
  }
}

export const faceCount = (runs: FaceRuns): number => {
  let n = 0;
  for (let i = 1; i < runs.length; i += 2) n += runs[i];
  return n;
};

/** Every face number of the runs, in order. */
export function listFaces(runs: FaceRuns): Uint32Array {
  const out = new Uint32Array(faceCount(runs));
  let at = 0;
  for (let i = 0; i < runs.length; i += 2) {
    for (let f = runs[i]; f < runs[i] + runs[i + 1]; f++) out[at++] = f;
  }
  return out;
}

/** Packs face numbers (any order, no repeats) into runs. */
export function packFaces(faces: ArrayLike<number>): FaceRuns {
  const sorted = Uint32Array.from(faces).sort();
  const runs: FaceRuns = [];
  for (let i = 0; i < sorted.length;) {
    let j = i + 1;
    while (j < sorted.length && sorted[j] === sorted[j - 1] + 1) j++;
    runs.push(sorted[i], j - i);
    i = j;
  }
  return runs;
}

/** What a mesh takes in memory, bytes. */
export const bytesOfMesh = ({ positions, normals, indices, slots, uvs, polygons }: PartMesh): number =>
  [positions, normals, indices, slots, ...uvs, ...(polygons ? [polygons] : [])].reduce(
    (sum, array) => sum + array.byteLength,
    0,
  );
