/** A range of sizes and how often a thing is of it: from, to (millimetres), share. */
export type SizeRange = readonly [from: number, to: number, share: number];

/** How softly a range ends, in nats: sizes a quarter beyond it still are thought of. */
const SOFT = 0.22;

/** Sizes that a number from a file may come to at all, in nats: a tenth of a millimetre to a hundred kilometres. */
const ALL_NATS = Math.log(1e8 / 0.1);

/**
 * How likely a length is, for a thing whose sizes are known: the density over ln(mm) of a mixture of plateaus, beside
 * what is left for things that are as no one expects. The ends of a plateau are half of a normal curve.
 *
 * @param mm the length
 * @param ranges shares add up to less than 1; the rest lies evenly over everything
 * @returns natural logarithm of the density
 */
export function logLikely(mm: number, ranges: readonly SizeRange[]): number {
  let rest = 1;
  let sum = 0;
  const at = Math.log(mm);
  for (const [from, to, share] of ranges) {
    const [low, high] = [Math.log(from), Math.log(to)];
    const beyond = Math.max(0, low - at, at - high);
    sum += (share * Math.exp(-0.5 * (beyond / SOFT) ** 2)) / (high - low + SOFT * Math.sqrt(2 * Math.PI));
    rest -= share;
  }
  return Math.log(sum + Math.max(0.002, rest) / ALL_NATS);
}

/** Whether a length lies in one of the ranges, or a little beside it. */
export const isUsual = (mm: number, ranges: readonly SizeRange[]): boolean =>
  ranges.some(([from, to]) => mm >= from * 0.9 && mm <= to * 1.1);

/** Shares that add up to 1, from logarithms of what speaks for each. */
export function sharesOf(logs: readonly number[]): number[] {
  const most = Math.max(...logs);
  const raw = logs.map((l) => Math.exp(l - most));
  const sum = raw.reduce((a, b) => a + b, 0);
  return raw.map((r) => r / sum);
}
