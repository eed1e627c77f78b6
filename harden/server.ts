import type { ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { request } from 'node:http';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { serve } from '../tests/serve';

export interface Answer {
  status: number;
  body: string;
  headers: Record<string, string | string[] | undefined>;
  ms: number;
}

export interface Sent {
  headers?: Record<string, string>;
  body?: Uint8Array | string;
  /** Ended by us after so many ms; status 0 then, as where the server is gone. */
  patience?: number;
}

/** The application on a data folder of its own, that can be killed and begun again. */
export class Served {
  url = '';
  private process: ChildProcess | null = null;

  constructor(
    readonly port: number,
    readonly data = mkdtempSync(path.join(tmpdir(), 'jute-grid-harden-')),
    private readonly env: Record<string, string> = {},
  ) {}

  async begin(): Promise<this> {
    const { url } = await serve(this.port, this.data, this.env, (process) => (this.process = process));
    this.url = url;
    return this;
  }

  /** Ends it at once, as a power cut would. */
  async kill(signal: NodeJS.Signals = 'SIGKILL'): Promise<void> {
    const { process } = this;
    this.process = null;
    if (!process || process.exitCode !== null) return;
    const gone = new Promise((done) => process.once('exit', done));
    process.kill(signal);
    await gone;
  }

  async end(): Promise<void> {
    await this.kill();
    rmSync(this.data, { recursive: true, force: true });
  }

  /** Anything over HTTP, however odd; what a client library would not send as well. */
  send(method: string, at: string, { headers = {}, body, patience = 120_000 }: Sent = {}): Promise<Answer> {
    const start = performance.now();
    return new Promise((resolve) => {
      const done = (status: number, text = '', got: Answer['headers'] = {}) =>
        resolve({ status, body: text, headers: got, ms: performance.now() - start });
      const length = body === undefined ? {} : { 'content-length': String(Buffer.byteLength(body)) };
      const asked = request(
        {
          // a connection of its own: one that ended early is not taken for the next
          agent: false,
          host: '127.0.0.1',
          port: this.port,
          method,
          path: at,
          headers: { host: `127.0.0.1:${this.port}`, ...length, ...headers },
        },
        (response) => {
          const chunks: Buffer[] = [];
          response.on('data', (chunk: Buffer) => chunks.push(chunk));
          response.on('end', () =>
            done(response.statusCode!, Buffer.concat(chunks).toString('utf8'), response.headers),
          );
          response.on('error', () => done(response.statusCode!));
        },
      );
      asked.setTimeout(patience, () => asked.destroy());
      asked.on('error', () => done(0));
      asked.end(body);
    });
  }

  json(method: string, at: string, body?: unknown, patience?: number): Promise<Answer> {
    const sent =
      body === undefined ? {} : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) };
    return this.send(method, at, { ...sent, patience });
  }

  /** @throws Error unless it is answered with what was asked for */
  async ask<T>(method: string, at: string, body?: unknown): Promise<T> {
    const { status, body: text } = await this.json(method, at, body);
    if (status < 200 || status > 299) throw new Error(`${method} ${at}: ${status} ${text.slice(0, 300)}`);
    return (text ? JSON.parse(text) : undefined) as T;
  }

  async drop(
    at: string,
    files: Record<string, Uint8Array>,
    fields: Record<string, string> = {},
    patience?: number,
  ): Promise<Answer> {
    const form = new FormData();
    for (const [name, value] of Object.entries(fields)) form.append(name, value);
    for (const [name, bytes] of Object.entries(files)) form.append('files', new File([bytes as BlobPart], name));
    const packed = new Response(form);
    const body = new Uint8Array(await packed.arrayBuffer());
    return this.send('POST', at, { headers: { 'content-type': packed.headers.get('content-type')! }, body, patience });
  }

  async newProject(name = 'Hardened'): Promise<string> {
    return (await this.ask<{ project: { id: string } }>('POST', '/api/projects', { name })).project.id;
  }

  /** Names in a folder of the data. */
  left(folder: string): string[] {
    const at = path.join(this.data, folder);
    return existsSync(at) ? readdirSync(at) : [];
  }

  /** Memory that is resident now, MB. */
  get residentMb(): number {
    const status = readFileSync(`/proc/${this.process!.pid}/status`, 'utf8');
    return Math.round((Number(/VmRSS:\s+(\d+) kB/.exec(status)![1]) * 1024) / 1e6);
  }

  get handles(): number {
    return readdirSync(`/proc/${this.process!.pid}/fd`).length;
  }
}

/** Numbers that are the same in each run. */
export function seeded(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** What a part found: figures to be told, and faults, of which there must be none. */
export interface Found {
  told: string[];
  faults: string[];
}
