import { toast } from 'sonner';
import type { Material } from '@/core/material/schema';
import { regionsAt } from '@/core/project/regions';
import type { Surface } from '@/core/project/schema';
import { defaultSpec } from '@/core/specification/schema';
import type { RectangleShape } from '@/core/zones/schema';
import type { Static } from '@sinclair/typebox';
import { useProject } from '../../project/projectStore';
import { useSelection } from '../../project/selection';
import { sheetService, uncutRequest } from '../../project/sheetService';
import { messageOf } from '../../shared/api';
import { areaOf, zoneOn } from './addZone';

/**
 * Lays a material once, at its true size in the middle of each surface, over what is there: a zone that is just as
 * large as its picture, so that all around it what was laid stays as it was.
 */
export async function layOnce(surfaces: readonly Surface[], material: Material): Promise<void> {
  const { project } = useProject.getState();
  const bases = surfaces.filter((s) => !s.zone);
  if (!project || !bases.length) return;
  try {
    const zones = await Promise.all(
      bases.map(async (surface) => {
        const [region] = regionsAt(project, surface);
        const { bounds: b } = await sheetService().summary(uncutRequest(project, region));
        const shape: Static<typeof RectangleShape> = {
          kind: 'rectangle',
          xMm: (b.maxX - b.minX - material.widthMm) / 2,
          yMm: (b.maxY - b.minY - material.heightMm) / 2,
          widthMm: material.widthMm,
          heightMm: material.heightMm,
        };
        const zone = { ...zoneOn(project, surface, shape), name: material.name, spec: null };
        return { ...zone, areaMm2: await areaOf(project, zone) };
      }),
    );
    const specs = Object.fromEntries(zones.map((z) => [z.id, defaultSpec(material.id)]));
    const materials = project.materials[material.id] ? [] : [material];
    useProject
      .getState()
      .run([...zones.map((zone) => ({ kind: 'addZone' as const, zone })), { kind: 'setSpecs', specs, materials }]);
    useSelection.getState().select(zones.map((z) => z.id));
  } catch (error) {
    toast.error(`${material.name} could not be laid`, { description: messageOf(error) });
  }
}

/** Width of an edge to begin with, mm. */
const EDGE = 100;

/**
 * An edge all round a zone: the zone as it is comes to lie over one that is larger by the edge, which is picked, so
 * that the next material is the edge's.
 */
export async function edgeZone(zone: Surface): Promise<void> {
  const { project } = useProject.getState();
  const shape = zone.zone?.shape;
  if (!project || !shape) return;
  const larger =
    shape.kind === 'rectangle'
      ? {
          ...shape,
          xMm: shape.xMm - EDGE,
          yMm: shape.yMm - EDGE,
          widthMm: shape.widthMm + 2 * EDGE,
          heightMm: shape.heightMm + 2 * EDGE,
        }
      : shape.kind === 'circle'
        ? { ...shape, radiusMm: shape.radiusMm + EDGE }
        : null;
  if (!larger) return;
  try {
    const over = { ...zoneOn(project, project.surfaces[zone.zone!.of], shape), name: zone.name, spec: zone.spec };
    const edge: Surface = { ...zone, zone: { ...zone.zone!, shape: larger } };
    useProject.getState().run([
      { kind: 'setZone', id: zone.id, shape: larger, areaMm2: await areaOf(project, edge) },
      { kind: 'setSurfaces', ids: [zone.id], name: `${zone.name}, edge` },
      { kind: 'addZone', zone: { ...over, areaMm2: zone.areaMm2 } },
    ]);
    useSelection.getState().select([zone.id]);
    toast(`${zone.name} has an edge of ${EDGE} mm. Choose a material for it.`);
  } catch (error) {
    toast.error('The edge could not be drawn', { description: messageOf(error) });
  }
}

/** Zones that can have an edge all round. */
export const takesEdge = (zone: Surface): boolean =>
  zone.zone?.shape.kind === 'rectangle' || zone.zone?.shape.kind === 'circle';
