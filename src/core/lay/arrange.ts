import type { Vec3 } from '../geometry/vec';
import { hash } from '../noise/hash';
import { areaOf } from '../layout/area';
import type { JointSpec } from '../layout/joint';
import { layoutOf, type Layouts, openLayout } from '../layout/registry';
import { closeRing } from '../layout/ring';
import type { OpenLayout } from '../layout/types';
import type { Sheet, SheetSummary } from '../mapping/sheet';
import type { Material } from '../material/schema';
import { goAround } from '../setout/around';
import { gaugedOn } from '../setout/gauge';
import { frameOf, type LayoutFrame, loopInLayout } from '../setout/layoutFrame';
import { placeSpec } from '../setout/placement';
import { liesInPieces, repeatOf, type Sized, type Spec, type SpecInPieces } from '../specification/schema';
import type { PieceMaterial, Varied } from '../variation/appearance';
import { openDealer } from '../variation/deal';
import { openPrints, turnsOfPrints } from '../variation/prints';
import { plainVariation } from '../variation/schema';
import { openTones } from '../variation/tone';
import { type Bodies, findBodies } from './bodies';
import type { CellSource } from './cellSource';
import { laidCells } from './laidCells';

/** The pieces of a region, ready to be asked for: nothing is laid yet. */
export interface Arrangement extends Varied {
  frame: LayoutFrame;
  layout: OpenLayout;
  cells: CellSource;
  joint: JointSpec;
}

export type MaterialsById = Record<string, Material | undefined>;

/** What of a region is arranged. */
export interface ToArrange {
  id: string;
  spec: Spec | null;
  origin: Vec3;
}

/** @returns null when it is laid as one whole picture, or its material is not there */
export function arrange(
  { id, spec: asked, origin }: ToArrange,
  sheet: Sheet,
  materials: MaterialsById,
  layouts?: Layouts,
): Arrangement | null {
  const main = asked ? materials[asked.material] : undefined;
  if (!asked || !main || !liesInPieces(asked)) return null;
  const frame = frameOf(placeSpec(asked, main, sheet, origin));
  const spec = gaugedOn(asked, sheet, layouts).spec as SpecInPieces;
  const { layout, cells } = cellsOf(spec, sheet, frame, layouts);
  const { joint, mix } = spec.pieces;
  const { mirror } = spec.mapping;
  const own = spec.variation ?? plainVariation();
  const variation = cells.single
    ? { ...own, shuffle: hash(own.shuffle, hashText(mirror?.of ?? id), 0, ALONE) >>> 1 }
    : own;
  const describe = (material: Material, size: Sized): PieceMaterial => ({
    material,
    widthMm: size.widthMm,
    heightMm: size.heightMm,
    prints: openPrints(material, size, variation, layout.largest, layout.mostNeighbours),
    turns: turnsOfPrints(material, variation),
    tones: openTones(variation, material.colour),
  });
  const laidMain = describe(main, repeatOf(spec, main));
  // a material that is not there leaves its place to the main one
  const mixed = mix.entries.map((e) => materials[e.material]).map((m) => (m ? describe(m, m) : laidMain));
  const all = [laidMain, ...mixed];
  const prints = all.map((m) => m.prints);
  return {
    frame,
    layout,
    cells,
    joint,
    variation,
    materials: all,
    dealer: openDealer(layout, variation, prints, mix),
    upright: mirror?.prints === 'upright',
  };
}

/** Bodies of the mesh, or what a layout lays; sized and closed where it goes exactly so many times round. */
function cellsOf(spec: SpecInPieces, sheet: Sheet, frame: LayoutFrame, layouts?: Layouts): Bodies {
  const { layout: arranged, joint } = spec.pieces;
  const { cells, eachPolygon } = layoutOf(arranged, layouts);
  if (cells === 'bodies') return findBodies(sheet, frame, eachPolygon?.(arranged));
  const area = areaOnSheet(sheet, frame);
  const around = goAround(spec, sheet.ring, layouts);
  const layout = around?.layout
    ? closeRing(openLayout(around.layout, joint, area, layouts), around.ring)
    : openLayout(arranged, joint, area, layouts);
  return { layout, cells: laidCells(sheet, layout, frame) };
}

const areaOnSheet = (sheet: SheetSummary, frame: LayoutFrame) =>
  areaOf(
    sheet.charts.flatMap((c) => c.outline).map((loop) => loopInLayout(frame, loop)),
    sheet.ring !== null,
  );

/** So that boards that are surfaces of their own, each the first and only piece, are dealt to over all of them. */
const ALONE = 91;

/** A text as 32 bits (FNV-1a). */
function hashText(text: string): number {
  let h = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) h = Math.imul(h ^ text.charCodeAt(i), 0x01000193);
  return h >>> 0;
}
