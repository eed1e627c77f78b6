import { type Static, Type } from '@sinclair/typebox';
import { oneOf } from '../schema/choice';
import { PiecesSpec } from '../layout/schema';
import { whole } from '../layout/whole';
import { MappingSpec } from '../mapping/schema';
import { FinishKind } from '../material/finishes';
import { MapShares, type Material, RepeatLength } from '../material/schema';
import { VariationSpec } from '../variation/schema';
import { materialsOfWear, swapInWear, WearSpec } from '../wear/schema';
import { Colour, Key } from '../schema/basics';
import { GaugeSpec, LevelDatum } from './gauge';

const Length = Type.Number({ minimum: -1e7, maximum: 1e7 });

export const Datum = oneOf('corner', 'centre', 'part', 'world', 'level');
export type Datum = Static<typeof Datum>;

/** Where a picture's lower left corner lies, measured from the datum along the sheet. */
export const StartSpec = Type.Object({
  datum: Datum,
  /** Which level, where the datum is one. Its height follows the project's. */
  level: Type.Optional(LevelDatum),
  /** What lies on a datum that is the centre: a joint, as where it is absent, or the middle of a piece or picture. */
  middle: Type.Optional(oneOf('joint', 'piece')),
  xMm: Length,
  yMm: Length,
});
export type StartSpec = Static<typeof StartSpec>;

/** Turned counter-clockwise on the sheet, degrees; mirrored in the picture's own x or y before it is turned. */
export const DirectionSpec = Type.Object({
  turnDeg: Type.Number({ minimum: -360, maximum: 360 }),
  mirrorX: Type.Boolean(),
  mirrorY: Type.Boolean(),
});
export type DirectionSpec = Static<typeof DirectionSpec>;

/** What is set here wins over the material's finish; what is absent follows it. */
export const FinishSpec = Type.Object({
  kind: Type.Optional(FinishKind),
  roughness: Type.Optional(Type.Number({ minimum: 0, maximum: 1 })),
  reflection: Type.Optional(Type.Number({ minimum: 0, maximum: 1 })),
  coat: Type.Optional(Type.Number({ minimum: 0, maximum: 1 })),
  deepen: Type.Optional(Type.Number({ minimum: 0, maximum: 1 })),
  reliefMm: Type.Optional(Type.Number({ minimum: 0, maximum: 500 })),
  normalStrength: Type.Optional(Type.Number({ minimum: 0, maximum: 8 })),
  mapShares: Type.Optional(MapShares),
});
export type FinishSpec = Static<typeof FinishSpec>;

/** How large the picture is, but for whether it is laid once. */
const sizes = {
  own: Type.Union([Type.Null(), Type.Object({ widthMm: RepeatLength, heightMm: RepeatLength })]),
  /** Where the size follows the material's: so many percent of it; absent, all of it. */
  percent: Type.Optional(Type.Number({ minimum: 0.1, maximum: 10_000 })),
  locked: Type.Boolean(),
  /**
   * Only a band of the picture, from … to as shares of its height, exactly as high as the sheet; its length stays
   * true.
   */
  band: Type.Optional(
    Type.Union([
      Type.Null(),
      Type.Object({
        from: Type.Number({ minimum: 0, maximum: 1 }),
        to: Type.Number({ minimum: 0, maximum: 1 }),
        /** Lines within the band, shares of the picture's height, that are to fall on arrises. */
        lines: Type.Optional(Type.Array(Type.Number({ minimum: 0, maximum: 1 }), { maxItems: 40 })),
      }),
    ]),
  ),
};

const portions = {
  material: Key,
  mapping: MappingSpec,
  start: StartSpec,
  direction: DirectionSpec,
  finish: FinishSpec,
  /** Absent, the whole picture is laid without pieces. */
  pieces: Type.Optional(PiecesSpec),
  variation: Type.Optional(VariationSpec),
  gauge: Type.Optional(GaugeSpec),
  /** Absent, it is as new. */
  wear: Type.Optional(WearSpec),
};

/** One copy of the picture, nothing beyond its edge. */
export const OnceSpec = Type.Object({
  /** As large as fits on the sheet, keeping its shape, in the middle; else the exact size at the start. */
  fitted: Type.Boolean(),
  /** What covers the rest: what lies below, a colour, another material, or nothing. */
  rest: Type.Union([
    Type.Object({ kind: Type.Literal('below'), spec: Type.Object({ ...portions, repeat: Type.Object(sizes) }) }),
    Type.Object({ kind: Type.Literal('colour'), colour: Colour }),
    Type.Object({ kind: Type.Literal('material'), material: Key }),
    Type.Object({ kind: Type.Literal('bare') }),
  ]),
});
export type OnceSpec = Static<typeof OnceSpec>;

/** `own` null follows the material's size. With `locked`, changing one side changes the other in proportion. */
export const RepeatSpec = Type.Object({
  ...sizes,
  /** Laid once, not repeated; absent for a picture that repeats. Only for what is laid as a whole, not in pieces. */
  once: Type.Optional(Type.Union([Type.Null(), OnceSpec])),
});
export type RepeatSpec = Static<typeof RepeatSpec>;

/** Everything laid on a surface. */
export const Spec = Type.Object({ ...portions, repeat: RepeatSpec });
export type Spec = Static<typeof Spec>;

export const defaultSpec = (material: string): Spec => ({
  material,
  mapping: { kind: 'flat', direction: 'auto' },
  repeat: { own: null, locked: true },
  start: { datum: 'corner', xMm: 0, yMm: 0 },
  direction: { turnDeg: 0, mirrorX: false, mirrorY: false },
  finish: {},
});

/** The spec lies in pieces, not as one whole picture. */
export type SpecInPieces = Spec & { pieces: PiecesSpec };

export const liesInPieces = (spec: Spec): spec is SpecInPieces =>
  !!spec.pieces && spec.pieces.layout.kind !== whole.kind && !spec.repeat.once;

/** What of a material decides how large it is laid. */
export type Sized = Pick<Material, 'widthMm' | 'heightMm'>;

/** The repeat in force: the surface's own, or the material's, or so many percent of that. */
export function repeatOf({ repeat: { own, percent = 100 } }: Spec, material: Sized): Sized {
  return own ?? { widthMm: (material.widthMm * percent) / 100, heightMm: (material.heightMm * percent) / 100 };
}

/** The picture at the material's size, or at so many percent of it, whatever that becomes. */
export function followMaterial({ percent: _before, ...repeat }: RepeatSpec, percent = 100): RepeatSpec {
  return { ...repeat, own: null, ...(percent === 100 ? {} : { percent }) };
}

/** Every material a spec needs: its own, those mixed in, that of its joints, and that beside a single picture. */
export function materialsOf(spec: Pick<Spec, 'material' | 'pieces' | 'repeat' | 'wear'>): string[] {
  const { pieces } = spec;
  const joint = pieces?.joint.material;
  const rest = spec.repeat.once?.rest;
  const beside = rest?.kind === 'material' ? [rest.material] : rest?.kind === 'below' ? materialsOf(rest.spec) : [];
  return [
    ...new Set([
      spec.material,
      ...(pieces?.mix.entries ?? []).map((e) => e.material),
      ...(pieces?.margins?.material ? [pieces.margins.material] : []),
      ...(joint ? [joint] : []),
      ...beside,
      ...materialsOfWear(spec.wear),
    ]),
  ];
}

/** The spec with one material in the place of another, wherever it uses it. */
export function swapMaterial(spec: Spec, from: string, to: string): Spec {
  const swap = (id: string) => (id === from ? to : id);
  const { pieces } = spec;
  const swapped = pieces && {
    ...pieces,
    joint: { ...pieces.joint, material: pieces.joint.material && swap(pieces.joint.material) },
    mix: { ...pieces.mix, entries: pieces.mix.entries.map((e) => ({ ...e, material: swap(e.material) })) },
    ...(pieces.margins?.material ? { margins: { ...pieces.margins, material: swap(pieces.margins.material) } } : {}),
  };
  const { once } = spec.repeat;
  const repeat = once ? { ...spec.repeat, once: { ...once, rest: swapRest(once.rest, from, to) } } : spec.repeat;
  const wear = spec.wear ? { wear: swapInWear(spec.wear, from, to) } : {};
  return { ...spec, material: swap(spec.material), repeat, ...(swapped ? { pieces: swapped } : {}), ...wear };
}

function swapRest(rest: OnceSpec['rest'], from: string, to: string): OnceSpec['rest'] {
  if (rest.kind === 'below') return { ...rest, spec: swapMaterial(rest.spec, from, to) };
  return rest.kind === 'material' && rest.material === from ? { ...rest, material: to } : rest;
}
