import { facingOf } from '../mesh/naming';
import type { Project, Surface } from './schema';
import { laidAlone } from './runs';

/** Surfaces as large as each other within this share are of one size. */
const ONE_SIZE = 0.002;

/**
 * The surfaces that are like one: they face the same way, are as large, and carry the same material or, bare, the same
 * slot of the model. Zones are like zones, runs like runs.
 */
export function alike(project: Project, like: Surface): Surface[] {
  const facing = (s: Surface) => facingOf(s.normal, project.northDeg);
  const slotOf = (s: Surface) => `${project.parts[s.part]?.model} ${s.slot}`;
  const laid = (s: Surface) => s.spec?.material ?? slotOf(s);
  const kind = (s: Surface) => (s.zone ? s.zone.shape.kind : s.run ? 'run' : 'surface');
  return laidAlone(project).filter(
    (s) =>
      kind(s) === kind(like) &&
      facing(s) === facing(like) &&
      Math.abs(s.areaMm2 - like.areaMm2) <= like.areaMm2 * ONE_SIZE &&
      laid(s) === laid(like),
  );
}
