import type { PieceMaterial } from '../variation/appearance';
import { placeSpec } from '../setout/placement';
import type { Vec3 } from '../geometry/vec';
import { areaOf } from '../layout/area';
import { isLaid, type LaidSpec, openLayout } from '../layout/registry';
import { closeRing } from '../layout/ring';
import type { JointSpec, PiecesSpec } from '../layout/schema';
import type { OpenLayout } from '../layout/types';
import type { Loop } from '../geometry/loop';
import type { Sheet, SheetSummary } from '../mapping/sheet';
import type { Material } from '../material/schema';
import { type Spec, liesInPieces, repeatOf } from '../specification/schema';
import { type Dealer, openDealer } from '../variation/deal';
import { openPrints, type Prints, turnsOfPrints } from '../variation/prints';
import { plainVariation, type VariationSpec } from '../variation/schema';
import { openTones, type Tones } from '../variation/tone';
import { goAround } from '../setout/around';
import { type Bodies, findBodies } from './bodies';
import { frameOf, type LayoutFrame, toLayout } from '../setout/layoutFrame';

/** The pieces of one surface, ready to be asked for: nothing is laid yet. */
export interface OpenPieces {
  frame: LayoutFrame;
  layout: OpenLayout;
  /** Where pieces are found in the mesh, not laid on the sheet. */
  bodies: Bodies | null;
  joint: JointSpec;
  variation: VariationSpec;
  /** The main material first, then those mixed in. */
  materials: PieceMaterial[];
  dealer: Dealer;
}

export type MaterialsById = Record<string, Material | undefined>;

/** @returns null when the surface is laid as one whole picture, or its material is not there */
export function openPieces(spec: Spec, sheet: Sheet, materials: MaterialsById, partOrigin: Vec3): OpenPieces | null {
  const main = materials[spec.material];
  if (!main || !liesInPieces(spec)) return null;
  const frame = frameOf(placeSpec(spec, main, sheet, partOrigin));
  const { layout: arranged, joint, mix } = spec.pieces;
  const bodies = isLaid(arranged) ? null : findBodies(sheet, frame);
  const layout = isLaid(arranged) ? layOut(arranged, spec, sheet, frame) : bodies!.layout;
  const variation = spec.variation ?? plainVariation();
  const describe = (material: Material, size: { widthMm: number; heightMm: number }): PieceMaterial => ({
    material,
    ...size,
    prints: openPrints(material, size, variation, layout.largest, layout.mostNeighbours),
    turns: turnsOfPrints(material, variation),
    tones: openTones(variation, material.colour),
  });
  const own = describe(main, repeatOf(spec, main));
  // a material that is not there leaves its place to the main one
  const mixed = mix.entries.map((e) => materials[e.material]).map((m) => (m ? describe(m, m) : own));
  const all = [own, ...mixed];
  const dealer = openDealer(
    layout,
    variation,
    all.map((m) => m.prints),
    mix,
  );
  return { frame, layout, bodies, joint, variation, materials: all, dealer };
}

/** The layout on its sheet; where it goes exactly so many times round something closed, sized and closed for that. */
function layOut(arranged: LaidSpec, spec: Spec & { pieces: PiecesSpec }, sheet: Sheet, frame: LayoutFrame): OpenLayout {
  const { joint } = spec.pieces;
  const area = areaOnSheet(sheet, frame);
  const around = goAround(spec, sheet.ring);
  if (!around?.layout) return openLayout(arranged, joint, area);
  return closeRing(openLayout(around.layout, joint, area), around.ring);
}

const areaOnSheet = (sheet: SheetSummary, frame: LayoutFrame) =>
  areaOf(sheet.charts.flatMap((c) => c.outline).map((loop) => loopInLayout(frame, loop)));

export const loopInLayout = (frame: LayoutFrame, loop: Loop): Loop => loop.map(([x, y]) => toLayout(frame, x, y));
