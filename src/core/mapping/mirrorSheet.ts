import { type Plane, reflectDirection } from '../geometry/plane';
import { dot } from '../geometry/vec';
import { mirrorMesh } from '../mesh/mirror';
import type { PartMesh } from '../mesh/types';
import type { Sheet } from './sheet';
import type { Frame } from './types';

/** A frame of a sheet of the image as one of what stands before the mirror. */
function mirrorFrame({ x, y, offset }: Frame, plane: Plane): Frame {
  const { normal, atMm } = plane;
  return {
    x: reflectDirection(plane, x),
    y: reflectDirection(plane, y),
    offset: [offset[0] + 2 * atMm * dot(normal, x), offset[1] + 2 * atMm * dot(normal, y)],
  };
}

/**
 * The sheet of a mirror image as a sheet of what stands before the mirror: the same coordinates on its faces, so that
 * charts are seen from behind.
 * @param own the mesh before the mirror, where the sheet was not cut finer
 */
export function mirrorSheet(sheet: Sheet, plane: Plane, own?: { image: PartMesh; mesh: PartMesh }): Sheet {
  const corners = sheet.corners.slice();
  // images of faces have their second and third corner the other way round
  for (let i = 0; i < corners.length; i += 6) {
    for (let k = 2; k < 4; k++) [corners[i + k], corners[i + k + 2]] = [corners[i + k + 2], corners[i + k]];
  }
  return {
    ...sheet,
    mesh: own && sheet.mesh === own.image ? own.mesh : mirrorMesh(sheet.mesh, plane),
    corners,
    charts: sheet.charts.map((chart) => ({ ...chart, frame: mirrorFrame(chart.frame, plane) })),
  };
}
