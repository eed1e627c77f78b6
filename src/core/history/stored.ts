import { applyPatch, type Patch } from './patch';

/**
 * Stored documents and commands are brought up to today's on reading, by numbered steps: step n makes what is stored at
 * version n into version n + 1. A step is never changed once it has landed, only followed by another; an example of
 * every version stays as a test.
 */
export type Stored = Record<string, unknown>;
export type StoredStep = (stored: Stored) => Stored;

/** How a kind of document and its commands are written and read. */
export interface StoredForm<Document, Command> {
  documentVersion: number;
  /** Written beside stored commands. */
  commandVersion: number;
  /** As it is stored, with its version. */
  write(document: Document): string;
  /**
   * @param since what has changed after it was written, at the version it was written at
   * @throws Error when the document is of a newer program
   */
  read(text: string, since?: readonly Patch[]): Document;
  /** Commands as they were stored at a version. */
  readCommands(text: string, version: number): Command[];
}

const upgraded = (stored: Stored, version: number, steps: readonly StoredStep[]): Stored =>
  steps.slice(version).reduce((made, step) => step(made), stored);

/** @param what it is called in a message: “this project was stored by a newer Jute Grid” */
export const storedForm = <Document extends object, Command>(
  what: string,
  documentSteps: readonly StoredStep[],
  commandSteps: readonly StoredStep[],
): StoredForm<Document, Command> => ({
  documentVersion: documentSteps.length,
  commandVersion: commandSteps.length,
  write: (document) => JSON.stringify({ version: documentSteps.length, ...document }),
  read(text, since = []) {
    const { version = 0, ...stored } = JSON.parse(text) as Stored & { version?: number };
    if (version > documentSteps.length)
      throw new Error(`this ${what} was stored by a newer Jute Grid (document version ${version}); update to open it`);
    return upgraded(applyPatch(stored, since.flat()), version, documentSteps) as Document;
  },
  readCommands: (text, version) =>
    (JSON.parse(text) as Stored[]).map((stored) => upgraded(stored, version, commandSteps) as Command),
});
