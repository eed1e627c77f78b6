import { type Static, type TProperties, Type } from '@sinclair/typebox';
import { Colour, Key } from '../schema/basics';

const Share = Type.Number({ minimum: 0, maximum: 1 });
const Place = Type.Number({ minimum: -1e7, maximum: 1e7 });

/** What every kind of wear has. */
const common = {
  on: Type.Boolean(),
  /** How much it covers where it is thickest. */
  strength: Share,
  colour: Colour,
  /** Roughness of what lies there. */
  roughness: Share,
  /** How thick it lies where it is thickest. */
  reliefMm: Type.Number({ minimum: 0, maximum: 20 }),
};
const layer = <const K extends string, P extends TProperties>(kind: K, own: P) =>
  Type.Object({ kind: Type.Literal(kind), ...common, ...own });

/** Broad dirt: patches of noise, or of a material's picture at its own size. */
export const DirtLayer = layer('dirt', {
  /** Across a patch and the space beside it. */
  sizeMm: Type.Number({ minimum: 5, maximum: 100_000 }),
  /** How much of the surface lies under it. */
  share: Share,
  /** 0: patches with an edge; 1: clouds. */
  softness: Share,
  /** Other patches of the same kind. */
  seed: Type.Integer({ minimum: 0, maximum: 2 ** 31 - 1 }),
  /** Its pattern is this material's: its opacity, or how dark it is. */
  pattern: Type.Optional(Key),
});
export type DirtLayer = Static<typeof DirtLayer>;

/** Dust that gathers in corners and lies on ledges. */
export const DustLayer = layer('dust', {
  /** How far from a corner it is gone. */
  reachMm: Type.Number({ minimum: 10, maximum: 5000 }),
  corners: Share,
  ledges: Share,
});
export type DustLayer = Static<typeof DustLayer>;

/** A path that feet or hands have rubbed. */
export const RubbedLayer = layer('rubbed', {
  /** Sheet mm. */
  points: Type.Array(Type.Tuple([Place, Place]), { maxItems: 200 }),
  widthMm: Type.Number({ minimum: 1, maximum: 20_000 }),
  /** Over how much its edge fades. */
  softMm: Type.Number({ minimum: 0, maximum: 10_000 }),
});
export type RubbedLayer = Static<typeof RubbedLayer>;

/** Bleached by the sun as far as it reaches. */
export const BleachedLayer = layer('bleached', {
  /** From where it shines at its highest, degrees clockwise from north. */
  bearingDeg: Type.Number({ minimum: -360, maximum: 360 }),
});
export type BleachedLayer = Static<typeof BleachedLayer>;

export const WearLayer = Type.Union([DirtLayer, DustLayer, RubbedLayer, BleachedLayer]);
export type WearLayer = Static<typeof WearLayer>;

/** A see-through picture of true size, laid once: a stain, a tar spot, a chalk mark. */
export const WearMark = Type.Object({
  /** Its picture and size; see-through where the material has opacity. */
  material: Key,
  on: Type.Boolean(),
  strength: Share,
  /** Its middle, sheet mm. */
  xMm: Place,
  yMm: Place,
  /** Counter-clockwise. */
  turnDeg: Type.Number({ minimum: -360, maximum: 360 }),
  /** Of the material's size. */
  percent: Type.Number({ minimum: 1, maximum: 2000 }),
});
export type WearMark = Static<typeof WearMark>;

/** What has come over a whole surface since it was laid: layers from the lowest up, and marks over them. */
export const WearSpec = Type.Object({
  layers: Type.Array(WearLayer, { maxItems: 16 }),
  marks: Type.Array(WearMark, { maxItems: 100 }),
});
export type WearSpec = Static<typeof WearSpec>;

export const noWear = (): WearSpec => ({ layers: [], marks: [] });

/** Something of it is to be seen. */
export const isWorn = (wear: WearSpec | undefined): wear is WearSpec =>
  !!wear && [...wear.layers, ...wear.marks].some(({ on, strength }) => on && strength > 0);

/** Every material it takes a picture from. */
export const materialsOfWear = (wear: WearSpec | undefined): string[] =>
  wear
    ? [
        ...wear.layers.flatMap((l) => (l.kind === 'dirt' && l.pattern ? [l.pattern] : [])),
        ...wear.marks.map((m) => m.material),
      ]
    : [];

/** The same with one material in the place of another. */
export function swapInWear(wear: WearSpec, from: string, to: string): WearSpec {
  const swap = (id: string) => (id === from ? to : id);
  return {
    layers: wear.layers.map((l) => (l.kind === 'dirt' && l.pattern ? { ...l, pattern: swap(l.pattern) } : l)),
    marks: wear.marks.map((m) => ({ ...m, material: swap(m.material) })),
  };
}
