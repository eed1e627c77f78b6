import type { Sheet } from '../mapping/sheet';
import type { LayoutFrame } from '../setout/layoutFrame';

/** The triangles of one chart in the layout's frame, each counter-clockwise, findable by place. */
export interface ChartFaces {
  /** Six numbers per triangle. */
  corners: Float64Array;
  /** Three vertices of the mesh per triangle, in the order of `corners`. */
  vertices: Uint32Array;
  /** 1 where the triangle had to be turnedOver over: its front is the back of the sheet. */
  turnedOver: Uint8Array;
  count: number;
  /** Calls back with every triangle whose bounds touch the rectangle, each once. */
  near(minX: number, minY: number, maxX: number, maxY: number, found: (triangle: number) => void): void;
}

/** The charts of the sheet asked for last: one surface is changed again and again, and mostly its frame stays. */
let kept: { sheet: Sheet; frame: string; charts: ChartFaces[] } | null = null;

export function chartFaces(sheet: Sheet, chart: number, frame: LayoutFrame): ChartFaces {
  const key = [...frame.at, ...frame.m].join();
  if (kept?.sheet !== sheet || kept.frame !== key) kept = { sheet, frame: key, charts: [] };
  return (kept.charts[chart] ??= openFaces(sheet, chart, frame));
}

function openFaces(sheet: Sheet, chart: number, { at, m }: LayoutFrame): ChartFaces {
  const { mesh } = sheet;
  let count = 0;
  for (let i = 0; i < sheet.faces.length; i++) if (sheet.chartOf[i] === chart) count++;
  const corners = new Float64Array(count * 6);
  const vertices = new Uint32Array(count * 3);
  const turnedOver = new Uint8Array(count);
  const box = new Float64Array(count * 4);
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  let n = 0;
  let sides = 0;
  const source = sheet.corners;
  const m0 = m[0];
  const m1 = m[1];
  const m2 = m[2];
  const m3 = m[3];
  for (let i = 0; i < sheet.faces.length; i++) {
    if (sheet.chartOf[i] !== chart) continue;
    const o = n * 6;
    for (let k = 0; k < 6; k += 2) {
      const dx = source[i * 6 + k] - at[0];
      const dy = source[i * 6 + k + 1] - at[1];
      corners[o + k] = m0 * dx + m1 * dy;
      corners[o + k + 1] = m2 * dx + m3 * dy;
    }
    const face = sheet.faces[i] * 3;
    vertices[n * 3] = mesh.indices[face];
    vertices[n * 3 + 1] = mesh.indices[face + 1];
    vertices[n * 3 + 2] = mesh.indices[face + 2];
    const ax = corners[o];
    const ay = corners[o + 1];
    const bx = corners[o + 2];
    const by = corners[o + 3];
    const cx = corners[o + 4];
    const cy = corners[o + 5];
    if ((bx - ax) * (cy - ay) - (cx - ax) * (by - ay) < 0) {
      turnedOver[n] = 1;
      corners[o + 2] = cx;
      corners[o + 3] = cy;
      corners[o + 4] = bx;
      corners[o + 5] = by;
      const v = vertices[n * 3 + 1];
      vertices[n * 3 + 1] = vertices[n * 3 + 2];
      vertices[n * 3 + 2] = v;
    }
    const b = n * 4;
    const x0 = Math.min(ax, bx, cx);
    const y0 = Math.min(ay, by, cy);
    const x1 = Math.max(ax, bx, cx);
    const y1 = Math.max(ay, by, cy);
    box[b] = x0;
    box[b + 1] = y0;
    box[b + 2] = x1;
    box[b + 3] = y1;
    if (x0 < minX) minX = x0;
    if (y0 < minY) minY = y0;
    if (x1 > maxX) maxX = x1;
    if (y1 > maxY) maxY = y1;
    sides += x1 - x0 + y1 - y0;
    n++;
  }

  // squares about as large as the triangles; each lists the triangles whose bounds touch it
  const size = Math.max(
    sides / Math.max(1, count * 2),
    Math.sqrt(((maxX - minX) * (maxY - minY)) / Math.max(16, count * 4)),
    1e-3,
  );
  const columns = Math.max(1, Math.min(4096, Math.ceil((maxX - minX) / size)));
  const rows = Math.max(1, Math.min(4096, Math.ceil((maxY - minY) / size)));
  const sx = columns / Math.max(maxX - minX, 1e-9);
  const sy = rows / Math.max(maxY - minY, 1e-9);
  const column = (x: number) => Math.min(columns - 1, Math.max(0, Math.floor((x - minX) * sx)));
  const row = (y: number) => Math.min(rows - 1, Math.max(0, Math.floor((y - minY) * sy)));
  // counted first, then filled
  const starts = new Uint32Array(columns * rows + 1);
  for (let t = 0; t < count; t++) {
    const r1 = row(box[t * 4 + 3]);
    const c0 = column(box[t * 4]);
    const c1 = column(box[t * 4 + 2]);
    for (let r = row(box[t * 4 + 1]); r <= r1; r++) for (let c = c0; c <= c1; c++) starts[r * columns + c + 1]++;
  }
  for (let i = 0; i < columns * rows; i++) starts[i + 1] += starts[i];
  const list = new Uint32Array(starts[columns * rows]);
  const fill = starts.slice();
  for (let t = 0; t < count; t++) {
    const r1 = row(box[t * 4 + 3]);
    const c0 = column(box[t * 4]);
    const c1 = column(box[t * 4 + 2]);
    for (let r = row(box[t * 4 + 1]); r <= r1; r++) for (let c = c0; c <= c1; c++) list[fill[r * columns + c]++] = t;
  }

  const seen = new Uint32Array(count);
  let round = 0;
  const near: ChartFaces['near'] = (x0, y0, x1, y1, found) => {
    if (!count || x1 < minX || x0 > maxX || y1 < minY || y0 > maxY) return;
    round++;
    const r1 = row(y1);
    const c0 = column(x0);
    const c1 = column(x1);
    for (let r = row(y0); r <= r1; r++) {
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
  return { corners, vertices, turnedOver, count, near };
}
