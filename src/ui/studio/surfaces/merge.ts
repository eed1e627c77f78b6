import { toast } from 'sonner';
import { listFaces, packFaces } from '@/core/mesh/types';
import type { Command } from '@/core/project/commands';
import { regionsAt, zonesOn } from '@/core/project/regions';
import type { Project, Surface } from '@/core/project/schema';
import type { Spec } from '@/core/specification/schema';
import { carryZone } from '@/core/zones/carry';
import { useProject } from '../../project/projectStore';
import { useSelection } from '../../project/selection';
import { meshUrl, sheetService, uncutRequest } from '../../project/sheetService';
import { newId } from '../../shared/ids';
import { adviceFor } from '../useSuggestions';

const sheetOf = (project: Project, surface: Surface) =>
  sheetService().summary(uncutRequest(project, regionsAt(project, surface)[0]));

/** The first one's spec, with the mapping that fits all of it. */
async function specOfAll(project: Project, into: Surface): Promise<Spec | null> {
  if (!into.spec) return null;
  const { suggestions } = await adviceFor(project, into);
  const fits = suggestions.some((s) => s.mapping.kind === into.spec!.mapping.kind);
  return fits || !suggestions.length ? into.spec : { ...into.spec, mapping: suggestions[0].mapping };
}

/**
 * Makes the picked surfaces of one part one. Its zones stay where they are on it; where some cannot, that is said, and
 * nothing is done unless it is wanted all the same.
 */
export async function mergeSurfaces(picked: readonly Surface[], lose = false): Promise<void> {
  const { project, run } = useProject.getState();
  if (!project || picked.length < 2) return;
  const [first] = picked;
  const part = project.parts[first.part];
  const faces = packFaces(picked.flatMap((s) => [...listFaces(s.faces)]));
  const m = await sheetService().measure({
    url: meshUrl(project, part.model),
    mesh: part.mesh,
    faces,
    flipped: part.flipped,
  });
  const plain: Surface = { ...first, id: newId('surface'), faces, areaMm2: m.area, normal: m.normal };
  const into: Surface = { ...plain, spec: await specOfAll(project, plain) };
  const trial: Project = { ...project, surfaces: { ...project.surfaces, [into.id]: into } };
  const whole = await sheetOf(trial, into);
  const carried: Command[] = [];
  const lost: Surface[] = [];
  for (const source of picked) {
    const zones = zonesOn(project, source.id);
    if (!zones.length) continue;
    const own = await sheetOf(project, source);
    for (const { id, zone, areaMm2, ...rest } of zones) {
      const shape = carryZone(zone!.shape, own, whole);
      if (shape) carried.push({ kind: 'setZone', id, shape, areaMm2 });
      else lost.push({ id, zone, areaMm2, ...rest });
    }
  }
  if (lost.length && !lose) {
    const names = lost.map((z) => `“${z.name}”`).join(', ');
    toast(`Merged, ${names} would have no place: the new surface is laid flat otherwise. Nothing was merged.`, {
      action: { label: 'Merge without', onClick: () => void mergeSurfaces(picked, true) },
      duration: 15_000,
    });
    return;
  }
  run([
    ...lost.map((z): Command => ({ kind: 'removeZone', id: z.id })),
    { kind: 'mergeSurfaces', ids: picked.map((s) => s.id), into },
    ...carried,
  ]);
  useSelection.getState().select([into.id]);
  const was = first.spec?.mapping.kind;
  if (into.spec && was !== into.spec.mapping.kind)
    toast(`What was mapped ${was} is mapped ${into.spec.mapping.kind} now, which fits the whole.`);
}
