import type { Form } from './form';
import { headsOf, type Levels, mainLevels, stepsOf } from './levels';
import type { SizeRange } from './likely';
import { type Thing, thingNamed } from './things';

/** A length of the model and what lengths of its kind usually are. */
export interface Witness {
  /** As people call it: “door height”. */
  what: string;
  /** In units of the file. */
  length: number;
  ranges: readonly SizeRange[];
  /** How much its word counts; 1 is a whole witness. */
  weight: number;
}

/** What people model, by its longest side: things in the hand, furniture, rooms, houses, blocks, streets, towns. */
const OVERALL: readonly SizeRange[] = [
  [60, 400, 0.1],
  [400, 2500, 0.24],
  [2500, 8000, 0.2],
  [8000, 40_000, 0.24],
  [40_000, 150_000, 0.1],
  [150_000, 800_000, 0.06],
  [800_000, 5_000_000, 0.02],
  [10, 60, 0.02],
];

/** From one level face to the next large one: seats, tables, worktops, storeys. */
const LEVELS: readonly SizeRange[] = [
  [380, 480, 0.12],
  [680, 800, 0.1],
  [820, 1150, 0.06],
  [2350, 4300, 0.42],
  [15, 380, 0.15],
  [4300, 20_000, 0.06],
];
const STOREY: readonly SizeRange[] = [[2400, 4300, 0.85]];
const SHELF: readonly SizeRange[] = [
  [180, 480, 0.7],
  [2400, 4300, 0.1],
];
const RISE: readonly SizeRange[] = [[140, 205, 0.9]];
const HEAD: readonly SizeRange[] = [
  [1950, 2500, 0.6],
  [2500, 4000, 0.12],
  [400, 1950, 0.08],
];
/** Boards and panels, walls and slabs. */
const THICK: readonly SizeRange[] = [
  [10, 45, 0.3],
  [45, 120, 0.2],
  [100, 500, 0.4],
];
const BRICK: readonly SizeRange[] = [[190, 300, 0.85]];
const ROUND: readonly SizeRange[] = [
  [330, 760, 0.45],
  [30, 330, 0.25],
  [760, 3000, 0.05],
];
const LEAF: readonly SizeRange[] = [
  [1950, 2450, 0.55],
  [300, 1950, 0.2],
];

export const OVERALL_SIZE = 'overall';
const STOREY_HEIGHT = 'storey height';

const middle = (values: number[]): number => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];

/** Every length that tells something of the unit. */
export function witnessesOf(form: Form, found: Levels, name: string): Witness[] {
  const overall = Math.max(...form.size);
  const out: Witness[] = [{ what: OVERALL_SIZE, length: overall, ranges: OVERALL, weight: 1 }];
  const say = (what: string, length: number | null | undefined, ranges: readonly SizeRange[], weight = 1) => {
    if (length && length > 0) out.push({ what, length, ranges, weight });
  };
  out.push(...namedThings(form, name));

  const flight = stepsOf(found);
  say('rise of a step', flight?.rise, RISE);
  const floors = mainLevels(found);
  const standing = floors.filter((l) => l.upward > 0);
  const storeys = flight ? [] : betweenLevels(form, floors, found.level / (found.total || 1));
  out.push(...storeys);
  const heads = headsOf(found, standing.length ? standing : floors);
  if (heads.length && storeys.some((s) => s.what === STOREY_HEIGHT)) {
    const largest = heads.reduce((a, b) => (b.area > a.area ? b : a));
    say('head of an opening', largest.height, HEAD, 0.6);
  }

  const thin = thicknesses(form);
  if (thin.length) say(thin.length > 1 ? 'usual thickness' : 'thickness', middle(thin), THICK, 0.8);
  const bricks = bricksOf(form);
  if (bricks.length >= 12) say('length of a brick', middle(bricks), BRICK);
  const round = form.bodies.length <= 40 ? form.bodies.filter(isWheel).map((b) => Math.max(...b.size)) : [];
  // a wheel is the largest thing of its model or one of a few
  if (round.length && Math.max(...round) > overall * 0.3) say('across a round body', Math.max(...round), ROUND, 0.7);
  const leaves = leavesOf(form);
  if (leaves.length) say('height of a leaf', middle(leaves), LEAF, 0.5);
  return out;
}

/** Parts, and the model itself, whose name says what they are. */
function namedThings(form: Form, name: string): Witness[] {
  const byThing = new Map<Thing, number[]>();
  const add = (thing: Thing | null, size: readonly number[]) => {
    if (!thing) return;
    const length =
      thing.by === 'height' ? size[1] : thing.by === 'longest' ? Math.max(...size) : Math.max(size[0], size[2]);
    byThing.set(thing, [...(byThing.get(thing) ?? []), length]);
  };
  const whole = thingNamed(name);
  for (const part of form.parts) {
    const thing = thingNamed(part.name);
    // “doors” are several bodies: their heights are told one by one
    if (thing && /s$/.test(part.name) && part.bodies.length > 1) for (const b of part.bodies) add(thing, b.size);
    else if (thing !== whole || form.parts.length === 1) add(thing, part.size);
  }
  const lengths: Witness[] = [...byThing].map(([thing, found]) => ({
    what: `${thing.words[0]} ${thing.by === 'height' ? 'height' : thing.by === 'longest' ? 'length' : 'width'}`,
    length: middle(found),
    ranges: thing.sizes,
    weight: 1,
  }));
  if (whole && !byThing.has(whole)) {
    add(whole, form.size);
    lengths.push({
      what: `overall, as a ${whole.words[0]}`,
      length: byThing.get(whole)![0],
      ranges: whole.sizes,
      weight: 1,
    });
  }
  // many named things say much the same
  const weight = Math.min(1, 2.5 / lengths.length);
  return lengths.map((l) => ({ ...l, weight }));
}

/** Heights from one large level face to the next. */
function betweenLevels(
  form: Form,
  floors: { height: number; upward: number; downward: number }[],
  share: number,
): Witness[] {
  // a scan has a level face here and there
  if (share < 0.04 || !floors.length) return [];
  const standing = floors.filter((l) => l.upward > 0).map((l) => l.height);
  // a seat or a table top is measured from the ground it stands on
  if (standing[0] > form.size[1] * 0.06) standing.unshift(0);
  const gaps: number[] = [];
  for (let i = 1; i < standing.length; i++) {
    const gap = standing[i] - standing[i - 1];
    if (gap > form.size[1] * 0.03) gaps.push(gap);
  }
  if (!gaps.length) return [];
  const usual = middle(gaps);
  const alike = gaps.filter((g) => Math.abs(g / usual - 1) < 0.06).length;
  if (alike >= 3) {
    const shelf = Math.min(form.size[0], form.size[2]) < usual * 2;
    return [
      { what: shelf ? 'between shelves' : STOREY_HEIGHT, length: usual, ranges: shelf ? SHELF : STOREY, weight: 1 },
    ];
  }
  const storey = storeyOf(floors);
  if (storey) return [{ what: STOREY_HEIGHT, length: storey, ranges: LEVELS, weight: 1 }];
  return [{ what: 'between level faces', length: Math.max(...gaps), ranges: LEVELS, weight: 0.5 }];
}

/** From the largest face that looks up to the largest that looks down above it. */
function storeyOf(floors: { height: number; upward: number; downward: number }[]): number | null {
  const floor = floors.reduce((a, b) => (b.upward > a.upward * 1.02 ? b : a));
  const above = floors.filter((l) => l.height > floor.height && l.downward > floor.upward * 0.25);
  return above.length ? above[0].height - floor.height : null;
}

/** How thick bodies are that stand or lie as boards, walls and slabs do. */
function thicknesses(form: Form): number[] {
  const boxes = form.bodies.length ? form.bodies : form.parts;
  return boxes.flatMap(({ size }) => {
    const [thin, mid] = [...size].sort((a, b) => a - b);
    return thin > mid * 1e-3 && thin < mid * 0.2 ? [thin] : [];
  });
}

/** Lengths of bodies with the proportions of a brick. */
const bricksOf = (form: Form): number[] =>
  form.bodies.flatMap(({ size, corners }) => {
    const [h, w, l] = [...size].sort((a, b) => a - b);
    return corners <= 24 && l / w > 1.85 && l / w < 2.3 && l / h > 2.7 && l / h < 4.6 ? [l] : [];
  });

/** Round seen from one side, and flat. */
export const isWheel = ({ size, corners }: { size: readonly number[]; corners: number }): boolean => {
  const [thin, mid, long] = [...size].sort((a, b) => a - b);
  return corners >= 24 && long > 0 && mid / long > 0.97 && thin < mid * 0.6;
};

/** Heights of bodies with the proportions of a door's leaf. */
const leavesOf = (form: Form): number[] =>
  form.bodies.flatMap(({ size: [x, h, z] }) => {
    const [thin, wide] = x < z ? [x, z] : [z, x];
    return h / wide > 1.8 && h / wide < 3.2 && thin > 0 && thin < wide * 0.12 && h < form.size[1] * 0.98 ? [h] : [];
  });
