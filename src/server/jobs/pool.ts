import { existsSync } from 'node:fs';
import path from 'node:path';
import Piscina from 'piscina';
import { Problem } from '../http/problem';
import type * as tasks from './tasks';

type Tasks = typeof tasks;
type TaskName = {
  [K in keyof Tasks]: Tasks[K] extends (task: never) => Promise<tasks.Answer<unknown>> ? K : never;
}[keyof Tasks];
type Result<K extends TaskName> = Awaited<ReturnType<Tasks[K]>> extends tasks.Answer<infer T> ? T : never;

/**
 * Worker threads by what waits for them: someone who looks at pieces never stands behind a file that is read, and that
 * never behind a hand-over. In each, who came first is served first.
 */
const POOLS = {
  laying: { threads: 2, queue: 400, memoryMb: 4096 },
  reading: { threads: 2, queue: 24, memoryMb: 6144 },
  jobs: { threads: 2, queue: 24, memoryMb: 6144 },
};
type PoolName = keyof typeof POOLS;

const POOL_OF: Record<TaskName, PoolName> = {
  sheet: 'laying',
  rooms: 'laying',
  pieces: 'laying',
  drawing: 'reading',
  preview: 'reading',
  prepare: 'reading',
  revise: 'reading',
  pushing: 'reading',
  measuring: 'reading',
  photographing: 'reading',
  preparing: 'jobs',
  exporting: 'jobs',
  tracing: 'jobs',
};

const holder = globalThis as typeof globalThis & { juteGridPools?: Partial<Record<PoolName, Piscina>> };

function pool(name: PoolName): Piscina {
  const pools = (holder.juteGridPools ??= {});
  const known = pools[name];
  if (known) return known;
  const filename = path.resolve(process.env.JUTE_GRID_WORKERS ?? 'dist', 'tasks.mjs');
  if (!existsSync(filename)) throw new Error(`the worker ${filename} has not been built; run npm run build`);
  const { threads, memoryMb } = POOLS[name];
  return (pools[name] = new Piscina({
    filename,
    // none waits for ever: memory that a thread took goes back when it ends
    minThreads: 0,
    maxThreads: threads,
    idleTimeout: 20_000,
    resourceLimits: { maxOldGenerationSizeMb: memoryMb },
  }));
}

/** @throws Problem 503 when so much waits for a task of this name already that more would only wait longer */
export function checkRoom(name: TaskName): void {
  const of = POOL_OF[name];
  if ((holder.juteGridPools?.[of]?.queueSize ?? 0) < POOLS[of].queue) return;
  throw new Problem(503, 'Too much waits already', 'The server is busy; nothing was begun. Try again in a moment.', {
    retryAfter: 10,
  });
}

/** Seconds a file may be read: what is of that size takes far less, and what takes longer is made to. */
export const readingSeconds = (bytes: number): number => 60 + (2 * bytes) / 1e6;

/**
 * Runs a task on a worker thread.
 * @param options.seconds after so many it is ended, and its thread with it
 * @throws Problem when the task met one, was cancelled through `signal`, took too long or needed too much memory
 */
export async function runTask<K extends TaskName>(
  name: K,
  task: Parameters<Tasks[K]>[0],
  { signal, seconds, transferList }: { signal?: AbortSignal; seconds?: number; transferList?: unknown[] } = {},
): Promise<Result<K>> {
  checkRoom(name);
  const late = seconds === undefined ? null : AbortSignal.timeout(Math.ceil(seconds * 1000));
  const ends = [signal, late].filter((s) => !!s);
  const options = { transferList, ...(ends.length ? { signal: AbortSignal.any(ends) } : {}) };
  let result: tasks.Answer<Result<K>>;
  try {
    result = (await pool(POOL_OF[name]).run(task, { name, ...options } as never)) as tasks.Answer<Result<K>>;
  } catch (error) {
    if (late?.aborted && !signal?.aborted)
      throw new Problem(
        422,
        'It takes too long',
        `It was not done after ${Math.round(seconds!)} s, far longer than its size explains; nothing was kept.`,
        { field: 'files' },
      );
    if (signal?.aborted) throw new Problem(499, 'Cancelled', 'It was cancelled; nothing was kept.');
    if (/memory|heap/i.test((error as Error).message)) {
      throw new Problem(422, 'Too large', 'It needs more memory than there is; nothing was kept.', { field: 'files' });
    }
    throw error;
  }
  if ('problem' in result) {
    const { status, title, detail, extra } = result.problem;
    throw new Problem(status, title, detail, extra);
  }
  return result.ok;
}
