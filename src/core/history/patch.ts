/**
 * What differs between two states of a document, as a list of places with their new value.
 * Documents are changed without mutation, so unchanged branches are the same object and cost nothing to compare.
 */

export type Json = string | number | boolean | null | Json[] | { [key: string]: Json };

/** `path` leads through object keys; without `value` the place is removed. Arrays are replaced whole. */
export interface Edit {
  path: string[];
  value?: unknown;
}
export type Patch = Edit[];

const isRecord = (v: unknown): v is Record<string, unknown> => typeof v === 'object' && v !== null && !Array.isArray(v);

/** Equal as JSON, whatever the order of keys; the same object costs nothing to compare. */
export function sameValue(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (Array.isArray(a) && Array.isArray(b)) return a.length === b.length && a.every((v, i) => sameValue(v, b[i]));
  if (isRecord(a) && isRecord(b)) {
    const keys = Object.keys(a);
    return keys.length === Object.keys(b).length && keys.every((k) => Object.hasOwn(b, k) && sameValue(a[k], b[k]));
  }
  return false;
}

/**
 * The patch that turns `from` into `to`.
 * @example findDifference({ a: 1, b: { c: 2 } }, { b: { c: 3 } }) // [{ path: ['a'] }, { path: ['b', 'c'], value: 3 }]
 */
export const findDifference = (from: unknown, to: unknown): Patch => findDifferences(from, to).patch;

/** The patch that turns `from` into `to`, and the one that leads back, found in one walk. */
export function findDifferences(from: unknown, to: unknown): { patch: Patch; inverse: Patch } {
  const found = { patch: [] as Patch, inverse: [] as Patch };
  compare(from, to, [], found);
  return found;
}

function compare(from: unknown, to: unknown, path: string[], found: { patch: Patch; inverse: Patch }): void {
  if (from === to) return;
  if (!isRecord(from) || !isRecord(to)) {
    if (sameValue(from, to)) return;
    found.patch.push({ path, value: to });
    found.inverse.push({ path, value: from });
    return;
  }
  for (const key of Object.keys(from)) {
    const [was, is] = [from[key], Object.hasOwn(to, key) ? to[key] : undefined];
    // most of a document is untouched: the same objects
    if (was === is) continue;
    const at = [...path, key];
    if (was !== undefined && is !== undefined) compare(was, is, at, found);
    else {
      found.patch.push(is === undefined ? { path: at } : { path: at, value: is });
      found.inverse.push(was === undefined ? { path: at } : { path: at, value: was });
    }
  }
  for (const key of Object.keys(to)) {
    if (Object.hasOwn(from, key) || to[key] === undefined) continue;
    found.patch.push({ path: [...path, key], value: to[key] });
    found.inverse.push({ path: [...path, key] });
  }
}

/**
 * Applies a patch without touching `document`.
 * @throws Error when a path leads into a prototype
 * @example applyPatch({ a: 1, b: 2 }, [{ path: ['a'] }, { path: ['c', 'd'], value: 3 }]) // { b: 2, c: { d: 3 } }
 */
export function applyPatch<T>(document: T, patch: Patch): T {
  // each record is copied once, however many of its places are edited
  const copies = new WeakSet<object>();
  let result: unknown = document;
  for (const edit of patch) result = editAt(result, edit.path, 0, edit, copies);
  return result as T;
}

/** @param copies made by this patch alone: they may be changed in place */
function editAt(node: unknown, path: string[], depth: number, edit: Edit, copies: WeakSet<object>): unknown {
  if (depth === path.length) return edit.value;
  const key = path[depth];
  if (key === '__proto__') throw new Error('a patch must not reach into prototypes');
  const copy: Record<string, unknown> = isRecord(node) ? (copies.has(node) ? node : { ...node }) : {};
  copies.add(copy);
  if (depth === path.length - 1 && !('value' in edit)) delete copy[key];
  else copy[key] = editAt(Object.hasOwn(copy, key) ? copy[key] : undefined, path, depth + 1, edit, copies);
  return copy;
}
