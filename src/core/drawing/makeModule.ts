import { type Static, Type } from '@sinclair/typebox';
import { boundsOf } from '../layout/modules';
import { faultOfModule, type OwnModule, type OwnShape } from '../layout/own/module';
import { oneOf } from '../schema/choice';
import { cellsOfPieces } from './cellsOfPieces';
import { copiesNear, moved, type Steps } from './copies';
import { lessThese, together } from '../geometry/booleans';
import { areaOf, examine, type Examined, type Flaw, type Gap, gapsOf, LEAST_JOINT } from './examine';
import { findRepeat, type RepeatFrom, withoutCopies } from './findRepeat';
import type { Drawing, DrawnShape } from './types';

const Step = Type.Tuple([Type.Number({ minimum: -1e6, maximum: 1e6 }), Type.Number({ minimum: -1e6, maximum: 1e6 })]);

/** What people decide of a drawing; absent is found. */
export const ModuleChoice = Type.Object(
  {
    /** How long a step to the right is, mm: sizes all of it. */
    widthMm: Type.Optional(Type.Number({ minimum: 1, maximum: 1e5 })),
    as: Type.Optional(oneOf('pieces', 'cells')),
    /** The two steps, mm, in the size the file says. */
    right: Type.Optional(Step),
    up: Type.Optional(Step),
    /** Gaps become joint; of shapes that lie over one another the later one lies on top. */
    accept: Type.Optional(Type.Boolean()),
  },
  { additionalProperties: false },
);
export type ModuleChoice = Static<typeof ModuleChoice>;

/** A module of a drawing, and everything to be known before it is taken. */
export interface MadeModule {
  /** Null where it cannot be laid as it is; then `fault` says why. */
  module: Omit<OwnModule, 'id' | 'name'> | null;
  fault: string | null;
  as: 'pieces' | 'cells';
  right: [number, number];
  up: [number, number];
  from: RepeatFrom;
  /** How much larger it is than the file says. */
  scale: number;
  flaws: Flaw[];
  joints: Examined['joints'];
  shapes: DrawnShape[];
  remarks: string[];
}

/** A repeat that shapes cover more often than this is not looked at. */
const MOST_COVERED = 4;
/** The share of a repeat that flaws may cover together without being told. */
const UNTOLD = 5e-4;

/**
 * Makes a module of a drawing's shapes: finds how it repeats, takes each shape once, looks at what lies over what and
 * what is left free, and gives the joints between pieces to the pieces they lie beside.
 */
export function makeModule(drawing: Drawing, choice: ModuleChoice = {}): MadeModule {
  const scale = scaleOf(drawing, choice);
  const drawn = scaled(drawing, scale);
  const found = stepsOf(drawn, choice, scale);
  const { shapes: once, copies } = withoutCopies(drawn.shapes, found);
  // a module begins at its lower left corner
  const [x0, y0] = boundsOf(once.flatMap((s) => boundsOf(s.corners)));
  const shapes = once.map((s) => ({ ...s, corners: moved(s.corners, -x0, -y0).map(kept) }));
  const remarks = [...drawn.remarks];
  if (copies) remarks.push(`${copies} × shape that is another one some repeats on, taken once.`);
  const steps: Steps = { right: step(found.right), up: step(found.up) };
  const area = steps.right[0] * steps.up[1] - steps.right[1] * steps.up[0];
  const common = { ...steps, from: found.from, scale, shapes, remarks };
  const covered = shapes.reduce((sum, s) => sum + areaOf(s.corners), 0);
  if (!(area > covered / MOST_COVERED)) {
    const fault =
      area > 0
        ? 'The steps are too short: shapes would lie over one another many times.'
        : 'The step up must turn to the left of the step to the right.';
    return { module: null, fault, flaws: [], as: choice.as ?? 'pieces', joints: null, ...common };
  }
  const looked = examine(shapes, steps);
  // where as many shapes touch as not they are drawn without joints
  const as = choice.as ?? drawn.repeat?.as ?? (looked.touching * 2 >= shapes.length ? 'cells' : 'pieces');
  const known = { as, joints: looked.joints, ...common };
  const told = looked.overlaps.filter((o) => o.areaMm2 > UNTOLD * area || o.areaMm2 > 1);
  const gaps = as === 'cells' && looked.freeMm2 > -1e-3 * area ? gapsOf(shapes, steps) : [];
  const flaws = [...told, ...gaps];
  const no = (fault: string): MadeModule => ({ module: null, fault, flaws, ...known });
  if (flaws.length && !choice.accept) return no(sayFlaws(flaws));
  const clear = told.length ? onTop(shapes, steps) : shapes;
  if (!clear) return no('What lies on top cuts a shape in two or leaves a hole in it: draw them side by side.');
  let made: OwnShape[] | null;
  if (as === 'cells') {
    made = withGaps(clear, told.length ? gapsOf(clear, steps) : gaps, steps);
    if (!made) return no('A gap goes all round several shapes: take the shapes as pieces, then gaps are the joints.');
  } else {
    if (looked.touching) return no(sayTouching(looked.touching, shapes.length));
    const cells = cellsOfPieces(clear, steps, looked.joints?.fromMm ?? Math.sqrt(area));
    if (!cells)
      return no('The middles of the joints could not be found: pieces lie too near one another for their size.');
    made = clear.map(({ role, corners }, n) => ({ role, corners, cell: cells[n].map(kept) }));
  }
  const module = { as, right: steps.right, up: steps.up, shapes: made };
  const fault = faultOfModule({ id: 'a', name: 'a', ...module });
  return fault ? no(`It cannot be laid: ${fault}.`) : { module, fault: null, flaws, ...known };
}

const kept = (v: number): number => Math.round(v * 1e4) / 1e4 + 0;
const step = ([x, y]: [number, number], f = 1): [number, number] => [kept(x * f), kept(y * f)];
const mm = (v: number): string => `${Number(v.toPrecision(3))}`;

function sayFlaws(flaws: readonly Flaw[]): string {
  const say = (kind: Flaw['kind'], one: string, many: string) => {
    const own = flaws.filter((f) => f.kind === kind);
    if (!own.length) return [];
    const [w, h] = own.reduce((a, b) => (b.areaMm2 > a.areaMm2 ? b : a)).sizeMm;
    const size = `${mm(w)} × ${mm(h)} mm`;
    return own.length === 1 ? [`${one}, ${size}`] : [`${own.length} ${many}, the largest ${size}`];
  };
  const parts = [
    ...say('overlap', 'Shapes lie over one another at one place', 'places where shapes lie over one another'),
    ...say('gap', 'one gap is left free', 'gaps are left free'),
  ];
  const text = parts.join(', and ');
  return `${text[0].toUpperCase()}${text.slice(1)}. Mend the drawing, or accept it as it is.`;
}

const sayTouching = (touching: number, of: number): string =>
  `${touching} of ${of} shapes come nearer than ${LEAST_JOINT} mm to others: between pieces there must be a joint. ` +
  'Take the shapes as cells, then joints are taken from them.';

/** How much larger it is than the file says. */
function scaleOf(drawing: Drawing, { widthMm, right }: ModuleChoice): number {
  if (widthMm === undefined) return 1;
  return widthMm / Math.hypot(...(right ?? findRepeat(drawing).right));
}

function scaled(drawing: Drawing, f: number): Drawing {
  if (f === 1) return drawing;
  const by = (v: number) => kept(v * f);
  const { repeat } = drawing;
  return {
    ...drawing,
    shapes: drawing.shapes.map((s) => ({ ...s, corners: s.corners.map(by) })),
    frame: drawing.frame && (drawing.frame.map((v) => v * f) as typeof drawing.frame),
    repeat: repeat && { ...repeat, right: step(repeat.right, f), up: step(repeat.up, f) },
  };
}

/** One step may be typed and the other found. */
function stepsOf(drawing: Drawing, { right, up }: ModuleChoice, f: number) {
  if (right && up) return { right: step(right, f), up: step(up, f), from: 'typed' as const };
  const found = findRepeat(drawing);
  if (!right && !up) return found;
  return { right: right ? step(right, f) : found.right, up: up ? step(up, f) : found.up, from: 'typed' as const };
}

/** What is drawn later lies on top: earlier shapes are less it. Null where one would fall in two or have a hole. */
function onTop(shapes: readonly DrawnShape[], steps: Steps): DrawnShape[] | null {
  const out: DrawnShape[] = [];
  for (const [k, shape] of shapes.entries()) {
    const over = copiesNear(shapes, steps, boundsOf(shape.corners), 0)
      .filter((c) => c.shape > k || (c.shape === k && (c.j > 0 || (c.j === 0 && c.i > 0))))
      .map((c) => moved(shapes[c.shape].corners, c.dx, c.dy));
    if (!over.length) {
      out.push(shape);
      continue;
    }
    const left = lessThese(shape.corners, over).filter(({ outline }) => areaOf(outline) > 0.05);
    if (left.length !== 1 || left[0].holes.length) return null;
    out.push({ ...shape, corners: left[0].outline.map(kept) });
  }
  return out;
}

/** Each gap goes with the shape it has the longest side in common with, or with the one it goes all round. */
function withGaps(shapes: readonly DrawnShape[], gaps: readonly Gap[], steps: Steps): OwnShape[] | null {
  const cells = new Map<number, number[]>();
  for (const { outline, holes } of gaps) {
    const near = copiesNear(shapes, steps, boundsOf(outline), 0.01);
    const common = (c: (typeof near)[number], loops: number[][]) =>
      loops.reduce((sum, loop) => sum + lengthInCommon(loop, moved(shapes[c.shape].corners, c.dx, c.dy)), 0);
    if (holes.length > 1) return null;
    const ranked = near.map((c) => ({ c, length: common(c, holes.length ? holes : [outline]) }));
    const [best] = ranked.sort((a, b) => b.length - a.length);
    if (!best?.length) return null;
    const { c } = best;
    const before = cells.get(c.shape) ?? shapes[c.shape].corners;
    const own = moved(outline, -c.dx, -c.dy);
    const joined = together(before, { outline: own, holes: holes.map((h) => moved(h, -c.dx, -c.dy)) });
    if (joined.length !== 1 || joined[0].holes.length) return null;
    cells.set(c.shape, joined[0].outline.map(kept));
  }
  return shapes.map(({ role, corners }, n) => ({ role, corners, ...(cells.has(n) ? { cell: cells.get(n)! } : {}) }));
}

/** How long two outlines run along one another, mm. */
function lengthInCommon(p: readonly number[], q: readonly number[]): number {
  let sum = 0;
  for (let a = 0; a < p.length; a += 2) {
    const b = (a + 2) % p.length;
    const [ux, uy] = [p[b] - p[a], p[b + 1] - p[a + 1]];
    const l = Math.hypot(ux, uy);
    if (l < 1e-6) continue;
    for (let c = 0; c < q.length; c += 2) {
      const d = (c + 2) % q.length;
      const off = (k: number) => Math.abs((q[k] - p[a]) * uy - (q[k + 1] - p[a + 1]) * ux) / l;
      if (off(c) > 0.01 || off(d) > 0.01) continue;
      const t = [c, d].map((k) => ((q[k] - p[a]) * ux + (q[k + 1] - p[a + 1]) * uy) / l);
      sum += Math.max(0, Math.min(l, Math.max(...t)) - Math.max(0, Math.min(...t)));
    }
  }
  return sum;
}
