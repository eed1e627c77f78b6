import { finding } from '../finding/finding';
import type { Frame } from '../mapping/types';
import { measureSheet, type Sheet } from '../mapping/sheet';
import { cross, dot, length, normalise, scale, subtract, type Vec3 } from '../geometry/vec';
import { findNeighbours, labelGroups } from '../mesh/adjacency';
import { DEFAULT_CREASE_DEG, faceNormals } from '../mesh/creases';
import { cornerOf } from '../mesh/nearestFace';
import { weldFaces } from '../mesh/weld';

/** How pieces meet an arris when they do not fold over it. */
export interface Breaking {
  how: 'break' | 'return';
  /** Length of one piece and its joint, mm. */
  pitch: number;
  /** Where courses start on the sheet, mm. */
  origin: number;
  /**
   * How thick pieces are behind their faces, and the joint between them, mm. Then a return shows that thickness, and at
   * an inner corner a side stops a joint short of the one before it. Absent, pieces are as thin as their faces.
   */
  body?: { thickness: number; joint: number };
}

/**
 * The sheet with its faces set apart at every arris, so that pieces begin anew there: each side moves right to where
 * the next whole piece starts, or, for a mason's return, by half a piece on every second side, so that where one side
 * shows a stretcher the other shows the end of it: its thickness, where that is stated. Nothing else changes: sizes
 * stay true.
 */
export function breakAtArrises(sheet: Sheet, { how, pitch, origin, body }: Breaking): Sheet {
  const { faces, corners } = sheet;
  const facets = labelFacets(sheet);
  const charts = new Map<string, number>();
  const chartOf = new Uint32Array(faces.length);
  const from: number[] = [];
  for (let i = 0; i < faces.length; i++) {
    const key = `${sheet.chartOf[i]},${facets[i]}`;
    let chart = charts.get(key);
    if (chart === undefined) {
      charts.set(key, (chart = from.length));
      from.push(sheet.chartOf[i]);
    }
    chartOf[i] = chart;
  }
  if (from.length < 2) return sheet;
  const low = new Float64Array(from.length).fill(Infinity);
  const high = new Float64Array(from.length).fill(-Infinity);
  for (let i = 0; i < faces.length; i++) {
    for (let k = 0; k < 6; k += 2) {
      low[chartOf[i]] = Math.min(low[chartOf[i]], corners[i * 6 + k]);
      high[chartOf[i]] = Math.max(high[chartOf[i]], corners[i * 6 + k]);
    }
  }
  const isInner = body ? innerCorners(sheet, chartOf, from.length) : () => false;
  // how far into a pitch a side begins: so that only an end is left of the first piece, or only the joint before it
  const turned = body ? pitch - body.joint - body.thickness : pitch / 2;
  let outer = 0;
  const order = from.map((_, c) => c).sort((a, b) => low[a] - low[b] || a - b);
  const moved = new Float64Array(from.length);
  const columns: { low: number; high: number; by: number; chart: number }[] = [];
  let end = -Infinity;
  for (const c of order) {
    // what stands over or under a side moves with it
    const same = columns.find((k) => Math.abs(k.low - low[c]) < 1 || (low[c] > k.low && high[c] < k.high + 1));
    if (same) {
      moved[c] = same.by;
      end = Math.max(end, high[c] + same.by);
      continue;
    }
    if (columns.length) {
      const inner = isInner(columns[columns.length - 1].chart, c);
      if (!inner) outer++;
      const phase = inner ? pitch - body!.joint : how === 'return' && outer % 2 ? turned : 0;
      const least = Math.max(end, low[c] + columns[columns.length - 1].by);
      moved[c] = origin + phase + Math.ceil((least - origin - phase) / pitch - 1e-6) * pitch - low[c];
    }
    columns.push({ low: low[c], high: high[c], by: moved[c], chart: c });
    end = Math.max(end, high[c] + moved[c]);
  }
  const next = corners.slice();
  for (let i = 0; i < faces.length; i++) for (let k = 0; k < 6; k += 2) next[i * 6 + k] += moved[chartOf[i]];
  const frames = from.map((chart, c): Frame => {
    const { frame } = sheet.charts[chart];
    return { ...frame, offset: [frame.offset[0] + moved[c], frame.offset[1]] };
  });
  const laid = measureSheet(sheet.mesh, sheet.source, faces, {
    corners: next,
    chartOf,
    frames,
    groupOf: from.map(() => 0),
    breaks: sheet.breaks,
    notes: sheet.notes,
  });
  return laid;
}

/** Whether one side turns towards another, as at the corner of a room: it lies before the other's plane. */
function innerCorners(
  { mesh, faces }: Sheet,
  chartOf: Uint32Array,
  count: number,
): (before: number, after: number) => boolean {
  const normals = Array.from({ length: count }, (): Vec3 => [0, 0, 0]);
  const middles = Array.from({ length: count }, (): Vec3 => [0, 0, 0]);
  const areas = new Float64Array(count);
  faces.forEach((face, i) => {
    const [a, b, c] = [0, 1, 2].map((k) => cornerOf(mesh, face, k));
    const twice = cross(subtract(b, a), subtract(c, a));
    const area = length(twice) / 2;
    const chart = chartOf[i];
    areas[chart] += area;
    for (let k = 0; k < 3; k++) {
      normals[chart][k] += twice[k];
      middles[chart][k] += (area * (a[k] + b[k] + c[k])) / 3;
    }
  });
  const middle = (c: number) => scale(middles[c], 1 / (areas[c] || 1));
  return (before, after) => dot(normalise(normals[before]), subtract(middle(after), middle(before))) > 1;
}

/** Heights nearer to each other than this are one arris, mm. */
const ONE_ARRIS = 0.5;

/** The heights at which arrises cross a strip that lies along x, mm from its foot, the ends left out. */
export function arrisHeights(sheet: Sheet): number[] {
  const facets = labelFacets(sheet);
  const low = new Map<number, number>();
  for (let i = 0; i < facets.length; i++) {
    for (let k = 1; k < 6; k += 2)
      low.set(facets[i], Math.min(low.get(facets[i]) ?? Infinity, sheet.corners[i * 6 + k]));
  }
  const found: number[] = [];
  for (const y of [...low.values()].map((v) => v - sheet.bounds.minY).sort((a, b) => a - b)) {
    if (y > ONE_ARRIS && (!found.length || y - found[found.length - 1] > ONE_ARRIS)) found.push(y);
  }
  return found;
}

/**
 * A strip whose rows are moved so that its arrises lie where the lines of a picture's band fall; between them heights
 * grow evenly. The stretch it costs is the sheet's.
 * @param lines shares of the strip's height, ascending
 */
export function tieToArrises(sheet: Sheet, lines: number[]): Sheet {
  const { minY, maxY } = sheet.bounds;
  const height = maxY - minY;
  const arrises = arrisHeights(sheet);
  if (!arrises.length || !(height > 0)) return sheet;
  // each line takes the nearest arris above the one before
  const from = [0];
  const to = [0];
  for (const line of [...lines].sort((a, b) => a - b)) {
    const free = arrises.filter((a) => a > from[from.length - 1] + ONE_ARRIS);
    const wish = line * height;
    if (!free.length || wish <= to[to.length - 1] + ONE_ARRIS || wish >= height - ONE_ARRIS) continue;
    from.push(free.reduce((best, a) => (Math.abs(a - wish) < Math.abs(best - wish) ? a : best)));
    to.push(wish);
  }
  if (from.length < 2) return sheet;
  from.push(height);
  to.push(height);
  const next = sheet.corners.slice();
  for (let i = 1; i < next.length; i += 2) {
    const y = next[i] - minY;
    let k = 1;
    while (k < from.length - 1 && y > from[k]) k++;
    next[i] = minY + to[k - 1] + ((y - from[k - 1]) / (from[k] - from[k - 1])) * (to[k] - to[k - 1]);
  }
  const { mesh, source, faces, chartOf, breaks, ring } = sheet;
  const frames = sheet.charts.map(({ frame }): Frame => ({ ...frame, x: [0, 0, 0], y: [0, 0, 0] }));
  const tied = from.length - 2;
  const notes = [...sheet.notes, finding('linesOnArrises', { lines: tied })];
  return measureSheet(mesh, source, faces, {
    corners: next,
    chartOf,
    frames,
    groupOf: frames.map(() => 0),
    breaks,
    ring,
    notes,
  });
}

/** Faces between arrises, numbered. */
function labelFacets({ mesh, faces }: Sheet): Int32Array {
  const indices = weldFaces(mesh, faces);
  const { normals } = faceNormals(mesh.positions, indices);
  const limit = Math.cos((DEFAULT_CREASE_DEG * Math.PI) / 180);
  const turn = (f: number, n: number) =>
    normals[f * 3] * normals[n * 3] + normals[f * 3 + 1] * normals[n * 3 + 1] + normals[f * 3 + 2] * normals[n * 3 + 2];
  return labelGroups(findNeighbours(indices, mesh.positions.length / 3), faces.length, (_e, f, n) => turn(f, n) > limit)
    .labels;
}
