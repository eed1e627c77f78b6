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

const holder = globalThis as typeof globalThis & { juteGridPool?: Piscina };

function pool(): Piscina {
  if (holder.juteGridPool) return holder.juteGridPool;
  const filename = path.resolve(process.env.JUTE_GRID_WORKERS ?? 'dist', 'tasks.mjs');
  if (!existsSync(filename)) throw new Error(`the worker ${filename} has not been built; run npm run build`);
  holder.juteGridPool = new Piscina({
    filename,
    // none waits for ever: memory that a thread took goes back when it ends
    minThreads: 0,
    maxThreads: 2,
    idleTimeout: 20_000,
    resourceLimits: { maxOldGenerationSizeMb: 6144 },
  });
  return holder.juteGridPool;
}

/**
 * Runs a task on a worker thread.
 * @throws Problem when the task met one, or was cancelled through `signal`
 */
export async function runTask<K extends TaskName>(
  name: K,
  task: Parameters<Tasks[K]>[0],
  options: { signal?: AbortSignal; transferList?: unknown[] } = {},
): Promise<Result<K>> {
  let result: tasks.Answer<Result<K>>;
  try {
    result = (await pool().run(task, { name, ...options } as never)) as tasks.Answer<Result<K>>;
  } catch (error) {
    if (options.signal?.aborted) throw new Problem(499, 'Cancelled', 'It was cancelled; nothing was kept.');
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
