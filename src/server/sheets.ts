import { countsAcross, placeSpec, repeatOf } from '@/core/dress/placement';
import { readMeshes } from '@/core/formats/meshFile';
import { buildSheet } from '@/core/mapping/sheet';
import { readBlob } from './data';
import { notFound } from './problem';
import { readProject } from './projects';

/** A surface laid flat, as the API gives it. */
export async function describeSheet(projectId: string, surfaceId: string) {
  const { project, revision } = await readProject(projectId);
  const surface = Object.hasOwn(project.surfaces, surfaceId) ? project.surfaces[surfaceId] : null;
  if (!surface) throw notFound('surface', surfaceId);
  const part = project.parts[surface.part];
  const mesh = readMeshes(await readBlob(project.models[part.model].mesh))[part.mesh];
  const spec = surface.spec;
  const sheet = buildSheet(mesh, surface.faces, spec?.mapping ?? { kind: 'flat', direction: 'auto' });
  const material = spec ? project.materials[spec.material] : null;
  const laid =
    spec && material
      ? {
          ...placeSpec(spec, material, sheet, part.origin),
          counts: countsAcross(sheet, repeatOf(spec, material), spec.direction.turnDeg),
          pxPerMm: material.maps.baseColour
            ? material.maps.baseColour.widthPx / repeatOf(spec, material).widthMm
            : null,
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
    breaks: sheet.breaks,
    laid,
  };
}
