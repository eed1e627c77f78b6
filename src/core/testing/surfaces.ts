import earcut from 'earcut';
import { arrange, type Arrangement, type MaterialsById } from '../lay/arrange';
import { listPieces, type Piece } from '../lay/pieces';
import { buildSheet, type Sheet } from '../mapping/sheet';
import type { Loop } from '../geometry/loop';
import { defaultFinish, type Material } from '../material/schema';
import type { PartMesh } from '../mesh/types';
import { type LayoutSpec } from '../layout/schema';
import { noMix } from '../layout/mix';
import { defaultJoint } from '../layout/joint';
import { defaultSpec, type Spec } from '../specification/schema';
import { plainVariation, type VariationSpec } from '../variation/schema';

/** Upright walls facing south (x right, y up) from outlines in mm, and what is laid on them, for tests. */

export const rectangle = (width: number, height: number): Loop => [
  [0, 0],
  [width, 0],
  [width, height],
  [0, height],
];

export const polygon = (radius: number, sides: number, turn = 0, x = 0, y = 0): Loop =>
  Array.from({ length: sides }, (_, i) => {
    const a = turn + (i / sides) * 2 * Math.PI;
    return [x + radius * Math.cos(a), y + radius * Math.sin(a)];
  });

/** A flat wall with holes; the first loop is the outside. */
export function wallMesh([outer, ...holes]: Loop[]): PartMesh {
  const points = [outer, ...holes].flat();
  const starts = holes.map((_, i) => [outer, ...holes.slice(0, i)].flat().length);
  const indices = Uint32Array.from(earcut(points.flat(), starts));
  for (let f = 0; f < indices.length; f += 3) {
    const [a, b, c] = [points[indices[f]], points[indices[f + 1]], points[indices[f + 2]]];
    const area = (b[0] - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (b[1] - a[1]);
    if (area < 0) [indices[f + 1], indices[f + 2]] = [indices[f + 2], indices[f + 1]];
  }
  return {
    origin: [0, 0, 0],
    positions: Float32Array.from(points.flatMap(([x, y]) => [x, y, 0])),
    normals: Float32Array.from(points.flatMap(() => [0, 0, 1])),
    uvs: [],
    indices,
    slots: new Uint16Array(indices.length / 3),
  };
}

export function wallSheet(mesh: PartMesh): Sheet {
  return buildSheet(mesh, [0, mesh.indices.length / 3], { kind: 'flat', direction: 'auto' });
}

export const oak = (rest: Partial<Material> = {}): Material => ({
  id: 'oak',
  version: 1,
  name: 'Oak',
  kind: 'wood',
  tags: [],
  widthMm: 2280,
  heightMm: 1140,
  maps: {},
  colour: '#8a6a48',
  grain: 'x',
  seamless: true,
  twoSided: false,
  sampling: 'soft',
  finish: defaultFinish(),
  source: '',
  licence: '',
  credit: '',
  repetition: null,
  builtIn: false,
  ...rest,
});

export interface Laid {
  layout: LayoutSpec;
  joint?: number;
  turnDeg?: number;
  start?: [number, number];
  variation?: Partial<VariationSpec>;
}

export function laidSpec({ layout, joint = 2, turnDeg = 0, start = [0, 0], variation = {} }: Laid): Spec {
  return {
    ...defaultSpec('oak'),
    start: { datum: 'corner', xMm: start[0], yMm: start[1] },
    direction: { turnDeg, mirrorX: false, mirrorY: false },
    pieces: { layout, joint: defaultJoint(joint), mix: noMix() },
    variation: { ...plainVariation(), ...variation },
  };
}

/** The pieces of a spec on a sheet, as they come out. */
export const listOn = (spec: Spec, sheet: Sheet, materials: MaterialsById = { oak: oak() }): Piece[] =>
  listPieces(arrangeOn(spec, sheet, materials));

/** A spec that lies in pieces, arranged on a sheet. */
export const arrangeOn = (spec: Spec, sheet: Sheet, materials: MaterialsById = { oak: oak() }): Arrangement =>
  arrange({ id: 'surface', spec, origin: [0, 0, 0] }, sheet, materials)!;
