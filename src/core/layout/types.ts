import type { Bounds2 } from '../mapping/sheet';
import type { Cells } from './cells';
import type { JointSpec, PieceRole } from './schema';

/** From where to where the surface runs in one course; an end is upright when it is the same all through the course. */
export interface Span {
  from: number;
  to: number;
  uprightFrom: boolean;
  uprightTo: boolean;
}

/** The surface in the layout's frame: x along its courses, the start at 0, 0. */
export interface Area {
  bounds: Bounds2;
  /** Null where nothing of the surface lies between two heights. */
  span(y0: number, y1: number): Span | null;
}

/**
 * A layout with its numbers settled for one surface. Cells tile the plane without gaps; a piece is its cell less
 * `inset` on every side. A piece is known by its course and index, counted from the start.
 */
export interface OpenLayout {
  /** Directions in which pieces run, as [cos, sin]. */
  axes: readonly (readonly [number, number])[];
  /** Index into SHAPES. */
  shape: number;
  /** Half a joint: along the piece's length (at its ends) and across it, mm. */
  inset: readonly [number, number];
  /** Length and width of the largest piece, mm. */
  largest: readonly [number, number];
  /** Mean area of a cell, mm²: how many to expect. */
  cellArea: number;
  /** The largest number of pieces that one piece touches along an edge. */
  mostNeighbours: number;
  /** Every cell that touches the rectangle, each once. */
  fill(rectangle: Bounds2, cells: Cells): void;
  /** A number such that pieces that touch have different ones. */
  classOf(course: number, index: number): number;
  /** Writes course and index of every piece touched along an edge; gives how many. `out` holds 2 × mostNeighbours. */
  neighbours(course: number, index: number, out: Int32Array): number;
  roleOf(course: number, index: number): PieceRole;
}

/** One way of arranging pieces: a file beside this one and a line in `registry.ts`. */
export interface Layout<Spec> {
  kind: string;
  label: string;
  /** What a new layout of this kind starts with. */
  preset: { spec: Spec; joint: JointSpec };
  /** Named sizes of the trade. */
  formats: { label: string; spec: Spec; joint?: Partial<JointSpec> }[];
  /** Roles its pieces can have. */
  roles: readonly PieceRole[];
  open(spec: Spec, joint: JointSpec, area: Area): OpenLayout;
}
