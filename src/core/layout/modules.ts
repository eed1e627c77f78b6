import { areaOfCorners } from '../geometry/clip';
import { convexHolds } from '../geometry/loop';
import { once } from '../geometry/once';
import { convexParts, type Corners, insetPolygon, isConvex, outwardNormals, triangulate } from '../geometry/polygon';
import { roofOver } from '../geometry/roof';
import type { Vec2 } from '../geometry/vec';

/** One side of a piece: a place q, from the piece's middle, is inside where x · qx + y · qy ≤ away. All in mm. */
export interface Side {
  /** Unit normal, outwards, along and across the piece. */
  x: number;
  y: number;
  away: number;
  /** Half the joint beyond it. */
  joint: number;
  /** How far that joint runs straight on; `RUNS_ON` where it does not end with the piece. */
  length: number;
  /** How far along it its middle lies from where it is nearest to the piece's middle, counter-clockwise. */
  middle: number;
  /** As much of that joint as is this side's to show: half where an opposite side has the rest, else all of it. */
  width: number;
  /** Square to it, how far it is across the piece from the middle of one joint to the middle of the next. */
  pitch: number;
}

/** Longer than any joint, and still a number that a shader can take. */
export const RUNS_ON = 1e6;

/** A convex part of a cell in which one side of the piece is the nearest. */
export interface Part {
  corners: Corners;
  side: Side;
}

/**
 * A cell and the piece in it, of one size: polygons in mm about the middle of the box round the piece, along and across
 * it, counter-clockwise.
 */
export interface Shape {
  cell: Corners;
  piece: Corners;
  cellArea: number;
  pieceArea: number;
  /** Half sides of the box round the piece. */
  half: readonly [number, number];
  /** How far the cell reaches from the middle along and across. */
  reach: readonly [number, number];
  sides: readonly Side[];
  /**
   * How a place of the cell knows of the sides: it looks at them all (few, each along a side of the cell), at the
   * nearest of them (of a round, whose chords have no joints of their own), or it is told by the part it is in.
   */
  told: 'all' | 'nearest' | 'part';
  /** Parts of the cell, each nearest to one side; worked out when asked for. */
  parts(): readonly Part[];
  /** The cell, the piece, and what lies between the two, in convex parts. */
  cellParts: readonly Corners[];
  pieceParts: readonly Corners[];
  ringParts: readonly Corners[];
}

/** What a layout repeats; a cell names one by its place in the layout's list. */
export interface Module {
  name: string;
  /** Null for a rectangle, which each cell stretches to its own half sides. */
  shape: Shape | null;
}

/** What a view must know of a module to draw joints; null of a rectangle, and of one whose parts tell it. */
export type DrawnModule = (Pick<Shape, 'half' | 'sides'> & { told: 'all' | 'nearest' }) | null;
export const drawnModule = ({ shape }: Module): DrawnModule =>
  shape && shape.told !== 'part' ? { half: shape.half, sides: shape.sides, told: shape.told } : null;

/** What a place of the cell sees of the piece's sides, and the least way from joint to joint it takes for true, mm. */
export function sidesSeenAt(shape: Shape, at: Vec2): { sides: readonly Side[]; least: number } {
  if (shape.told === 'all') return { sides: shape.sides, least: 0 };
  const least = Math.sqrt(shape.cellArea);
  if (shape.told === 'part') {
    const part = shape.parts().find(({ corners }) => convexHolds(corners, at));
    return { sides: part ? [part.side] : [], least };
  }
  const beyond = ({ x, y, away }: Side) => x * at[0] + y * at[1] - away;
  return { sides: [alone(shape.sides.reduce((a, b) => (beyond(b) > beyond(a) ? b : a)))], least };
}

export const RECTANGLE: Module = { name: 'rectangle', shape: null };

/** More sides than this are not looked at one by one in every pixel. */
const MOST_SIDES = 32;

/** A cell whose piece is split by its own joints, or lost in them. */
export class NoPieceError extends Error {}

/** A shape, and where its middle lies in the frame its corners came in. */
export interface Placed {
  shape: Shape;
  middle: readonly [number, number];
  /** Sides of the cell that the joints ate up. */
  lost: number;
}

/**
 * The cell with its corners, and as its piece what a strip along each side leaves of it.
 * @param joints half the joint on each side, mm, side k from corner k to the next
 * @param known the piece, where it is known exactly; else it is worked out
 * @throws NoPieceError when nothing is left, or the piece falls into several
 */
export function shapeOfCell(cell: ArrayLike<number>, joints: ArrayLike<number>, known?: ArrayLike<number>): Placed {
  if (known) {
    const sides = Array.from(joints, (_, k) => k);
    return { ...place(cell, known, { joints: Array.from(joints), sides }), lost: 0 };
  }
  const inset = insetPolygon(cell, joints);
  if (!inset) throw new NoPieceError('the joints leave no piece, or several, of the cell');
  const { corners: piece, sides } = inset;
  return {
    ...place(cell, piece, { joints: sides.map((k) => joints[k]), sides }),
    lost: cell.length / 2 - sides.length,
  };
}

/** The same; a cell whose joints leave no piece keeps one without joints, and counts one side as lost. */
export function shapeOfCellOrWhole(cell: ArrayLike<number>, joints: ArrayLike<number>): Placed {
  try {
    return shapeOfCell(cell, joints);
  } catch (error) {
    if (!(error instanceof NoPieceError)) throw error;
    return { ...shapeOfBoth(cell, cell), lost: 1 };
  }
}

/**
 * A cell and a piece in it that is not simply the cell less a strip along its sides: a round in a square, a sett.
 * Between piece and cell lies at least the joint.
 */
export function shapeOfBoth(cell: ArrayLike<number>, piece: ArrayLike<number>): Placed {
  return { ...place(cell, piece, null), lost: 0 };
}

/** Of a piece that is its cell less strips: half the joint on each of its sides, and the cell's side it lies along. */
interface Strips {
  joints: number[];
  sides: number[];
}

function place(cell: ArrayLike<number>, piece: ArrayLike<number>, strips: Strips | null) {
  const box = boundsOf(piece);
  const middle = [(box[0] + box[2]) / 2, (box[1] + box[3]) / 2] as const;
  const about = (p: ArrayLike<number>) => Float64Array.from({ length: p.length }, (_, k) => p[k] - middle[k & 1]);
  const half = [(box[2] - box[0]) / 2, (box[3] - box[1]) / 2] as const;
  return { shape: shapeAbout(about(cell), about(piece), half, strips), middle };
}

function shapeAbout(cell: Corners, piece: Corners, half: readonly [number, number], strips: Strips | null): Shape {
  const [cellArea, pieceArea] = [areaOfCorners(cell, cell.length / 2), areaOfCorners(piece, piece.length / 2)];
  const normals = outwardNormals(piece);
  const round = isConvex(piece);
  const awayOf = (k: number, p: ArrayLike<number>, c: number) => normals[k] * p[c] + normals[k + 1] * p[c + 1];
  const sides: Side[] = Array.from({ length: piece.length / 2 }, (_, n) => {
    const k = n * 2;
    const away = awayOf(k, piece, k);
    // as far as the cell reaches beyond the side
    let joint = strips?.joints[n] ?? 0;
    if (!strips) for (let c = 0; c < cell.length; c += 2) joint = Math.max(joint, awayOf(k, cell, c) - away);
    // the joint runs as far as the side of the cell beyond it
    const [of, m] = strips ? [cell, strips.sides[n] * 2] : [piece, k];
    const next = (m + 2) % of.length;
    const length = Math.hypot(of[next] - of[m], of[next + 1] - of[m + 1]) + (strips ? 0 : joint);
    let nearest = Infinity;
    for (let c = 0; c < piece.length; c += 2) nearest = Math.min(nearest, awayOf(k, piece, c));
    const pitch = away - nearest + 2 * joint;
    const [mx, my] = [(of[m] + of[next]) / 2, (of[m + 1] + of[next + 1]) / 2];
    const middle = normals[k] * my - normals[k + 1] * mx;
    return { x: normals[k], y: normals[k + 1], away, joint, length, middle, width: 2 * joint, pitch };
  });
  let reach: [number, number] = [0, 0];
  for (let k = 0; k < cell.length; k += 2)
    reach = [Math.max(reach[0], Math.abs(cell[k])), Math.max(reach[1], Math.abs(cell[k + 1]))];
  // of thousands of stones each is asked for some of these alone
  const ring = once(() => ringOf(cell, piece, strips?.sides ?? null));
  const parts = once(() => partsOf(piece, sides.map(alone), ring()));
  const cellParts = once(() => convexParts(cell));
  const pieceParts = once(() => convexParts(piece));
  const ringParts = once(() => ring().map(({ corners }) => corners));
  const few = round && isConvex(cell) && sides.length <= MOST_SIDES;
  const told = !few ? 'part' : strips ? 'all' : 'nearest';
  if (told === 'all' && isCentral(sides)) for (const side of sides) side.width = side.joint;
  return {
    cell,
    piece,
    cellArea,
    pieceArea,
    half,
    reach,
    sides,
    told,
    parts,
    get cellParts() {
      return cellParts();
    },
    get pieceParts() {
      return pieceParts();
    },
    get ringParts() {
      return ringParts();
    },
  };
}

/** A side by which alone a part of the cell is drawn: it is only told its distance and its joint. */
const alone = (side: Side): Side => ({ ...side, length: RUNS_ON, middle: 0, pitch: 2 * (side.away + side.joint) });

/** Each side has its like on the other side of the middle. */
const isCentral = (sides: readonly Side[]): boolean =>
  sides.every((s) =>
    sides.some(
      (o) => Math.hypot(o.x + s.x, o.y + s.y) < 1e-9 && Math.abs(o.away - s.away) + Math.abs(o.joint - s.joint) < 1e-6,
    ),
  );

/**
 * What lies between cell and piece, each part with the side of the piece it lies along, or −1.
 * @param along the cell's side that each side of the piece lies along; null where the piece is one of its own
 */
function ringOf(cell: Corners, piece: Corners, along: number[] | null): { corners: Corners; side: number }[] {
  const area = (p: Corners) => areaOfCorners(p, p.length / 2);
  const whole = area(cell) - area(piece);
  if (whole < 1e-9) return [];
  if (along) {
    const strips = along.flatMap((_, n) => stripsAlong(cell, piece, along, n).map((corners) => ({ corners, side: n })));
    const total = strips.reduce((sum, s) => sum + area(s.corners), 0);
    const fits = strips.every((s) => isConvex(s.corners) && area(s.corners) > -1e-9);
    if (fits && Math.abs(total - whole) < 1e-6 * area(cell)) return strips.filter((s) => area(s.corners) > 1e-9);
  }
  return triangulate(cell, [piece]).map((corners) => ({ corners, side: nearestSide(piece, corners) }));
}

/** The strip beyond a side of the piece, and as triangles what sides that were lost before the next leave beyond it. */
function stripsAlong(cell: Corners, piece: Corners, along: number[], n: number): Corners[] {
  const corners = cell.length / 2;
  const next = (n + 1) % along.length;
  const at = (p: Corners, k: number) => [p[k * 2], p[k * 2 + 1]];
  const of = (...points: number[][]) => Float64Array.from(points.flat());
  const [from, to] = [along[n], (along[n] + 1) % corners];
  const out = [of(at(cell, from), at(cell, to), at(piece, next), at(piece, n))];
  for (let k = to; k !== along[next]; k = (k + 1) % corners)
    out.push(of(at(cell, k), at(cell, (k + 1) % corners), at(piece, next)));
  return out;
}

/** The side beyond whose line all of a part lies, the nearest of them; −1 where there is none. */
function nearestSide(piece: Corners, part: Corners): number {
  const normals = outwardNormals(piece);
  let best = -1;
  let least = Infinity;
  for (let k = 0; k < piece.length; k += 2) {
    let nearest = Infinity;
    let sum = 0;
    for (let c = 0; c < part.length; c += 2) {
      const out = normals[k] * (part[c] - piece[k]) + normals[k + 1] * (part[c + 1] - piece[k + 1]);
      nearest = Math.min(nearest, out);
      sum += out;
    }
    const away = sum / (part.length / 2) + distanceAlong(piece, k, part);
    if (nearest < -1e-6 || away >= least) continue;
    [best, least] = [k / 2, away];
  }
  return best;
}

/** How far a part's middle lies beyond the ends of a side. */
function distanceAlong(piece: Corners, k: number, part: Corners): number {
  const next = (k + 2) % piece.length;
  const [dx, dy] = [piece[next] - piece[k], piece[next + 1] - piece[k + 1]];
  const l = Math.hypot(dx, dy);
  let [x, y] = [0, 0];
  for (let c = 0; c < part.length; c += 2) [x, y] = [x + part[c], y + part[c + 1]];
  const along = ((x / (part.length / 2) - piece[k]) * dx + (y / (part.length / 2) - piece[k + 1]) * dy) / l;
  return Math.max(0, -along, along - l);
}

/** In a middle that no side claims the piece is whole, in a gap that none claims it is joint. */
const deepIn: Side = { x: 0, y: 0, away: 1e4, joint: 0, length: RUNS_ON, middle: 0, width: 0, pitch: RUNS_ON };
const farOut: Side = { x: 0, y: 0, away: -1e4, joint: 1e4, length: RUNS_ON, middle: 0, width: 2e4, pitch: RUNS_ON };

/** The cell in parts: under each face of the roof over the piece, and beyond each of its sides. */
function partsOf(piece: Corners, sides: readonly Side[], ring: { corners: Corners; side: number }[]): Part[] {
  const out: Part[] = [];
  const left = new Set(ring);
  for (const face of roofOver(piece)) {
    const side = sides[face.side] ?? deepIn;
    let corners: Corners | null = null;
    for (const strip of left) {
      corners = strip.side === face.side ? joinedAt(face.corners, strip.corners) : null;
      if (!corners) continue;
      left.delete(strip);
      break;
    }
    if (corners) out.push({ corners, side });
    else out.push(...convexParts(face.corners).map((c) => ({ corners: c, side })));
  }
  for (const { corners, side } of left)
    out.push(...convexParts(corners).map((c) => ({ corners: c, side: sides[side] ?? farOut })));
  return out;
}

/** A face within a side and the strip beyond it as one, where that is convex: they lie in one plane. */
function joinedAt(face: Corners, strip: Corners): Corners | null {
  // the face begins with its side; the strip is outer from, outer to, inner to, inner from
  const same = (a: Corners, k: number, b: Corners, m: number) => Math.hypot(a[k] - b[m], a[k + 1] - b[m + 1]) < 1e-6;
  if (strip.length !== 8 || !same(face, 0, strip, 6) || !same(face, 2, strip, 4)) return null;
  const joined = Float64Array.from([...strip.subarray(0, 4), ...face.subarray(2), ...face.subarray(0, 2)]);
  return isConvex(joined) ? joined : null;
}

export function boundsOf(p: ArrayLike<number>): [number, number, number, number] {
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let k = 0; k < p.length; k += 2) {
    [x0, x1] = [Math.min(x0, p[k]), Math.max(x1, p[k])];
    [y0, y1] = [Math.min(y0, p[k + 1]), Math.max(y1, p[k + 1])];
  }
  return [x0, y0, x1, y1];
}

/** A rectangle's corners from its half sides. */
const rectangle = (a: number, b: number): Corners => Float64Array.of(-a, -b, a, -b, a, b, -a, b);

/** Corners of a cell about its middle, mm along and across. */
export const cellAbout = (shape: Shape | null, a: number, b: number): Corners => shape?.cell ?? rectangle(a, b);

/** Corners of the piece in a cell about its middle, mm along and across. */
export const pieceAbout = (shape: Shape | null, a: number, b: number, inset: readonly [number, number]): Corners =>
  shape?.piece ?? rectangle(Math.max(0, a - inset[0]), Math.max(0, b - inset[1]));

/** Half sides of the piece in a cell, or of the box round it. */
export const halfOf = (
  shape: Shape | null,
  a: number,
  b: number,
  inset: readonly [number, number],
): readonly [number, number] => shape?.half ?? [a - inset[0], b - inset[1]];

/**
 * Sides of a rectangular piece.
 * @param runOn whether the joints at its ends, and those along it, run straight on beyond it
 */
export function sidesOfRectangle(
  half: readonly [number, number],
  inset: readonly [number, number],
  runOn: readonly [boolean, boolean],
): Side[] {
  const lengths = [0, 1].map((k) => (runOn[k] ? RUNS_ON : 2 * (half[1 - k] + inset[1 - k])));
  const side = (x: number, y: number, k: 0 | 1): Side => {
    const pitch = 2 * (half[k] + inset[k]);
    return { x, y, away: half[k], joint: inset[k], length: lengths[k], middle: 0, width: inset[k], pitch };
  };
  return [side(1, 0, 0), side(-1, 0, 0), side(0, 1, 1), side(0, -1, 1)];
}

/** Corners about a middle, in the layout's frame; stretched along and across where they are in half sides. */
export function putCorners(
  about: ArrayLike<number>,
  x: number,
  y: number,
  axis: readonly [number, number],
  out: Float64Array,
  along = 1,
  across = 1,
): void {
  const ax = axis[0];
  const ay = axis[1];
  for (let k = 0; k < about.length; k += 2) {
    const l = about[k] * along;
    const w = about[k + 1] * across;
    out[k] = x + l * ax - w * ay;
    out[k + 1] = y + l * ay + w * ax;
  }
}
