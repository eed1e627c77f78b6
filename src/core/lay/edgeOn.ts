import type { Sheet } from '../mapping/sheet';

/** Less than this of a face on the sheet is no place for a piece, mm²: triangles below it are not mapped back. */
const NO_AREA = 0.5e-6;

/** Whether a face of the sheet is seen edge-on: it has no area there, so that no piece can lie on it. */
export function isEdgeOn({ corners: c }: Sheet, face: number): boolean {
  const o = face * 6;
  const twice = (c[o + 2] - c[o]) * (c[o + 5] - c[o + 1]) - (c[o + 4] - c[o]) * (c[o + 3] - c[o + 1]);
  return !(Math.abs(twice) / 2 > NO_AREA);
}

/** Faces seen edge-on that do have an area on the mesh, in the order of the sheet. */
export function edgeOnFaces(sheet: Sheet): number[] {
  const out: number[] = [];
  for (let i = 0; i < sheet.faces.length; i++) if (isEdgeOn(sheet, i) && areaOnMesh(sheet, i) > LEAST) out.push(i);
  return out;
}

/** Slivers that cutting leaves have no area anywhere, mm². */
const LEAST = 1e-3;

export const edgeOnArea = (sheet: Sheet): number =>
  edgeOnFaces(sheet).reduce((sum, face) => sum + areaOnMesh(sheet, face), 0);

function areaOnMesh({ mesh, faces }: Sheet, face: number): number {
  const { positions: p, indices } = mesh;
  const [a, b, c] = [0, 1, 2].map((k) => indices[faces[face] * 3 + k] * 3);
  const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
  const [vx, vy, vz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
  return Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx) / 2;
}
