import { LRUCache } from 'lru-cache';
import { database } from './database';

/** Bytes of documents kept parsed, by their length as JSON. */
const MOST_KEPT = 64e6;
/** The newest state of documents read or changed last; whoever gets one must not change it. */
type Kept = LRUCache<string, { revision: number; document: object }>;
// kept on globalThis: the parts of the server are bundled apart, and must see one another's changes
const holder = globalThis as typeof globalThis & { juteGridDocuments?: WeakMap<object, Kept> };

/** Of the database that is open: closing it forgets them. */
export function kept(): Kept {
  const all = (holder.juteGridDocuments ??= new WeakMap());
  const db = database();
  let own = all.get(db);
  if (!own) all.set(db, (own = new LRUCache({ maxSize: MOST_KEPT })));
  return own;
}
