import type { Command } from '@/core/project/commands';
import type { Material } from '@/core/material/schema';
import type { Project, Surface } from '@/core/project/schema';
import { layPortions, type Portion } from '@/core/specification/portions';
import { defaultSpec, type Spec } from '@/core/specification/schema';
import { FIRST_MAPPING, type MappingSpec } from '@/core/mapping/schema';
import { useProject } from '../project/projectStore';
import { useSelection } from '../project/selection';
import { adviceFor } from './useSuggestions';
import { layOnce } from './zones/layOnce';

/** Flat faces are mapped flat; what bends as its shape suggests, or, while that is not known, as a box. */
function firstSpec(surface: Surface, chosen: Material, suggested: MappingSpec | undefined): Spec {
  const spec = defaultSpec(chosen.id);
  if (suggested) return { ...spec, mapping: suggested };
  return isPlane(surface) ? spec : { ...spec, mapping: FIRST_MAPPING.box };
}

const isPlane = (surface: Surface) => Math.hypot(...surface.normal) > 0.9999;

/**
 * Lays a material on surfaces at its own true size, keeping mapping, start and direction where there are some.
 * @param suggested the mapping of surfaces that are bare yet
 */
export function layMaterial(
  project: Project,
  ids: string[],
  chosen: Material,
  suggested: Record<string, MappingSpec> = {},
): Command[] {
  const specs: Record<string, Spec> = {};
  for (const id of ids) {
    const surface = project.surfaces[id];
    if (!surface || project.parts[surface.part].locked) continue;
    specs[id] = surface.spec
      ? { ...surface.spec, material: chosen.id, repeat: { ...surface.spec.repeat, own: null }, finish: {} }
      : firstSpec(surface, chosen, suggested[id]);
  }
  if (!Object.keys(specs).length) return [];
  // the version a project uses stays until the newer one is taken on purpose
  const materials = project.materials[chosen.id] ? [] : [chosen];
  return [{ kind: 'setSpecs', specs, materials }];
}

/** What lay on surfaces before another material came: what is seen again beside a picture that is laid once. */
const before = new Map<string, Spec>();
const MOST_REMEMBERED = 500;

function remember(id: string, spec: Spec): void {
  before.delete(id);
  before.set(id, spec);
  if (before.size > MOST_REMEMBERED) before.delete(before.keys().next().value!);
}

export const layBefore = (id: string): Spec | null => before.get(id) ?? null;

/** Looks at the shape of bare surfaces, then lays a material on all of them. */
export async function layNow(ids: string[], chosen: Material): Promise<void> {
  const { project } = useProject.getState();
  if (!project) return;
  const bases = ids.flatMap((id) => project.surfaces[id] ?? []).filter((s) => !s.zone);
  if (useSelection.getState().once && bases.length) {
    useSelection.getState().setOnce(false);
    return layOnce(bases, chosen);
  }
  for (const { id, spec } of bases) if (spec && spec.material !== chosen.id) remember(id, spec);
  const bent = ids.flatMap((id) => {
    const surface = project.surfaces[id];
    return surface && !surface.spec && !surface.zone && !isPlane(surface) ? [surface] : [];
  });
  const suggested: Record<string, MappingSpec> = {};
  await Promise.all(
    bent.map(async (surface) => {
      const advice = await adviceFor(project, surface).catch(() => null);
      if (advice?.suggestions.length) suggested[surface.id] = advice.suggestions[0].mapping;
    }),
  );
  const now = useProject.getState();
  if (now.project?.id === project.id) now.run(layMaterial(now.project, ids, chosen, suggested));
}

/** Lays a lifted spec, or portions of it. */
export function laySpec(project: Project, ids: string[], spec: Spec, portions: Portion[]): Command[] {
  const open = ids.filter((id) => project.surfaces[id] && !project.parts[project.surfaces[id].part].locked);
  if (!open.length || !portions.length) return [];
  return [
    {
      kind: 'setSpecs',
      specs: Object.fromEntries(open.map((id) => [id, layPortions(project.surfaces[id].spec, spec, portions)])),
    },
  ];
}
