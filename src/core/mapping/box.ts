import { finding } from '../finding/finding';
import { type Static, Type } from '@sinclair/typebox';
import { everyMapping } from './parts';
import { oneOf } from '../schema/choice';
import { cross, dot, normalise, scale, type Vec3 } from '../geometry/vec';
import { findNeighbours, labelGroups } from '../mesh/adjacency';
import { faceNormals } from '../mesh/creases';
import type { PartMesh } from '../mesh/types';
import { weldFaces } from '../mesh/weld';
import { frameFacing, placeFace } from './flat';
import type { Break, Frame, LaidFaces, Mapping } from './types';

export const BoxMapping = Type.Object({
  ...everyMapping,
  kind: Type.Literal('box'),
  axes: oneOf('surface', 'world'),
});
export type BoxMapping = Static<typeof BoxMapping>;

/**
 * Each face from the axis it faces. Sides go on round vertical arrises without a break until the loop closes; tops and
 * undersides hang on their longest side. No chart is mirrored.
 */
export const box: Mapping<BoxMapping> = {
  kind: 'box',
  label: 'Box',
  also: ['cube', 'six sides'],
  schema: BoxMapping,
  first: { kind: 'box', axes: 'surface' },
  fields: [
    {
      kind: 'choice',
      label: 'Sides lie along',
      options: [
        ['surface', 'the surface’s main direction'],
        ['world', 'north and east'],
      ],
      get: (s) => s.axes,
      set: (s, axes) => ({ ...s, axes: axes as BoxMapping['axes'] }),
    },
  ],
  describe: () => 'as a box',
  drawing: [
    { as: 'face', d: 'M10 14 24 8 38 14 24 20z' },
    { as: 'face', d: 'M10 14v13l14 6V20zM38 14v13l-14 6V20z' },
    { as: 'arrow', d: 'M12 31c6 5 18 5 24 0m-3-1 3 1v3' },
  ],
  lay(mesh: PartMesh, faces: Uint32Array, options: BoxMapping): LaidFaces {
    const indices = weldFaces(mesh, faces);
    const { normals, areas } = faceNormals(mesh.positions, indices);
    const axes = boxAxes(normals, areas, options.axes);
    const facing = new Uint8Array(faces.length);
    for (let i = 0; i < faces.length; i++) facing[i] = nearestAxis(axes, normals, i);

    const adjacency = findNeighbours(indices, mesh.positions.length / 3);
    const { labels, count } = labelGroups(adjacency, faces.length, (_e, f, n) => facing[f] === facing[n]);
    const charts: Chart[] = Array.from({ length: count }, () => ({
      facing: -1,
      area: 0,
      minX: Infinity,
      maxX: -Infinity,
      minY: Infinity,
      maxY: -Infinity,
      frame: null!,
    }));
    for (let i = 0; i < faces.length; i++) {
      const chart = charts[labels[i]];
      if (chart.facing < 0) {
        chart.facing = facing[i];
        chart.frame = frameFacing(axes[facing[i]]);
      }
      chart.area += areas[i];
    }
    const shared = sharedEdges(mesh, indices, adjacency.across, labels);
    const { breaks, groupOf } = unfold(charts, shared);

    const corners = new Float64Array(faces.length * 6);
    for (let i = 0; i < faces.length; i++) placeFace(mesh, faces[i], charts[labels[i]].frame, corners, i * 6);
    return { corners, chartOf: Uint32Array.from(labels), frames: charts.map((c) => c.frame), groupOf, breaks };
  },
};

interface Chart {
  facing: number;
  area: number;
  minX: number;
  maxX: number;
  minY: number;
  maxY: number;
  frame: Frame;
}

/** Edges that two charts share, summed up. */
interface Shared {
  a: number;
  b: number;
  length: number;
  /** World ends of every edge piece: [x0, y0, z0, x1, y1, z1, …]. */
  ends: number[];
  vertical: boolean;
}

/** Six directions: up, down, then four round the vertical, the first along the main horizontal direction. */
function boxAxes(normals: Float32Array, areas: Float64Array, kind: BoxMapping['axes']): Vec3[] {
  let turn = 0;
  if (kind === 'surface') {
    // horizontal directions folded onto a quarter turn, averaged as angles times four
    let c = 0;
    let s = 0;
    for (let i = 0; i < areas.length; i++) {
      const x = normals[i * 3];
      const z = normals[i * 3 + 2];
      const flatness = x * x + z * z;
      if (flatness < 0.25) continue;
      const angle = Math.atan2(z, x) * 4;
      c += Math.cos(angle) * areas[i];
      s += Math.sin(angle) * areas[i];
    }
    if (Math.hypot(c, s) > 1e-9) turn = Math.atan2(s, c) / 4;
    if (Math.abs(turn) < 1e-5) turn = 0;
  }
  const x: Vec3 = [Math.cos(turn), 0, Math.sin(turn)];
  const z: Vec3 = [-Math.sin(turn), 0, Math.cos(turn)];
  return [[0, 1, 0], [0, -1, 0], x, z, scale(x, -1), scale(z, -1)];
}

function nearestAxis(axes: Vec3[], normals: Float32Array, i: number): number {
  let best = 0;
  let most = -Infinity;
  // sides win ties, so that a slope of exactly 45° belongs to the wall
  for (const a of [2, 3, 4, 5, 0, 1]) {
    const d = Math.round(
      (axes[a][0] * normals[i * 3] + axes[a][1] * normals[i * 3 + 1] + axes[a][2] * normals[i * 3 + 2]) * 1e5,
    );
    if (d > most) {
      most = d;
      best = a;
    }
  }
  return best;
}

function sharedEdges(mesh: PartMesh, indices: Uint32Array, across: Int32Array, labels: Int32Array): Shared[] {
  const found = new Map<string, Shared>();
  const { positions: p, origin } = mesh;
  for (let e = 0; e < across.length; e++) {
    const neighbour = across[e];
    if (neighbour < 0) continue;
    const a = labels[Math.floor(e / 3)];
    const b = labels[neighbour];
    if (a >= b) continue;
    const v = indices[e] * 3;
    const w = indices[e % 3 === 2 ? e - 2 : e + 1] * 3;
    const d: Vec3 = [p[w] - p[v], p[w + 1] - p[v + 1], p[w + 2] - p[v + 2]];
    const length = Math.hypot(...d);
    const vertical = Math.abs(d[1]) > length * 0.9;
    const key = `${a},${b},${vertical}`;
    let shared = found.get(key);
    if (!shared) found.set(key, (shared = { a, b, length: 0, ends: [], vertical }));
    shared.length += length;
    shared.ends.push(
      p[v] + origin[0],
      p[v + 1] + origin[1],
      p[v + 2] + origin[2],
      p[w] + origin[0],
      p[w + 1] + origin[1],
      p[w + 2] + origin[2],
    );
  }
  // the longest arris first: where a loop must break, it breaks at the shortest; ties by number keep it repeatable
  return [...found.values()].sort((s, t) => t.length - s.length || s.a - t.a || s.b - t.b);
}

const isSide = (chart: Chart) => chart.facing >= 2;

/** Moves the charts' frames so that shared arrises meet; returns where they cannot. */
function unfold(charts: Chart[], shared: Shared[]): { breaks: Break[]; groupOf: number[] } {
  const breaks: Break[] = [];
  const group = charts.map((_, i) => i);
  const find = (i: number): number => {
    while (group[i] !== i) i = group[i] = group[group[i]];
    return i;
  };
  const sides = shared.filter((s) => s.vertical && isSide(charts[s.a]) && isSide(charts[s.b]));
  // equal arrises: in walking order, so that a loop opens between the last chart and the first
  for (const s of sides) {
    const shift = meanDifference(charts, s);
    const a = find(s.a);
    const b = find(s.b);
    if (a !== b) {
      // the group with the later number moves, keeping the first chart where the world has it
      const [moving, by] = a < b ? [b, shift] : [a, -shift];
      charts.forEach((chart, i) => {
        if (find(i) === moving) chart.frame = moved(chart.frame, by, 0);
      });
      group[moving] = Math.min(a, b);
    } else if (Math.abs(shift) > 0.01) {
      const size = Math.abs(shift);
      breaks.push({
        kind: 'loop',
        charts: [s.a, s.b],
        length: s.length,
        shift: size,
        finding: finding('loopCloses', { runMm: size }),
      });
    }
  }
  // tops and undersides turn until they go on from their longest side
  charts.forEach((chart, i) => {
    if (isSide(chart)) return;
    const joints = shared.filter((s) => (s.a === i && isSide(charts[s.b])) || (s.b === i && isSide(charts[s.a])));
    joints.forEach((s, n) => {
      const side = charts[s.a === i ? s.b : s.a];
      if (n === 0) {
        chart.frame = hangOn(chart.frame, side.frame, s.ends);
        group[find(i)] = find(s.a === i ? s.b : s.a);
        return;
      }
      // one end may lie where both sides meet; the pattern turns all the same
      const apart = [0, 3].map((end) => {
        const there = s.ends.slice(end, end + 3) as Vec3;
        return Math.hypot(
          dot(chart.frame.x, there) + chart.frame.offset[0] - dot(side.frame.x, there) - side.frame.offset[0],
          dot(chart.frame.y, there) + chart.frame.offset[1] - dot(side.frame.y, there) - side.frame.offset[1],
        );
      });
      if (Math.max(...apart) < 0.01) return;
      breaks.push({
        kind: 'turn',
        charts: [s.a, s.b],
        length: s.length,
        shift: 0,
        finding: finding('patternTurns', { lengthMm: s.length }),
      });
    });
  });
  return { breaks, groupOf: charts.map((_, i) => find(i)) };
}

const moved = (frame: Frame, dx: number, dy: number): Frame => ({
  ...frame,
  offset: [frame.offset[0] + dx, frame.offset[1] + dy],
});

/** How far b must move in x for its end of the arris to meet a's. */
function meanDifference(charts: Chart[], s: Shared): number {
  let sum = 0;
  for (let i = 0; i < s.ends.length; i += 3) {
    const p: Vec3 = [s.ends[i], s.ends[i + 1], s.ends[i + 2]];
    const [a, b] = [charts[s.a].frame, charts[s.b].frame];
    sum += dot(a.x, p) + a.offset[0] - dot(b.x, p) - b.offset[0];
  }
  return sum / (s.ends.length / 3);
}

/** Folds a level chart down onto the plane of a side, about the arris they share. */
function hangOn(level: Frame, side: Frame, ends: number[]): Frame {
  const normal = normalise(cross(level.x, level.y));
  // along the arris both charts agree; across it the level chart goes on from the side's y
  const x = side.x;
  const y = cross(normal, x);
  const p: Vec3 = [ends[0], ends[1], ends[2]];
  return {
    x,
    y,
    offset: [side.offset[0], dot(side.y, p) + side.offset[1] - dot(y, p)],
  };
}
