import type { ProjectCard } from '@/api/answers';
import type { Patch } from '@/core/history/patch';
import { zonesOn } from '@/core/project/regions';
import { patchesOf, runOf } from '@/core/project/runs';
import type { Project, Surface } from '@/core/project/schema';
import { layoutOf } from '@/core/layout/registry';
import { materialsOf, type Spec } from '@/core/specification/schema';

/** What is kept with a project so that lists need not read it. */
export interface ProjectSummary extends Pick<ProjectCard, 'surfaces' | 'dressed' | 'sizeMm'> {
  /** By the colour of what is laid, mm²; in the order in which they were first laid. */
  areas: Record<string, number>;
  /** On how many surfaces each material and each module of the library is laid, by its id. */
  laid: Record<string, number>;
}

/** What is known of a project before a change, and the change. */
export interface Since {
  before: Project;
  summary: ProjectSummary;
  patch: Patch;
}

/** @param since where it is known, only what has changed is looked at */
export function summariseProject(project: Project, since?: Since): ProjectSummary {
  const changed = since && changedSurfaces(since, project);
  if (!changed) {
    const summary: ProjectSummary = { surfaces: 0, dressed: 0, sizeMm: sizeOf(project), areas: {}, laid: {} };
    for (const s of Object.values(project.surfaces)) count(summary, project, s, 1);
    return summary;
  }
  const summary = { ...since.summary, areas: { ...since.summary.areas }, laid: { ...since.summary.laid } };
  for (const id of changed) {
    const [was, is] = [since.before.surfaces[id], project.surfaces[id]] as (Surface | undefined)[];
    if (was) count(summary, since.before, was, -1);
    if (is) count(summary, project, is, 1);
  }
  return summary;
}

/** The colours that cover most, the largest first. */
export const coloursOf = ({ areas }: ProjectSummary): string[] =>
  Object.entries(areas)
    .filter(([, area]) => area > 0)
    .sort((a, b) => b[1] - a[1])
    .slice(0, 6)
    .map(([colour]) => colour);

/** Adds what one surface has to a summary, or takes it away. */
function count(summary: ProjectSummary, project: Project, s: Surface, by: 1 | -1): void {
  const { areas, laid } = summary;
  // a run is as many surfaces as it has members, and those are counted
  const shown = s.run ? patchesOf(project, s).filter((m) => !m.leftBare).length : 1;
  if (!s.leftBare && !s.run) summary.surfaces += by;
  if (!s.spec) return;
  if (!s.leftBare) summary.dressed += by * shown;
  for (const id of takenOf(s.spec)) {
    laid[id] = (laid[id] ?? 0) + by;
    if (!laid[id]) delete laid[id];
  }
  const colour = project.materials[s.spec.material]?.colour ?? '#cccccc';
  const zones = zonesOn(project, s.id).reduce((sum, z) => sum + z.areaMm2, 0);
  // whole mm²: what is taken away again leaves nothing
  areas[colour] = (areas[colour] ?? 0) + by * Math.round(s.areaMm2 - zones);
  if (!areas[colour]) delete areas[colour];
}

/** What of the library a spec is laid with: materials, and the module that its layout was taken from. */
function takenOf(spec: Spec): string[] {
  const layout = spec.pieces?.layout;
  const module = layout && layoutOf(layout).takenFrom?.(layout);
  return [...materialsOf(spec), ...(module ? [module] : [])];
}

/** The surfaces whose share of a summary may be another; null where all may. */
function changedSurfaces({ before, patch }: Since, after: Project): Set<string> | null {
  const changed = new Set<string>();
  for (const { path } of patch) {
    const [of, id] = path;
    if (of === undefined || of === 'materials' || of === 'parts') return null;
    if (of !== 'surfaces') continue;
    if (id === undefined) return null;
    const [was, is] = [before.surfaces[id], after.surfaces[id]] as (Surface | undefined)[];
    if (was && is && sameShare(was, is)) continue;
    changed.add(id);
    // a zone takes from the surface it is drawn on
    for (const s of [was, is]) if (s?.zone) changed.add(s.zone.of);
    // a run dresses its members
    for (const run of [runOf(before, id), runOf(after, id)]) if (run) changed.add(run.id);
  }
  return changed;
}

const sameShare = (a: Surface, b: Surface): boolean =>
  a.leftBare === b.leftBare &&
  a.areaMm2 === b.areaMm2 &&
  a.zone?.of === b.zone?.of &&
  a.run?.members.join() === b.run?.members.join() &&
  (a.spec === b.spec || (!!a.spec && !!b.spec && takenOf(a.spec).join() === takenOf(b.spec).join()));

function sizeOf({ parts }: Project): ProjectSummary['sizeMm'] {
  const all = Object.values(parts);
  if (!all.length) return null;
  const side = (c: number) => {
    let [min, max] = [Infinity, -Infinity];
    for (const p of all) [min, max] = [Math.min(min, p.min[c]), Math.max(max, p.max[c])];
    return max - min;
  };
  return [side(0), side(1), side(2)];
}
