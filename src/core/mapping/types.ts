import type { Finding } from '../finding/finding';
import type { Vec2, Vec3 } from '../geometry/vec';
import type { TSchema } from '@sinclair/typebox';
import type { PartMesh } from '../mesh/types';
import type { CorrectionSpec } from './correctionSchema';
import type { MirrorSpec } from './mirrorSchema';
import type { MappingField } from './parts';

/**
 * How a chart lies in space: sheet x = p·x + offset[0], sheet y = p·y + offset[1], for a world point p in mm. A chart
 * that bends has no such frame: then x is zero, and y too where heights are not those of the world.
 */
export interface Frame {
  x: Vec3;
  y: Vec3;
  offset: Vec2;
}

/** Where the sheet cannot be continuous. */
export interface Break {
  kind: 'loop' | 'turn' | 'apart';
  /** Charts on either side. */
  charts: [number, number];
  /** Length of the arris along which it runs, mm. */
  length: number;
  /** How far the two sides are out of step across the arris, mm; for a turn, NaN is never given: 0. */
  shift: number;
  finding: Finding;
}

/** A mesh cut finer than the model's, so that a mapping can bend: the model itself is not cut. */
export interface Refined {
  mesh: PartMesh;
  /** For each of its faces the part's face it is cut from. */
  source: Uint32Array;
}

/** What a mapping makes of some faces, before outlines are drawn. */
export interface LaidFaces {
  /** Where the faces had to be cut finer: then everything below counts in its faces. */
  refined?: Refined;
  /** Two numbers per corner, six per face, sheet mm. */
  corners: Float64Array;
  /** One per face. */
  chartOf: Uint32Array;
  frames: Frame[];
  /** One per chart: charts of one group hang together and move as one. */
  groupOf: number[];
  breaks: Break[];
  /** One per chart, where they are known better than faces tell. */
  outlines?: Vec2[][][];
  /** Length of the sheet once round, mm, where it closes on itself. */
  ring?: number | null;
  /** What people should know about it: radii, what falls short, what it costs. */
  notes?: Finding[];
}

/** What the spec of any mapping has. */
export interface AnyMappingSpec {
  kind: string;
  correction?: CorrectionSpec;
  mirror?: MirrorSpec;
}

/** A stroke of a small drawing of 48 × 38: a face, a line on it, or the arrow that says how it is laid. */
export interface Stroke {
  as: 'face' | 'line' | 'arrow';
  d: string;
}

/** One way of laying a surface flat: everything that is known of it, in one file, with a name in `registry.ts`. */
export interface Mapping<Spec extends AnyMappingSpec> {
  kind: Spec['kind'];
  label: string;
  /** What else people call it when they look for it. */
  also?: readonly string[];
  /** What is stored of it; its `kind` is a literal. */
  schema: TSchema & { static: Spec };
  /** How it starts out. */
  first: Spec;
  fields: MappingField<Spec>[];
  /** Tools of the room that set it by clicking: where unrolling starts, where it is cut. */
  tools?: readonly ('start' | 'cut')[];
  /** As read in the spec line, after “mapped”. */
  describe(spec: Spec): string;
  /** How it wraps its sheet. */
  drawing: readonly Stroke[];
  lay(mesh: PartMesh, faces: Uint32Array, spec: Spec): LaidFaces;
}
