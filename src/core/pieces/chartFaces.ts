import type { Sheet } from '../mapping/sheet';
import type { PartMesh } from '../mesh/types';
import type { LayoutFrame } from './frame';

/** The triangles of one chart in the layout's frame, each counter-clockwise, findable by place. */
export interface ChartFaces {
  /** Six numbers per triangle. */
  corners: Float64Array;
  /** Three vertices of the mesh per triangle, in the order of `corners`. */
  vertices: Uint32Array;
  /** 1 where the triangle had to be turned over: its front is the back of the sheet. */
  turned: Uint8Array;
  count: number;
  /** Calls back with every triangle whose bounds touch the rectangle, each once. */
  near(minX: number, minY: number, maxX: number, maxY: number, found: (triangle: number) => void): void;
}

export function chartFaces(mesh: PartMesh, sheet: Sheet, chart: number, { at, m }: LayoutFrame): ChartFaces {
  let count = 0;
  for (let i = 0; i < sheet.faces.length; i++) if (sheet.chartOf[i] === chart) count++;
  const corners = new Float64Array(count * 6);
  const vertices = new Uint32Array(count * 3);
  const turned = new Uint8Array(count);
  const box = new Float64Array(count * 4);
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  let n = 0;
  let sides = 0;
  for (let i = 0; i < sheet.faces.length; i++) {
    if (sheet.chartOf[i] !== chart) continue;
    const o = n * 6;
    for (let k = 0; k < 3; k++) {
      const dx = sheet.corners[i * 6 + k * 2] - at[0];
      const dy = sheet.corners[i * 6 + k * 2 + 1] - at[1];
      corners[o + k * 2] = m[0] * dx + m[1] * dy;
      corners[o + k * 2 + 1] = m[2] * dx + m[3] * dy;
      vertices[n * 3 + k] = mesh.indices[sheet.faces[i] * 3 + k];
    }
    const area = (corners[o + 2] - corners[o]) * (corners[o + 5] - corners[o + 1]) - (corners[o + 4] - corners[o]) * (corners[o + 3] - corners[o + 1]); // prettier-ignore
    if (area < 0) {
      turned[n] = 1;
      for (let c = 0; c < 2; c++) [corners[o + 2 + c], corners[o + 4 + c]] = [corners[o + 4 + c], corners[o + 2 + c]];
      [vertices[n * 3 + 1], vertices[n * 3 + 2]] = [vertices[n * 3 + 2], vertices[n * 3 + 1]];
    }
    const b = n * 4;
    box[b] = Math.min(corners[o], corners[o + 2], corners[o + 4]);
    box[b + 1] = Math.min(corners[o + 1], corners[o + 3], corners[o + 5]);
    box[b + 2] = Math.max(corners[o], corners[o + 2], corners[o + 4]);
    box[b + 3] = Math.max(corners[o + 1], corners[o + 3], corners[o + 5]);
    minX = Math.min(minX, box[b]);
    minY = Math.min(minY, box[b + 1]);
    maxX = Math.max(maxX, box[b + 2]);
    maxY = Math.max(maxY, box[b + 3]);
    sides += box[b + 2] - box[b] + box[b + 3] - box[b + 1];
    n++;
  }

  // squares about as large as the triangles; each lists the triangles whose bounds touch it
  const size = Math.max(sides / Math.max(1, count * 2), Math.sqrt(((maxX - minX) * (maxY - minY)) / Math.max(16, count * 4)), 1e-3); // prettier-ignore
  const columns = Math.max(1, Math.min(4096, Math.ceil((maxX - minX) / size)));
  const rows = Math.max(1, Math.min(4096, Math.ceil((maxY - minY) / size)));
  const sx = columns / Math.max(maxX - minX, 1e-9);
  const sy = rows / Math.max(maxY - minY, 1e-9);
  const column = (x: number) => Math.min(columns - 1, Math.max(0, Math.floor((x - minX) * sx)));
  const row = (y: number) => Math.min(rows - 1, Math.max(0, Math.floor((y - minY) * sy)));
  const squares = (t: number, visit: (at: number) => void) => {
    const b = t * 4;
    for (let r = row(box[b + 1]); r <= row(box[b + 3]); r++)
      for (let c = column(box[b]); c <= column(box[b + 2]); c++) visit(r * columns + c);
  };
  const starts = new Uint32Array(columns * rows + 1);
  for (let t = 0; t < count; t++) squares(t, (at) => starts[at + 1]++);
  for (let i = 0; i < columns * rows; i++) starts[i + 1] += starts[i];
  const list = new Uint32Array(starts[columns * rows]);
  const fill = starts.slice();
  for (let t = 0; t < count; t++) squares(t, (at) => (list[fill[at]++] = t));

  const seen = new Uint32Array(count);
  let round = 0;
  const near: ChartFaces['near'] = (x0, y0, x1, y1, found) => {
    if (!count || x1 < minX || x0 > maxX || y1 < minY || y0 > maxY) return;
    round++;
    const [c0, c1, r0, r1] = [column(x0), column(x1), row(y0), row(y1)];
    for (let r = r0; r <= r1; r++) {
      for (let c = c0; c <= c1; c++) {
        const at = r * columns + c;
        for (let k = starts[at]; k < starts[at + 1]; k++) {
          const t = list[k];
          if (seen[t] === round) continue;
          seen[t] = round;
          const b = t * 4;
          if (box[b] < x1 && box[b + 2] > x0 && box[b + 1] < y1 && box[b + 3] > y0) found(t);
        }
      }
    }
  };
  return { corners, vertices, turned, count, near };
}
