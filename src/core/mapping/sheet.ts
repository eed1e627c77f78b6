import { type Finding, finding } from '../finding/finding';
import { type Bounds2, joinBounds } from '../geometry/bounds';
import { dot, subtract, type Vec3 } from '../geometry/vec';
import { type FaceRuns, listFaces, type PartMesh } from '../mesh/types';
import { correctSheet } from './correct';
import { corrects } from './correctionSchema';
import { applyFrame } from './flat';
import { mappingOf, type Mappings } from './registry';
import { traceOutline } from './outline';
import type { Loop } from '../geometry/loop';
import type { AnyMappingSpec, Break, Frame, LaidFaces } from './types';

export interface Chart {
  outline: Loop[];
  bounds: Bounds2;
  /** Square millimetres on the sheet. */
  area: number;
  /** Square millimetres on the mesh. */
  trueArea: number;
  frame: Frame;
}

/** Sheet length per true length over all faces and directions, weighed by area; 1 is true. */
export interface Stretch {
  least: number;
  mean: number;
  most: number;
}

/** A surface laid flat, in millimetres, x right, y up. */
export interface Sheet {
  /** The mesh its faces count in: the part's, or one cut finer. */
  mesh: PartMesh;
  /** Face numbers within `mesh`, in the order of `corners`. */
  faces: Uint32Array;
  /**
   * For each of `faces` the part's face it is, or is cut from; of several patches, its place among the faces of all.
   */
  source: Uint32Array;
  /** Two numbers per corner, six per face. */
  corners: Float64Array;
  chartOf: Uint32Array;
  /** Two per face: sheet length per true length, least and most over all directions. */
  faceStretch: Float32Array;
  charts: Chart[];
  bounds: Bounds2;
  area: number;
  trueArea: number;
  stretch: Stretch;
  breaks: Break[];
  /** Length once round, mm, where the sheet closes on itself; else null. */
  ring: number | null;
  /** What people should know about the mapping. */
  notes: Finding[];
}

/** A sheet without its per-face arrays: what views and set-out need. */
export type SheetSummary = Omit<Sheet, 'mesh' | 'source' | 'faces' | 'corners' | 'chartOf' | 'faceStretch'>;

/**
 * Lays some faces of a part flat.
 * @param runs the surface's faces
 */
export function buildSheet<M extends AnyMappingSpec>(
  part: PartMesh,
  runs: FaceRuns,
  mapping: M,
  mappings?: Mappings,
): Sheet {
  const source = listFaces(runs);
  const found = mappingOf(mapping, mappings).lay(part, source, mapping);
  const { correction } = mapping;
  const laid = corrects(correction)
    ? correctSheet(
        found.refined?.mesh ?? part,
        found.refined ? everyFace(found.refined.mesh) : source,
        found,
        boundsOfAll(found.corners),
        correction,
      )
    : found;
  const { refined } = laid;
  if (!refined) return measureSheet(part, source, source, laid);
  return measureSheet(refined.mesh, refined.source, everyFace(refined.mesh), laid);
}

/** All faces of a mesh. */
const everyFace = (mesh: PartMesh) => Uint32Array.from({ length: mesh.indices.length / 3 }, (_, i) => i);

/**
 * Outlines, areas and stretch of faces that have been laid flat.
 * @param source for each face the part's face it is, or is cut from
 */
export function measureSheet(mesh: PartMesh, source: Uint32Array, faces: Uint32Array, laid: LaidFaces): Sheet {
  const members: number[][] = laid.frames.map(() => []);
  for (let i = 0; i < faces.length; i++) members[laid.chartOf[i]].push(i);
  setApart(laid, members);

  const stretch: Stretch = { least: Infinity, mean: 0, most: -Infinity };
  const areas = measureFaces(mesh, faces, laid.corners, stretch);
  const charts = laid.frames.map((frame, c): Chart => {
    let area = 0;
    let trueArea = 0;
    for (const i of members[c]) {
      area += areas.flat[i];
      trueArea += areas.real[i];
    }
    return {
      outline: laid.outlines?.[c] ?? traceOutline(laid.corners, members[c]),
      bounds: boundsOf(laid.corners, members[c]),
      area,
      trueArea,
      frame,
    };
  });
  // nothing left of it: a zone beside its surface, a surface all under zones
  if (!faces.length) for (const c of charts) c.bounds = { minX: 0, minY: 0, maxX: 0, maxY: 0 };
  const trueArea = charts.reduce((sum, c) => sum + c.trueArea, 0);
  stretch.mean = trueArea > 0 ? stretch.mean / trueArea : 1;
  if (!(stretch.most > 0)) Object.assign(stretch, { least: 1, mean: 1, most: 1 });
  return {
    mesh,
    source,
    faces,
    corners: laid.corners,
    chartOf: laid.chartOf,
    faceStretch: areas.stretch,
    charts,
    bounds: joinBounds(charts.map((c) => c.bounds)),
    area: charts.reduce((sum, c) => sum + c.area, 0),
    trueArea,
    stretch,
    breaks: laid.breaks,
    ring: laid.ring ?? null,
    notes: laid.notes ?? [],
  };
}

/** Space on the sheet between charts that do not hang together, mm. */
const CHART_GAP = 300;

/** Groups of charts that would cover earlier ones are set to the right of them. */
function setApart(laid: LaidFaces, members: number[][]): void {
  const groups = [...new Set(laid.groupOf)];
  if (groups.length < 2) return;
  const placed: Bounds2[] = [];
  for (const group of groups) {
    const charts = laid.groupOf.flatMap((g, c) => (g === group ? [c] : []));
    const own = charts.map((c) => boundsOf(laid.corners, members[c]));
    const covers = own.some((o) =>
      placed.some(
        (b) => o.minX < b.maxX - 0.1 && o.maxX > b.minX + 0.1 && o.minY < b.maxY - 0.1 && o.maxY > b.minY + 0.1,
      ),
    );
    if (covers) {
      const dx = Math.max(...placed.map((b) => b.maxX)) + CHART_GAP - joinBounds(own).minX;
      charts.forEach((c, n) => {
        const frame = laid.frames[c];
        laid.frames[c] = { ...frame, offset: [frame.offset[0] + dx, frame.offset[1]] };
        for (const i of members[c]) for (let k = 0; k < 6; k += 2) laid.corners[i * 6 + k] += dx;
        own[n].minX += dx;
        own[n].maxX += dx;
      });
      laid.breaks.push({
        kind: 'apart',
        charts: [0, charts[0]],
        length: 0,
        shift: dx,
        finding: finding('setApart', {}),
      });
    }
    placed.push(...own);
  }
}

/** A face lower than this above its longest side, mm, is not asked for its stretch. */
const THINNEST = 0.3;

/** Areas on mesh and sheet; least and most singular value of each face's map into `stretch`, the mean as a sum. */
function measureFaces(mesh: PartMesh, faces: Uint32Array, corners: Float64Array, stretch: Stretch) {
  const flatArea = new Float64Array(faces.length);
  const real = new Float64Array(faces.length);
  const ofFaces = new Float32Array(faces.length * 2).fill(1);
  const { positions: p, indices } = mesh;
  for (let i = 0; i < faces.length; i++) {
    const a = indices[faces[i] * 3] * 3;
    const b = indices[faces[i] * 3 + 1] * 3;
    const c = indices[faces[i] * 3 + 2] * 3;
    const ux = p[b] - p[a];
    const uy = p[b + 1] - p[a + 1];
    const uz = p[b + 2] - p[a + 2];
    const vx = p[c] - p[a];
    const vy = p[c + 1] - p[a + 1];
    const vz = p[c + 2] - p[a + 2];
    const q = i * 6;
    const sx = corners[q + 2] - corners[q];
    const sy = corners[q + 3] - corners[q + 1];
    const tx = corners[q + 4] - corners[q];
    const ty = corners[q + 5] - corners[q + 1];
    const uu = ux * ux + uy * uy + uz * uz;
    const uv = ux * vx + uy * vy + uz * vz;
    const vv = vx * vx + vy * vy + vz * vz;
    const area = Math.sqrt(Math.max(0, uu * vv - uv * uv)) / 2;
    const sheet = Math.abs(sx * ty - sy * tx) / 2;
    flatArea[i] = sheet;
    real[i] = area;
    // in float32 a face this thin has no shape of its own; cutting leaves such slivers
    if (!(area > 1e-3) || (2 * area) / Math.sqrt(Math.max(uu, vv, uu + vv - 2 * uv)) < THINNEST) continue;
    // the face's own axes: e along u, f across; the map's matrix in them is [j00 j01; j10 j11]
    const l = Math.sqrt(uu);
    const along = uv / l;
    const across = (2 * area) / l;
    const j00 = sx / l;
    const j10 = sy / l;
    const j01 = (tx - j00 * along) / across;
    const j11 = (ty - j10 * along) / across;
    const sum = j00 * j00 + j01 * j01 + j10 * j10 + j11 * j11;
    const det = j00 * j11 - j01 * j10;
    const root = Math.sqrt(Math.max(0, sum * sum - 4 * det * det));
    const most = Math.sqrt((sum + root) / 2);
    const least = Math.sqrt(Math.max(0, (sum - root) / 2));
    ofFaces[i * 2] = least;
    ofFaces[i * 2 + 1] = most;
    stretch.mean += ((least + most) / 2) * area;
  }
  Object.assign(stretch, extremes(ofFaces, real));
  return { flat: flatArea, real, stretch: ofFaces };
}

/** Faces that together cover less than this share of the area have no say in least and most: nobody could see them. */
const UNSEEN = 1e-5;

/** Least and most stretch, by doubling classes in steps of a thousandth, so that slivers can be left out. */
function extremes(ofFaces: Float32Array, areas: Float64Array): { least: number; most: number } {
  const classes = new Float64Array(20_001);
  const classOf = (v: number) => Math.max(0, Math.min(20_000, Math.round(10_000 + Math.log2(v) * 1000)));
  const find = (which: 0 | 1): number => {
    classes.fill(0);
    let total = 0;
    for (let i = 0; i < areas.length; i++) {
      classes[classOf(ofFaces[i * 2 + which])] += areas[i];
      total += areas[i];
    }
    let k = which ? 20_000 : 0;
    for (let seen = classes[k]; seen < total * UNSEEN; seen += classes[k]) k += which ? -1 : 1;
    let found = which ? 0 : Infinity;
    for (let i = 0; i < areas.length; i++) {
      const v = ofFaces[i * 2 + which];
      if (which ? v > found && classOf(v) <= k : v < found && classOf(v) >= k) found = v;
    }
    return found;
  };
  return { least: find(0), most: find(1) };
}

const boundsOfAll = (corners: Float64Array) =>
  boundsOf(
    corners,
    Array.from({ length: corners.length / 6 }, (_, i) => i),
  );

function boundsOf(corners: Float64Array, members: number[]): Bounds2 {
  const b: Bounds2 = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };
  for (const i of members) {
    for (let k = 0; k < 6; k += 2) {
      const x = corners[i * 6 + k];
      const y = corners[i * 6 + k + 1];
      if (x < b.minX) b.minX = x;
      if (x > b.maxX) b.maxX = x;
      if (y < b.minY) b.minY = y;
      if (y > b.maxY) b.maxY = y;
    }
  }
  return b;
}

/** Where a world point falls on the sheet, through its first chart. */
export const sheetPoint = (sheet: SheetSummary, p: Vec3): [number, number] => applyFrame(sheet.charts[0].frame, p);

/** Where a world point on a face (its number in `sheet.faces`) falls on the sheet, by its barycentric coordinates. */
export function pointOnSheet(sheet: Sheet, face: number, world: Vec3): [number, number] {
  const { positions: p, indices, origin } = sheet.mesh;
  const [a, b, c] = [0, 1, 2].map((k) => {
    const v = indices[sheet.faces[face] * 3 + k] * 3;
    return [p[v] + origin[0], p[v + 1] + origin[1], p[v + 2] + origin[2]] as Vec3;
  });
  const [u, v, w] = [subtract(b, a), subtract(c, a), subtract(world, a)];
  const [uu, uv, vv, wu, wv] = [dot(u, u), dot(u, v), dot(v, v), dot(w, u), dot(w, v)];
  const det = uu * vv - uv * uv || 1;
  const s = (vv * wu - uv * wv) / det;
  const t = (uu * wv - uv * wu) / det;
  const q = sheet.corners.subarray(face * 6, face * 6 + 6);
  return [q[0] + s * (q[2] - q[0]) + t * (q[4] - q[0]), q[1] + s * (q[3] - q[1]) + t * (q[5] - q[1])];
}

/**
 * For each corner of some geometry how its faces are stretched: the worse of least and most, meant over the faces that
 * share it; 1 is true.
 * @param indices three per face, in the order of the sheet's faces
 */
export function cornerStretch(sheet: Sheet, indices: Uint32Array, count: number): Float32Array {
  const sums = new Float32Array(count);
  const shares = new Uint16Array(count);
  for (let i = 0; i < sheet.faces.length; i++) {
    const [least, most] = [sheet.faceStretch[i * 2], sheet.faceStretch[i * 2 + 1]];
    const worse = most * least > 1 ? most : least;
    for (let k = 0; k < 3; k++) {
      sums[indices[i * 3 + k]] += worse;
      shares[indices[i * 3 + k]]++;
    }
  }
  return sums.map((v, n) => (shares[n] ? v / shares[n] : 1));
}
