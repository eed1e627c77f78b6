import Flatbush from 'flatbush';
import { finding } from '../finding/finding';
import { outsideConvex, type Loop, loopArea } from '../geometry/loop';
import { loopInLayout } from '../setout/layoutFrame';
import type { CellSource, FoundCell } from './cellSource';
import { chartFaces } from './chartFaces';
import { blankMeshMap, mapTriangle } from './meshMap';
import type { Cells } from '../layout/cells';
import { RECTANGLE } from '../layout/modules';
import type { OpenLayout } from '../layout/types';
import { traceOutline } from '../mapping/outline';

import type { Sheet } from '../mapping/sheet';
import { findNeighbours, labelGroups } from '../mesh/adjacency';
import { faceNormals, groupByCrease } from '../mesh/creases';
import { weldFaces } from '../mesh/weld';
import type { LayoutFrame } from '../setout/layoutFrame';

/** Boards or tiles found in the mesh, as a layout and where its cells lie. */
export interface Bodies {
  layout: OpenLayout;
  cells: CellSource;
}

/** Bodies this near each other on the sheet are neighbours, mm. */
const NEAR = 20;
/** A point so little outside a face still lies on it, mm. */
const ON_EDGE = 0.01;
/** Most neighbours that are looked at. */
const MOST = 16;

/**
 * Pieces as modelled: each separate body of a surface is one, and where the surface is a single body, each of its flat
 * faces; or each polygon of the file. A piece runs along the longer side of its bounds in the layout's frame.
 */
export function findBodies(sheet: Sheet, frame: LayoutFrame, eachPolygon = false): Bodies {
  const { at, m } = frame;
  const polygons = eachPolygon ? labelPolygons(sheet) : null;
  const { of, count } = polygons ?? label(sheet);
  const findings = eachPolygon && !polygons ? [finding('noPolygons', {})] : [];
  const box = new Float64Array(count * 4).map((_, i) => (i % 4 < 2 ? Infinity : -Infinity));
  for (let i = 0; i < of.length; i++) {
    const b = of[i] * 4;
    for (let k = 0; k < 6; k += 2) {
      const dx = sheet.corners[i * 6 + k] - at[0];
      const dy = sheet.corners[i * 6 + k + 1] - at[1];
      const x = m[0] * dx + m[1] * dy;
      const y = m[2] * dx + m[3] * dy;
      box[b] = Math.min(box[b], x);
      box[b + 1] = Math.min(box[b + 1], y);
      box[b + 2] = Math.max(box[b + 2], x);
      box[b + 3] = Math.max(box[b + 3], y);
    }
  }
  const side = (n: number) => [box[n * 4 + 2] - box[n * 4], box[n * 4 + 3] - box[n * 4 + 1]] as const;
  const lies = (n: number) => side(n)[0] >= side(n)[1];
  const boxOf = (n: number): Box => {
    const [w, h] = side(n);
    const [a, b] = lies(n) ? [w, h] : [h, w];
    return {
      x: (box[n * 4] + box[n * 4 + 2]) / 2,
      y: (box[n * 4 + 1] + box[n * 4 + 3]) / 2,
      a: a / 2,
      b: b / 2,
      axis: lies(n) ? 0 : 1,
    };
  };
  const neighbours = findNear(box, count);
  const classes = colour(neighbours);
  let length = 1;
  let width = 1;
  for (let n = 0; n < count; n++) {
    length = Math.max(length, ...side(n));
    width = Math.max(width, Math.min(...side(n)));
  }
  const layout: OpenLayout = {
    axes: [
      [1, 0],
      [0, 1],
    ],
    modules: [RECTANGLE],
    inset: [0, 0],
    largest: [length, width],
    cellArea: sheet.area / Math.max(1, count),
    mostNeighbours: Math.max(1, ...neighbours.map((n) => n.length)),
    roleOf: () => 'body',
    findings: () => findings,
    classes: Math.max(0, ...classes) + 1,
    classOf: (_course, index) => classes[index] ?? 0,
    neighbours(_course, index, out) {
      const list = neighbours[index] ?? [];
      list.forEach((n, i) => {
        out[i * 2] = 0;
        out[i * 2 + 1] = n;
      });
      return list.length;
    },
    fill(_rectangle, cells: Cells) {
      for (let n = 0; n < count; n++) {
        const { x, y, a, b, axis } = boxOf(n);
        cells.add(0, n, x, y, a, b, axis);
      }
      cells.flush();
    },
  };
  const members: number[][] = Array.from({ length: count }, () => []);
  for (let i = 0; i < of.length; i++) members[of[i]].push(i);
  const outlineOf = (n: number) => traceOutline(sheet.corners, members[n]).map((loop) => loopInLayout(frame, loop));
  return { layout, cells: bodyCells(sheet, frame, layout.axes, of, count, boxOf, outlineOf) };
}

/** Middle in the layout's frame, half sides along and across, and index of its axis. */
interface Box {
  x: number;
  y: number;
  a: number;
  b: number;
  axis: 0 | 1;
}

/** @param of the body of each face of the sheet */
function bodyCells(
  sheet: Sheet,
  frame: LayoutFrame,
  axes: OpenLayout['axes'],
  of: Uint32Array,
  count: number,
  boxOf: (body: number) => Box,
  outlineOf: (body: number) => Loop[],
): CellSource {
  const boxes = Array.from({ length: count }, (_, n) => boxOf(n));
  const cellOf = (index: number): FoundCell => ({
    course: 0,
    index,
    shape: null,
    ...boxes[index],
    axis: axes[boxes[index].axis],
  });
  return {
    single: count === 1,
    // every face of a body as it is, each a visit: its corners are the part, whatever is to be clipped
    walk(visit) {
      const onMesh = blankMeshMap();
      for (let chart = 0; chart < sheet.charts.length; chart++) {
        const faces = chartFaces(sheet, chart, frame);
        // the faces of a chart come in the order of the sheet
        let t = 0;
        for (let i = 0; i < sheet.faces.length; i++) {
          if (sheet.chartOf[i] !== chart) continue;
          if (mapTriangle(sheet.mesh, faces, t, onMesh)) {
            const corners = faces.corners.subarray(t * 6, t * 6 + 6);
            visit({ ...cellOf(of[i]), module: 0, uncut: null }, (_corners, _sides, take) => take(corners, 3, onMesh));
          }
          t++;
        }
      }
    },
    outline(take) {
      for (let n = 0; n < count; n++) {
        const { a, b, shape: _rectangle, ...cell } = cellOf(n);
        const outline = outlineOf(n);
        const area = Math.abs(outline.reduce((sum, loop) => sum + loopArea(loop), 0));
        const half = { halfLength: a, halfWidth: b };
        take({ ...cell, ...half, outline, area, fullArea: area, cellArea: area, sawn: false, board: [0, n] });
      }
    },
    find(at) {
      // on an edge of two faces rounding can put a point a hair outside both
      let nearest = -1;
      let least = ON_EDGE;
      for (let i = 0; i < sheet.faces.length; i++) {
        const outside = outsideConvex(sheet.corners.subarray(i * 6, i * 6 + 6), at);
        if (outside < least) [nearest, least] = [i, outside];
        if (outside <= 0) break;
      }
      return nearest < 0 ? null : cellOf(of[nearest]);
    },
  };
}

/** A piece for every polygon that the file drew; null where it drew triangles alone. */
function labelPolygons({ mesh, faces }: Sheet): { of: Uint32Array; count: number } | null {
  const { polygons } = mesh;
  if (!polygons) return null;
  const known = new Map<number, number>();
  const of = Uint32Array.from(faces, (face) => {
    const polygon = polygons[face];
    const label = known.get(polygon);
    if (label !== undefined) return label;
    known.set(polygon, known.size);
    return known.size - 1;
  });
  return { of, count: known.size };
}

function label(sheet: Sheet): { of: Uint32Array; count: number } {
  const { mesh } = sheet;
  const { faces } = sheet;
  const indices = weldFaces(mesh, faces);
  const adjacency = findNeighbours(indices, mesh.positions.length / 3);
  const bodies = labelGroups(adjacency, faces.length);
  if (bodies.count > 1) return { of: Uint32Array.from(bodies.labels), count: bodies.count };
  const { normals } = faceNormals(mesh.positions, indices);
  const flat = groupByCrease(adjacency, normals, new Uint16Array(faces.length), 1);
  return { of: Uint32Array.from(flat.labels), count: flat.count };
}

/** Bodies whose bounds come near each other along a side. */
function findNear(box: Float64Array, count: number): number[][] {
  const near: number[][] = Array.from({ length: count }, () => []);
  if (!count) return near;
  const order = Array.from({ length: count }, (_, n) => n).sort((a, b) => box[a * 4] - box[b * 4] || a - b);
  const index = new Flatbush(count);
  for (const n of order) index.add(box[n * 4], box[n * 4 + 1], box[n * 4 + 2], box[n * 4 + 3]);
  index.finish();
  order.forEach((n, i) => {
    const [x0, y0, x1, y1] = box.subarray(n * 4, n * 4 + 4);
    const round = index.search(x0 - NEAR, y0 - NEAR, x1 + NEAR, y1 + NEAR, (j) => j > i);
    for (const j of round.sort((p, q) => p - q)) {
      const o = order[j];
      const x = Math.min(x1, box[o * 4 + 2]) - Math.max(x0, box[o * 4]);
      const y = Math.min(y1, box[o * 4 + 3]) - Math.max(y0, box[o * 4 + 1]);
      // those that meet at a corner alone are no neighbours
      if ((x < 1 && y < 1) || near[n].length >= MOST || near[o].length >= MOST) continue;
      near[n].push(o);
      near[o].push(n);
    }
  });
  return near;
}

/** Numbers such that neighbours differ, the lowest that is free for each in turn. */
function colour(neighbours: number[][]): Int32Array {
  const out = new Int32Array(neighbours.length).fill(-1);
  neighbours.forEach((list, n) => {
    const used = new Set(list.map((k) => out[k]));
    let c = 0;
    while (used.has(c)) c++;
    out[n] = c;
  });
  return out;
}
