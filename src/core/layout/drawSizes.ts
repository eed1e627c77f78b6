import { unit } from '../noise/hash';
import type { CourseSizes, Sizes } from '../schema/sizes';

/** What is being drawn, so that no two draws are the same. */
export const enum Draw {
  width = 1,
  length = 2,
  offset = 3,
}

/** The sizes a list or range can give. */
export const longest = (s: CourseSizes): number =>
  s.kind === 'one' ? s.mm : s.kind === 'range' ? Math.max(s.fromMm, s.toMm) : Math.max(...s.items.map((i) => i.mm));
export const shortest = (s: CourseSizes): number =>
  s.kind === 'one' ? s.mm : s.kind === 'range' ? Math.min(s.fromMm, s.toMm) : Math.min(...s.items.map((i) => i.mm));
export function mean(s: CourseSizes): number {
  if (s.kind === 'one') return s.mm;
  if (s.kind === 'range') return (s.fromMm + s.toMm) / 2;
  const items = s.kind === 'turn' ? s.items.map(({ mm, times }) => ({ mm, share: times })) : s.items;
  const total = items.reduce((n, i) => n + i.share, 0);
  return total > 0 ? items.reduce((n, i) => n + i.mm * i.share, 0) / total : items[0].mm;
}

/** As a sentence has them: “90, 90, 140 in turn”. */
export function saySizes(s: CourseSizes, size: (mm: number) => string): string {
  if (s.kind === 'one') return size(s.mm);
  if (s.kind === 'range') return `${size(s.fromMm)} to ${size(s.toMm)}`;
  if (s.kind === 'list') return s.items.map((i) => size(i.mm)).join(', ');
  return `${s.items.map((i) => `${i.times > 1 ? `${i.times} × ` : ''}${size(i.mm)}`).join(', ')} in turn`;
}

/** The size of a course: in turn, or as chance gives it. */
export function sizeOfCourse(s: CourseSizes, course: number, bits: number): number {
  if (s.kind !== 'turn') return sizeFrom(s, bits);
  const total = s.items.reduce((n, i) => n + i.times, 0);
  let left = ((course % total) + total) % total;
  return s.items.find((i) => (left -= i.times) < 0)!.mm;
}

/** The size that 32 bits of chance give; ranges come in whole millimetres. */
export function sizeFrom(s: Sizes, bits: number): number {
  if (s.kind === 'one') return s.mm;
  if (s.kind === 'range') {
    const low = Math.min(s.fromMm, s.toMm);
    const high = Math.max(s.fromMm, s.toMm);
    return Math.min(high, low + Math.round(unit(bits) * (high - low)));
  }
  const total = s.items.reduce((n, i) => n + i.share, 0);
  let left = unit(bits) * total;
  for (const item of s.items) {
    left -= item.share;
    if (left < 0) return item.mm;
  }
  return s.items[0].mm;
}
