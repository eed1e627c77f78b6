import { Clipper64, ClipType, FillRule, type Path64, type PolyPath64, PolyTree64 } from '@countertype/clipper2-ts';
import { type Loop, loopArea } from './loop';

/** Places are whole thousandths of a millimetre here: so sides that all but lie in one another do no harm. */
const STEPS = 1000;

/** A polygon x, y, x, y, … with its holes, mm. */
export interface Holed {
  outline: number[];
  holes: number[][];
}

const toPath = (p: readonly number[]): Path64 =>
  Array.from({ length: p.length / 2 }, (_, k) => ({
    x: Math.round(p[k * 2] * STEPS),
    y: Math.round(p[k * 2 + 1] * STEPS),
  }));
const fromPath = (path: Path64): number[] => path.flatMap(({ x, y }) => [x / STEPS, y / STEPS]);

function combine(type: ClipType, subjects: readonly number[][], clips: readonly number[][]): Holed[] {
  const clipper = new Clipper64();
  clipper.addSubject(subjects.map(toPath));
  clipper.addClip(clips.map(toPath));
  const tree = new PolyTree64();
  clipper.execute(type, FillRule.NonZero, tree);
  const out: Holed[] = [];
  const children = (of: PolyPath64) => Array.from({ length: of.count }, (_, n) => of.child(n));
  const enter = (outer: PolyPath64) => {
    const holes = children(outer);
    out.push({ outline: fromPath(outer.poly ?? []), holes: holes.map((h) => fromPath(h.poly ?? [])) });
    holes.flatMap(children).forEach(enter);
  };
  children(tree).forEach(enter);
  return out;
}

/** What two polygons have in common. */
export const inCommon = (a: readonly number[], b: readonly number[]): Holed[] =>
  combine(ClipType.Intersection, [[...a]], [[...b]]);

/** What is left of a polygon beside others. */
export const lessThese = (a: readonly number[], others: readonly (readonly number[])[]): Holed[] =>
  combine(
    ClipType.Difference,
    [[...a]],
    others.map((o) => [...o]),
  );

/** A polygon and one with holes as one. */
export const together = (a: readonly number[], { outline, holes }: Holed): Holed[] =>
  combine(ClipType.Union, [[...a]], [outline, ...holes]);

/** How much two outlines have in common, mm²; loops within loops are holes. */
export function areaInCommon(a: readonly Loop[], b: readonly Loop[]): number {
  const clipper = new Clipper64();
  clipper.addSubject(a.map((loop) => toPath(loop.flat())));
  clipper.addClip(b.map((loop) => toPath(loop.flat())));
  const found: Path64[] = [];
  clipper.execute(ClipType.Intersection, FillRule.EvenOdd, found);
  return Math.abs(found.reduce((sum, path) => sum + loopArea(path.map(({ x, y }) => [x / STEPS, y / STEPS])), 0));
}
