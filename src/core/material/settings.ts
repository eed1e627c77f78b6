import { FINISHES, type FinishKind, finishOf, numbersOf } from './finishes';
import { type Finish, type Material, MIXED_ROLES, ROLE_LABELS } from './schema';
import type { Field } from '../schema/fields';

/** What of a material is set and not drawn: what one takes over from another. */
export type MaterialSettings = Pick<
  Material,
  'finish' | 'grain' | 'sampling' | 'twoSided' | 'widthMm' | 'heightMm' | 'sizeAssumed'
>;

/**
 * A material's settings for a picture of some shape: its width is kept, and its height too where the shapes agree.
 * @param aspect height of the picture over its width
 */
export function settingsFor(like: Material, aspect: number): MaterialSettings {
  const { finish, grain, sampling, twoSided, widthMm, sizeAssumed } = like;
  const agree = Math.abs((widthMm * aspect) / like.heightMm - 1) < 0.01;
  const heightMm = agree ? like.heightMm : Math.round(widthMm * aspect * 100) / 100;
  return { finish, grain, sampling, twoSided, widthMm, heightMm, sizeAssumed: sizeAssumed ?? false };
}

/** A kind of finish brings all its numbers; relief, bump and glow stay the material's own. */
export const withKind = (finish: Finish, kind: string): Finish => ({
  ...finish,
  kind: kind as FinishKind,
  ...numbersOf(finishOf(kind)),
});

/** What the share of a map is, for people. */
export const MAP_SHARE = 'How much its map counts beside the plain value: 1 all of it, 0 nothing';

const ofFinish = (
  label: string,
  key: keyof Omit<Finish, 'kind' | 'reliefMm' | 'mapShares'>,
  most: number,
  usual = 0,
  title?: string,
): Field<Material> => ({
  kind: 'number',
  label,
  title,
  min: key === 'roughnessShift' ? -1 : 0,
  max: most,
  step: key === 'emission' ? 0.1 : 0.05,
  get: ({ finish }) => finish[key] ?? usual,
  set: (m, value) => ({ ...m, finish: { ...m.finish, [key]: value } }),
});

/** How a material meets light, as people set it, on one or on several at once. */
export const MATERIAL_FIELDS: readonly Field<Material>[] = [
  {
    kind: 'choice',
    label: 'Finish',
    options: FINISHES.map((f) => [f.kind, f.label] as const),
    get: (m) => m.finish.kind,
    set: (m, kind) => ({ ...m, finish: withKind(m.finish, kind) }),
  },
  ofFinish('Roughness', 'roughness', 1),
  ofFinish('Metallic', 'metallic', 1),
  ofFinish('Reflection', 'reflection', 1, 1, 'What is mirrored straight on: 0 none, 1 as common materials do'),
  ofFinish('Clear coat', 'coat', 1, 0, 'A clear layer over it, as lacquer is'),
  ofFinish('Deepening', 'deepen', 1, 0, 'How far its colour is deepened, as oil does'),
  {
    kind: 'length',
    label: 'Relief',
    min: 0,
    max: 500,
    step: 0.1,
    get: (m) => m.finish.reliefMm,
    set: (m, reliefMm) => ({ ...m, finish: { ...m.finish, reliefMm } }),
  },
  ofFinish('Relief ×', 'normalStrength', 8, 1),
  ofFinish('Glow', 'emission', 1000),
  ...MIXED_ROLES.map((role): Field<Material> => ({
    kind: 'number',
    label: `${ROLE_LABELS[role]} map`,
    title: MAP_SHARE,
    min: 0,
    max: 1,
    step: 0.05,
    shown: ({ maps }) => !!maps[role],
    get: ({ finish }) => finish.mapShares?.[role] ?? 1,
    set: (m, share) => ({
      ...m,
      finish: { ...m.finish, mapShares: { ...m.finish.mapShares, [role]: share } },
    }),
  })),
  {
    kind: 'choice',
    label: 'Grain runs',
    options: [
      ['x', 'by width'],
      ['y', 'by height'],
      ['none', 'nowhere'],
    ],
    get: (m) => m.grain,
    set: (m, grain) => ({ ...m, grain: grain as Material['grain'] }),
  },
  {
    kind: 'choice',
    label: 'Sampling',
    options: [
      ['soft', 'Soft'],
      ['sharp', 'Sharp'],
    ],
    get: (m) => m.sampling,
    set: (m, sampling) => ({ ...m, sampling: sampling as Material['sampling'] }),
  },
  {
    kind: 'toggle',
    label: 'Two-sided',
    get: (m) => m.twoSided,
    set: (m, twoSided) => ({ ...m, twoSided }),
  },
  {
    kind: 'toggle',
    label: 'Seamless',
    title: 'Measured when the picture came in; a piece never takes a print over an edge that is not',
    get: (m) => m.seamless,
    set: (m, seamless) => ({ ...m, seamless }),
  },
];
