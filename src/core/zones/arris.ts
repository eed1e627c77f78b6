import type { Frame } from '../mapping/types';
import { measureSheet, type Sheet } from '../mapping/sheet';
import { findNeighbours, labelGroups } from '../mesh/adjacency';
import { DEFAULT_CREASE_DEG, faceNormals } from '../mesh/creases';
import { weldPositions } from '../mesh/weld';

/** How pieces meet an arris when they do not fold over it. */
export interface Breaking {
  how: 'break' | 'return';
  /** Length of one piece and its joint, mm. */
  pitch: number;
  /** Where courses start on the sheet, mm. */
  origin: number;
}

/**
 * The sheet with its faces set apart at every arris, so that pieces begin anew there: each side moves right to where the
 * next whole piece starts, or, for a mason's return, by half a piece on every second side, so that where one side
 * shows a stretcher the other shows the end of it. Nothing else changes: sizes stay true.
 */
export function breakAtArrises(sheet: Sheet, { how, pitch, origin }: Breaking): Sheet {
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
  const order = from.map((_, c) => c).sort((a, b) => low[a] - low[b] || a - b);
  const moved = new Float64Array(from.length);
  const columns: { low: number; high: number; by: number }[] = [];
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
      const phase = how === 'return' && columns.length % 2 ? pitch / 2 : 0;
      const least = Math.max(end, low[c] + columns[columns.length - 1].by);
      moved[c] = origin + phase + Math.ceil((least - origin - phase) / pitch - 1e-6) * pitch - low[c];
    }
    columns.push({ low: low[c], high: high[c], by: moved[c] });
    end = Math.max(end, high[c] + moved[c]);
  }
  const next = corners.slice();
  for (let i = 0; i < faces.length; i++) for (let k = 0; k < 6; k += 2) next[i * 6 + k] += moved[chartOf[i]];
  const frames = from.map((chart, c): Frame => {
    const { frame } = sheet.charts[chart];
    return { ...frame, offset: [frame.offset[0] + moved[c], frame.offset[1]] };
  });
  const laid = measureSheet(sheet.mesh, sheet.source, faces, { corners: next, chartOf, frames, groupOf: from.map(() => 0), breaks: sheet.breaks, notes: sheet.notes }); // prettier-ignore
  return laid;
}

/** Faces between arrises, numbered. */
function labelFacets({ mesh, faces }: Sheet): Int32Array {
  const welded = weldPositions(mesh.positions, 0.01);
  const indices = new Uint32Array(faces.length * 3);
  for (let i = 0; i < faces.length; i++) {
    for (let k = 0; k < 3; k++) indices[i * 3 + k] = welded[mesh.indices[faces[i] * 3 + k]];
  }
  const { normals } = faceNormals(mesh.positions, indices);
  const limit = Math.cos((DEFAULT_CREASE_DEG * Math.PI) / 180);
  const turn = (f: number, n: number) => normals[f * 3] * normals[n * 3] + normals[f * 3 + 1] * normals[n * 3 + 1] + normals[f * 3 + 2] * normals[n * 3 + 2]; // prettier-ignore
  return labelGroups(findNeighbours(indices, mesh.positions.length / 3), faces.length, (_e, f, n) => turn(f, n) > limit).labels; // prettier-ignore
}
