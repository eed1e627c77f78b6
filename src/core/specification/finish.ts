import { linearOfHex } from '../colour/srgb';
import { finishOf, numbersOf } from '../material/finishes';
import type { Material, MixedRole } from '../material/schema';
import type { FinishSpec } from './schema';

/** The numbers behind a finish on a surface, the same in view, export and bake. */
export interface FinishInForce {
  /** Where there is no map, or where that counts for nothing. */
  roughness: number;
  metallic: number;
  /** What a map's values become, by its role. */
  mixed: Record<MixedRole, Mixing>;
  /** Strength of what is mirrored straight on, 0 … 1. */
  reflection: number;
  /** Clear coat over it, 0 … 1, and its roughness. */
  coat: number;
  coatRoughness: number;
  /** How far the colour is deepened, 0 … 1. */
  deepen: number;
  /** What that makes of the base colour: factors on its linear light, each at most 1. */
  tint: [number, number, number];
  /** Factor on the normal map's slopes. */
  normalScale: number;
  reliefMm: number;
  emission: number;
}

/** A map's value v, 0 … 1, becomes `times` · v + `plus`, kept within 0 … 1. */
export interface Mixing {
  times: number;
  plus: number;
}

/** Whether a map goes in as it is. */
export const isAsItIs = ({ times, plus }: Mixing): boolean => times === 1 && plus === 0;

/**
 * A map moved by `shift`, of which a share counts beside a plain value.
 * @example mixing(0.5, 0.8, 0.1) // { times: 0.5, plus: 0.45 }
 */
export const mixing = (share: number, plain: number, shift = 0): Mixing => ({
  times: share,
  plus: share * shift + (1 - share) * plain,
});

/** A map's value, 0 … 1, after mixing. */
export const mixedValue = (v: number, { times, plus }: Mixing): number => Math.min(1, Math.max(0, times * v + plus));

/**
 * What a spec's finish makes of a material. Slopes are relief over length: a normal map gets steeper with more relief
 * and flatter when its picture is laid larger.
 * @param widthMm how wide the picture is laid
 */
export function finishOn(finish: FinishSpec, material: Material, widthMm = material.widthMm): FinishInForce {
  const own = material.finish;
  const kind = numbersOf(finish.kind && finish.kind !== own.kind ? finishOf(finish.kind) : own);
  const reliefMm = finish.reliefMm ?? own.reliefMm;
  const deeper = own.reliefMm > 0 ? reliefMm / own.reliefMm : 1;
  const deepen = finish.deepen ?? kind.deepen;
  const { roughnessShift, ...numbers } = kind;
  const roughness = finish.roughness ?? kind.roughness;
  const shift = finish.roughness !== undefined ? finish.roughness - own.roughness : roughnessShift;
  const share = (role: MixedRole) => finish.mapShares?.[role] ?? own.mapShares?.[role] ?? 1;
  return {
    ...numbers,
    roughness,
    metallic: own.metallic,
    mixed: {
      roughness: mixing(share('roughness'), roughness, shift),
      metallic: mixing(share('metallic'), own.metallic),
      // nothing darkens what lies in the open
      occlusion: mixing(share('occlusion'), 1),
    },
    reflection: finish.reflection ?? kind.reflection,
    coat: finish.coat ?? kind.coat,
    deepen,
    tint: deepened(material.colour, deepen),
    normalScale: ((finish.normalStrength ?? own.normalStrength) * deeper * material.widthMm) / widthMm,
    reliefMm,
    emission: own.emission,
  };
}

/** Soaked wood and stone are as dark as if light went through them about half as often again. */
const SOAKED = 0.6;

/**
 * What deepening makes of a colour, as factors on linear light. A wetted surface is darker and more saturated, since
 * light is caught inside and passes the pigment more often: reflectance R becomes about R^(1 + n) (J. Lekner and M.
 * Dorf, “Why some things are darker when wet”, Applied Optics 27, 1988, say by how much). Worked out for the mean
 * colour, so that one factor does for view, files and bake.
 * @param hex the material's mean colour, sRGB
 * @param deepen 0 … 1
 * @example deepened('#ffffff', 1) // [1, 1, 1]
 */
export const deepened = (hex: string, deepen: number): [number, number, number] =>
  linearOfHex(hex).map((v) => Math.max(v, 0.02) ** (SOAKED * deepen)) as [number, number, number];
