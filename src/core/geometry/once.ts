/** Work that is done when its result is first asked for, and kept. */
export function once<T>(work: () => T): () => T {
  let made: { value: T } | null = null;
  return () => (made ??= { value: work() }).value;
}
