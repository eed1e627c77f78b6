import { dressPieces } from '@/core/dress/dressPieces';
import { type DressedSurface, dressSurface } from '@/core/dress/dressSurface';
import { exportPieces } from '@/core/dress/exportPieces';
import { lay } from '@/core/lay/lay';
import type { PartMesh } from '@/core/mesh/types';
import { type Region, regionsOf } from '@/core/project/regions';
import type { Project, Surface } from '@/core/project/schema';

/** Numbers of one region as whole numbers: pieces, what is drawn, what is handed over. */
export interface Frozen {
  pieces: number[];
  drawn: number[];
  exported: number[];
}

/** Sizes of the quanta: what differs by one of them is the same. */
const MM = 100;
const PICTURE = 10_000;
const SHARE = 1000;

class Numbers {
  readonly list: number[] = [];
  put(scale: number, ...values: number[]): void {
    for (const v of values) this.list.push(Math.round(v * scale));
  }
  all(scale: number, values: ArrayLike<number>): void {
    this.list.push(values.length);
    for (let i = 0; i < values.length; i++) this.list.push(Math.round(values[i] * scale));
  }
}

/** Everything that is laid on a surface or zone of a project. */
export function freezeSurface(project: Project, surface: Surface, mesh: PartMesh, geometry: boolean): Frozen {
  const [pieces, drawn, exported] = [new Numbers(), new Numbers(), new Numbers()];
  for (const region of regionsOf(project, surface))
    freezeRegion(project, region, mesh, pieces, geometry ? [drawn, exported] : null);
  return { pieces: pieces.list, drawn: drawn.list, exported: exported.list };
}

function freezeRegion(
  project: Project,
  region: Region,
  mesh: PartMesh,
  pieces: Numbers,
  geometry: [Numbers, Numbers] | null,
) {
  const { sheet, arrangement, placement, pieces: laid } = lay(region, [mesh], project.materials);
  pieces.put(1, sheet.faces.length, sheet.charts.length);
  pieces.put(MM, sheet.bounds.minX, sheet.bounds.minY, sheet.bounds.maxX, sheet.bounds.maxY);
  if (!sheet.faces.length) return;
  if (!arrangement) {
    if (geometry) freezeDressed(dressSurface(sheet, placement, { tangents: true }), geometry[1]);
    return;
  }
  for (const p of laid) {
    const { appearance: look } = p;
    pieces.put(1, p.course, p.index, p.material, look.print, look.seed | 0, p.whole ? 1 : 0);
    pieces.put(MM, ...p.middle, p.length, p.width, p.area / 100, p.cellArea / 100);
    pieces.put(PICTURE, look.u, look.v, look.uAlong * 100, look.uAcross * 100, look.vAlong * 100, look.vAcross * 100);
    pieces.put(SHARE, ...look.gain, look.leanAlong, look.leanAcross, ...p.axis, ...p.across);
    pieces.put(1, p.outline.length);
    for (const loop of p.outline) pieces.all(MM, loop.flat());
  }
  if (!geometry) return;
  const [drawn, exported] = geometry;
  const places = arrangement.joint.material !== null || arrangement.variation.maps !== null;
  for (const b of dressPieces(sheet, arrangement, { places })) {
    drawn.put(1, b.material);
    drawn.all(MM, b.positions);
    drawn.all(PICTURE, b.uvs);
    drawn.all(MM, b.local);
    drawn.all(MM, b.half);
    drawn.all(1, b.tones);
    drawn.all(MM, b.places);
  }
  const made = exportPieces(arrangement, { tangents: true });
  for (const { material, dressed } of made.pieces) {
    exported.put(1, material);
    freezeDressed(dressed, exported);
  }
  exported.put(1, made.joints.length);
  for (const { dressed } of made.joints) freezeDressed(dressed, exported);
}

function freezeDressed({ positions, normals, uvs, tangents, tones, placesMm, indices }: DressedSurface, out: Numbers) {
  out.all(MM, positions);
  out.all(SHARE, normals);
  out.all(PICTURE, uvs);
  out.all(SHARE, tangents);
  out.all(SHARE, tones ?? []);
  out.all(MM, placesMm ?? []);
  out.all(1, indices);
}
