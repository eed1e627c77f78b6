import { database } from './database';
import { listBlobs, removeBlob } from './data';
import { dropStaleUploads } from '../importing/uploads';

/** Files younger than this may belong to something that is just being written. */
const GRACE_MS = 3600 * 1000;

/**
 * Removes files that no project or prep, no step of any history and no material refers to. Hashes are found by their
 * look in the stored JSON, so that a new kind of reference can never be forgotten here.
 */
export async function collectUnused(nowMs: number): Promise<number> {
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
  let removed = 0;
  for (const { hash, writtenMs } of await listBlobs()) {
    if (used.has(hash) || nowMs - writtenMs < GRACE_MS) continue;
    await removeBlob(hash);
    await db.deleteFrom('images').where('hash', '=', hash).execute();
    removed++;
  }
  await dropStaleUploads(nowMs);
  return removed;
}
