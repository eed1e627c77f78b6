import type { PiecesAnswer, SheetAnswer } from '@/api/answers';
import { sayFinding } from '@/core/finding/finding';
import { lay } from '@/core/lay/lay';
import { countsAcross } from '@/core/setout/placement';
import { readMeshes } from '@/core/formats/meshFile';
import { regionsOf } from '@/core/project/regions';
import { liesInPieces, materialsOf } from '@/core/specification/schema';
import { readBlob } from '../store/data';
import { runTask } from '../jobs/pool';
import { notFound } from '../http/problem';
import { readProject } from '../store/projects';

async function openSurface(projectId: string, surfaceId: string) {
  const { project, revision } = await readProject(projectId);
  const surface = Object.hasOwn(project.surfaces, surfaceId) ? project.surfaces[surfaceId] : null;
  if (!surface) throw notFound('surface', surfaceId);
  const [region] = regionsOf(project, surface);
  const { part } = region;
  return { project, revision, region, mesh: { hash: project.models[part.model].mesh, index: part.mesh } };
}

/** Every piece of a surface, as the API gives it; laid on a worker thread. */
export async function describePieces(projectId: string, surfaceId: string): Promise<PiecesAnswer> {
  const { project, revision, region, mesh } = await openSurface(projectId, surfaceId);
  const { id, patches, mapping, cuts, origin, spec, colour } = region;
  if (!spec || !liesInPieces(spec))
    return { surface: surfaceId, revision, pieces: [], summary: null, findings: [], fingerprint: null };
  const materials = Object.fromEntries(materialsOf(spec).map((m) => [m, project.materials[m]]));
  const laid = await runTask('pieces', {
    mesh,
    region: { id, patches, mapping, cuts, origin, spec, colour },
    materials,
    unit: project.unit,
  });
  return { surface: surfaceId, revision, ...laid };
}

/** A surface laid flat, as the API gives it. */
export async function describeSheet(projectId: string, surfaceId: string): Promise<SheetAnswer> {
  const { project, revision, region, mesh: at } = await openSurface(projectId, surfaceId);
  const mesh = readMeshes(await readBlob(at.hash))[at.index];
  const { sheet, placement, materials } = lay(region, [mesh], project.materials);
  const [main] = materials;
  const laid =
    placement && main
      ? {
          ...placement,
          counts: countsAcross(sheet, main, placement.turnDeg),
          pxPerMm: main.material.maps.baseColour ? main.material.maps.baseColour.widthPx / main.widthMm : null,
        }
      : null;
  return {
    surface: surfaceId,
    revision,
    charts: sheet.charts.map((c) => ({
      outline: c.outline,
      boundsMm: c.bounds,
      areaMm2: c.area,
      trueAreaMm2: c.trueArea,
    })),
    boundsMm: sheet.bounds,
    areaMm2: sheet.area,
    trueAreaMm2: sheet.trueArea,
    stretch: sheet.stretch,
    breaks: sheet.breaks.map(({ finding, ...rest }) => ({ ...rest, finding, text: sayFinding(finding, project.unit) })),
    ringMm: sheet.ring,
    notes: sheet.notes.map((n) => sayFinding(n, project.unit)),
    findings: sheet.notes,
    laid,
  };
}
