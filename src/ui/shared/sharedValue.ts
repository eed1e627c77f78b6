import { sameValue } from '@/core/history/patch';
import { MIXED } from './ValueField';

/**
 * The value that all of some things share, or MIXED; no more of them are read than it takes to tell. Of nothing it is
 * undefined.
 */
export function sharedBy<S, T>(things: readonly S[], read: (thing: S) => T): T | typeof MIXED {
  if (!things.length) return undefined as T;
  const first = read(things[0]);
  for (let n = 1; n < things.length; n++) if (!sameValue(first, read(things[n]))) return MIXED;
  return first;
}
