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
  rectangle: 'Inset field',
  circle: 'Round field',
  polygon: 'Outline',
  inset: 'Field',
  border: 'Border',
};

/** The area a zone has on its surface as it is now, mm². */
async function areaOf(project: Project, zone: Surface): Promise<number> {
  const trial: Project = { ...project, surfaces: { ...project.surfaces, [zone.id]: zone } };
  const [region] = regionsOf(trial, zone);
  return (await sheetService().summary(sheetRequest(trial, region))).trueArea;
}

/** Draws a zone on a surface and picks it. It starts with what its surface is laid with, to be changed. */
export async function addZone(surface: Surface, shape: ZoneShape): Promise<void> {
  const { project } = useProject.getState();
  if (!project) return;
  const others = Object.values(project.surfaces).filter((s) => s.zone?.of === surface.id);
  const name = NAMES[shape.kind];
  const alike = others.filter((z) => z.name.startsWith(name)).length;
  const rank = others.reduce((n, z) => Math.max(n, z.zone!.rank + 1), 0);
  const zone: Surface = {
    ...surface,
    id: newId('zone'),
    name: alike ? `${name} ${alike + 1}` : name,
    faces: [],
    zone: { of: surface.id, rank, shape },
  };
  try {
    const areaMm2 = await areaOf(project, zone);
    if (!(areaMm2 > 0)) return void toast('Nothing of that lies on the surface.');
    useProject.getState().run([{ kind: 'addZone', zone: { ...zone, areaMm2 } }]);
    useSelection.getState().select([zone.id]);
  } catch (error) {
    toast.error('The zone could not be drawn', { description: messageOf(error) });
  }
}

/** Gives a zone another shape; steps of one gesture are one step of history. */
export async function changeZone(zone: Surface, shape: ZoneShape, gesture?: string): Promise<void> {
  const { project } = useProject.getState();
  if (!project || !zone.zone) return;
  try {
    const areaMm2 = await areaOf(project, { ...zone, zone: { ...zone.zone, shape } });
    useProject.getState().run([{ kind: 'setZone', id: zone.id, shape, areaMm2 }], gesture);
  } catch (error) {
    toast.error('The zone could not be changed', { description: messageOf(error) });
  }
}
