import type { Laid } from '../lay/lay';
import type { LaidMaterial } from '../lay/materials';
import { edgeOnFaces } from '../lay/edgeOn';
import { type DressedSurface, dressFaces, dressSurface } from './dressSurface';
import { exportPieces } from './exportPieces';

/** A mesh as it is handed over. */
export interface HandedOver {
  what: 'surface' | 'pieces' | 'joints' | 'bare';
  dressed: DressedSurface;
  /** Null where it is bare, or a joint of a plain colour: then its `colour` shows. */
  material: LaidMaterial | null;
  colour: string | null;
}

/** What is laid on a region as real geometry: its surface, or pieces of each material and what lies between them. */
export function exportLaid(laid: Laid): HandedOver[] {
  const { sheet, arrangement, placement, materials, region } = laid;
  // nothing is left of a surface that its zones cover
  if (!sheet.faces.length) return [];
  if (!arrangement) {
    const material = materials[0] ?? null;
    const tangents = !!material?.material.maps.normal;
    const dressed = dressSurface(sheet, placement, { tangents });
    return [{ what: 'surface', dressed, material, colour: material ? null : region.colour }];
  }
  const tangents = materials.some((m) => m.material.maps.normal);
  const made = exportPieces(arrangement, tangents);
  const out: HandedOver[] = made.pieces.map(({ material, dressed }) => ({
    what: 'pieces',
    dressed,
    material: materials[material],
    colour: null,
  }));
  if (made.joints) out.push(joints(made.joints, laid));
  // no piece can lie on what is seen edge-on; it is handed over all the same
  const left = edgeOnFaces(sheet);
  if (left.length) {
    const dressed = dressFaces(sheet, left);
    out.push({ what: 'bare', dressed, material: null, colour: arrangement.joint.colour });
  }
  return out;
}

/** Joints lie in the layout's frame, in mm; a material in them repeats at its own size. */
function joints(dressed: DressedSurface, { arrangement, joint }: Laid): HandedOver {
  if (!joint) return { what: 'joints', dressed, material: null, colour: arrangement!.joint.colour };
  const uvs = dressed.uvs.map((v, i) => v / (i % 2 ? joint.heightMm : joint.widthMm));
  // without tangents of their own joints take no normal map
  const { normal: _left, ...maps } = joint.material.maps;
  const material = { ...joint, material: { ...joint.material, maps } };
  return { what: 'joints', dressed: { ...dressed, uvs }, material, colour: null };
}
