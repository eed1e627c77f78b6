import type { Rows } from '../measure';
import { measureAllPieces, measureCalls, measureDocument, measureExport, type Measured } from './api';
import { PER_ROOM } from './building';
import { measureStudio } from './browser';
import { measureMillion } from './million';
import { serveBuilding, stop } from './served';

/** What may grow with the work, and by how much more; what must not, and how much it may all the same. */
const [SMALL, LARGE] = [300, 5000];
const WITH_THE_WORK = (LARGE / SMALL) * 1.3;
const NOT = 2;
const BUDGETS: Record<string, number | null> = {
  'zones and regions of every surface': WITH_THE_WORK,
  'change one wall': NOT,
  'undo of one wall': NOT,
  'pieces of one wall': NOT,
  'change all walls': WITH_THE_WORK,
  'undo of a change to all walls': WITH_THE_WORK,
  'list of projects': NOT,
  'read the project': WITH_THE_WORK,
  opening: WITH_THE_WORK,
  hover: NOT,
  pick: NOT,
  'key in the filter': NOT,
  'one joint, until it is seen': NOT,
  'one joint, main thread': NOT,
  'one undo, until it is seen': NOT,
  'one undo, main thread': NOT,
  'joint of all walls, until it is seen': WITH_THE_WORK,
  'undo of it, until it is seen': WITH_THE_WORK,
  'export, s': WITH_THE_WORK,
  'export, MB of the file': WITH_THE_WORK,
};

async function measureBuilding(surfaces: number, parts: readonly string[]): Promise<Measured> {
  const served = await serveBuilding(Math.ceil(surfaces / PER_ROOM) * PER_ROOM);
  try {
    const out: Measured = {};
    if (parts.includes('calls')) {
      out['zones and regions of every surface'] = await measureDocument(served);
      Object.assign(out, await measureCalls(served));
    }
    if (parts.includes('studio')) Object.assign(out, await measureStudio(served));
    if (parts.includes('pieces')) Object.assign(out, await measureAllPieces(served));
    if (parts.includes('export')) Object.assign(out, await measureExport(served));
    return out;
  } finally {
    await stop(served);
  }
}

/** A number by itself. */
const BARE = { unit: '', against: '', ratio: null, budget: null };
const PARTS = ['calls', 'studio', 'pieces', 'export'];

/**
 * Buildings of rooms, twelve surfaces each: what grows as they do.
 * @param names of parts (calls, studio, pieces, export) and of sizes (300, 1200, 5000, 10000); all parts and the two
 *   sizes that are compared unless said; or “million”, one surface of as many triangles
 */
export async function benchGrowth(rows: Rows, names: readonly string[]): Promise<void> {
  if (names.includes('million')) {
    for (const [name, value] of Object.entries(await measureMillion()))
      rows.push({ name: `a million triangles: ${name}`, ...BARE, value });
    return;
  }
  const sizes = names.map(Number).filter((n) => n > 0);
  const parts = PARTS.filter((p) => names.includes(p));
  const made = new Map<number, Measured>();
  for (const size of sizes.length ? sizes : [SMALL, LARGE]) {
    const measured = await measureBuilding(size, parts.length ? parts : PARTS);
    made.set(size, measured);
    for (const [name, value] of Object.entries(measured))
      rows.push({ name: `${size} surfaces: ${name}`, ...BARE, value });
  }
  const [small, large] = [made.get(SMALL), made.get(LARGE)];
  if (!small || !large) return;
  for (const name of Object.keys(small)) {
    if (!(name in large)) continue;
    rows.push({
      name: `${name}, ${LARGE} surfaces`,
      value: large[name],
      unit: '',
      against: `${SMALL} surfaces, ${small[name].toFixed(1)}`,
      ratio: large[name] / small[name],
      budget: BUDGETS[name] ?? null,
    });
  }
}
