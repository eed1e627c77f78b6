import { ImportError } from '../mesh/types';

/** A closed shape as a drawing has it, its curves as chords: x, y, x, y, … in mm, y upwards, counter-clockwise. */
export interface DrawnShape {
  corners: number[];
  /** A word for what it is, from the drawing: a class, a layer, a name. */
  role: string;
  /** What the drawing calls it, to be found again in messages. */
  name: string;
}

/** What a drawing says of how it repeats, where a module wrote it. */
export interface DrawnRepeat {
  right: [number, number];
  up: [number, number];
  as: 'pieces' | 'cells';
}

/** The closed shapes of a drawing. */
export interface Drawing {
  shapes: DrawnShape[];
  /** Whether the file says how large it is; else its units are taken as millimetres until it is said. */
  sized: boolean;
  /** The frame it is drawn in, mm: x, y, width, height; null where it has none. */
  frame: [number, number, number, number] | null;
  repeat: DrawnRepeat | null;
  /** What was left out, in sentences. */
  remarks: string[];
}

/** A drawing that cannot be taken as it is. */
export const drawingFault = (file: string, detail: string): ImportError => new ImportError(file, detail);

/** Points that are read of a drawing at most, before any is left out. */
export const MOST_POINTS = 200_000;
/** Characters of a drawing. */
export const MOST_TEXT = 16_000_000;
/** How far chords lie off a curve at most, mm. */
export const CHORD_MM = 0.05;
