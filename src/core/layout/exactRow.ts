import type { Sizes } from '../schema/sizes';
import { hash, unit } from '../noise/hash';
import { Draw, longest, shortest, sizeFrom } from './drawSizes';
import { before, common, holds, joined, keptApart, type Places, placeAt, reachable } from './reach';

/** What a row is laid by. */
export interface RowRule {
  lengths: Sizes;
  joint: number;
  /** Least length of a piece at either end, and distance from the joints of the rows beside, mm. */
  leastEnd: number;
  leastApart: number;
  layoutNumber: number;
}

/** One stretch of a course, to be filled from end to end. */
export interface Stretch {
  course: number;
  /** Position in its row of its first piece: draws go by it. */
  at: number;
  from: number;
  to: number;
}

/** A row of boards: borders in the middle of joints, its two ends among them. */
export interface FittedRow {
  borders: number[];
  /** What was sawn off the last board, mm. */
  offcut: number;
  /** Its first piece is the off-cut of the row before. */
  fromOffcut: boolean;
  /** Positions of pieces that were sawn to fit, in the order of the row. */
  sawn: number[];
}

/** Lengths drawn before one is taken from all that will do. */
const TRIES = 24;
const HAIR = 1e-6;

/**
 * A row whose end joints all keep their distance from those of the rows beside it, wherever there is one: from the end
 * backwards it is worked out from which places the row can still be brought to its end (exactly, as intervals), and
 * from the start on only such places are taken. The board before the last may be sawn, too, so that the last is no
 * shorter than it should be.
 *
 * @param others joints of the rows beside it, ascending
 * @param offcut begins the row if it serves; 0 for none
 * @returns null where no row keeps them apart
 */
export function fitExactly(
  rule: RowRule,
  { course, at: firstAt, from, to }: Stretch,
  others: readonly (readonly number[])[],
  offcut: number,
): FittedRow | null {
  const { lengths, joint, leastEnd, leastApart, layoutNumber } = rule;
  const [start, end] = [from - joint / 2, to + joint / 2];
  const high = longest(lengths);
  // a single board, sawn to fit
  if (to - from <= high + HAIR)
    return { borders: [start, end], offcut: high - (to - from), fromOffcut: false, sawn: [0] };
  const whole = stepsOf(lengths, joint);
  const sawn = [[leastEnd + joint, high + joint]] as const;
  const allowed = keptApart(start, end, others, leastApart);
  const last = common(allowed, [end - high - joint, end - leastEnd - joint]);
  const lastButOne = common(allowed, before(last, sawn));
  const reach = reachable(allowed, joined([...last, ...lastButOne]), whole);
  const first = common(reach, [start + leastEnd + joint, start + high + joint]);
  if (!first.length) return null;

  const bits = (i: number, t: number, draw: Draw) => hash(layoutNumber, course, (firstAt + i) * (TRIES + 1) + t, draw);
  const borders = [start];
  const cut = new Set<number>();
  const fromOffcut = offcut >= leastEnd && offcut < high && holds(first, start + offcut + joint);
  const begin = (): number => {
    if (fromOffcut) return start + offcut + joint;
    for (let t = 1; t < TRIES; t++) {
      const board = sizeFrom(lengths, bits(0, t, Draw.length));
      const length = Math.round(leastEnd + unit(bits(0, t, Draw.offset)) * (board - leastEnd));
      if (holds(first, start + length + joint)) return start + length + joint;
    }
    return tidy(placeAt(first, unit(bits(0, TRIES, Draw.offset))), first, start + joint);
  };
  let at = begin();
  if (at - start - joint < high - 0.01) cut.add(0);
  borders.push(at);
  for (let i = 1; ; i++) {
    const rest = end - at - joint;
    const ends = holds(last, at);
    let next = NaN;
    for (let t = 0; t < TRIES && Number.isNaN(next); t++) {
      const length = sizeFrom(lengths, bits(i, t, Draw.length));
      if (length >= rest - HAIR) {
        if (ends) return close(length);
      } else if (holds(reach, at + length + joint)) next = at + length + joint;
    }
    if (Number.isNaN(next) && ends) return close(high);
    if (Number.isNaN(next)) {
      const places = common(reach, joined(whole.flatMap(([least, most]) => [at + least, at + most])));
      if (places.length) next = tidy(placeAt(places, unit(bits(i, TRIES, Draw.length))), places, at + joint);
      else {
        // the board before the last is sawn
        const sawnTo = common(last, [at + sawn[0][0], at + sawn[0][1]]);
        cut.add(i);
        next = tidy(placeAt(sawnTo, unit(bits(i, TRIES, Draw.offset))), sawnTo, at + joint);
        at = next;
        borders.push(at);
        return close(high);
      }
    }
    at = next;
    borders.push(at);
  }

  function close(board: number): FittedRow {
    const rest = end - at - joint;
    if (rest < board - 0.01) cut.add(borders.length - 1);
    borders.push(end);
    return { borders, offcut: Math.max(0, board - rest - joint), fromOffcut, sawn: [...cut] };
  }
}

/** From one border to the next by an unsawn board. */
function stepsOf(lengths: Sizes, joint: number): (readonly [number, number])[] {
  if (lengths.kind === 'list') return lengths.items.map(({ mm }) => [mm + joint, mm + joint] as const);
  return [[shortest(lengths) + joint, longest(lengths) + joint]];
}

/** On a whole millimetre of board where that will do. */
function tidy(x: number, places: Places, from: number): number {
  const rounded = from + Math.round(x - from);
  return holds(places, rounded) ? rounded : x;
}
