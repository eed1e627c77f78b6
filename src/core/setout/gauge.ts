import { type Finding, finding } from '../finding/finding';
import { turnOf } from '../geometry/turn';
import type { JointSpec } from '../layout/joint';
import { layoutOf, type Layouts } from '../layout/registry';
import type { LayoutSpec } from '../layout/schema';
import { type SheetSummary, sheetPoint } from '../mapping/sheet';
import type { GaugeEnd, GaugeLimit, GaugeSide } from '../specification/gauge';
import { liesInPieces, type Spec, type SpecInPieces } from '../specification/schema';

/**
 * What repeats in one direction: a course, or the pieces of one pitch along it. It takes `pieceMm` of pieces and so
 * many joints.
 */
export interface Unit {
  pieceMm: number;
  jointMm: number;
  joints: number;
  /** Joints may be other than they are set. */
  free: boolean;
}

export const unitLength = ({ pieceMm, jointMm, joints }: Unit): number => pieceMm + joints * jointMm;

/** What repeats across the courses of a layout, or along them; null where that has no one length. */
export function unitOf(layout: LayoutSpec, joint: JointSpec, along: boolean, layouts?: Layouts): Unit | null {
  const { pitch, course, size, oneJoint = false, jointDrawn } = layoutOf(layout, layouts);
  if (jointDrawn?.(layout)) return null;
  if (!along) {
    const height = course?.(layout, joint);
    if (!height || !size?.get(layout)) return null;
    return { pieceMm: height - joint.acrossMm, jointMm: joint.acrossMm, joints: 1, free: true };
  }
  const length = pitch?.(layout, joint);
  if (!length) return null;
  const wider = { ...joint, alongMm: joint.alongMm + 1, ...(oneJoint ? { acrossMm: joint.acrossMm + 1 } : {}) };
  const joints = Math.round(((pitch!(layout, wider) ?? length) - length) * 1e6) / 1e6;
  const jointMm = oneJoint ? joint.acrossMm : joint.alongMm;
  return { pieceMm: length - joints * jointMm, jointMm, joints, free: !oneJoint };
}

/** The layout with pieces sized so that a unit takes a length; null where one length does not settle it. */
export function resized(
  layout: LayoutSpec,
  joint: JointSpec,
  along: boolean,
  lengthMm: number,
  layouts?: Layouts,
): LayoutSpec | null {
  const { round, size, course } = layoutOf(layout, layouts);
  if (along) return round?.(layout, joint, lengthMm, false) ?? null;
  const sides = size?.get(layout);
  const before = course?.(layout, joint);
  if (!sides || !before) return null;
  const factor = (lengthMm - joint.acrossMm) / (before - joint.acrossMm);
  const made = size!.set(layout, [sides[0], sides[1] * factor]);
  return Math.abs(course!(made, joint) - lengthMm) < 1e-6 ? made : null;
}

/** How much of a joint lies within a limit. */
const WITHIN: Record<GaugeEnd, number> = { face: 0, middle: 0.5, joint: 1 };

/** Joints beyond those of the units: −1 from face to face, 0 from middle to middle, 1 with whole ones at the ends. */
export const spareJoints = ([from, to]: readonly [GaugeEnd, GaugeEnd]): number => WITHIN[from] + WITHIN[to] - 1;

/** So many units between two limits, with what that takes. */
export interface GaugeRow {
  count: number;
  jointMm: number;
  /** Of the pieces in a unit, mm. */
  pieceMm: number;
  /** Change of joints, mm, and of pieces, percent. */
  jointChangeMm: number;
  sizeChangePercent: number;
  /** Within the tolerances. */
  fits: boolean;
}

type Tolerances = Pick<GaugeSide, 'jointFromMm' | 'jointToMm' | 'sizePercent'>;

/**
 * Exactly `count` units in a length: by their joints, as far as those may change, and the rest by the pieces.
 * n · (piece + m · joint) + k · joint = length, where k is what `spareJoints` gives.
 */
export function gaugeTo(lengthMm: number, count: number, unit: Unit, spare: number, tolerances: Tolerances): GaugeRow {
  const joints = count * unit.joints + spare;
  const narrow = unit.free ? Math.min(tolerances.jointFromMm, unit.jointMm) : unit.jointMm;
  const wide = unit.free ? Math.max(tolerances.jointToMm, unit.jointMm) : unit.jointMm;
  const wished = joints > 1e-9 ? (lengthMm - count * unit.pieceMm) / joints : unit.jointMm;
  const jointMm = Math.min(wide, Math.max(narrow, wished));
  const pieceMm = (lengthMm - joints * jointMm) / count;
  const sizeChangePercent = (pieceMm / unit.pieceMm - 1) * 100;
  return {
    count,
    jointMm,
    pieceMm,
    jointChangeMm: jointMm - unit.jointMm,
    sizeChangePercent,
    fits: pieceMm > 0 && Math.abs(sizeChangePercent) <= tolerances.sizePercent + 1e-9,
  };
}

/** Sizes that change cost more than joints that do: a whole percent as much as all that joints may give. */
function costOf(row: GaugeRow, { jointFromMm, jointToMm }: Tolerances): number {
  const play = Math.max(0.1, (jointToMm - jointFromMm) / 2);
  return Math.abs(row.jointChangeMm) / play + Math.abs(row.sizeChangePercent) * 2;
}

/** More counts are not listed. */
const MOST_ROWS = 12;

/** The counts that are possible, what changes least first. */
export function gaugeTable(lengthMm: number, unit: Unit, spare: number, tolerances: Tolerances): GaugeRow[] {
  if (!(lengthMm > 0)) return [];
  const about = Math.max(1, Math.round((lengthMm - spare * unit.jointMm) / unitLength(unit)));
  const rows: GaugeRow[] = [];
  for (const way of [-1, 1]) {
    for (let count = way < 0 ? about : about + 1; count >= 1; count += way) {
      const row = gaugeTo(lengthMm, count, unit, spare, tolerances);
      // beyond, every count changes more
      if (!row.fits && Math.abs(count - about) > 1) break;
      if (row.fits) rows.push(row);
      if (rows.length > 4 * MOST_ROWS) break;
    }
  }
  return rows.sort((a, b) => costOf(a, tolerances) - costOf(b, tolerances) || a.count - b.count).slice(0, MOST_ROWS);
}

/** The lengths nearest to one that come out whole without a change: what the building would have to be. */
export function wholeLengths(lengthMm: number, unit: Unit, spare: number): { below: number | null; above: number } {
  const lengthOf = (count: number) => count * unitLength(unit) + spare * unit.jointMm;
  const count = Math.floor((lengthMm - spare * unit.jointMm) / unitLength(unit) + 1e-6);
  const below = count >= 1 ? lengthOf(count) : null;
  return { below, above: lengthOf(count + (below !== null && Math.abs(below - lengthMm) < 1e-3 ? 0 : 1)) };
}

export type GaugeAxis = 'up' | 'across';

/** Courses run across the sheet, or up it; null where they lie aslant. */
export function alongOf({ direction }: Pick<Spec, 'direction'>, axis: GaugeAxis): boolean | null {
  const quarters = direction.turnDeg / 90;
  if (!Number.isInteger(quarters)) return null;
  return (Math.abs(quarters) % 2 === 1) === (axis === 'up');
}

/** Where a limit lies on a sheet, mm. */
export function limitAt(limit: GaugeLimit, axis: GaugeAxis, low: boolean, sheet: SheetSummary): number {
  const { minX, maxX, minY, maxY } = sheet.bounds;
  const [from, to] = axis === 'up' ? [minY, maxY] : [minX, maxX];
  if (limit.kind === 'edge') return low ? from : to;
  if (limit.kind === 'place') return from + limit.mm;
  return axis === 'up' ? sheetPoint(sheet, [0, limit.level.heightMm, 0])[1] : low ? from : to;
}

/** What a gauge comes to in one direction, before anything is changed. */
export interface OpenGauge {
  side: GaugeSide;
  along: boolean;
  unit: Unit;
  /** Between which places of the sheet, mm. */
  from: number;
  to: number;
  spare: number;
}

/** A gauge on its sheet, or why it cannot be kept. */
export function openGauge(
  spec: SpecInPieces,
  axis: GaugeAxis,
  side: GaugeSide,
  sheet: SheetSummary,
  layouts?: Layouts,
): OpenGauge | Finding {
  const along = alongOf(spec, axis);
  if (along === null) return finding('gaugeAslant', {});
  const { layout, joint } = spec.pieces;
  const unit = unitOf(layout, joint, along, layouts);
  if (!unit) return finding('gaugeHasNoUnit', { layout: layoutOf(layout, layouts).label, along });
  const [a, b] = [limitAt(side.from, axis, true, sheet), limitAt(side.to, axis, false, sheet)];
  const [from, to] = [Math.min(a, b), Math.max(a, b)];
  return { side, along, unit, from, to, spare: spareJoints(side.meets) };
}

/** Shorter edges are no limits for courses, mm. */
const LEAST_EDGE = 100;

/** Where edges of the outline run square to an axis, mm from the sheet's lower left corner, without the outermost. */
export function edgesAlong(sheet: Pick<SheetSummary, 'charts' | 'bounds'>, axis: GaugeAxis): number[] {
  const [c, o] = axis === 'up' ? [1, 0] : [0, 1];
  const { minX, maxX, minY, maxY } = sheet.bounds;
  const [low, high] = axis === 'up' ? [minY, maxY] : [minX, maxX];
  const lengths = new Map<number, number>();
  for (const loop of sheet.charts.flatMap((chart) => chart.outline))
    loop.forEach((p, i) => {
      const q = loop[(i + 1) % loop.length];
      if (Math.abs(q[c] - p[c]) > 0.05) return;
      const place = Math.round((p[c] - low) * 10) / 10;
      lengths.set(place, (lengths.get(place) ?? 0) + Math.abs(q[o] - p[o]));
    });
  return [...lengths]
    .filter(([place, long]) => long >= LEAST_EDGE && place > 0.5 && place < high - low - 0.5)
    .map(([place]) => place)
    .sort((a, b) => a - b);
}

export const isFinding = (of: OpenGauge | Finding): of is Finding => 'code' in of;

/** A spec with its gauge kept: sizes and joints as they come out, and where the first piece begins on the sheet. */
export interface Gauged {
  spec: Spec;
  at: { x: number | null; y: number | null };
  findings: Finding[];
}

const known = new WeakMap<Spec, { bounds: SheetSummary['bounds']; gauged: Gauged }>();

/** What a spec comes to on its sheet. The same objects give the same answer. */
export function gaugedOn(spec: Spec, sheet: SheetSummary, layouts?: Layouts): Gauged {
  const { gauge } = spec;
  if (!gauge || (!gauge.up && !gauge.across) || !liesInPieces(spec))
    return { spec, at: { x: null, y: null }, findings: [] };
  const before = layouts ? undefined : known.get(spec);
  if (before?.bounds === sheet.bounds) return before.gauged;
  const gauged: Gauged = { spec, at: { x: null, y: null }, findings: [] };
  for (const axis of ['up', 'across'] as const) if (gauge[axis]) gaugeSide(gauged, axis, gauge[axis], sheet, layouts);
  if (!layouts) known.set(spec, { bounds: sheet.bounds, gauged });
  return gauged;
}

function gaugeSide(gauged: Gauged, axis: GaugeAxis, side: GaugeSide, sheet: SheetSummary, layouts?: Layouts): void {
  const spec = gauged.spec as SpecInPieces;
  const open = openGauge(spec, axis, side, sheet, layouts);
  if (isFinding(open)) return void gauged.findings.push(open);
  const { along, unit, from, to, spare } = open;
  const lengthMm = to - from;
  const row =
    side.count === null ? gaugeTable(lengthMm, unit, spare, side)[0] : gaugeTo(lengthMm, side.count, unit, spare, side);
  const { layout, joint } = spec.pieces;
  const gaugedJoint = row && { ...joint, [along ? 'alongMm' : 'acrossMm']: row.jointMm };
  const made = row?.fits && resized(layout, gaugedJoint, along, row.pieceMm + unit.joints * row.jointMm, layouts);
  if (!made) {
    gauged.findings.push(finding('gaugeOutOfTolerance', { lengthMm, count: side.count ?? 0 }));
    return;
  }
  gauged.spec = { ...spec, pieces: { ...spec.pieces, layout: made, joint: unit.free ? gaugedJoint : joint } };
  const startsLow = stepOf(spec, along, axis) > 0;
  const [low, high] = side.meets;
  const start = startsLow ? from + WITHIN[low] * row.jointMm : to - WITHIN[high] * row.jointMm;
  gauged.at[axis === 'up' ? 'y' : 'x'] = start;
}

/** Which way along an axis of the sheet the layout counts: 1 or −1. */
function stepOf({ direction }: Spec, along: boolean, axis: GaugeAxis): number {
  const [c, s] = turnOf(direction.turnDeg);
  const [x, y] = along ? [c, s] : [-s, c];
  return (axis === 'up' ? y : x) * ((along ? direction.mirrorX : direction.mirrorY) ? -1 : 1);
}
