/** Sets of places along a row as closed intervals, ascending and apart: from, to, from, to, … mm. */
export type Places = number[];

/** Joins intervals given in any order. */
export function joined(intervals: Places): Places {
  for (let i = 2; i < intervals.length; i += 2)
    if (intervals[i] < intervals[i - 2]) return joinedInOrder(sorted(intervals));
  return joinedInOrder(intervals);
}

function sorted(intervals: Places): Places {
  const order = Array.from({ length: intervals.length / 2 }, (_, i) => i * 2).sort(
    (a, b) => intervals[a] - intervals[b],
  );
  return order.flatMap((i) => [intervals[i], intervals[i + 1]]);
}

function joinedInOrder(intervals: Places): Places {
  const out: Places = [];
  for (let i = 0; i < intervals.length; i += 2) {
    const last = out.length - 1;
    if (last > 0 && intervals[i] <= out[last]) out[last] = Math.max(out[last], intervals[i + 1]);
    else out.push(intervals[i], intervals[i + 1]);
  }
  return out;
}

/** What lies in both. */
export function common(a: Places, b: Places): Places {
  const out: Places = [];
  for (let i = 0, j = 0; i < a.length && j < b.length;) {
    const from = Math.max(a[i], b[j]);
    const to = Math.min(a[i + 1], b[j + 1]);
    if (from <= to) out.push(from, to);
    if (a[i + 1] < b[j + 1]) i += 2;
    else j += 2;
  }
  return out;
}

export function holds(places: Places, x: number): boolean {
  let low = 0;
  let high = places.length / 2;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (places[middle * 2 + 1] < x) low = middle + 1;
    else high = middle;
  }
  return low * 2 < places.length && places[low * 2] <= x;
}

/** Everything between from and to that is at least `apart` from each of some places, which ascend. */
export function keptApart(from: number, to: number, others: readonly (readonly number[])[], apart: number): Places {
  const near: Places = [];
  if (apart > 0) for (const list of others) for (const y of list) near.push(y - apart, y + apart);
  const forbidden = joined(near);
  const out: Places = [];
  let at = from;
  for (let i = 0; i < forbidden.length; i += 2) {
    if (forbidden[i + 1] <= at) continue;
    if (forbidden[i] >= to) break;
    if (forbidden[i] >= at) out.push(at, forbidden[i]);
    at = forbidden[i + 1];
  }
  if (at <= to) out.push(at, to);
  return out;
}

/** Places from which one of `places` is reached by a step out of one of `steps` (intervals, mm). */
export function before(places: Places, steps: readonly (readonly [number, number])[]): Places {
  const out: Places = [];
  for (const [least, most] of steps) {
    for (let i = 0; i < places.length; i += 2) out.push(places[i] - most, places[i + 1] - least);
  }
  return joined(out);
}

/**
 * All allowed places from which one of `goal` is reached by steps, with the goal itself. What lies within one shortest
 * step depends on what lies beyond it alone: so it is worked out in stretches of that length, from the end backwards.
 */
export function reachable(allowed: Places, goal: Places, steps: readonly (readonly [number, number])[]): Places {
  if (!goal.length) return [];
  if (steps.length === 1) return reachableByOne(allowed, goal, steps[0]);
  const least = Math.min(...steps.map((s) => s[0]));
  const most = Math.max(...steps.map((s) => s[1]));
  const start = Math.min(allowed.length ? allowed[0] : Infinity, goal[0]);
  // the stretches found, each ascending, the last one first
  const found: Places[] = [];
  const allowedIn = fromTheEnd(allowed);
  const goalIn = fromTheEnd(goal);
  for (let to = goal[goal.length - 1]; to >= start; to -= least) {
    const from = to - least;
    // a step from here leads into one of the stretches before
    const reached: Places = [];
    const back = Math.ceil(most / least) + 1;
    for (let k = Math.max(0, found.length - back); k < found.length; k++) reached.unshift(...found[k]);
    const here = common(allowedIn(from, to), before(reached, steps));
    found.push(joined([...goalIn(from, to), ...here]));
  }
  const out: Places = [];
  for (let k = found.length - 1; k >= 0; k--) for (const place of found[k]) out.push(place);
  return joined(out);
}

/** The same for steps of any length between two, in one pass: from each place that is found, the last first. */
function reachableByOne(allowed: Places, goal: Places, [least, most]: readonly [number, number]): Places {
  // places found, the last first
  const from: number[] = [];
  const to: number[] = [];
  let g = goal.length - 2;
  let next = 0;
  let a = allowed.length - 2;
  let done = Infinity;
  const out: Places = [];
  while (g >= 0 || next < from.length) {
    const ofGoal = g >= 0 && (next >= from.length || goal[g + 1] >= to[next]);
    const [low, high] = ofGoal ? [goal[g], goal[g + 1]] : [from[next], to[next]];
    if (ofGoal) g -= 2;
    else next++;
    out.push(low, high);
    // whatever a step before it is allowed, as far as it was not looked at
    const first = low - most;
    const last = Math.min(high - least, done);
    if (last < first) continue;
    while (a >= 0 && allowed[a] > last) a -= 2;
    for (let i = a; i >= 0 && allowed[i + 1] >= first; i -= 2) {
      from.push(Math.max(first, allowed[i]));
      to.push(Math.min(last, allowed[i + 1]));
    }
    done = Math.min(done, first);
  }
  // all but in order: only the goal's own places come between
  const ascending: Places = [];
  for (let i = out.length - 2; i >= 0; i -= 2) {
    let at = ascending.length;
    while (at > 0 && ascending[at - 2] > out[i]) at -= 2;
    if (at === ascending.length) ascending.push(out[i], out[i + 1]);
    else ascending.splice(at, 0, out[i], out[i + 1]);
  }
  return joined(ascending);
}

/** Asked for stretches one before the other, tells what of some places lies in each. */
function fromTheEnd(places: Places): (from: number, to: number) => Places {
  let last = places.length - 2;
  return (from, to) => {
    while (last >= 0 && places[last] > to) last -= 2;
    const out: Places = [];
    for (let i = last; i >= 0 && places[i + 1] >= from; i -= 2)
      out.unshift(Math.max(from, places[i]), Math.min(to, places[i + 1]));
    return out;
  };
}

/** A place out of some, by a share of all they cover; points count where there is nothing else. */
export function placeAt(places: Places, share: number): number {
  let total = 0;
  for (let i = 0; i < places.length; i += 2) total += places[i + 1] - places[i];
  let left = share * total;
  for (let i = 0; i < places.length; i += 2) {
    const length = places[i + 1] - places[i];
    if (left <= length || i + 2 === places.length) return places[i] + Math.min(left, length);
    left -= length;
  }
  return NaN;
}
