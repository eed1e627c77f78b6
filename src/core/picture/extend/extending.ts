import type { Vec2 } from '../../geometry/vec';

/** A larger picture to be made of a sample; pixels of the size it is planned at. */
export interface Extending {
  width: number;
  height: number;
  /** Where the sample's upper left corner comes to lie. */
  at: Vec2;
  /** Side of a patch: at most half of the sample's short side. */
  side: number;
  /** Pixels after which what is laid comes round, where it does: patches move by whole periods only. */
  period: readonly [number | null, number | null];
  seed: number;
  /** Places of the sample that are shown once, where they are, or not at all. */
  marks: readonly Mark[];
}

/** An ellipse in a sample, pixels. */
export interface Mark {
  centre: Vec2;
  radius: Vec2;
  shown: 'once' | 'never';
}

/** A square of the sample, laid again: to where its upper left corner goes, and from where it is taken. */
export interface Patch {
  to: Vec2;
  from: Vec2;
}

/** What lies where in a picture made larger: the sample itself (0), or a patch (1, 2, …). */
export interface Extended {
  patches: Patch[];
  /** Of each pixel, row by row. */
  labels: Uint16Array;
}

/** A part of a sample, pixels. */
export interface Box {
  from: Vec2;
  to: Vec2;
}
