import { boxSize, emptyBox, growBox, type Box3, type Vec3 } from '../geometry/vec';
import { findNeighbours } from './adjacency';
import { assemblePart, type CleanFaces } from './assemble';
import { dropCopies, dropFlat, gatherPlaces, turnUp, type UpAxis } from './clean';
import { DEFAULT_CREASE_DEG, faceNormals, groupByCrease } from './creases';
import type { FoundSurface } from './measureSurface';
import { countOverlaps, OVERLAP_LIMIT } from './overlaps';
import { findTJunctions } from './tjunctions';
import { ImportError, type PartMesh, type RawModel, type RawPart, reachOf, type Remark } from './types';
import { weldPositions } from './weld';

export interface PrepareOptions {
  /** Millimetres in one unit of the file. */
  unitMm: number;
  /** The file's axis that points to the sky. */
  upAxis: UpAxis;
  /** Faces that meet at less than this are one surface; degrees. */
  creaseDeg?: number;
  /** Corners nearer than this become one, mm; by itself a hundredth of a millimetre, more for large parts. */
  weldMm?: number;
}

export interface PreparedPart {
  name: string;
  path: string[];
  node: string;
  /** Where the part's own node stands, world mm. */
  pivot: Vec3;
  mesh: PartMesh;
  /** How many distinct corners there are, of how many the file writes. */
  corners: [joined: number, written: number];
  bounds: Box3;
  surfaces: FoundSurface[];
}

export interface PreparedModel {
  parts: PreparedPart[];
  bounds: Box3;
  triangles: number;
  remarks: Remark[];
}

/** Corners nearer than this are one unless it is said otherwise. */
export const DEFAULT_WELD_MM = 0.01;

/** More bodies of one slot than this in one part stay together as one surface. */
export const MANY_SURFACES = 200;

interface Tally {
  zeroArea: number;
  duplicates: number;
  crowded: number;
  disagreeing: number;
  tJunctions: number;
  overlaps: number;
  unsearched: number;
  gathered: string[];
}

/**
 * Brings a model into world millimetres with y up, welds it, throws out what has no area, and finds the surfaces:
 * by slot and connected body, then by crease angle. Uses up `raw.parts`.
 * @throws ImportError when nothing with an area is left
 */
export function prepareModel(raw: RawModel, options: PrepareOptions): PreparedModel {
  const tally: Tally = {
    zeroArea: 0,
    duplicates: 0,
    crowded: 0,
    disagreeing: 0,
    tJunctions: 0,
    overlaps: 0,
    unsearched: 0,
    gathered: [],
  };
  const bounds = emptyBox();
  const parts: PreparedPart[] = [];
  let triangles = 0;
  // a part read is let go of once it is prepared: a large model is not held twice
  for (let part = raw.parts.shift(); part; part = raw.parts.shift()) {
    const prepared = preparePart(part, options, tally);
    if (!prepared) continue;
    parts.push(prepared);
    triangles += prepared.mesh.indices.length / 3;
    growBox(bounds, ...prepared.bounds.min);
    growBox(bounds, ...prepared.bounds.max);
  }
  if (!parts.length) {
    throw new ImportError(raw.name, 'every face in it has zero area; a model needs faces that can be seen');
  }
  return { parts, bounds, triangles, remarks: [...raw.remarks, ...remarksOf(tally, bounds)] };
}

function remarksOf(tally: Tally, bounds: Box3): Remark[] {
  const remarks: Remark[] = [];
  const say = (kind: Remark['kind'], count: number, one: string, many: string) => {
    if (count) remarks.push({ kind, text: `${count} ${count === 1 ? one : many}` });
  };
  say('repaired', tally.zeroArea, 'face of zero area left out', 'faces of zero area left out');
  say('repaired', tally.duplicates, 'duplicate face removed', 'duplicate faces removed');
  say(
    'note',
    tally.tJunctions,
    'corner lies on the middle of another face’s edge (T-junction); the faces were joined where they are level',
    'corners lie on the middle of other faces’ edges (T-junctions); the faces were joined where they are level',
  );
  say(
    'note',
    tally.crowded,
    'edge is shared by three or more faces; surfaces end there',
    'edges are shared by three or more faces; surfaces end there',
  );
  say(
    'note',
    tally.disagreeing,
    'edge joins faces turned opposite ways; one of them is inside-out',
    'edges join faces turned opposite ways; some faces are inside-out',
  );
  say(
    'note',
    tally.overlaps,
    'face overlaps another in the same plane; areas count both',
    'faces overlap others in the same plane; areas count both',
  );
  say(
    'note',
    tally.unsearched,
    'large part was not searched for overlapping faces',
    'large parts were not searched for overlapping faces',
  );
  for (const text of tally.gathered) remarks.push({ kind: 'note', text });
  const far = Math.max(...bounds.min.map(Math.abs), ...bounds.max.map(Math.abs));
  const size = Math.max(...boxSize(bounds));
  if (far > 1e6 && far > size * 4) {
    remarks.push({
      kind: 'note',
      text:
        `the model lies ${Math.round(far / 1e5) / 10} km from its origin; ` +
        'positions are kept exactly, each part around an origin of its own',
    });
  }
  return remarks;
}

function preparePart(raw: RawPart, options: PrepareOptions, tally: Tally): PreparedPart | null {
  const { unitMm, upAxis } = options;
  const tolerance = Math.max(options.weldMm ?? DEFAULT_WELD_MM, reachOf(raw) * unitMm * 2e-7);
  // from here on the search for faults and surfaces sees each place once, however often the file writes it
  const { placeOf, positions } = gatherPlaces(
    raw.positions,
    weldPositions(raw.positions, tolerance / unitMm),
    unitMm,
    upAxis,
  );
  const placeTotal = positions.length / 3;
  let kept = dropFlat(raw.indices, placeOf, positions);
  tally.zeroArea += raw.indices.length / 3 - kept.faces.length;
  let adjacency = findNeighbours(kept.indices, placeTotal);
  // a copy of a face shares its edges in the same sense, or crowds them: where neither is, there are none to look for
  if (adjacency.crowded + adjacency.disagreeing > 0) {
    const single = dropCopies(kept, placeTotal);
    tally.duplicates += kept.faces.length - single.faces.length;
    if (single.faces.length < kept.faces.length) adjacency = findNeighbours(single.indices, placeTotal);
    kept = { ...single, ...faceNormals(positions, single.indices) };
  }
  const faceTotal = kept.faces.length;
  if (!faceTotal) return null;

  const { indices, normals, areas } = kept;
  tally.crowded += adjacency.crowded;
  tally.disagreeing += adjacency.disagreeing;
  const slots = new Uint16Array(faceTotal);
  for (let f = 0; f < faceTotal; f++) slots[f] = raw.slots[kept.faces[f]];

  const creaseDeg = options.creaseDeg ?? DEFAULT_CREASE_DEG;
  const groups = groupByCrease(adjacency, normals, slots, creaseDeg);
  // one patch without arrises whose faces hang together cleanly does not lie over itself
  if (groups.count > 1 || adjacency.crowded + adjacency.disagreeing > 0) {
    if (faceTotal > OVERLAP_LIMIT) tally.unsearched++;
    else tally.overlaps += countOverlaps(positions, indices, normals);
  }
  const touching = findTJunctions(positions, indices, adjacency, Math.max(tolerance, 0.05));
  tally.tJunctions += touching.count;
  const labels = joinLabels(groups.labels, groups.count, touching.pairs, (f, n) => {
    const turn =
      normals[f * 3] * normals[n * 3] +
      normals[f * 3 + 1] * normals[n * 3 + 1] +
      normals[f * 3 + 2] * normals[n * 3 + 2];
    return slots[f] === slots[n] && turn > 0.9998;
  });
  gatherSwarms(labels, slots, raw.name, tally);
  const clean: CleanFaces = { positions, placeOf, indices, kept: kept.faces, normals, areas, slots, labels };
  const origin = turnUp(raw.origin, upAxis).map((v) => v * unitMm) as Vec3;
  const { mesh, surfaces, bounds } = assemblePart(raw, origin, upAxis, clean);
  const pivot = turnUp(raw.matrix.slice(12, 15), upAxis).map((v) => v * unitMm) as Vec3;
  const corners: PreparedPart['corners'] = [placeTotal, raw.positions.length / 3];
  return { name: raw.name, path: raw.path, node: raw.node, pivot, mesh, corners, bounds, surfaces };
}

/** Union of labels along the given pairs of faces, numbered anew in the order they first appear. */
function joinLabels(
  labels: Int32Array,
  count: number,
  pairs: number[],
  may: (a: number, b: number) => boolean,
): Int32Array {
  const parent = Int32Array.from({ length: count }, (_, i) => i);
  if (!pairs.length) return labels;
  const find = (l: number): number => {
    while (parent[l] !== l) l = parent[l] = parent[parent[l]];
    return l;
  };
  for (let i = 0; i < pairs.length; i += 2) {
    if (!may(pairs[i], pairs[i + 1])) continue;
    const a = find(labels[pairs[i]]);
    const b = find(labels[pairs[i + 1]]);
    if (a !== b) parent[Math.max(a, b)] = Math.min(a, b);
  }
  return labels.map((l) => find(l));
}

/** Thousands of loose boards in one slot are one surface, not thousands. */
function gatherSwarms(labels: Int32Array, slots: Uint16Array, name: string, tally: Tally): void {
  let several = false;
  for (let f = 1; f < labels.length && !several; f++) several = labels[f] !== labels[0];
  if (!several) return;
  const bySlot = new Map<number, Set<number>>();
  for (let f = 0; f < labels.length; f++) {
    const set = bySlot.get(slots[f]);
    if (set) set.add(labels[f]);
    else bySlot.set(slots[f], new Set([labels[f]]));
  }
  for (const [slot, set] of bySlot) {
    if (set.size <= MANY_SURFACES) continue;
    const target = Math.min(...set);
    for (let f = 0; f < labels.length; f++) if (slots[f] === slot) labels[f] = target;
    tally.gathered.push(
      `“${name}” has ${set.size} loose flat areas in one slot; they were kept together as ` +
        'one surface: lay it “as modelled” and each of them is a piece, or split it by crease',
    );
  }
}
