import { CommandError } from '../history/commandError';

/** What commands do with the document's records: none is changed in place. */

/** @throws CommandError where there is none */
export function need<T>(record: Record<string, T>, id: string, what: string): T {
  const found = Object.hasOwn(record, id) ? record[id] : undefined;
  if (!found) throw new CommandError(what, `there is no ${what} “${id}” in this project`);
  return found;
}

export function put<T extends { id: string }>(record: Record<string, T>, items: T[]): Record<string, T> {
  return items.length ? { ...record, ...Object.fromEntries(items.map((i) => [i.id, i])) } : record;
}

export function without<T>(record: Record<string, T>, drop: (id: string, item: T) => boolean): Record<string, T> {
  return Object.fromEntries(Object.entries(record).filter(([id, item]) => !drop(id, item)));
}

export const definedOnly = <T extends object>(o: T): Partial<T> =>
  Object.fromEntries(Object.entries(o).filter(([, v]) => v !== undefined)) as Partial<T>;

export function change<T>(
  record: Record<string, T>,
  ids: readonly string[],
  what: string,
  edit: (item: T) => T,
): Record<string, T> {
  const copy = { ...record };
  for (const id of ids) copy[id] = edit(need(record, id, what));
  return copy;
}
