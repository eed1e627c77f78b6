import type { Bounds2 } from '../geometry/bounds';
import type { Vec2 } from '../geometry/vec';
import { areaOfCorners } from '../geometry/clip';
import { outwardNormals } from '../geometry/polygon';
import { type Finding, finding } from '../finding/finding';
import { type CellKind, PLAIN } from './cells';
import { colourPeriod, neighboursOfPeriod } from './periodNeighbours';
import { boundsOf, type Module, type Placed, RECTANGLE, shapeOfBoth, shapeOfCellOrWhole } from './modules';
import type { PieceRole } from './roles';
import type { OpenLayout } from './types';

/** One of the cells that a period repeats, in the layout's frame, mm; corners counter-clockwise. */
export interface PeriodCell {
  cell: readonly number[];
  role: PieceRole;
  /** Which way its piece's length runs; along x unless said. */
  deg?: number;
  /** Its piece, where that is not the cell less half of the joint on every side. */
  piece?: readonly number[];
}

/** What a layout repeats: cells that together tile the plane when they are moved by whole multiples of two steps. */
export interface Period {
  right: Vec2;
  up: Vec2;
  cells: readonly PeriodCell[];
}

/** Half the joint on a side with this outward normal, of a piece running this way, mm. */
export type JointOn = (side: Vec2, along: Vec2) => number;

/** The same joint on every side, mm. */
export const evenJoint =
  (mm: number): JointOn =>
  () =>
    mm / 2;

/** One joint at the ends of pieces, another along them, mm. */
export const endsAndSides =
  (endsMm: number, sidesMm: number): JointOn =>
  ([x, y], [ax, ay]) =>
    (Math.abs(x * ax + y * ay) > Math.SQRT1_2 ? endsMm : sidesMm) / 2;

/** A cell of the period as it is laid again and again. */
interface Laid {
  module: number;
  axis: number;
  /** Middle, half sides, and the box round the cell against that middle. */
  x: number;
  y: number;
  a: number;
  b: number;
  box: readonly [number, number, number, number];
  role: PieceRole;
  kind: CellKind;
}

/**
 * A layout that repeats a period: endless. Course and index count its steps up and to the right; cells of one step to
 * the right count on. Which cells touch, and classes that tell them apart, are found by looking at one period.
 */
export function openPeriod({ right, up, cells }: Period, jointOn: JointOn): OpenLayout {
  const { modules, axes, laid, findings } = modulesOf(cells, jointOn);
  const count = laid.length;
  const touching = neighboursOfPeriod({ right, up, cells });
  const colours = colourPeriod(touching);
  const reach = laid.reduce(
    ([x0, y0, x1, y1], { box }) => [
      Math.min(x0, box[0]),
      Math.min(y0, box[1]),
      Math.max(x1, box[2]),
      Math.max(y1, box[3]),
    ],
    [Infinity, Infinity, -Infinity, -Infinity],
  );
  const area = Math.abs(right[0] * up[1] - right[1] * up[0]);
  const halves = laid.map(
    ({ module, a, b }) => modules[module].shape?.half ?? [a - insets(jointOn)[0], b - insets(jointOn)[1]],
  );
  const own = (index: number) => ((index % count) + count) % count;
  return {
    axes,
    modules,
    inset: insets(jointOn),
    largest: [2 * Math.max(...halves.map(([a]) => a)), 2 * Math.max(...halves.map(([, b]) => b))],
    cellArea: area / count,
    mostNeighbours: Math.max(...touching.map((t) => t.length)),
    classes: colours.count,
    classOf: (course, index) => colours.of(own(index), Math.floor(index / count), course),
    neighbours(course, index, out) {
      const k = own(index);
      const i = (index - k) / count;
      touching[k].forEach((t, n) => {
        out[n * 2] = course + t.up;
        out[n * 2 + 1] = (i + t.right) * count + t.cell;
      });
      return touching[k].length;
    },
    roleOf: (_course, index) => laid[own(index)].role,
    perRound: count,
    fill(rectangle, to) {
      eachStep(right, up, grown(rectangle, reach), (i, j) => {
        const x = i * right[0] + j * up[0];
        const y = i * right[1] + j * up[1];
        for (let k = 0; k < count; k++) {
          const c = laid[k];
          if (x + c.box[0] > rectangle.maxX || x + c.box[2] < rectangle.minX) continue;
          if (y + c.box[1] > rectangle.maxY || y + c.box[3] < rectangle.minY) continue;
          to.add(j, i * count + k, x + c.x, y + c.y, c.a, c.b, c.axis, c.kind);
        }
      });
      to.flush();
    },
    ...(findings.length ? { findings: () => findings } : {}),
  };
}

const insets = (jointOn: JointOn): [number, number] => [jointOn([1, 0], [1, 0]), jointOn([0, 1], [1, 0])];

/** Where a step may stand so that something of it lies in the rectangle. */
const grown = (r: Bounds2, [x0, y0, x1, y1]: number[]): Bounds2 => ({
  minX: r.minX - x1,
  minY: r.minY - y1,
  maxX: r.maxX - x0,
  maxY: r.maxY - y0,
});

/** Every step that stands in a rectangle, row by row. */
function eachStep(right: Vec2, up: Vec2, r: Bounds2, take: (i: number, j: number) => void): void {
  const det = right[0] * up[1] - right[1] * up[0];
  const rows = [r.minX, r.maxX].flatMap((x) => [r.minY, r.maxY].map((y) => (right[0] * y - right[1] * x) / det));
  for (let j = Math.ceil(Math.min(...rows) - 1e-9); j <= Math.max(...rows) + 1e-9; j++) {
    // the part of the row's line that lies in the rectangle, in steps
    let [from, to] = [-Infinity, Infinity];
    const within = (start: number, step: number, low: number, high: number) => {
      if (Math.abs(step) < 1e-12) {
        if (start < low - 1e-9 || start > high + 1e-9) to = -Infinity;
        return;
      }
      const [p, q] = [(low - start) / step, (high - start) / step];
      from = Math.max(from, Math.min(p, q));
      to = Math.min(to, Math.max(p, q));
    };
    within(j * up[0], right[0], r.minX, r.maxX);
    within(j * up[1], right[1], r.minY, r.maxY);
    for (let i = Math.ceil(from - 1e-9); i <= to + 1e-9; i++) take(i, j);
  }
}

/** The few shapes that the cells have: equal ones are one. */
function modulesOf(cells: readonly PeriodCell[], jointOn: JointOn) {
  const modules: Module[] = [];
  const axes: [number, number][] = [];
  const findings: Finding[] = [];
  const lost: Vec2[] = [];
  const laid = cells.map(({ cell, role, deg = 0, piece }): Laid => {
    const rad = (deg * Math.PI) / 180;
    const exact = Number.isInteger(deg / 90);
    const turn: [number, number] = exact ? QUARTERS[(((deg / 90) % 4) + 4) % 4] : [Math.cos(rad), Math.sin(rad)];
    const turned = (p: readonly number[]) => {
      const out: number[] = [];
      for (let k = 0; k < p.length; k += 2)
        out.push(p[k] * turn[0] + p[k + 1] * turn[1], p[k + 1] * turn[0] - p[k] * turn[1]);
      return out;
    };
    const own = turned(cell);
    const box = boundsOf(cell);
    const put = (module: number, middle: readonly [number, number], a: number, b: number): Laid => {
      const [x, y] = [middle[0] * turn[0] - middle[1] * turn[1], middle[0] * turn[1] + middle[1] * turn[0]];
      const kind = module ? { ...PLAIN, module } : PLAIN;
      return { module, axis: axisOf(axes, turn), x, y, a, b, box, role, kind };
    };
    const [x0, y0, x1, y1] = boundsOf(own);
    if (!piece && isRectangle(own)) {
      return put(moduleOf(modules, RECTANGLE), [(x0 + x1) / 2, (y0 + y1) / 2], (x1 - x0) / 2, (y1 - y0) / 2);
    }
    const placed = shapeFor(own, piece && turned(piece), jointOn);
    if (placed.lost && losesMore(own, placed)) lost.push([(box[0] + box[2]) / 2, (box[1] + box[3]) / 2]);
    const { shape, middle } = placed;
    return put(moduleOf(modules, { name: role, shape }), middle, shape.reach[0], shape.reach[1]);
  });
  if (lost.length) findings.push(finding('sidesLost', { pieces: lost.length, of: cells.length }));
  return { modules, axes, laid, findings };
}

const QUARTERS: [number, number][] = [
  [1, 0],
  [0, 1],
  [-1, 0],
  [0, -1],
];

function shapeFor(cell: readonly number[], piece: readonly number[] | undefined, jointOn: JointOn): Placed {
  if (piece) return shapeOfBoth(cell, piece);
  const normals = outwardNormals(cell);
  const joints = cell.filter((_, k) => !(k & 1)).map((_, k) => jointOn([normals[k * 2], normals[k * 2 + 1]], [1, 0]));
  return shapeOfCellOrWhole(cell, joints);
}

/** More than chords of an arc, which are lost in its tips, are gone. */
function losesMore(cell: readonly number[], { shape, lost }: Placed): boolean {
  const n = outwardNormals(cell);
  let corners = 0;
  for (let k = 0; k < n.length; k += 2) {
    const next = (k + 2) % n.length;
    if (n[k] * n[next] + n[k + 1] * n[next + 1] < FLAT_TURN) corners++;
  }
  return shape.piece === shape.cell || cell.length / 2 - lost < corners;
}

/** Sides that turn by more than this cosine's angle meet in a corner, not along an arc. */
const FLAT_TURN = Math.cos((25 * Math.PI) / 180);

const same = (a: ArrayLike<number>, b: ArrayLike<number>): boolean => {
  if (a.length !== b.length) return false;
  for (let k = 0; k < a.length; k++) if (Math.abs(a[k] - b[k]) > 1e-6) return false;
  return true;
};

function moduleOf(modules: Module[], { name, shape }: Module): number {
  const found = modules.findIndex((m) =>
    shape && m.shape ? same(m.shape.cell, shape.cell) && same(m.shape.piece, shape.piece) : m.shape === shape,
  );
  return found >= 0 ? found : modules.push({ name, shape }) - 1;
}

function axisOf(axes: [number, number][], [x, y]: [number, number]): number {
  const found = axes.findIndex((a) => Math.hypot(a[0] - x, a[1] - y) < 1e-9);
  return found >= 0 ? found : axes.push([x, y]) - 1;
}

/** Four corners, its sides along x and y. */
function isRectangle(p: readonly number[]): boolean {
  if (p.length !== 8) return false;
  const [x0, y0, x1, y1] = boundsOf(p);
  return Math.abs(areaOfCorners(p, 4) - (x1 - x0) * (y1 - y0)) < 1e-9 * (x1 - x0) * (y1 - y0);
}
