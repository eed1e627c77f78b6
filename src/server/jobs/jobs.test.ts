import { existsSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { MessagePort } from 'node:worker_threads';
import { Problem } from '../http/problem';
import { folder as dataFolder } from '../store/data';
import { closeDatabase } from '../store/database';
import { createProject } from '../store/projects';

interface Running {
  job: string;
  port: MessagePort;
  finish: (result: object) => void;
  fail: (error: Error) => void;
}

/** What the worker threads were asked for and have not ended; a test ends each when it likes. */
const threads: Running[] = [];
jest.mock('./pool', () => ({
  checkRoom: () => undefined,
  runTask: (_name: string, task: { job: string; port: MessagePort }, { signal }: { signal: AbortSignal }) =>
    new Promise((finish, fail) => {
      threads.push({ job: task.job, port: task.port, finish, fail });
      signal.addEventListener('abort', () => fail(new Problem(499, 'Cancelled', 'It was cancelled.')));
    }),
}));

import type { Job } from '@/api/answers';
import { cancelJob, failLeftJobs, jobFile, readJob, startExport, watchJob } from './jobs';

let folder: string;
let project: string;
beforeAll(async () => {
  folder = mkdtempSync(path.join(tmpdir(), 'jute-grid-jobs-'));
  process.env.JUTE_GRID_DATA = folder;
  ({
    project: { id: project },
  } = await createProject('Lodge'));
});
beforeEach(() => threads.splice(0));
afterAll(async () => {
  await closeDatabase();
  rmSync(folder, { recursive: true, force: true });
});

const start = () => startExport(project, { format: 'glb', pictureSize: null, share: false });
const made = { file: 'lodge.glb', mime: 'model/gltf-binary', bytes: 3 };

/** Everything a listener hears of a job until it ends. */
async function heard(id: string): Promise<Job[]> {
  const all: Job[] = [];
  await watchJob(id, (job) => all.push(job), new AbortController().signal);
  return all;
}

/** Waits until a job is as told. */
async function until(id: string, is: (job: Job) => boolean): Promise<Job> {
  const leave = new AbortController();
  let found: Job | undefined;
  await watchJob(
    id,
    (job) => {
      if (!is(job)) return;
      found = job;
      leave.abort();
    },
    leave.signal,
  );
  return found!;
}

/** Long enough for words under way between threads to arrive. */
const settled = () => new Promise((done) => setTimeout(done, 50));

function keepFile(id: string): string {
  mkdirSync(dataFolder('exports'), { recursive: true });
  const at = path.join(dataFolder('exports'), id);
  writeFileSync(at, 'abc');
  return at;
}

test('a job tells how far it is, and ends with its file', async () => {
  const { id, state } = await start();
  expect(state).toBe('running');
  const listening = heard(id);
  threads[0].port.postMessage({ share: 0.4, message: 'Laying the floor' });
  await until(id, (job) => job.progress === 0.4);
  keepFile(id);
  threads[0].finish(made);
  const all = await listening;
  expect(all.map((job) => job.message)).toContain('Laying the floor');
  expect(all.at(-1)).toMatchObject({ state: 'done', progress: 1, message: 'Ready', result: made });
  expect(await jobFile(id)).toMatchObject({ file: 'lodge.glb', bytes: 3 });
});

test('a word of progress that arrives after the end changes nothing', async () => {
  const { id } = await start();
  const [{ port, finish }] = threads;
  finish(made);
  port.postMessage({ share: 0.95, message: 'Checking it by the standard' });
  await until(id, (job) => job.state === 'done');
  await settled();
  expect(await readJob(id)).toMatchObject({ state: 'done', progress: 1, message: 'Ready' });
});

test('cancelling stops the work; a second time forgets the job', async () => {
  const { id } = await start();
  await cancelJob(id);
  expect(await until(id, (job) => job.state !== 'running')).toMatchObject({ state: 'cancelled', result: null });
  await expect(jobFile(id)).rejects.toMatchObject({ status: 404 });
  await cancelJob(id);
  await expect(readJob(id)).rejects.toMatchObject({ status: 404 });
});

test('throwing a finished job away takes its file along', async () => {
  const { id } = await start();
  const at = keepFile(id);
  threads[0].finish(made);
  await until(id, (job) => job.state === 'done');
  await cancelJob(id);
  expect(existsSync(at)).toBe(false);
});

test('what a task could not do is said in its own words', async () => {
  const { id } = await start();
  threads[0].fail(new Problem(422, 'Nothing to hand over', 'The project has no model yet.'));
  expect(await until(id, (job) => job.state !== 'running')).toMatchObject({
    state: 'failed',
    message: 'The project has no model yet.',
  });
});

test('many at once end each with its own result, and cancelling one leaves the others', async () => {
  const jobs = await Promise.all(Array.from({ length: 8 }, start));
  expect(new Set(jobs.map((job) => job.id)).size).toBe(8);
  await cancelJob(jobs[3].id);
  for (const thread of [...threads].reverse()) thread.finish({ ...made, file: `${thread.job}.glb` });
  for (const [i, { id }] of jobs.entries()) {
    const job = await until(id, ({ state }) => state !== 'running');
    if (i === 3) expect(job.state).toBe('cancelled');
    else expect(job).toMatchObject({ state: 'done', result: { file: `${id}.glb` } });
  }
});

test('a job that ran when the server went down is failed when it comes up, and says what to do', async () => {
  const { id } = await start();
  const done = await start();
  threads[1].finish(made);
  await until(done.id, (job) => job.state === 'done');
  await closeDatabase();
  // opening the database alone says nothing: a backup does that, too
  expect(await readJob(id)).toMatchObject({ state: 'running' });
  await failLeftJobs();
  expect(await readJob(id)).toMatchObject({
    state: 'failed',
    message: 'The server was stopped while this ran; start it again.',
  });
  expect((await readJob(done.id)).state).toBe('done');
  // a thread that ends after that is too late to be believed
  threads[0].finish(made);
  await settled();
  expect((await readJob(id)).state).toBe('failed');
});

test('no job is started for a project that is not there', async () => {
  await expect(startExport('nowhere', { format: 'glb', pictureSize: null, share: false })).rejects.toMatchObject({
    status: 404,
  });
  expect(threads).toEqual([]);
});
