import type { Laid } from '../lay/lay';
import type { LaidMaterial } from '../lay/materials';
import { edgeOnFaces } from '../lay/edgeOn';
import { dressFaces, dressSurface } from './dressSurface';
import { type ExportedMesh, exportPieces } from './exportPieces';

/** A mesh as it is handed over. */
export interface HandedOver extends ExportedMesh {
  what: 'surface' | 'pieces' | 'joints' | 'bare';
  /** Null where it is bare, or a joint of a plain colour: then its `colour` shows. */
  material: LaidMaterial | null;
  colour: string | null;
}

/**
 * What is laid on a region as real geometry: its surface, or pieces of each material and what lies between them.
 * @param options.share whole cells that are alike share one mesh, with a list of where it stands
 */
export function exportLaid(laid: Laid, { share = false }: { share?: boolean } = {}): HandedOver[] {
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
  // a material in the joints lies on the surface as a whole: no two rings are alike
  const made = exportPieces(arrangement, { tangents, ...(share ? { share: { joints: !laid.joint } } : {}) });
  const out: HandedOver[] = made.pieces.map(({ material, ...mesh }) => ({
    what: 'pieces',
    ...mesh,
    material: materials[material],
    colour: null,
  }));
  out.push(...made.joints.map((mesh) => joints(mesh, laid)));
  // no piece can lie on what is seen edge-on; it is handed over all the same
  const left = edgeOnFaces(sheet);
  if (left.length) {
    const dressed = dressFaces(sheet, left);
    out.push({ what: 'bare', dressed, material: null, colour: arrangement.joint.colour });
  }
  return out;
}

/** Joints lie in the layout's frame, in mm; a material in them repeats at its own size. */
function joints(mesh: ExportedMesh, { arrangement, joint }: Laid): HandedOver {
  if (!joint) return { what: 'joints', ...mesh, material: null, colour: arrangement!.joint.colour };
  const { dressed } = mesh;
  const uvs = dressed.uvs.map((v, i) => v / (i % 2 ? joint.heightMm : joint.widthMm));
  // without tangents of their own joints take no normal map
  const { normal: _left, ...maps } = joint.material.maps;
  const material = { ...joint, material: { ...joint.material, maps } };
  return { what: 'joints', dressed: { ...dressed, uvs }, material, colour: null };
}
