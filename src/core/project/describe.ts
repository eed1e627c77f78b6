import { sayDifference } from '../specification/difference';
import { changedPortions, type PortionDefinition } from '../specification/portions';
import type { Spec } from '../specification/schema';
import { formatLength } from '../units/length';
import type { Command } from './commands';
import type { Project } from './schema';

const plural = (n: number, one: string) => `${n} ${one}${n === 1 ? '' : 's'}`;

/** What a portion said before and says now. */
function valuesOf({ materials, unit }: Project, { words }: PortionDefinition, old: Spec, after: Spec): string | null {
  const material = materials[after.material];
  if (!material) return null;
  const length = (mm: number, withUnit = true) => formatLength(mm, unit, { withUnit });
  const [was, is] = [old, after].map((spec) => words({ spec, material, unit, length }));
  return was && is ? sayDifference(was, is) : null;
}

/** Who joins a run and who leaves it. */
function describeMembers({ surfaces }: Project, id: string, members: readonly string[]): string {
  const was = surfaces[id]?.run?.members ?? [];
  const names = (ids: string[]) => ids.map((m) => surfaces[m]?.name ?? 'a surface').join(', ');
  const joined = members.filter((m) => !was.includes(m));
  const left = was.filter((m) => !members.includes(m));
  const run = surfaces[id]?.name ?? 'a run';
  if (!joined.length && !left.length) return `Set the members of ${run} in order`;
  const parts = [joined.length ? `${names(joined)} to ${run}` : '', left.length ? `${names(left)} out of ${run}` : ''];
  return `Take ${parts.filter(Boolean).join(', ')}`;
}

/** A line for the history, such as “Lay Smoked oak on Hall floor”. `before` is the project it was applied to. */
export function describeCommand(before: Project, c: Command): string {
  const surfaceNames = (ids: string[]) =>
    ids.length === 1 ? (before.surfaces[ids[0]]?.name ?? 'a surface') : plural(ids.length, 'surface');
  switch (c.kind) {
    case 'setProject':
      if (c.name !== undefined) return `Rename the project “${c.name}”`;
      if (c.unit !== undefined) return `Show lengths in ${c.unit}`;
      if (c.northDeg !== undefined) return `Turn north to ${c.northDeg}°`;
      return sunMoved(before.light, c.light) ? 'Move the sun' : 'Change the light';
    case 'addModel':
      return `Bring in ${c.model.name}`;
    case 'removeModel':
      return `Take out ${before.models[c.model]?.name ?? 'a model'}`;
    case 'updateModel':
      return `Bring pictures for ${c.model.name}`;
    case 'setParts':
      if (c.name !== undefined) return `Rename a part “${c.name}”`;
      return `${c.locked ? 'Lock' : 'Unlock'} ${plural(c.ids.length, 'part')}`;
    case 'setSurfaces':
      if (c.name !== undefined) return `Rename a surface “${c.name}”`;
      if (c.hidden !== undefined) return `${c.hidden ? 'Hide' : 'Show'} ${surfaceNames(c.ids)}`;
      return `${c.leftBare ? 'Leave bare' : 'No longer leave bare'}: ${surfaceNames(c.ids)}`;
    case 'mergeSurfaces':
      return `Merge ${plural(c.ids.length, 'surface')} into “${c.into.name}”`;
    case 'splitSurface':
      return `Split ${surfaceNames([c.id])} into ${c.into.length}`;
    case 'setSpecs': {
      const ids = Object.keys(c.specs);
      const on = surfaceNames(ids);
      const after = c.specs[ids[0]];
      const old = before.surfaces[ids[0]]?.spec;
      if (!after) return `Strip ${on}`;
      const materials = new Map((c.materials ?? []).map((m) => [m.id, m.name]));
      const name = materials.get(after.material) ?? before.materials[after.material]?.name ?? 'material';
      if (!old || old.material !== after.material) return `Lay ${name} on ${on}`;
      const changed = changedPortions(old, after);
      if (!changed.length) return `Set ${on}`;
      const said = changed.length === 1 ? valuesOf(before, changed[0], old, after) : null;
      return `Set ${changed.map((p) => p.label).join(', ')} of ${on}${said ? `: ${said}` : ''}`;
    }
    case 'setOption':
      return `${before.options?.[c.option.id] ? 'Change' : 'Set aside'} the option “${c.option.name}”`;
    case 'removeOption':
      return `Remove the option “${before.options?.[c.id]?.name ?? ''}”`;
    case 'keepOption':
      return `Keep the option “${before.options?.[c.id]?.name ?? ''}”`;
    case 'carveSurface':
      return `Make a surface “${c.into.name}” of picked faces`;
    case 'flipFaces':
      return `Flip faces of ${before.parts[c.part]?.name ?? 'a part'}`;
    case 'pushFaces':
      return `Push ${c.push.name} ${c.push.byMm < 0 ? 'in' : 'out'} by ${Math.abs(c.push.byMm)} mm`;
    case 'addRun':
      return `Set ${plural(c.run.run?.members.length ?? 0, 'surface')} out as the run “${c.run.name}”`;
    case 'setRun':
      return describeMembers(before, c.id, c.members);
    case 'removeRun':
      return `Part the run ${surfaceNames([c.id])}`;
    case 'addZone':
      return `Draw zone “${c.zone.name}”`;
    case 'setZone':
      return `Change ${surfaceNames([c.id])}`;
    case 'removeZone':
      return `Remove ${surfaceNames([c.id])}`;
    case 'saveSelection':
      return `Keep selection “${c.selection.name}”`;
    case 'removeSelection':
      return `Remove selection “${before.selections[c.id]?.name ?? ''}”`;
    case 'isolate':
      return c.ids ? `Show ${surfaceNames(c.ids)} alone` : 'Show all again';
    case 'setLevel':
      return before.levels[c.level.id] ? `Move level “${c.level.name}”` : `Set level “${c.level.name}”`;
    case 'removeLevel':
      return `Remove level “${before.levels[c.id]?.name ?? ''}”`;
    case 'reviseModel':
      return `Bring ${c.model.name} in again`;
    case 'setValue': {
      const was = before.values?.[c.value.id];
      if (was && was.name !== c.value.name) return `Rename value “${was.name}” “${c.value.name}”`;
      return `Set ${c.value.name} = ${c.value.sum}${was ? `, before ${was.sum}` : ''}`;
    }
    case 'removeValues':
      return `Clear ${c.ids.map((id) => before.values?.[id]?.name ?? 'a value').join(', ')}`;
    case 'useMaterial':
      return `Take ${c.material.name} from the library`;
    case 'replaceMaterial':
      return `Replace ${before.materials[c.from]?.name ?? 'a material'} by ${c.to.name}`;
    case 'dropMaterials':
      return `Clear ${plural(c.ids.length, 'unused material')}`;
    case 'saveView':
      return `Keep view “${c.view.name}”`;
    case 'removeView':
      return `Remove view “${before.views[c.id]?.name ?? ''}”`;
    case 'saveStill':
      return `Keep still “${c.still.name}”`;
    case 'removeStill':
      return `Remove still “${before.stills?.[c.id]?.name ?? ''}”`;
    case 'saveReference':
      return `Pin “${c.reference.name}” beside the view`;
    case 'removeReference':
      return `Take “${before.references?.[c.id]?.name ?? ''}” from beside the view`;
  }
}

/** The sun is elsewhere, or stronger: the rest of the light is how it is looked at. */
const sunMoved = (before: Project['light'], after?: Project['light']): boolean =>
  !after || (['bearingDeg', 'altitudeDeg', 'strength'] as const).some((k) => before[k] !== after[k]);
