import { toast } from 'sonner';
import type { Vec2, Vec3 } from '@/core/geometry/vec';
import type { Material } from '@/core/material/schema';
import { newMark } from '@/core/wear/markFields';
import { noWear, type WearSpec } from '@/core/wear/schema';
import { useProject } from '../../project/projectStore';
import { sheetRequest, sheetService, shownRegion } from '../../project/sheetService';
import { useWear } from './wearStore';

/** Changes the wear of one surface, as a step of its own. */
function changeWear(surface: string, change: (wear: WearSpec) => WearSpec, materials: Material[] = []): void {
  const { project, run } = useProject.getState();
  const spec = project?.surfaces[surface]?.spec;
  if (!spec) return void toast('Nothing is laid here yet; lay a material first.');
  const specs = { [surface]: { ...spec, wear: change(spec.wear ?? noWear()) } };
  run([{ kind: 'setSpecs', specs, ...(materials.length ? { materials } : {}) }]);
}

/** The path of a rubbed layer, sheet mm. */
export function layPath(surface: string, layer: number, points: Vec2[]): void {
  changeWear(surface, (wear) => ({
    ...wear,
    layers: wear.layers.map((l, n) => (n === layer && l.kind === 'rubbed' ? { ...l, points } : l)),
  }));
}

/** Puts a mark with its middle at a place of the sheet. */
export function layMark(surface: string, material: Material, at: Vec2): void {
  const { project } = useProject.getState();
  // the project keeps the version it uses
  const known = project?.materials[material.id];
  const count = project?.surfaces[surface]?.spec?.wear?.marks.length ?? 0;
  changeWear(
    surface,
    (wear) => ({ ...wear, marks: [...wear.marks, newMark(material.id, at)] }),
    known ? [] : [material],
  );
  useWear.getState().choose({ of: 'marks', n: count });
}

/** The same where a face was clicked in the room. */
export async function layMarkOn(surface: string, material: Material, face: number, world: Vec3): Promise<void> {
  const { project } = useProject.getState();
  const region = shownRegion(project, {}, surface);
  if (!project || !region) return;
  layMark(surface, material, await sheetService().sheetPoint(sheetRequest(project, region), face, world));
}
