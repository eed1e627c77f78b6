import type { Material, Role } from '../material/schema';
import type { Sheet } from '../mapping/sheet';
import { repeatOnSheet } from '../setout/placement';
import { finishOn, type FinishInForce } from '../specification/finish';
import type { Spec } from '../specification/schema';
import { stillMaps } from '../variation/schema';
import type { Arrangement, MaterialsById } from './arrange';

/** A material as it is laid: its size here and the finish in force. */
export interface LaidMaterial {
  material: Material;
  widthMm: number;
  heightMm: number;
  finish: FinishInForce;
  /** Factor on its base colour's light, which the pieces' tones darken again; 1 without pieces. */
  brightened: number;
  /** Maps that lie on the surface as a whole and do not move with pieces. */
  still: readonly Role[];
}

/**
 * The materials of what is laid, in the order in which pieces count them: the main one first, then those mixed in. The
 * one place that says which material lies at which size: the main one at the spec's own, all others at their own.
 */
export function materialsLaid(
  spec: Spec,
  sheet: Sheet,
  arrangement: Arrangement | null,
  materials: MaterialsById,
): LaidMaterial[] {
  const main = materials[spec.material];
  if (!main) return [];
  if (!arrangement) {
    const size = repeatOnSheet(spec, main, sheet);
    return [{ material: main, ...size, finish: finishOn(spec.finish, main, size.widthMm), brightened: 1, still: [] }];
  }
  const still = stillMaps(arrangement.variation);
  return arrangement.materials.map(({ material, widthMm, heightMm, tones }) => ({
    material,
    widthMm,
    heightMm,
    finish: finishOn(spec.finish, material, widthMm),
    brightened: tones.most,
    still,
  }));
}

/** The material between the pieces, at its own size; null where joints are a plain colour, or it is not there. */
export function jointMaterial(arrangement: Arrangement, materials: MaterialsById): LaidMaterial | null {
  const material = arrangement.joint.material ? materials[arrangement.joint.material] : undefined;
  if (!material) return null;
  const { widthMm, heightMm } = material;
  return { material, widthMm, heightMm, finish: finishOn({}, material), brightened: 1, still: [] };
}
