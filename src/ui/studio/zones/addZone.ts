import { toast } from 'sonner';
import { regionsOf } from '@/core/project/regions';
import type { Project, Surface } from '@/core/project/schema';
import type { ZoneShape } from '@/core/zones/schema';
import { useProject } from '../../project/projectStore';
import { useSelection } from '../../project/selection';
import { sheetRequest, sheetService } from '../../project/sheetService';
import { messageOf } from '../../shared/api';
import { newId } from '../../shared/ids';

const NAMES: Record<ZoneShape['kind'], string> = {
  rectangle: 'Rectangle',
  circle: 'Circle',
  polygon: 'Outline',
  inset: 'Field within',
  border: 'Border',
  height: 'Band',
};

/** The area a zone has on its surface as it is now, mm². */
export async function areaOf(project: Project, zone: Surface): Promise<number> {
  const trial: Project = { ...project, surfaces: { ...project.surfaces, [zone.id]: zone } };
  const [region] = regionsOf(trial, zone);
  return (await sheetService().summary(sheetRequest(trial, region))).trueArea;
}

/** A zone of some shape on a surface, over those it has; it starts with what its surface is laid with. */
export function zoneOn(project: Project, surface: Surface, shape: ZoneShape, name = NAMES[shape.kind]): Surface {
  const others = Object.values(project.surfaces).filter((s) => s.zone?.of === surface.id);
  const alike = others.filter((z) => z.name.startsWith(name)).length;
  const rank = others.reduce((n, z) => Math.max(n, z.zone!.rank + 1), 0);
  return {
    ...surface,
    id: newId('zone'),
    name: alike ? `${name} ${alike + 1}` : name,
    faces: [],
    zone: { of: surface.id, rank, shape },
  };
}

/**
 * Draws a zone on each of some surfaces, measured from each one's own sheet, and picks them. Where nothing of it lies,
 * that is said.
 * @param become what it is called and laid with, where that is not what its surface has
 */
export async function addZones(
  surfaces: readonly Surface[],
  shape: ZoneShape,
  become: Partial<{ name: string; spec: (own: Surface['spec']) => Surface['spec'] }> = {},
): Promise<void> {
  const { project } = useProject.getState();
  if (!project) return;
  try {
    const trials = surfaces.map((surface) => {
      const zone = zoneOn(project, surface, shape, become.name);
      return become.spec ? { ...zone, spec: become.spec(zone.spec) } : zone;
    });
    const areas = await Promise.all(trials.map((zone) => areaOf(project, zone)));
    const drawn = trials.flatMap((zone, n) => (areas[n] > 0 ? [{ ...zone, areaMm2: areas[n] }] : []));
    const missed = surfaces.filter((_, n) => !(areas[n] > 0)).map((s) => s.name);
    if (!drawn.length) return void toast('Nothing of that lies on the surface.');
    useProject.getState().run(drawn.map((zone) => ({ kind: 'addZone', zone })));
    useSelection.getState().select(drawn.map((z) => z.id));
    if (missed.length) toast(`Nothing of it lies on ${missed.slice(0, 4).join(', ')}.`);
  } catch (error) {
    toast.error('The zone could not be drawn', { description: messageOf(error) });
  }
}

/** The surfaces a zone is drawn on: all that are picked, zones left out; the one seen where none is. */
export function zoneBases(seen: Surface): Surface[] {
  const { project } = useProject.getState();
  const picked = useSelection.getState().ids.flatMap((id) => project?.surfaces[id] ?? []);
  const bases = picked.filter((s) => !s.zone);
  return bases.some((s) => s.id === seen.id) ? bases : [seen];
}

/** The zones that a change of one is a change of: all that are picked and of its kind. */
function pickedAlike(zone: Surface, project: Project): Surface[] {
  const picked = useSelection.getState().ids.flatMap((id) => project.surfaces[id] ?? []);
  const alike = picked.filter((s) => s.zone?.shape.kind === zone.zone!.shape.kind);
  return alike.some((s) => s.id === zone.id) ? alike : [zone];
}

/**
 * Changes a zone's shape, and in all zones of its kind that are picked the same values and no others; steps of one
 * gesture are one step of history.
 */
export async function changeZone(zone: Surface, shape: ZoneShape, gesture?: string): Promise<void> {
  const { project } = useProject.getState();
  if (!project || !zone.zone) return;
  const before = zone.zone.shape as Record<string, unknown>;
  const changed = Object.fromEntries(Object.entries(shape).filter(([key, value]) => before[key] !== value));
  try {
    const zones = pickedAlike(zone, project).map((z): Surface => ({
      ...z,
      zone: { ...z.zone!, shape: { ...z.zone!.shape, ...changed } as ZoneShape },
    }));
    const areas = await Promise.all(zones.map((z) => areaOf(project, z)));
    useProject.getState().run(
      zones.map((z, n) => ({ kind: 'setZone', id: z.id, shape: z.zone!.shape, areaMm2: areas[n] })),
      gesture,
    );
  } catch (error) {
    toast.error('The zone could not be changed', { description: messageOf(error) });
  }
}
