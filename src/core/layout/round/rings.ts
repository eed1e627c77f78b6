import { type Static, Type } from '@sinclair/typebox';
import { Side } from '../../schema/sizes';
import { type Placed, shapeOfCellOrWhole } from '../modules';
import { chordsOf, grout, lengthOf, sidesOf } from '../pattern';
import type { Layout, OpenLayout } from '../types';

export const RingsLayout = Type.Object({
  kind: Type.Literal('rings'),
  /** Of a piece along its ring, about; and how wide a ring is. */
  lengthMm: Side,
  widthMm: Side,
  /** Across the round piece in the middle. */
  hubMm: Side,
  /** Joints run on from ring to ring as rays, twice as many where pieces would be too long; else each has its own. */
  rays: Type.Boolean(),
});
type RingsLayout = Static<typeof RingsLayout>;

const first: RingsLayout = { kind: 'rings', lengthMm: 150, widthMm: 100, hubMm: 300, rays: false };

/** Rings of pieces about the layout's start, with a round piece in the middle. */
export const rings: Layout<RingsLayout> = {
  kind: 'rings',
  label: 'Rings and rays',
  trade: 'round',
  also: ['circle', 'medallion', 'round', 'radial', 'turning circle'],
  schema: RingsLayout,
  cells: 'laid',
  preset: { spec: first, joint: grout(4) },
  formats: [
    { label: 'Rings of 100, pieces of 150', spec: first },
    { label: 'Rays, rings of 200', spec: { ...first, widthMm: 200, lengthMm: 200, hubMm: 400, rays: true } },
    {
      label: 'Setts, rings of 90',
      spec: { ...first, widthMm: 90, lengthMm: 90, hubMm: 180 },
      joint: { alongMm: 8, acrossMm: 8 },
    },
  ],
  roles: ['tile', 'insert'],
  size: sidesOf('Piece, about', 'lengthMm', 'widthMm'),
  hint: 'Rings lie about the start: move it with the datum, or on the sheet.',
  fields: [
    lengthOf('Middle, across', 'hubMm'),
    { kind: 'toggle', label: 'Joints run on as rays', get: (s) => s.rays, set: (s, rays) => ({ ...s, rays }) },
  ],
  describe: (s, size) =>
    `${s.rays ? 'rays and rings' : 'rings'} of pieces ${size(s.lengthMm, s.widthMm)} round a middle ${size(s.hubMm)}`,
  open({ lengthMm, widthMm, hubMm, rays }, { alongMm, acrossMm }, { bounds: b }): OpenLayout {
    const wide = widthMm + acrossMm;
    const hub = (hubMm + acrossMm) / 2;
    const inner = (ring: number) => hub + ring * wide;
    const farthest = Math.hypot(Math.max(-b.minX, b.maxX, 0), Math.max(-b.minY, b.maxY, 0));
    const last = Math.max(0, Math.min(MOST_RINGS, Math.ceil((farthest - hub) / wide)));
    const counts: number[] = [];
    for (let ring = 0; ring <= last + 1; ring++) {
      const free = Math.max(3, Math.round((2 * Math.PI * (inner(ring) + wide / 2)) / (lengthMm + alongMm)));
      const before = counts[ring - 1] ?? free;
      counts.push(rays ? (free > before * 1.5 ? before * 2 : before) : free);
    }
    const count = (ring: number) => counts[Math.min(ring, counts.length - 1)];
    // joints of every other ring stand over the middles of pieces
    const start = (ring: number) => (!rays && ring & 1 ? 0.5 / count(ring) : 0);
    const wrap = (ring: number, index: number) => ((index % count(ring)) + count(ring)) % count(ring);
    /** From … to as shares of a full round. */
    const place = (ring: number, index: number): [number, number] => {
      const from = wrap(ring, index) / count(ring) + start(ring);
      return [from, from + 1 / count(ring)];
    };
    const axes: [number, number][] = [[1, 0]];
    const shapes = new Map<string, Placed & { axis: number }>();
    const shapeAt = (ring: number, index: number) => {
      const key = `${ring},${index}`;
      let made = shapes.get(key);
      if (!made) {
        made =
          ring < 0
            ? openHub(hub, acrossMm)
            : openPiece(inner(ring), inner(ring + 1), place(ring, index), alongMm, acrossMm, axes);
        shapes.set(key, made);
      }
      return made;
    };
    const most = Math.max(count(0), ...counts.map((n, r) => 4 + 2 * Math.ceil((counts[r + 1] ?? n) / n) + 1));
    return {
      axes,
      modules: [],
      inset: [alongMm / 2, acrossMm / 2],
      // a piece of an inner ring is bent: it is as wide as its ring and what its ends stand back
      largest: [Math.max(hubMm, lengthMm * 1.6), Math.max(hubMm, widthMm * 1.6)],
      cellArea: (lengthMm + alongMm) * wide,
      mostNeighbours: most,
      roleOf: (ring) => (ring < 0 ? 'insert' : 'tile'),
      classes: 7,
      // round a ring in turn, the last of an odd number by itself; the middle by itself
      classOf(ring, index) {
        if (ring < 0) return 6;
        const n = count(ring);
        return (ring & 1) * 3 + (n & 1 && wrap(ring, index) === n - 1 ? 2 : wrap(ring, index) & 1);
      },
      neighbours(ring, index, out) {
        let n = 0;
        const give = (r: number, i: number) => {
          out[n * 2] = r;
          out[n * 2 + 1] = i;
          n++;
        };
        if (ring < 0) {
          for (let i = 0; i < count(0); i++) give(0, i);
          return n;
        }
        const own = wrap(ring, index);
        give(ring, wrap(ring, own - 1));
        if (count(ring) > 2) give(ring, wrap(ring, own + 1));
        if (ring === 0) give(-1, 0);
        const [from, to] = place(ring, own);
        for (const other of [ring - 1, ring + 1]) {
          if (other < 0) continue;
          const [low, high] = [from, to].map((v) => (v - start(other)) * count(other));
          for (let i = Math.floor(low + 1e-9); i < high - 1e-9; i++) give(other, wrap(other, i));
        }
        return n;
      },
      fill({ minX, minY, maxX, maxY }, cells) {
        const near = Math.hypot(Math.max(minX, -maxX, 0), Math.max(minY, -maxY, 0));
        const far = Math.hypot(Math.max(-minX, maxX), Math.max(-minY, maxY));
        const give = (ring: number, index: number) => {
          const { shape, middle, axis } = shapeAt(ring, index);
          const [ax, ay] = axes[axis];
          const [x, y] = [middle[0] * ax - middle[1] * ay, middle[0] * ay + middle[1] * ax];
          const [a, b] = shape.reach;
          const [rx, ry] = [Math.abs(a * ax) + Math.abs(b * ay), Math.abs(a * ay) + Math.abs(b * ax)];
          if (x - rx >= maxX || x + rx <= minX || y - ry >= maxY || y + ry <= minY) return;
          cells.add(ring, index, x, y, a, b, axis, { module: -1, shape, sawn: 0, board: null, span: 0 });
        };
        if (near <= hub) give(-1, 0);
        for (let ring = Math.max(0, Math.floor((near - hub) / wide)); ring <= last && inner(ring) <= far; ring++) {
          const [from, to] = seenFromMiddle(minX, minY, maxX, maxY);
          const n = count(ring);
          const low = Math.floor((from - start(ring)) * n) - 1;
          const high = Math.ceil((to - start(ring)) * n) + 1;
          if (high - low >= n) for (let i = 0; i < n; i++) give(ring, i);
          else for (let i = low; i <= high; i++) give(ring, wrap(ring, i));
        }
        cells.flush();
      },
    };
  },
};

/** More rings are not laid: a round of four kilometres in setts. */
const MOST_RINGS = 20_000;

/** Between which shares of a full round a rectangle lies as seen from the middle; all of it where that lies within. */
function seenFromMiddle(minX: number, minY: number, maxX: number, maxY: number): [number, number] {
  if (minX <= 0 && maxX >= 0 && minY <= 0 && maxY >= 0) return [0, 1];
  const at = (x: number, y: number) => Math.atan2(y, x) / (2 * Math.PI);
  const middle = at((minX + maxX) / 2, (minY + maxY) / 2);
  const off = [minX, maxX].flatMap((x) => [minY, maxY].map((y) => at(x, y) - middle)).map((d) => d - Math.round(d));
  return [middle + Math.min(...off), middle + Math.max(...off)];
}

/** Corners along a round between two shares of it: a regular polygon that both rings share, cut at the piece’s ends. */
function along(radius: number, from: number, to: number): number[] {
  const n = 4 * Math.ceil(chordsOf(radius, 360) / 4);
  const corner = (k: number): [number, number] => {
    const a = (2 * Math.PI * k) / n;
    return [radius * Math.cos(a), radius * Math.sin(a)];
  };
  const cut = (share: number): [number, number] => {
    const k = Math.floor(share * n);
    const [p, q] = [corner(k), corner(k + 1)];
    const [dx, dy] = [Math.cos(2 * Math.PI * share), Math.sin(2 * Math.PI * share)];
    // where the ray meets the chord
    const [ex, ey] = [q[0] - p[0], q[1] - p[1]];
    const t = (p[0] * ey - p[1] * ex) / (dx * ey - dy * ex);
    return [t * dx, t * dy];
  };
  const out = [...cut(from)];
  for (let k = Math.floor(from * n + 1e-9) + 1; k < to * n - 1e-9; k++) out.push(...corner(k));
  out.push(...cut(to));
  return out;
}

function openPiece(
  inner: number,
  outer: number,
  [from, to]: [number, number],
  alongMm: number,
  acrossMm: number,
  axes: [number, number][],
): Placed & { axis: number } {
  const outside = along(outer, from, to);
  const inside = along(inner, from, to);
  const cell = [...outside];
  for (let k = inside.length - 2; k >= 0; k -= 2) cell.push(inside[k], inside[k + 1]);
  // its length runs round the ring
  const middle = Math.PI * (from + to);
  const axis: [number, number] = [Math.sin(middle), -Math.cos(middle)];
  const turned: number[] = [];
  for (let k = 0; k < cell.length; k += 2)
    turned.push(cell[k] * axis[0] + cell[k + 1] * axis[1], cell[k + 1] * axis[0] - cell[k] * axis[1]);
  const sides = cell.length / 2;
  const ends = outside.length / 2 - 1;
  const joints = Array.from({ length: sides }, (_, k) => (k === ends || k === sides - 1 ? alongMm : acrossMm) / 2);
  return { ...shapeOfCellOrWhole(turned, joints), axis: axes.push(axis) - 1 };
}

function openHub(radius: number, joint: number): Placed & { axis: number } {
  const cell = along(radius, 0, 1).slice(0, -2);
  return { ...shapeOfCellOrWhole(cell, Array(cell.length / 2).fill(joint / 2) as number[]), axis: 0 };
}
