/**
 * Of lists that lie one behind the other, the one a number falls into; an empty list is passed over.
 * @param firsts where each begins, from 0, and one past the last
 * @example ownerOf([0, 3, 3, 7], 3) // 2
 */
export function ownerOf(firsts: ArrayLike<number>, n: number): number {
  let [low, high] = [0, firsts.length - 1];
  while (high - low > 1) {
    const mid = (low + high) >> 1;
    if (firsts[mid] <= n) low = mid;
    else high = mid;
  }
  return low;
}
