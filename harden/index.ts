import { askEverything } from './api';
import { manyClients } from './clients';
import { makeCorpus, sendCorpus, sendCorpusLong } from './corpus';
import { fillDisk } from './disk';
import { drawSoak } from './drawSoak';
import { killOften } from './durability';
import { type Found, Served } from './server';
import { soak } from './soak';

/**
 * Attacks on a copy of the application: npm run harden [-- PART …] [--short] [--minutes 30]. Ends with 1 when anything
 * was found.
 */

const args = process.argv.slice(2);
const short = args.includes('--short');
const minutes = Number(args[args.indexOf('--minutes') + 1]) || (short ? 1 : 30);
const PORT = 4571;

const onServer = async (work: (served: Served) => Promise<Found>): Promise<Found> => {
  const served = await new Served(PORT).begin();
  try {
    return await work(served);
  } finally {
    await served.end();
  }
};

const PARTS: Record<string, () => Promise<Found>> = {
  api: () => onServer((s) => askEverything(s, short ? 7 : 1)),
  corpus: () =>
    onServer(async (s) => {
      const corpus = await makeCorpus(short ? 140 : 1000);
      return short ? sendCorpus(s, corpus) : sendCorpusLong(s, corpus);
    }),
  durability: () =>
    onServer((s) => killOften(s, short ? { runs: 2, commands: 60, kills: 1 } : { runs: 20, commands: 200, kills: 8 })),
  disk: () => fillDisk(PORT),
  clients: () => onServer((s) => manyClients(s, 8, short ? 200 : 2000)),
  soak: async () => {
    const log = process.env.JUTE_GRID_SOAK_LOG;
    const found = await onServer((s) => soak(s, minutes, log));
    if (log) await drawSoak(log, `${log}.png`);
    return found;
  },
};

const asked = args.filter((a) => a in PARTS);
let failed = false;
for (const name of asked.length ? asked : Object.keys(PARTS)) {
  console.log(`── ${name}`);
  const { told, faults } = await PARTS[name]();
  for (const line of told) console.log(`   ${line}`);
  for (const line of faults.slice(0, 40)) console.log(`   FOUND ${line}`);
  if (faults.length > 40) console.log(`   … and ${faults.length - 40} more`);
  failed ||= faults.length > 0;
}
process.exit(failed ? 1 : 0);
