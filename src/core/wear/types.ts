import type { Vec3 } from '../geometry/vec';
import type { Raster } from '../picture/raster';
import type { Field } from '../schema/fields';
import type { Places } from './places';
import type { WearLayer } from './schema';

/** How far one sees. */
export interface Surroundings {
  /** How far the nearest face is, mm; Infinity where none is nearer than `most`. */
  nearest(origin: Readonly<Vec3>, direction: Readonly<Vec3>, most?: number): number;
}

export interface Sized {
  widthMm: number;
  heightMm: number;
}

/** A material's picture with its opacity, and its true size. */
export interface WearPicture extends Sized {
  raster: Raster;
}

/** Where wear lies: what a kind may ask. */
export interface WearSite {
  /** What is smaller than this is not seen in the result, mm. */
  finestMm: number;
  /** Places of the sheet so far apart, each with where it lies in space. */
  places(stepMm: number): Places;
  /** What stands round about; null where nothing is known of it. */
  surroundings: Surroundings | null;
  /** Clockwise angle from −z to north, seen from above. */
  northDeg: number;
  /** Undefined where it has none. */
  picture(material: string): WearPicture | undefined;
}

/** How much lies at a place of the sheet (mm), 0..1, but for its strength. */
export type CoverAt = (x: number, y: number) => number;

/** What fields of wear must know beyond it. */
export interface WearContext {
  /** Materials whose picture a pattern can take, as they are kept and read. */
  patterns: readonly (readonly [string, string])[];
}

/** A kind of wear: everything that is known of it. */
export interface WearKind<L extends WearLayer = WearLayer> {
  kind: L['kind'];
  label: string;
  /** Said of what it does. */
  hint: string;
  /** As it is when it is first laid. */
  first: L;
  /** Its own fields; strength, colour, roughness and thickness are those of all. */
  fields: readonly Field<L, WearContext>[];
  /** It depends on what stands round about. */
  asksAround: boolean;
  /** What must be tellable in the result, mm. */
  finest(layer: L): number;
  words(layer: L, length: (mm: number) => string): string;
  open(layer: L, site: WearSite): CoverAt;
}
