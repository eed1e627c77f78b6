import { database } from './database';
import { hasBlob } from './data';

/** A file of the data folder that is gone, and where it is missed. */
export interface Missing {
  sentence: string;
}

/** Pictures and meshes that projects, preps and materials refer to and that are not there. */
export async function findMissing(): Promise<Missing[]> {
  const db = database();
  const gone = new Map<string, boolean>();
  const missing = (text: string) => {
    const found = new Set<string>();
    for (const [, hash] of text.matchAll(/"(?:mesh|image)":"([0-9a-f]{64})"/g)) {
      if (!gone.has(hash)) gone.set(hash, !hasBlob(hash));
      if (gone.get(hash)) found.add(hash);
    }
    return found.size;
  };
  const out: Missing[] = [];
  const say = (n: number, what: string, name: string) => {
    if (!n) return;
    const [files, are, them] = n === 1 ? ['A stored file', 'is', 'it'] : [`${n} stored files`, 'are', 'them'];
    const sentence = `${files} of the ${what} “${name}” ${are} missing; put a backup’s “blobs” folder back to have `;
    out.push({ sentence: `${sentence}${them} again.` });
  };
  const documents = await db
    .selectFrom('documents')
    .innerJoin('texts', 'texts.owner', 'documents.id')
    .select(['documents.kind', 'documents.name', 'texts.document'])
    .execute();
  for (const { kind, name, document } of documents)
    say(missing(document), kind === 'prep' ? 'picture in prep' : kind, name);
  const materials = await db.selectFrom('materials').select('document').where('newest', '=', 1).execute();
  for (const { document } of materials)
    say(missing(document), 'material', (JSON.parse(document) as { name: string }).name);
  return out;
}

const holder = globalThis as typeof globalThis & { juteGridMissing?: WeakMap<object, Promise<Missing[]>> };

/** As it was found first since the database was opened: looking is not free, and files do not go by themselves. */
export function missingAtStart(): Promise<Missing[]> {
  const known = (holder.juteGridMissing ??= new WeakMap());
  let found = known.get(database());
  if (!found) known.set(database(), (found = findMissing()));
  return found;
}
