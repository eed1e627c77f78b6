import type { Finding } from '../finding/finding';
import type { Bounds2 } from '../geometry/bounds';
import type { Cells } from './cells';
import type { TSchema } from '@sinclair/typebox';
import type { JointSpec } from './joint';
import type { Module } from './modules';
import type { PieceRole } from './roles';
import type { Field } from '../schema/fields';

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
  /** The sheet closes on itself: where a course ends on one side it begins on the other. */
  closed: boolean;
  /** Null where nothing of the surface lies between two heights. */
  span(y0: number, y1: number): Span | null;
  /** All stretches in which something of the surface lies between two heights, from left to right. */
  spans(y0: number, y1: number): Span[];
}

/**
 * A layout with its numbers settled for one surface. Cells tile the plane without gaps; a piece is its cell less
 * `inset` on every side. A piece is known by its course and index, counted from the start.
 */
export interface OpenLayout {
  /** Directions in which pieces run, as [cos, sin]. */
  axes: readonly (readonly [number, number])[];
  /** What its cells are shaped like; a cell names one by its place here. */
  modules: readonly Module[];
  /** Half a joint: along the piece's length (at its ends) and across it, mm. */
  inset: readonly [number, number];
  /** Whether joints at the ends of rectangles, and those along them, run straight on beyond a piece; else neither. */
  runOn?: readonly [boolean, boolean];
  /** Length and width of the largest piece, mm. */
  largest: readonly [number, number];
  /** Mean area of a cell, mm²: how many to expect. */
  cellArea: number;
  /** The largest number of pieces that one piece touches along an edge. */
  mostNeighbours: number;
  /** Every cell that touches the rectangle, each once. */
  fill(rectangle: Bounds2, cells: Cells): void;
  /** How many classes there are. */
  classes: number;
  /** 0 … classes − 1, such that pieces that touch have different ones. */
  classOf(course: number, index: number): number;
  /** Writes course and index of every piece touched along an edge; gives how many. `out` holds 2 × mostNeighbours. */
  neighbours(course: number, index: number, out: Int32Array): number;
  roleOf(course: number, index: number): PieceRole;
  /** Pieces that count as one step along a course where it is closed to a ring; 1 unless said. */
  perRound?: number;
  /** What could not be kept of what was asked, its places in the layout's frame; worked out when asked for. */
  findings?(): Finding[];
}

/** A parameter as people set it; screens draw it by its kind and need not know the layout. */
export type LayoutField<Spec> = Field<Spec>;

/** What the spec of any layout has. */
export interface AnyLayoutSpec {
  kind: string;
}

/** The two sides of a piece in one field: longer side first where `sorted`. Null while they are several. */
export interface PieceSize<Spec> {
  label: string;
  sorted: boolean;
  get(spec: Spec): [number, number] | null;
  set(spec: Spec, size: [number, number]): Spec;
}

/** Whose pattern it is: how cards group them. */
export type Trade = 'none' | 'planks' | 'brick' | 'tile' | 'stone' | 'round' | 'own';

/** One way of arranging pieces: everything that is known of it, in one file, with a name in `registry.ts`. */
export interface Layout<Spec extends AnyLayoutSpec> {
  kind: Spec['kind'];
  label: string;
  trade: Trade;
  /** What else people call it when they look for it. */
  also?: readonly string[];
  /** What is stored of it; its `kind` is a literal. */
  schema: TSchema & { static: Spec };
  /** Laid by rule on the sheet, found as bodies of the mesh, or none: then the picture lies as one whole. */
  cells: 'laid' | 'bodies' | 'none';
  /** What a new layout of this kind starts with. */
  preset: { spec: Spec; joint: JointSpec };
  /** Named sizes of the trade. */
  formats: { label: string; spec: Spec; joint?: Partial<JointSpec> }[];
  /** Roles its pieces can have. */
  roles: readonly PieceRole[];
  /** Null where pieces have no size of their own to set. */
  size: PieceSize<Spec> | null;
  /** Where they depend on what is laid. */
  rolesOf?(spec: Spec): readonly PieceRole[];
  /** Joints have one width: that between rows. */
  oneJoint?: boolean;
  /** Joints are as wide as they are drawn: no width is set. */
  jointDrawn?(spec: Spec): boolean;
  /** Of those found in the mesh: every polygon is a piece, not every body. */
  eachPolygon?(spec: Spec): boolean;
  /** What of the library it was taken from. */
  takenFrom?(spec: Spec): string;
  /** What is wrong with a spec that a schema cannot say, as a sentence. */
  faultOf?(spec: Spec): string | null;
  /** Said on the card where there is little else to set. */
  hint?: string;
  /**
   * The pieces sized so that one and its joint take `pitch` mm along the courses, or across them where they stand;
   * absent or null where one length does not settle it. `perPitch` counts the pieces of one pitch, 1 unless said.
   */
  round?(spec: Spec, joint: JointSpec, pitch: number, standing: boolean): Spec | null;
  perPitch?(spec: Spec, joint: JointSpec): number;
  /** One piece, or one round of pieces, and its joints along a course, mm; absent where courses have no one pitch. */
  pitch?(spec: Spec, joint: JointSpec): number | null;
  /** One course and its joint, mm; 0 where courses have no one height, absent where there are no courses. */
  course?(spec: Spec, joint: JointSpec): number;
  fields: LayoutField<Spec>[];
  /** As read in the spec line, after “in”: “herringbone of staves 490 × 70 mm”. */
  describe(spec: Spec, size: (a: number, b?: number) => string): string;
  /** For those laid by rule. */
  open?(spec: Spec, joint: JointSpec, area: Area): OpenLayout;
}
