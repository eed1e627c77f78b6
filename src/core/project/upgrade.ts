import type { Command } from './commands';
import { emptyProject, type Project } from './schema';

/**
 * Stored documents and commands are brought up to today's on reading, by numbered steps: step n makes what is stored at
 * version n into version n + 1. A step is never changed once it has landed, only followed by another; an example of
 * every version stays in `stored/`, as a test.
 */
type Stored = Record<string, unknown>;
type Step = (stored: Stored) => Stored;

const DOCUMENT_STEPS: Step[] = [
  // levels, kept selections and showing some alone came after the first documents; so did the sun
  (stored) => {
    const { id, name } = stored as { id: string; name: string };
    return { ...emptyProject(id, name), ...stored };
  },
];

const COMMAND_STEPS: Step[] = [
  // the first commands had no version; they are today's
  (stored) => stored,
];

export const DOCUMENT_VERSION = DOCUMENT_STEPS.length;
/** Written beside stored commands. */
export const COMMAND_VERSION = COMMAND_STEPS.length;

const upgraded = (stored: Stored, version: number, steps: Step[]): Stored =>
  steps.slice(version).reduce((made, step) => step(made), stored);

/** A document as it is stored, with its version. */
export const writeDocument = (project: Project): string => JSON.stringify({ version: DOCUMENT_VERSION, ...project });

/**
 * @throws Error when the document is of a newer program
 */
export function readDocument(text: string): Project {
  const { version = 0, ...stored } = JSON.parse(text) as Stored & { version?: number };
  if (version > DOCUMENT_VERSION) {
    throw new Error(`this project was stored by a newer Jute Grid (document version ${version}); update to open it`);
  }
  return upgraded(stored, version, DOCUMENT_STEPS) as unknown as Project;
}

/** Commands as they were stored at a version. */
export const readCommands = (text: string, version: number): Command[] =>
  (JSON.parse(text) as Stored[]).map((stored) => upgraded(stored, version, COMMAND_STEPS) as unknown as Command);
