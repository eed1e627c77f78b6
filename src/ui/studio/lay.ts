import type { Command } from '@/core/project/commands';
import type { Material } from '@/core/material/schema';
import type { Project, Surface } from '@/core/project/schema';
import { defaultSpec, layPortions, type Portion, type Spec } from '@/core/spec/schema';

/** Flat faces are mapped flat; what turns corners starts as a box. */
function firstSpec(surface: Surface, chosen: Material): Spec {
  const spec = defaultSpec(chosen.id);
  return Math.hypot(...surface.normal) > 0.985 ? spec : { ...spec, mapping: { kind: 'box', axes: 'surface' } };
}

/** Lays a material on surfaces at its own true size, keeping mapping, start and direction where there are some. */
export function layMaterial(project: Project, ids: string[], chosen: Material): Command[] {
  const specs: Record<string, Spec> = {};
  for (const id of ids) {
    const surface = project.surfaces[id];
    if (!surface || project.parts[surface.part].locked) continue;
    specs[id] = surface.spec
      ? { ...surface.spec, material: chosen.id, repeat: { ...surface.spec.repeat, own: null }, finish: {} }
      : firstSpec(surface, chosen);
  }
  if (!Object.keys(specs).length) return [];
  // the version a project uses stays until the newer one is taken on purpose
  const materials = project.materials[chosen.id] ? [] : [chosen];
  return [{ kind: 'setSpecs', specs, materials }];
}

/** Lays a lifted spec, or portions of it. */
export function laySpec(project: Project, ids: string[], spec: Spec, portions: Portion[]): Command[] {
  const open = ids.filter((id) => project.surfaces[id] && !project.parts[project.surfaces[id].part].locked);
  if (!open.length || !portions.length) return [];
  return [{ kind: 'setSpecs', specs: Object.fromEntries(open.map((id) => [id, layPortions(project.surfaces[id].spec, spec, portions)])) }]; // prettier-ignore
}
