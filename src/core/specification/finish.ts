import { linearOfHex } from '../colour/srgb';
import { finishOf, numbersOf } from '../material/finishes';
import type { Material } from '../material/schema';
import type { FinishSpec } from './schema';

/** The numbers behind a finish on a surface, the same in view, export and bake. */
export interface FinishInForce {
  /** Roughness where there is no map. */
  roughness: number;
  /** Added to the roughness map. */
  roughnessShift: number;
  metallic: number;
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
  return {
    ...kind,
    roughness: finish.roughness ?? kind.roughness,
    roughnessShift: finish.roughness !== undefined ? finish.roughness - own.roughness : kind.roughnessShift,
    metallic: own.metallic,
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
