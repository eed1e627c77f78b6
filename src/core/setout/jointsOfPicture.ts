import type { Vec2 } from '../geometry/vec';
import { defaultJoint } from '../layout/joint';
import { noMix } from '../layout/mix';
import { planks } from '../layout/planks';
import type { LayoutSpec } from '../layout/schema';
import type { BondFound, JointLines } from '../picture/jointLines';
import type { Sized, Spec } from '../specification/schema';
import { plainVariation } from '../variation/schema';
import { directionOnSheet, frameOf } from './layoutFrame';

/** The joints in a picture, mm at the size it is laid; places count from its lower left corner. */
export interface PictureJoints {
  /** Courses run along the picture's x or y. */
  along: 'x' | 'y';
  bed: { pitchMm: number; firstMm: number; widthMm: number };
  /** Null for boards as long as the picture. */
  end: { pitchMm: number; firstMm: number; widthMm: number; shorterMm: number | null; bond: BondFound } | null;
  confidence: number;
}

/** @param pixels of the picture in which the lines were found */
export function jointsInMm(
  { along, beds, ends, confidence }: JointLines,
  pixels: { width: number; height: number },
  size: Sized,
): PictureJoints {
  const [across, up] = [size.widthMm / pixels.width, size.heightMm / pixels.height];
  const [bed, end] = along === 'x' ? [up, across] : [across, up];
  const family = (f: { pitch: number; first: number; width: number }, k: number) => ({
    pitchMm: f.pitch * k,
    firstMm: f.first * k,
    widthMm: f.width * k,
  });
  return {
    along,
    bed: family(beds, bed),
    end: ends && { ...family(ends, end), shorterMm: ends.shorter && ends.shorter * end, bond: ends.bond },
    confidence,
  };
}

/** What falls on a limit: where a piece begins, the middle of a joint, or where the joint before the piece begins. */
export type OnLimit = 'face' | 'middle' | 'joint';
const BEFORE: Record<OnLimit, number> = { face: 0.5, middle: 0, joint: -0.5 };

/** The place of the picture that comes to the limit, from its lower left corner, mm. */
function placeOf({ along, bed, end }: PictureJoints, on: OnLimit): Vec2 {
  const across = bed.firstMm + BEFORE[on] * bed.widthMm;
  const lengthwise = end ? end.firstMm + BEFORE[on] * end.widthMm : 0;
  return along === 'x' ? [lengthwise, across] : [across, lengthwise];
}

/** The start at which a whole piece, or a joint, begins at the sheet's lower left corner. */
export function startOnJoint(spec: Spec, joints: PictureJoints, on: OnLimit): Spec['start'] {
  const [x, y] = directionOnSheet(frameOf({ at: [0, 0], ...spec.direction }), ...placeOf(joints, on));
  return { datum: 'corner', xMm: -x, yMm: -y };
}

/** Whole and half millimetres, as sizes are spoken of. */
const spoken = (mm: number) => Math.round(mm * 2) / 2;

/** A layout, and its joints' widths. */
export interface EquivalentLayout {
  layout: LayoutSpec;
  joint: { alongMm: number; acrossMm: number };
}

/** The layout that lays in pieces what lies in the picture; null for ends that follow no rule. */
export function equivalentLayout({ bed, end }: PictureJoints): EquivalentLayout | null {
  const acrossMm = spoken(bed.widthMm);
  const heightMm = spoken(bed.pitchMm - acrossMm);
  if (!end) {
    const widths = { kind: 'one', mm: heightMm } as const;
    const layout: LayoutSpec = { ...planks.preset.spec, widths };
    return { layout, joint: { alongMm: acrossMm, acrossMm } };
  }
  const alongMm = spoken(end.widthMm);
  const lengthMm = spoken(end.pitchMm - alongMm);
  const headerMm = end.shorterMm === null ? 0 : spoken(end.shorterMm - alongMm);
  const layout = ofBond(end.bond, lengthMm, headerMm, heightMm);
  return layout && { layout, joint: { alongMm, acrossMm } };
}

function ofBond(bond: BondFound, lengthMm: number, headerMm: number, heightMm: number): LayoutSpec | null {
  const brick = { stretcherMm: lengthMm, headerMm, heightMm, closers: true };
  switch (bond) {
    case 'in line':
      return { kind: 'grid', widthMm: lengthMm, heightMm, shift: 0, diagonal: false, across: null, up: null };
    case 'half':
      return { kind: 'stretcher', lengthMm, heightMm, lap: 0.5, raking: false };
    case 'third':
      return { kind: 'stretcher', lengthMm, heightMm, lap: 1 / 3, raking: true };
    case 'stretchers and headers':
      return { kind: 'flemish', ...brick };
    case 'courses in turn':
      return { kind: 'english', ...brick };
    case 'irregular':
      return null;
  }
}

/**
 * The spec in pieces that lie where the picture's do, each showing what the picture has there. Courses that stand are
 * turned, and their pieces take prints of their own.
 * @param colour of the joints
 */
export function asPieces(spec: Spec, joints: PictureJoints, { layout, joint }: EquivalentLayout, colour: string): Spec {
  const { turnDeg } = spec.direction;
  const [px, py] = placeOf(joints, 'face');
  const [x, y] = directionOnSheet(frameOf({ at: [0, 0], ...spec.direction }), px, py);
  const lies = joints.along === 'x';
  const turned = lies ? turnDeg : turnDeg + (turnDeg >= 270 ? -270 : 90);
  return {
    ...spec,
    start: { ...spec.start, xMm: spec.start.xMm + x, yMm: spec.start.yMm + y },
    direction: { ...spec.direction, turnDeg: turned },
    pieces: { layout, joint: { ...defaultJoint(joint.acrossMm, colour), ...joint }, mix: noMix() },
    variation: { ...plainVariation(), ...(lies ? { on: false, pictureAtMm: [-px, -py] } : {}) },
  };
}

/** A count of courses that fills a length, and by how much the picture grows for it. */
export interface PictureCount {
  count: number;
  /** 1.02 is two percent larger. */
  grows: number;
  pitchMm: number;
  jointMm: number;
}

/** How many counts are offered on either side of the nearest. */
const BESIDE = 2;

/**
 * The counts of courses that come out whole between two limits when the picture is made larger or smaller: with both
 * limits on faces n courses have n − 1 joints, from middle to middle n, with a whole joint at either end n + 1. What
 * changes least comes first.
 */
export function pictureCounts({ bed }: PictureJoints, lengthMm: number, on: OnLimit): PictureCount[] {
  const more = -2 * BEFORE[on];
  const nearest = Math.round((lengthMm - more * bed.widthMm) / bed.pitchMm);
  const out: PictureCount[] = [];
  for (let count = Math.max(1, nearest - BESIDE); count <= nearest + BESIDE; count++) {
    const grows = lengthMm / (count * bed.pitchMm + more * bed.widthMm);
    out.push({ count, grows, pitchMm: bed.pitchMm * grows, jointMm: bed.widthMm * grows });
  }
  return out.sort((a, b) => Math.abs(Math.log(a.grows)) - Math.abs(Math.log(b.grows)));
}

/** Whether courses of the picture lie over each other up the sheet, or side by side across it; null where aslant. */
export function stackedAlong({ direction }: Pick<Spec, 'direction'>, along: 'x' | 'y'): 'up' | 'across' | null {
  const quarters = direction.turnDeg / 90;
  if (Math.abs(quarters - Math.round(quarters)) > 1e-9) return null;
  return (Math.round(quarters) % 2 === 0) === (along === 'x') ? 'up' : 'across';
}

/** The spec with its picture so much larger, beginning on its joints at the sheet's lower left corner. */
export function gaugePicture(spec: Spec, size: Sized, joints: PictureJoints, on: OnLimit, grows: number): Spec {
  const { locked } = spec.repeat;
  const [x, y] = [locked || joints.along === 'y' ? grows : 1, locked || joints.along === 'x' ? grows : 1];
  const own = { widthMm: size.widthMm * x, heightMm: size.heightMm * y };
  const by = (f: { pitchMm: number; firstMm: number; widthMm: number }, k: number) => ({
    pitchMm: f.pitchMm * k,
    firstMm: f.firstMm * k,
    widthMm: f.widthMm * k,
  });
  const [bed, end] = joints.along === 'x' ? [y, x] : [x, y];
  const grown: PictureJoints = {
    ...joints,
    bed: by(joints.bed, bed),
    end: joints.end && { ...joints.end, ...by(joints.end, end) },
  };
  return { ...spec, repeat: { ...spec.repeat, own }, start: startOnJoint(spec, grown, on) };
}
