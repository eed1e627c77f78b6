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
