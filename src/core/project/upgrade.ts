import { storedForm } from '../history/stored';
import type { Command } from './commands';
import { emptyProject, type Project } from './schema';

/** How projects are stored; an example of every version is in `stored/`. */
export const STORED_PROJECT = storedForm<Project, Command>(
  'project',
  [
    // levels, kept selections and showing some alone came after the first documents; so did the sun
    (stored) => {
      const { id, name } = stored as { id: string; name: string };
      return { ...emptyProject(id, name), ...stored };
    },
  ],
  [
    // the first commands had no version; they are today's
    (stored) => stored,
  ],
);
