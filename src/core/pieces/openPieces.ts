import { placeSpec, repeatOf } from '../dress/placement';
import type { Vec3 } from '../geometry/vec';
import { areaOf } from '../layout/area';
import { below, rehash, unit } from '../layout/hash';
import { isLaid, type LaidSpec, openLayout } from '../layout/registry';
import { closeRing } from '../layout/ring';
import type { JointSpec, PiecesSpec } from '../layout/schema';
import type { OpenLayout } from '../layout/types';
import type { Loop } from '../mapping/outline';
import type { Sheet, SheetSummary } from '../mapping/sheet';
import type { Material } from '../material/schema';
import { liesInPieces, type Spec } from '../spec/schema';
import { type Dealer, openDealer } from '../variation/deal';
import { openPrints, type Prints, turnsOfPrints } from '../variation/prints';
import { plainVariation, type VariationSpec } from '../variation/schema';
import { openTones, type Tones } from '../variation/tone';
import { goAround } from './around';
import { type Bodies, findBodies } from './bodies';
import { frameOf, type LayoutFrame, toLayout } from './frame';

/** One of the materials pieces are made of. */
export interface PieceMaterial {
  material: Material;
  widthMm: number;
  heightMm: number;
  prints: Prints;
  /** [cos, sin] of the turns a print can have. */
  turns: readonly (readonly [number, number])[];
  tones: Tones;
}

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
  const dealer = openDealer(layout, variation, all.map((m) => m.prints), mix); // prettier-ignore
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

/** What a piece looks like: where in which picture it is cut from, and how it differs from others. */
export interface PieceLook {
  material: number;
  print: number;
  seed: number;
  /** Repeats of the picture at the piece's middle, and their change for each mm along and across it. */
  u: number;
  v: number;
  uAlong: number;
  uAcross: number;
  vAlong: number;
  vAcross: number;
  /** Linear gains 0..1. */
  gain: Float64Array;
  /** Lean of the face along and across, radians. */
  leanAlong: number;
  leanAcross: number;
}

export const blankLook = (): PieceLook => ({
  material: 0, print: 0, seed: 0, u: 0, v: 0, uAlong: 0, uAcross: 0, vAlong: 0, vAcross: 0,
  gain: new Float64Array([1, 1, 1]), leanAlong: 0, leanAcross: 0,
}); // prettier-ignore

const place = new Float64Array(2);
const SALT = { turn: 3, size: 4, flipAlong: 5, flipAcross: 6, leanAlong: 14, leanAcross: 15 };

/**
 * The look of one piece, written to `out` (which is used again and again: a large floor has hundreds of thousands).
 * @param x middle of the piece in the layout's frame, mm
 * @param axis [cos, sin] of its length
 */
export function lookAtPiece(
  open: OpenPieces,
  course: number,
  index: number,
  x: number,
  y: number,
  axis: readonly [number, number],
  out: PieceLook,
): PieceLook {
  const { dealer, variation } = open;
  const which = dealer.materialOf(course, index);
  const m = open.materials[which];
  const seed = dealer.seedOf(course, index);
  out.material = which;
  out.seed = seed;
  if (!variation.on) {
    out.print = 0;
    lookOfWhole(m, [x, y], axis, out);
    out.gain[0] = out.gain[1] = out.gain[2] = 1 / m.tones.most;
    out.leanAlong = out.leanAcross = 0;
    return out;
  }
  const print = dealer.printOf(course, index);
  out.print = print;
  m.prints.place(print, seed, place);
  const turn = m.turns[m.turns.length > 1 ? below(rehash(seed, SALT.turn), m.turns.length) : 0];
  const c = turn[0];
  const s = turn[1];
  const { from, to } = variation.sizePercent;
  const percent = from === to ? from : from + (to - from) * chance(seed, SALT.size);
  const k = 100 / percent / m.prints.enlarged;
  const along = variation.flipAlong && chance(seed, SALT.flipAlong) < 0.5 ? -k : k;
  const across = variation.flipAcross && chance(seed, SALT.flipAcross) < 0.5 ? -k : k;
  out.u = place[0] / m.widthMm;
  out.v = place[1] / m.heightMm;
  out.uAlong = (c * along) / m.widthMm;
  out.uAcross = (-s * across) / m.widthMm;
  out.vAlong = (s * along) / m.heightMm;
  out.vAcross = (c * across) / m.heightMm;
  m.tones.gain(seed, out.gain);
  const lean = (variation.tiltDeg * Math.PI) / 180;
  out.leanAlong = lean && lean * (2 * chance(seed, SALT.leanAlong) - 1);
  out.leanAcross = lean && lean * (2 * chance(seed, SALT.leanAcross) - 1);
  return out;
}

/** Coordinates of the picture as it lies on the whole surface, for a piece with its middle at `at` in the layout's frame. */
export function lookOfWhole(
  { widthMm, heightMm }: { widthMm: number; heightMm: number },
  at: readonly [number, number],
  axis: readonly [number, number],
  out: PieceLook,
): PieceLook {
  out.u = at[0] / widthMm;
  out.v = at[1] / heightMm;
  out.uAlong = axis[0] / widthMm;
  out.uAcross = -axis[1] / widthMm;
  out.vAlong = axis[1] / heightMm;
  out.vAcross = axis[0] / heightMm;
  return out;
}

const chance = (seed: number, salt: number) => unit(rehash(seed, salt));
