import type { UpAxis } from '../clean';
import type { Form } from './form';
import { type Levels, mainLevels, stepsOf } from './levels';
import { thingNamed } from './things';
import { isWheel } from './witnesses';

/** One reason for an axis. */
export interface Reason {
  axis: UpAxis;
  weight: number;
  words: string;
}

export interface Standing {
  form: Form;
  levels: Levels;
}

/** What speaks for y and for z: names, floors, steps, what it stands on, how it is built. */
export function reasonsForUp(y: Standing, z: Standing, name: string): Reason[] {
  const reasons: Reason[] = [];
  /** Compares one number of both; the larger speaks for its axis. */
  const weigh = (inY: number, inZ: number, weight: number, words: (axis: UpAxis) => string, least = 1.15) => {
    if (inY > inZ * least) reasons.push({ axis: 'y', weight, words: words('y') });
    else if (inZ > inY * least) reasons.push({ axis: 'z', weight, words: words('z') });
  };

  const named = [y, z].map(({ form }) => namedWell(form, name));
  weigh(
    named[0],
    named[1],
    Math.min(4, 1.5 + 0.7 * Math.abs(named[0] - named[1])),
    (a) => `things stand as their names say when ${a} is up`,
  );

  const steps = [y, z].map(({ levels }) => stepsOf(levels)?.count ?? 0);
  weigh(steps[0], steps[1], 3, (a) => `steps rise along ${a}`);

  const level = [y, z].map(({ levels }) => levels.level / (levels.total || 1));
  weigh(level[0], level[1], 0.8, (a) => `more faces are level when ${a} is up`);

  const feet = [y, z].map(({ form }) => standingShare(form));
  if (Math.max(...feet) > 0.05)
    weigh(feet[0], feet[1], 1.6, (a) => `what it is made of stands on one plane across ${a}`, 1.3);

  const zero = [y, z].map(({ form }) => (standsAtZero(form) ? 1 : 0));
  weigh(zero[0], zero[1], 1.6, (a) => `it stands on ${a} = 0`);

  const mirrored = [y, z].map(({ levels }) => levels.unlike);
  if (Math.max(...mirrored) > 0.12)
    weigh(mirrored[0], mirrored[1], 0.8, (a) => `above and below differ along ${a}, sides are alike`, 1.6);

  const discs = [y, z].map(({ form }) => (lyingDisc(form) ? 0 : 1));
  if (discs[0] !== discs[1]) weigh(discs[0], discs[1], 1.6, (a) => `a wheel stands on its tread when ${a} is up`);

  const storeys = [y, z].map(({ levels }) => evenLevels(storeysOf(levels)));
  if (Math.max(...storeys) > 3)
    weigh(storeys[0], storeys[1], 1.6, (a) => `large faces lie evenly one above the other along ${a}`, 1.4);

  // a tower is lowest along neither; a house is lower than it is wide and deep
  const [width, inY, inZ] = y.form.size;
  const low = Math.min(inY, inZ);
  if (width > low * 1.5) weigh(inZ, inY, 0.7, (a) => `the model is lowest along ${a}`, 2.2);
  return reasons;
}

/** How well named things stand as they should, summed up: a door upright, a floor level. */
function namedWell(form: Form, name: string): number {
  let sum = 0;
  const judge = (of: string, [x, h, z]: readonly number[]) => {
    const stands = thingNamed(of)?.stands;
    const [thin, wide] = x < z ? [x, z] : [z, x];
    if (!stands || !(wide > 0)) return;
    const isFlat = h < thin * 0.6;
    if (stands === 'flat') sum += isFlat ? 1 : h > wide ? -1 : 0;
    else if (isFlat) sum--;
    else if (thin < h * 0.5 && (stands === 'upright' || h > wide)) sum++;
  };
  for (const part of form.parts) judge(part.name, part.size);
  judge(name, form.size);
  return sum;
}

/** How many bodies (or parts) begin at one height, less those that end at one: things stand on a floor. */
function standingShare(form: Form): number {
  const boxes = form.bodies.length > 2 ? form.bodies : form.parts;
  if (boxes.length < 3) return 0;
  const near = form.size[1] * 0.005;
  const feet = most(
    boxes.map((b) => b.box.min[1]),
    near,
  );
  const heads = most(
    boxes.map((b) => b.box.max[1]),
    near,
  );
  return Math.max(0, feet - heads) / boxes.length;
}

/** How many of the numbers lie within a short stretch, at most. */
function most(values: number[], near: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  let best = 0;
  for (let i = 0, j = 0; i < sorted.length; i++) {
    while (sorted[i] - sorted[j] > near) j++;
    best = Math.max(best, i - j + 1);
  }
  return best;
}

/** Whether it begins at zero along the axis. */
function standsAtZero({ all, size }: Form): boolean {
  return size[1] > 0 && Math.abs(all.min[1]) < size[1] * 0.01;
}

/** Heights of the level faces that make up a good part of the model. */
const storeysOf = (levels: Levels): number[] =>
  mainLevels(levels)
    .filter((l) => l.upward + l.downward > levels.total * 0.01)
    .map((l) => l.height);

/** How many times the commonest distance between neighbouring levels, or between every other one, comes up. */
function evenLevels(heights: number[]): number {
  let best = 0;
  for (const skip of [1, 2]) {
    const gaps = heights.slice(skip).map((h, i) => h - heights[i]);
    for (const gap of gaps) best = Math.max(best, gaps.filter((g) => Math.abs(g - gap) < gap * 0.03).length / skip);
  }
  return best;
}

/** Whether the model is a wheel (or another round disc) that lies on its side. */
function lyingDisc({ bodies, size }: Form): boolean {
  const wheel =
    bodies.length <= 60
      ? bodies.find(
          (b) =>
            isWheel(b) &&
            Math.min(...b.size) > Math.max(...b.size) * 0.15 &&
            Math.max(...b.size) > Math.max(...size) * 0.9,
        )
      : null;
  return !!wheel && wheel.size[1] < Math.max(...wheel.size) * 0.9;
}
