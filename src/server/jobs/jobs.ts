import { EventEmitter } from 'node:events';
import { existsSync } from 'node:fs';
import { readFile, rm } from 'node:fs/promises';
import path from 'node:path';
import { isDeepStrictEqual } from 'node:util';
import { MessageChannel, type MessagePort } from 'node:worker_threads';
import type { Job } from '@/api/answers';
import { folder, hasBlob, newId } from '../store/data';
import { database, now } from '../store/database';
import { exportWork } from '../exporting/exportFolder';
import type { ExportOptions } from '../exporting/exportTasks';
import { checkRoom, runTask } from './pool';
import { keepMaterial, readPrep } from '../prep/preps';
import { asProblem, badField, notFound, Problem } from '../http/problem';
import { dropLight, handOnLight, seenFile, type TraceOptions } from '../stills/traceStill';
import { storeImage } from '../store/images';
import { readProject } from '../store/projects';

const holder = globalThis as typeof globalThis & {
  juteGridJobs?: { events: EventEmitter; running: Map<string, Running> };
};
/** A job under way: how it is ended, and where it is spoken to. */
interface Running {
  controller: AbortController;
  port: MessagePort;
}

const live = () => (holder.juteGridJobs ??= { events: new EventEmitter().setMaxListeners(0), running: new Map() });

export async function readJob(id: string): Promise<Job> {
  const row = await database().selectFrom('jobs').selectAll().where('id', '=', id).executeTakeFirst();
  if (!row) throw notFound('job', id);
  const { options: _options, result, ...rest } = row;
  return { ...rest, result: result ? (JSON.parse(result) as Job['result']) : null };
}

/** What has ended stays as it ended: words of a thread that come later are not kept. */
async function update(
  id: string,
  values: Partial<Pick<Job, 'state' | 'progress' | 'message'>> & { result?: string },
): Promise<void> {
  await database().updateTable('jobs').set(values).where('id', '=', id).where('state', '=', 'running').execute();
  live().events.emit(id);
}

/** A job's work on a worker thread: progress goes through the port. */
type Work = (id: string, port: MessagePort, signal: AbortSignal) => Promise<object>;

/** Starts a job; the answer comes at once, the work goes on beside. */
async function startJob(kind: string, project: string | null, options: object, work: Work): Promise<Job> {
  const id = newId('job');
  await database()
    .insertInto('jobs')
    .values({
      id,
      project,
      kind,
      state: 'running',
      progress: 0,
      message: 'Waiting',
      options: JSON.stringify(options),
      result: null,
      made: now(),
    })
    .execute();
  const controller = new AbortController();
  const { port1, port2 } = new MessageChannel();
  live().running.set(id, { controller, port: port1 });
  port1.on('message', ({ share, message }: { share: number; message: string }) => {
    void update(id, { progress: share, message });
  });
  void work(id, port2, controller.signal)
    .then(
      (result) => update(id, { state: 'done', progress: 1, message: 'Ready', result: JSON.stringify(result) }),
      (error: unknown) => {
        const problem = asProblem(error);
        return update(id, { state: problem.status === 499 ? 'cancelled' : 'failed', message: problem.detail });
      },
    )
    .finally(() => {
      port1.close();
      live().running.delete(id);
    });
  return readJob(id);
}

/** Starts writing a project's dressed scene. */
export async function startExport(projectId: string, options: ExportOptions): Promise<Job> {
  checkRoom('exporting');
  const { project } = await readProject(projectId);
  return startJob('export', projectId, options, (job, port, signal) =>
    runTask('exporting', { job, project, options, port }, { signal, transferList: [port] }).catch(async (error) => {
      // a thread that was ended took nothing away itself
      await rm(exportWork(job), { recursive: true, force: true });
      throw error;
    }),
  );
}

/** Starts making a material of a prepared picture, at the picture's full size. */
export async function startPrep(prepId: string): Promise<Job> {
  checkRoom('preparing');
  const { prep } = await readPrep(prepId);
  return startJob('prep', null, { prep: prepId }, async (_job, port, signal) => {
    const made = await runTask('preparing', { prep, port }, { signal, transferList: [port] });
    return keepMaterial(prepId, made);
  });
}

/**
 * Starts tracing a still of a project.
 * @param goesOn a stopped job of the same still, which is gone on with
 * @throws Problem 409 where the project or what is asked has changed since
 */
export async function startStill(projectId: string, options: TraceOptions, goesOn: string | null): Promise<Job> {
  checkRoom('tracing');
  checkRegion(options);
  const { project, revision } = await readProject(projectId);
  if (goesOn !== null) await checkSame(goesOn, projectId, { ...options, revision });
  return startJob('still', projectId, { ...options, revision }, async (job, port, signal) => {
    if (goesOn !== null) await handOnLight(goesOn, job);
    const task = { job, project, options, port };
    const { png, samples } = await runTask('tracing', task, { signal, transferList: [port] });
    const { hash } = await storeImage(png, 'still.png');
    await dropLight(job);
    if (goesOn !== null) await dropLight(goesOn);
    return { image: hash, samples, revision };
  });
}

/** Pixels a traced still, or a region of one, may have: what is gathered for them is held. */
const MOST_TRACED = 16e6;

function checkRegion({ region, within, widthPx, heightPx }: TraceOptions): void {
  const pixels = region ? region.width * region.height : widthPx * heightPx;
  if (pixels > MOST_TRACED)
    throw badField('widthPx', `A traced still has at most ${MOST_TRACED / 1e6} million pixels; trace it by regions.`);
  if (region && (region.x + region.width > widthPx || region.y + region.height > heightPx))
    throw badField('region', `The region reaches beyond the picture of ${widthPx} × ${heightPx}.`);
  if (within && !hasBlob(within)) throw badField('within', 'The picture it is to be put into is not stored here.');
}

/** What is gone on with must be the same picture of the same state; more rays may be wanted. */
async function checkSame(job: string, project: string, options: TraceOptions & { revision: number }): Promise<void> {
  const row = await database().selectFrom('jobs').selectAll().where('id', '=', job).executeTakeFirst();
  if (!row || row.kind !== 'still' || row.project !== project) throw notFound('still under way', job);
  if (row.state === 'running') throw new Problem(409, 'It still runs', 'This still is being made; stop it first.');
  const { samples: _before, ...was } = JSON.parse(row.options) as typeof options;
  const { samples: _now, ...is } = options;
  if (isDeepStrictEqual(was, JSON.parse(JSON.stringify(is)))) return;
  throw new Problem(409, 'Changed meanwhile', 'The project, the view or the size has changed since; begin it anew.', {
    field: 'goesOn',
  });
}

/** A still that is traced is good enough as it is: it ends with the light it has. */
export async function enough(id: string): Promise<void> {
  await readJob(id);
  live().running.get(id)?.port.postMessage('enough');
}

/** What can be seen of a still that grows, JPEG. */
export async function seenOf(id: string): Promise<Buffer> {
  await readJob(id);
  if (!existsSync(seenFile(id))) throw notFound('picture of job', id);
  return readFile(seenFile(id));
}

/** A job that ran when the server went down will not go on: said once, when the next server begins. */
export async function failLeftJobs(): Promise<void> {
  await database()
    .updateTable('jobs')
    .set({ state: 'failed', message: 'The server was stopped while this ran; start it again.' })
    .where('state', 'in', ['queued', 'running'])
    .execute();
}

/** Ends the jobs of a project that is deleted for ever, and takes their files away. */
export async function dropJobsOf(project: string): Promise<void> {
  const db = database();
  const rows = await db.selectFrom('jobs').select('id').where('project', '=', project).execute();
  for (const { id } of rows) {
    live().running.get(id)?.controller.abort();
    await dropLight(id);
    await db.deleteFrom('jobs').where('id', '=', id).execute();
    await rm(path.join(folder('exports'), id), { force: true });
  }
}

/** Cancels a running job, or throws a finished one's file away. */
export async function cancelJob(id: string): Promise<void> {
  const job = await readJob(id);
  live().running.get(id)?.controller.abort();
  if (job.state !== 'running') await dropLight(id);
  if (job.state === 'done') await rm(path.join(folder('exports'), id), { force: true });
  if (job.state !== 'running') await database().deleteFrom('jobs').where('id', '=', id).execute();
}

/** Where a finished job's file lies. */
export async function jobFile(id: string): Promise<{ at: string; file: string; mime: string; bytes: number }> {
  const job = await readJob(id);
  const at = path.join(folder('exports'), id);
  const { file, mime, bytes } = job.result ?? {};
  if (job.state !== 'done' || !file || !mime || !bytes || !existsSync(at)) throw notFound('finished file of job', id);
  return { at, file, mime, bytes };
}

/** Calls `say` with the job now and at every change until it ends or the listener leaves. */
export function watchJob(id: string, say: (job: Job) => void, signal: AbortSignal): Promise<void> {
  return new Promise((resolve, reject) => {
    const { events } = live();
    const tell = () => {
      readJob(id).then((job) => {
        if (signal.aborted) return;
        say(job);
        if (job.state !== 'running' && job.state !== 'queued') stop();
      }, fail);
    };
    const stop = () => {
      events.off(id, tell);
      resolve();
    };
    const fail = (error: unknown) => {
      events.off(id, tell);
      reject(error as Error);
    };
    events.on(id, tell);
    signal.addEventListener('abort', stop);
    tell();
  });
}
