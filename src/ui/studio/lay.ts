import type { Command } from '@/core/project/commands';
import { firstEntry } from '@/core/layout/mixFields';
import { layoutOf } from '@/core/layout/registry';
import type { Material } from '@/core/material/schema';
import type { Project, Surface } from '@/core/project/schema';
import { layPortions, type Portion } from '@/core/specification/portions';
import { defaultSpec, followMaterial, type Spec } from '@/core/specification/schema';
import { FIRST_MAPPING, type MappingSpec } from '@/core/mapping/schema';
import { useProject } from '../project/projectStore';
import { useSelection } from '../project/selection';
import { becomeLayout, presetOf } from './pieces/becomeLayout';
import { adviceFor } from './useSuggestions';
import { layOnce } from './zones/layOnce';

/** Flat faces are mapped flat; what bends as its shape suggests, or, while that is not known, as a box. */
function firstSpec(surface: Surface, chosen: Material, suggested: MappingSpec | undefined): Spec {
  const spec = defaultSpec(chosen.id);
  if (suggested) return { ...spec, mapping: suggested };
  return isPlane(surface) ? spec : { ...spec, mapping: FIRST_MAPPING.box };
}

const isPlane = (surface: Surface) => Math.hypot(...surface.normal) > 0.9999;

/** Materials that are laid together: each is as much of the pieces as the others. */
function mixEqually(spec: Spec, chosen: readonly Material[]): Spec {
  const [first, ...others] = chosen;
  if (!others.length) return spec;
  const inPieces = spec.pieces && layoutOf(spec.pieces.layout).cells !== 'none';
  // what lies as one whole has nothing to be mixed among: boards of what has a grain, else tiles
  const laid = inPieces ? spec : becomeLayout(spec, presetOf(first.grain === 'none' ? 'grid' : 'planks'));
  const { layout } = laid.pieces!;
  const { rolesOf, roles } = layoutOf(layout);
  const entries = others.map((m) => ({
    ...firstEntry(m.id, rolesOf?.(layout) ?? roles),
    share: 1 / chosen.length,
  }));
  return { ...laid, pieces: { ...laid.pieces!, mix: { by: 'share', entries } } };
}

/**
 * Lays a material on surfaces at its own true size, keeping mapping, start and direction where there are some.
 * @param chosen several are mixed among the pieces, by equal shares
 * @param suggested the mapping of surfaces that are bare yet
 */
export function layMaterial(
  project: Project,
  ids: string[],
  chosen: readonly Material[],
  suggested: Record<string, MappingSpec> = {},
): Command[] {
  const [first] = chosen;
  const specs: Record<string, Spec> = {};
  for (const id of ids) {
    const surface = project.surfaces[id];
    if (!surface || project.parts[surface.part].locked) continue;
    const spec = surface.spec
      ? { ...surface.spec, material: first.id, repeat: followMaterial(surface.spec.repeat), finish: {} }
      : firstSpec(surface, first, suggested[id]);
    specs[id] = mixEqually(spec, chosen);
  }
  if (!Object.keys(specs).length) return [];
  // the version a project uses stays until the newer one is taken on purpose
  const materials = chosen.filter((m) => !project.materials[m.id]);
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

/** Looks at the shape of bare surfaces, then lays a material, or several together, on all of them. */
export async function layNow(ids: string[], chosen: Material | readonly Material[]): Promise<void> {
  const all = [chosen].flat() as Material[];
  const [first] = all;
  const { project } = useProject.getState();
  if (!project) return;
  const bases = ids.flatMap((id) => project.surfaces[id] ?? []).filter((s) => !s.zone);
  if (useSelection.getState().once && bases.length) {
    useSelection.getState().setOnce(false);
    return layOnce(bases, first);
  }
  for (const { id, spec } of bases) if (spec && spec.material !== first.id) remember(id, spec);
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
  if (now.project?.id === project.id) now.run(layMaterial(now.project, ids, all, suggested));
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
