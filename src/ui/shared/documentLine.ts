import { toast } from 'sonner';
import type { Moved, Standing } from '@/api/answers';
import { applyPatch, findDifference } from '@/core/history/patch';
import { ApiProblem, messageOf } from './api';

/** What a kind of document can be asked to do, on the server and here. */
export interface DocumentCalls<Document, Command> {
  /** As messages call it: “This project was changed in another tab”. */
  what: string;
  apply(document: Document, commands: readonly Command[]): Document;
  read(id: string): Promise<Opened<Document>>;
  change(id: string, base: number, commands: readonly Command[], gesture?: string): Promise<Standing>;
}

export interface Opened<Document> extends Standing {
  document: Document;
}

/** What is shown of an open document. */
export interface Shown<Document> extends Opened<Document> {
  /** Changes on their way to the server. */
  pending: number;
  /** Why the last one is not there yet. */
  error: string | null;
}

interface Changing<Command> {
  commands: readonly Command[];
  gesture?: string;
}
interface Moving {
  move(id: string, base: number): Promise<Moved>;
}

/**
 * An open document and the line of changes on their way to the server. A change shows at once and is sent after those
 * before it, each on the revision the one before led to. What the server refuses is taken back; what it does not answer
 * to stays, and goes along with the next.
 */
export class DocumentLine<Document extends { id: string }, Command> {
  private readonly waiting: (Changing<Command> | Moving)[] = [];
  private sending: Promise<void> | null = null;
  private shown: Shown<Document>;
  /** What the server has, as far as it has answered. */
  private known: Document;
  private closed = false;

  constructor(
    private readonly calls: DocumentCalls<Document, Command>,
    opened: Opened<Document>,
    private readonly show: (shown: Shown<Document>) => void,
  ) {
    this.shown = { ...opened, pending: 0, error: null };
    this.known = opened.document;
    show(this.shown);
  }

  get id(): string {
    return this.shown.document.id;
  }

  /** What is on its way is still sent; nothing of it is shown any more. */
  close(): void {
    this.closed = true;
  }

  /** Takes what the server has, with what is still on its way on top. */
  adopt(opened: Opened<Document>): void {
    // what is the same stays the same object: everything that is kept by identity lives on
    const before = this.shown.document;
    this.stand(applyPatch(before, findDifference(before, opened.document)), opened);
  }

  /** The server has this; what is still on its way is shown on top. */
  private stand(known: Document, { revision, canUndo, canRedo }: Standing): void {
    this.known = known;
    let document = known;
    for (const next of this.waiting) {
      if ('move' in next) break;
      try {
        document = this.calls.apply(document, next.commands);
      } catch {
        // it fits no longer; the server will say so
      }
    }
    this.put({ document, revision, canUndo: canUndo || this.waiting.length > 0, canRedo, error: null });
  }

  /** Applies at once, then sends. Commands of one gesture become one history entry. */
  run(commands: readonly Command[], gesture?: string): void {
    if (!commands.length) return;
    try {
      const document = this.calls.apply(this.shown.document, commands);
      this.put({ document, canUndo: true });
    } catch (error) {
      toast.error('That does not fit', { description: messageOf(error) });
      return;
    }
    this.waiting.push({ commands, gesture });
    void this.send();
  }

  /** A step in the history: shown when the server has answered. */
  move(move: Moving['move']): Promise<void> {
    this.waiting.push({ move });
    return this.send();
  }

  /** When all is sent, or the server does not answer. */
  settled(): Promise<void> {
    return this.sending ?? Promise.resolve();
  }

  private put(change: Partial<Shown<Document>>): void {
    this.shown = { ...this.shown, ...change, pending: this.waiting.length };
    if (!this.closed) this.show(this.shown);
  }

  private send(): Promise<void> {
    this.put({});
    this.sending ??= this.sendAll().finally(() => {
      this.sending = null;
      this.put({});
    });
    return this.sending;
  }

  private async sendAll(): Promise<void> {
    for (let next = this.waiting[0]; next; next = this.waiting[0]) {
      const { revision } = this.shown;
      try {
        if ('move' in next) {
          const moved = await next.move(this.id, revision);
          this.waiting.shift();
          this.stand(applyPatch(this.known, moved.patch), moved);
        } else {
          const {
            revision: now,
            canUndo,
            canRedo,
          } = await this.calls.change(this.id, revision, next.commands, next.gesture);
          // with nothing behind it, what is shown is what the server has
          const { document } = this.shown;
          this.known = this.waiting.length > 1 ? this.calls.apply(this.known, next.commands) : document;
          this.waiting.shift();
          this.put({ revision: now, canUndo, canRedo, error: null });
        }
      } catch (error) {
        if (error instanceof ApiProblem && error.status === 0 && !('move' in next)) return this.waitForServer(error);
        this.waiting.shift();
        await this.recover(error, next);
      }
    }
  }

  /** Nothing was answered: what waits stays, in its order. */
  private waitForServer(error: ApiProblem): void {
    if (!this.shown.error)
      toast.error('Not saved', {
        description: messageOf(error),
        duration: 15_000,
        action: { label: 'Try again', onClick: () => void this.send() },
      });
    this.put({ error: messageOf(error) });
  }

  /** The server refused: the newest state is shown, and the change can be applied to it. */
  private async recover(error: unknown, refused: Changing<Command> | Moving): Promise<void> {
    try {
      this.adopt(await this.calls.read(this.id));
    } catch {
      // the message below says what matters
    }
    if (this.closed) return;
    const again = 'move' in refused ? null : () => this.run(refused.commands, refused.gesture);
    const stale = error instanceof ApiProblem && error.status === 409 && error.body.field === 'baseRevision';
    if (stale && again) {
      const changed = (error.body.changed as string[] | undefined) ?? [];
      toast.warning(`This ${this.calls.what} was changed in another tab`, {
        description: `${changed.length ? `There: ${changed.join('; ')}. ` : ''}Your last change was not applied.`,
        duration: 20_000,
        action: { label: 'Apply mine too', onClick: again },
      });
      return;
    }
    const action = again ? { label: 'Try again', onClick: again } : undefined;
    toast.error('Not saved', { description: messageOf(error), duration: 15_000, action });
  }
}
