import { type Stored, storedForm } from '../history/stored';
import type { Command } from './commands';
import { emptyProject, type Project } from './schema';

/** An unrolled mapping says that it lies in one piece; it said “whole”, which everywhere else means pieces uncut. */
function inOnePiece(stored: unknown): unknown {
  if (Array.isArray(stored)) return stored.map(inOnePiece);
  if (typeof stored !== 'object' || stored === null) return stored;
  const entries = Object.entries(stored).map(([key, value]) => [key, inOnePiece(value)] as const);
  const unrolled = (stored as Stored).kind === 'unroll';
  return Object.fromEntries(
    unrolled ? entries.map(([key, value]) => [key === 'whole' ? 'inOnePiece' : key, value]) : entries,
  );
}

/** How projects are stored; an example of every version is in `stored/`. */
export const STORED_PROJECT = storedForm<Project, Command>(
  'project',
  [
    // levels, kept selections and showing some alone came after the first documents; so did the sun
    (stored) => {
      const { id, name } = stored as { id: string; name: string };
      return { ...emptyProject(id, name), ...stored };
    },
    (stored) => inOnePiece(stored) as Stored,
  ],
  [
    // the first commands had no version; they are today's
    (stored) => stored,
    (stored) => inOnePiece(stored) as Stored,
  ],
);
