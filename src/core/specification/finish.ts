import { finishOf } from '../material/finishes';
import type { Material } from '../material/schema';
import type { FinishSpec } from './schema';

/** The numbers behind a finish on a surface, the same in view, export and bake. */
export interface FinishInForce {
  /** Roughness where there is no map. */
  roughness: number;
  /** Added to the roughness map. */
  roughnessShift: number;
  metallic: number;
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
  const kind = finish.kind && finish.kind !== own.kind ? finishOf(finish.kind) : own;
  const reliefMm = finish.reliefMm ?? own.reliefMm;
  const deeper = own.reliefMm > 0 ? reliefMm / own.reliefMm : 1;
  return {
    roughness: finish.roughness ?? kind.roughness,
    roughnessShift: finish.roughness !== undefined ? finish.roughness - own.roughness : kind.roughnessShift,
    metallic: own.metallic,
    normalScale: ((finish.normalStrength ?? own.normalStrength) * deeper * material.widthMm) / widthMm,
    reliefMm,
    emission: own.emission,
  };
}
