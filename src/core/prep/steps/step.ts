import { type Static, type TObject, type TProperties, type TSchema, Type } from '@sinclair/typebox';
import type { Vec2 } from '../../geometry/vec';
import type { Leaves } from '../../material/schema';
import type { SeamFigure } from '../../picture/judge';
import type { Plane, Raster } from '../../picture/raster';
import type { Seams } from '../../picture/strangeness';
import { Colour, Key } from '../../schema/basics';
import { oneOf } from '../../schema/choice';
import { fieldsOf } from '../../schema/fieldMakers';
import type { FieldGroup } from '../../schema/fields';
import { Mask, Place, Share } from './mask';
import type { GivenChannels, KeptChannels } from '../given';
import type { Places } from './places';

export { Place, Share };
export const Angle = Type.Number({ minimum: -180, maximum: 180 });

/** A picture on its way through the steps. */
export interface Stage {
  raster: Raster;
  /** Millimetres for each pixel, across and down; null while nothing says how large it is. */
  mmPerPx: Vec2 | null;
  /** Its pixels for each that it has at full size: below 1 while a smaller one stands for it. */
  scale: number;
  /** It closes on itself, across and down. */
  closes: { across: boolean; down: boolean };
  /** Of its seam, where one was made, and where it runs. */
  seam: SeamFigure | null;
  seams: Seams;
  /** What lies laid in it although it was closed by a blend: “laid in half bond, again after 230 × 144 mm”. */
  blended: string | null;
  /** What maps are made of where something lies over it that they are not to take in; null for the picture itself. */
  ground: Raster | null;
  /** What lies over it and is rougher or smoother, in turn: how much of it at each place, 0..255. */
  coats: readonly { amount: Uint8Array; roughness: number }[];
  /** The sample it was made larger from, to see what was copied beside; null where it was not. */
  sample: Sample | null;
  /** The pieces it was composed of; null where it was not. */
  leaves: Leaves | null;
  /** Maps that go along, behind its own channels. */
  given: readonly GivenChannels[];
  /** As it was after steps that maps name, behind its own channels, too. */
  kept: readonly KeptChannels[];
}

/** What a picture was made larger from. */
export interface Sample {
  raster: Raster;
  mmPerPx: Vec2;
}

/** A picture that closes nowhere. */
export const openStage = (raster: Raster, mmPerPx: Vec2 | null, scale: number): Stage => ({
  raster,
  mmPerPx,
  scale,
  closes: { across: false, down: false },
  seam: null,
  seams: { upright: null, level: null },
  blended: null,
  ground: null,
  coats: [],
  sample: null,
  leaves: null,
  given: [],
  kept: [],
});

/** Longest side of the picture that stands for the original while one works, and on which choices are made. */
export const WORKING_SIDE = 1024;

/** Longest side at which other pictures that a step takes are read at full size. */
export const OTHER_SIDE = 4096;

/** Pixels a picture may have; more would need more memory than there is. */
export const MOST_PIXELS = 8192 * 8192;

/** Pixels a picture may have with all its channels: maps that go along take as much memory as its colours. */
export const mostPixels = (channels: number): number =>
  channels > 4 ? Math.floor((MOST_PIXELS * 2.5) / channels) : MOST_PIXELS;

/** How large that is, in words. @example saidMost(8) // 'at most 4579 × 4579 with the maps that go along' */
export function saidMost(channels: number): string {
  const side = Math.floor(Math.sqrt(mostPixels(channels)));
  return `at most ${side} × ${side}${channels > 4 ? ' with the maps that go along' : ''}`;
}

/** What a step is done with. */
export interface Tools {
  /** Ends the run with what was wrong. */
  fail(why: string): never;
  /** Says what people should know, without its having failed. */
  remark(text: string): void;
  /** Longest side to which a picture may grow while it stands for a larger one; null at full size. */
  side: number | null;
  /**
   * What depends on how a picture looks is chosen on one of a fixed size that stands for it, so that a step comes out
   * alike at every size.
   */
  choose<T>(of: (stage: Stage) => T): T;
  /** Another picture, by the hash of its file; ends the run where it is not at hand. */
  picture(hash: string): Raster;
  /** Heights 0..1 of a picture, as its height map has them; its lightness where none is made. */
  heights(of: Raster): Plane;
}

const stepSchema = <K extends string, P extends TProperties>(kind: K, properties: P) =>
  Type.Object({
    id: Key,
    kind: Type.Literal(kind),
    on: Type.Boolean(),
    mask: Type.Union([Type.Null(), Mask]),
    ...properties,
  });

/** A stroke of a brush over a picture: places and lengths in shares of its width and height. */
export const Stroke = Type.Object({
  kind: oneOf('patch', 'copy', 'paint', 'sharpen'),
  points: Type.Array(Place, { minItems: 1, maxItems: 4000 }),
  radius: Type.Number({ exclusiveMinimum: 0, maximum: 1 }),
  hardness: Share,
  opacity: Share,
  offset: Type.Optional(Place),
  colour: Type.Optional(Colour),
});
export type Stroke = Static<typeof Stroke>;

/** What any step has. */
export interface AnyStep {
  id: string;
  kind: string;
  on: boolean;
  mask: Static<typeof Mask> | null;
}

/** What a step's fields may want to know of the picture. */
export interface StepContext {
  /** Its height over its width after the step. */
  aspect: number;
  /** Its size before the step, mm; null while it is not known. */
  sizeBefore: Vec2 | null;
}
export type StepFields<S> = readonly FieldGroup<S, StepContext>[];

/** One step of prep: everything that is known of it. Places are set on the light table. */
export interface StepDefinition<S extends AnyStep = AnyStep> {
  kind: S['kind'];
  label: string;
  /** Said where steps are chosen. */
  what: string;
  schema: TSchema & { static: S };
  /** What a new one starts with. */
  first: Omit<S, 'id' | 'on' | 'mask'>;
  /** A new one on a picture of a known size, mm. */
  begin?(step: S, size: Vec2): S;
  /** Its numbers and choices, group by group. */
  groups: StepFields<S>;
  /** What is done with the pointer on the light table. */
  hint?(step: S): string | null;
  /** What of it lies on the picture before it, to be dragged. */
  places?(step: S): Places<S>[];
  /** What of it lies on the picture after it. */
  placesAfter?(step: S, context: StepContext): Places<S> | null;
  /** Boards are cut out of the picture before it. */
  cutsOut?: true;
  /** It is painted on the picture after it: the step with one stroke more. */
  paint?(step: S, stroke: Stroke): S;
  /** A line is drawn on the picture before it, once that is asked for: the step with one line more. */
  draw?(step: S, line: readonly Vec2[]): S;
  /** It can be limited to a part of the picture. */
  masked?: true;
  /** Hashes of other pictures that it takes. */
  pictures?(step: S): string[];
  /** It chooses something by how the picture looks. */
  chooses?: true;
  /** It goes by the picture's heights, so that it is done again when they are read otherwise. */
  readsHeights?: true;
  /** Its values in a few words, beside its name. */
  brief(step: S): string;
  /** What it did, as the sentence over the picture says it: “turned 5.1°”. */
  said(step: S): string;
  run(stage: Stage, step: S, tools: Tools): Stage;
}

type Makers<S extends object> = ReturnType<typeof fieldsOf<S, StepContext>>;

/** A step from its kind and what is stored of it. */
type StepFrom<K extends string, P extends TProperties> = Static<TObject<P>> & Omit<AnyStep, 'kind'> & { kind: K };

/** A definition from its kind and what is stored of it; the type of its steps follows. */
export function defineStep<const K extends string, P extends TProperties>(
  kind: K,
  properties: P,
  rest: Omit<StepDefinition<StepFrom<K, P>>, 'kind' | 'schema' | 'first' | 'groups'> & {
    first: Static<TObject<P>>;
    groups(of: Makers<StepFrom<K, P>>): StepFields<StepFrom<K, P>>;
  },
): StepDefinition<StepFrom<K, P>> {
  const schema = Type.Unsafe<StepFrom<K, P>>(stepSchema(kind, properties));
  const groups = rest.groups(fieldsOf<StepFrom<K, P>, StepContext>());
  const made = { ...rest, kind, schema, groups, first: { kind, ...rest.first } };
  // what is stored has the kind and the properties it was made of; the compiler cannot follow P through its mapping
  return made as unknown as StepDefinition<StepFrom<K, P>>;
}
