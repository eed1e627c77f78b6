import { existsSync } from 'node:fs';
import { readdir, rename, rm } from 'node:fs/promises';
import path from 'node:path';
import { dropStaleUploads, FIELDS_FILE } from '../importing/uploads';
import { usedByBackups } from './backups';
import { dataFolder, folder, listBlobs, removeBlob } from './data';
import { database, runAtOnce } from './database';
import { projectOfStill } from './stills';

/** Files younger than this may belong to something that is just being written. */
const GRACE_MS = 3600 * 1000;

/**
 * Hashes of every file that a project or prep, a step of any history or a material refers to. They are found by their
 * look in the stored JSON, so that a new kind of reference can never be forgotten here.
 */
export async function usedHashes(): Promise<Set<string>> {
  const used = new Set<string>();
  const scan = (text: string) => {
    for (const [hash] of text.matchAll(/[0-9a-f]{64}/g)) used.add(hash);
  };
  const db = database();
  for (const row of await db.selectFrom('texts').select('document').execute()) scan(row.document);
  for (const row of await db.selectFrom('patches').select('patch').execute()) scan(row.patch);
  for (const row of await db.selectFrom('changes').select(['commands', 'inverse']).execute()) {
    scan(row.commands);
    scan(row.inverse);
  }
  for (const row of await db.selectFrom('materials').select('document').execute()) scan(row.document);
  // the file as it came stays as long as the picture made of it
  for (const row of await db.selectFrom('images').select(['hash', 'original']).execute()) {
    if (row.original && used.has(row.hash)) used.add(row.original);
  }
  return used;
}

/**
 * Removes files that nothing refers to, neither now nor in a kept backup, and what belongs to projects that are gone.
 * What is old is listed before it is asked what is used: whatever is referred to later was made young before that.
 * While a job runs nothing is removed: it may read what has lost its last reference meanwhile.
 * @returns how many stored files went
 */
export async function collectUnused(nowMs: number): Promise<number> {
  const db = database();
  await dropStaleUploads(nowMs);
  await dropOrphans();
  const old = (await listBlobs()).filter(({ writtenMs }) => nowMs - writtenMs >= GRACE_MS);
  const used = await usedHashes();
  for (const hash of usedByBackups(dataFolder())) used.add(hash);
  let removed = 0;
  for (const { hash } of old) {
    if (used.has(hash)) continue;
    const running = await db
      .selectFrom('jobs')
      .select('id')
      .where('state', 'in', ['queued', 'running'])
      .executeTakeFirst();
    if (running) break;
    const went = removeBlob(hash, nowMs - GRACE_MS, () => runAtOnce('delete from images where hash = ?', hash));
    if (went) removed++;
  }
  return removed;
}

/** Finished files of jobs and stills whose job or project is gone. */
async function dropOrphans(): Promise<void> {
  const db = database();
  const jobs = new Set((await db.selectFrom('jobs').select('id').execute()).map((r) => r.id));
  const projects = new Set((await db.selectFrom('documents').select('id').execute()).map((r) => r.id));
  const exports = folder('exports');
  // a still that grows has files of its job's name with an ending
  for (const name of await readdir(exports))
    if (!jobs.has(name.split('.')[0])) await rm(path.join(exports, name), { force: true });
  for (const name of await readdir(folder('cache'))) {
    const project = projectOfStill(name);
    if (project && !projects.has(project)) await rm(path.join(folder('cache'), name), { force: true });
  }
}

/** What was broken off when the server ended: called once, before anything new is begun. */
export async function clearBroken(): Promise<void> {
  for (const kind of ['uploads', 'cache', 'exports'] as const) {
    for (const name of await readdir(folder(kind))) {
      const at = path.join(folder(kind), name);
      const whole = kind !== 'uploads' || name.endsWith('.mesh') || existsSync(path.join(at, FIELDS_FILE));
      if (!whole || name.endsWith('.tmp')) await rm(at, { recursive: true, force: true });
    }
  }
  for (const group of await readdir(folder('blobs'))) {
    const at = path.join(folder('blobs'), group);
    for (const name of await readdir(at)) {
      if (!name.endsWith('.going')) continue;
      // it was about to go; what refers to it by now gets it back, else the next sweep takes it
      await rename(path.join(at, name), path.join(at, name.slice(0, -'.going'.length)));
    }
  }
}
