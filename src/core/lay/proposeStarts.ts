import type { Loop } from '../geometry/loop';
import { findStarts } from '../setout/bestStart';
import type { SheetSummary } from '../mapping/sheet';
import { alongOf, gaugedOn, gaugeTable, isFinding, openGauge } from '../setout/gauge';
import { frameOf, loopInLayout, toSheet } from '../setout/layoutFrame';
import { layoutPeriod } from '../setout/layoutPeriod';
import { placeSpec } from '../setout/placement';
import { COST, type CutEdge, cutEdges, leastSide, type StartFigures, startFigures } from '../setout/startCost';
import { firstGauge } from '../specification/gauge';
import { liesInPieces, type Spec, type SpecInPieces } from '../specification/schema';
import type { MaterialsById } from './arrange';
import { lay, type Laid } from './lay';
import type { Piece } from './pieces';

/** An outermost side of a sheet. */
export const SIDES = ['left', 'right', 'low', 'high'] as const;
export type Side = (typeof SIDES)[number];

export interface StartOptions {
  /** Equal cuts at both ends. */
  symmetric: boolean;
  /** Turned by a quarter as well. */
  turned: boolean;
  /** Joints may be so much narrower or wider, mm, so that whole pieces come out from edge to edge. */
  jointsByMm?: number;
  /** Outermost edges that nobody sees: behind skirting, under units. */
  hidden: readonly Side[];
  stopped?(share: number): boolean;
}

/** A start, what it costs, and what it comes to when it is laid. */
export interface StartProposal extends StartFigures {
  /** The spec with that start, and turn. */
  spec: Spec;
  turned: boolean;
  whole: number;
  cut: number;
  /** Narrowest of all pieces as they are laid, along or across, mm. */
  narrowestMm: number;
  /** Of what is bought, how much is sawn off where no offcut is used again, percent. */
  wastePercent: number;
  /** The same cost, of the pieces as they are laid. */
  laidCost: number;
  laid: Laid;
}

/** Edges within so much of the sheet's bounds are its outermost, mm. */
const OUTERMOST = 1;
/** So many are laid to see what they come to, and how many of them are proposed. */
const MOST_LAID = 12;
const MOST = 5;

/**
 * The best starts for a region that is laid.
 * @returns none where its layout does not repeat, so that it has no start to choose
 */
export function proposeStarts(of: Laid, materials: MaterialsById, options: StartOptions): StartProposal[] {
  const { region, sheet } = of;
  const { spec } = region;
  if (!spec || !liesInPieces(spec)) return [];
  const turns = options.turned ? [spec, quarterOn(spec)] : [spec];
  const found = turns.flatMap((turned, n) =>
    withOtherJoints(turned, sheet, options.jointsByMm ?? 0).flatMap(({ spec: tried, change }) =>
      startsOf(of, tried, materials, options).map((start) => ({ ...start, turned: n > 0, change })),
    ),
  );
  // of what costs the same the joints that change least
  found.sort((a, b) => a.cost - b.cost || a.change - b.change || b.narrowest - a.narrowest);
  const laidOut = found.slice(0, MOST_LAID).map((start) => {
    const laid = lay({ ...region, spec: start.spec }, [], materials, { sheet });
    return { ...start, ...figuresOf(laid.pieces), laidCost: laidCost(laid, options.hidden), laid };
  });
  return laidOut.sort((a, b) => a.laidCost - b.laidCost || a.cost - b.cost).slice(0, MOST);
}

/**
 * What laid pieces cost by the rules of the search: every one that is cut, whatever cut it; edges aslant, rounds and
 * closers have their say here.
 */
export function laidCost({ pieces, sheet: { bounds: b } }: Pick<Laid, 'pieces' | 'sheet'>, hidden: readonly Side[]) {
  const touches = ({ outline }: Piece) =>
    hidden.some((side) =>
      outline.some((loop) =>
        loop.some(([x, y]) => {
          const away = { left: x - b.minX, right: b.maxX - x, low: y - b.minY, high: b.maxY - y }[side];
          return Math.abs(away) < OUTERMOST;
        }),
      ),
    );
  let sum = 0;
  for (const piece of pieces)
    if (!piece.whole) sum += (touches(piece) ? COST.cutHidden : COST.cutSeen) * (isSliver(piece) ? COST.sliver : 1);
  return sum;
}

/** What is left of a piece is too narrow, by the rules of the search. */
export function isSliver(piece: Piece): boolean {
  const side = Math.min(piece.length, piece.width);
  return !piece.whole && narrowestOf(piece) < leastSide(side, COST);
}

/** What a laid region comes to as it is, to compare with. */
export const figuresOf = (pieces: readonly Piece[]) => {
  const whole = pieces.filter((p) => p.whole).length;
  const full = new Map<string, number>();
  const like = (p: Piece) => `${p.role} ${Math.round(p.length)} ${Math.round(p.width)}`;
  for (const p of pieces) full.set(like(p), Math.max(full.get(like(p)) ?? 0, p.area));
  const bought = pieces.reduce((sum, p) => sum + full.get(like(p))!, 0);
  const used = pieces.reduce((sum, p) => sum + p.area, 0);
  return {
    whole,
    cut: pieces.length - whole,
    narrowestMm: pieces.reduce((least, p) => Math.min(least, narrowestOf(p)), Infinity),
    wastePercent: bought > 0 ? (1 - used / bought) * 100 : 0,
  };
};

/** The lesser of how far a piece reaches along and across itself; of several parts the largest. */
export function narrowestOf({ outline, axis, across }: Pick<Piece, 'outline' | 'axis' | 'across'>): number {
  const reach = (loop: Loop, [x, y]: readonly [number, number]) => {
    const along = loop.map((p) => p[0] * x + p[1] * y);
    return Math.max(...along) - Math.min(...along);
  };
  return Math.max(...outline.map((loop) => Math.min(reach(loop, axis), reach(loop, across))));
}

/** No more widths of joints are tried in a direction. */
const MOST_WIDTHS = 2;

/**
 * The spec as it is, and with joints, within a tolerance, by which whole pieces come out between the outermost edges up
 * or across: those that change least. What is gauged has its joints already.
 */
function withOtherJoints(
  spec: SpecInPieces,
  sheet: SheetSummary,
  byMm: number,
): { spec: SpecInPieces; change: number }[] {
  const out = [{ spec, change: 0 }];
  if (!(byMm > 0)) return out;
  for (const axis of ['up', 'across'] as const) {
    if (spec.gauge?.[axis]) continue;
    for (const { spec: before, change } of [...out]) {
      const { joint } = before.pieces;
      const own = alongOf(before, axis) ? joint.alongMm : joint.acrossMm;
      const side = { ...firstGauge(own), jointFromMm: Math.max(0, own - byMm), jointToMm: own + byMm, sizePercent: 0 };
      const open = openGauge(before, axis, side, sheet);
      if (isFinding(open) || !open.unit.free) continue;
      for (const { jointMm } of gaugeTable(open.to - open.from, open.unit, open.spare, side).slice(0, MOST_WIDTHS)) {
        const wider = { ...joint, [open.along ? 'alongMm' : 'acrossMm']: tidy(jointMm) };
        if (Math.abs(jointMm - own) < 1e-3) continue;
        out.push({
          spec: { ...before, pieces: { ...before.pieces, joint: wider } },
          change: change + Math.abs(jointMm - own),
        });
      }
    }
  }
  return out;
}

const quarterOn = (spec: SpecInPieces): SpecInPieces => {
  const turnDeg = spec.direction.turnDeg + (spec.direction.turnDeg >= 90 ? -90 : 90);
  return { ...spec, direction: { ...spec.direction, turnDeg } };
};

/** What a region costs as it starts now, by the same rules; null where its layout does not repeat. */
export function startNow(of: Laid, materials: MaterialsById, options: StartOptions): StartFigures | null {
  const { spec } = of.region;
  const open = spec && liesInPieces(spec) ? openSearch(of, spec, materials, options) : null;
  return open && startFigures(open.edges, open.period, 0, 0);
}

/** The outline in the frame of what is laid, and what that repeats. */
function openSearch({ region, sheet }: Laid, asked: SpecInPieces, materials: MaterialsById, options: StartOptions) {
  const main = materials[asked.material];
  const gauged = gaugedOn(asked, sheet);
  const { layout, joint } = (gauged.spec as SpecInPieces).pieces;
  const period = main && layoutPeriod(layout, joint);
  if (!main || !period) return null;
  const frame = frameOf(placeSpec(asked, main, sheet, region.origin));
  const loops = sheet.charts.flatMap((c) => c.outline).map((loop) => loopInLayout(frame, loop));
  const [a, b, c, d] = frame.m;
  const { bounds } = sheet;
  const isHidden = ({ upright, at, from, to }: CutEdge): boolean => {
    const middle = (from + to) / 2;
    const [x, y] = upright ? toSheet(frame, at, middle) : toSheet(frame, middle, at);
    const places = { left: x - bounds.minX, right: bounds.maxX - x, low: y - bounds.minY, high: bounds.maxY - y };
    return options.hidden.some((side) => Math.abs(places[side]) < OUTERMOST);
  };
  const edges = cutEdges(loops, a * d - b * c < 0, isHidden);
  // what a gauge settles stays where it is
  const kept = { across: gauged.at.x !== null, up: gauged.at.y !== null };
  const stands = Math.abs(a) < 0.5;
  const fixed = { x: stands ? kept.up : kept.across, y: stands ? kept.across : kept.up };
  return { edges, period, frame, fixed };
}

function startsOf(of: Laid, asked: SpecInPieces, materials: MaterialsById, options: StartOptions) {
  const open = openSearch(of, asked, materials, options);
  if (!open) return [];
  const { edges, period, frame, fixed } = open;
  const { symmetric, stopped } = options;
  return findStarts(edges, period, { symmetric, fixed, most: MOST_LAID, stopped }).map(({ x, y, ...figures }) => {
    const near = (v: number, step: number | null) => (step === null ? 0 : v - Math.round(v / step) * step);
    const [sx, sy] = toSheet(frame, near(x, period.right), near(y, period.up));
    const start = {
      ...asked.start,
      xMm: tidy(asked.start.xMm + sx - frame.at[0]),
      yMm: tidy(asked.start.yMm + sy - frame.at[1]),
    };
    return { spec: { ...asked, start } as Spec, ...figures };
  });
}

/** Thousandths of a millimetre say enough. */
const tidy = (v: number): number => Math.round(v * 1000) / 1000;
