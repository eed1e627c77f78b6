import next from 'next';
import { Problem } from '../http/problem';
import { failLeftJobs } from '../jobs/jobs';
import { backUp, readBackupPlan } from '../store/backups';
import { clearBroken, collectUnused, usedHashes } from '../store/collect';
import { dataFolder } from '../store/data';
import { database } from '../store/database';
import { examine } from '../store/examine';
import { missingAtStart } from '../store/missing';
import { OwnedError, ownFolder } from '../store/owner';
import { createFront } from './front';
import { collectWhenIdle } from './idle';
import { Sessions, setSessions } from './sessions';
import { describeReach, readSettings, SettingsError } from './settings';

/** The server: its settings, its data folder, its door, and the application behind that. */

const MINUTE = 60_000;
const HOUR = 60 * MINUTE;

function end(sentence: string): never {
  console.error(sentence);
  process.exit(1);
}

async function start(): Promise<void> {
  const development = process.argv.includes('--dev');
  const settings = readSettings(process.env);
  const plan = readBackupPlan(process.env);
  const { host, port, credentials, behindProxy } = settings;
  const url = `http://${host.includes(':') ? `[${host}]` : host}:${port}`;
  const folder = dataFolder();

  const trouble = examine(folder);
  let problem: Problem | null = null;
  if (trouble) {
    console.error(`\n${trouble.sentence}\n${trouble.remedy}\n`);
    problem = new Problem(503, 'The data cannot be opened', `${trouble.sentence}\n${trouble.remedy}`);
  } else {
    ownFolder(folder, `The server at ${url}`);
    await clearBroken();
    await failLeftJobs();
    keepHouse(folder, plan);
    for (const { sentence } of await missingAtStart()) console.error(sentence);
  }

  const sessions = credentials && new Sessions(credentials);
  setSessions(sessions && { sessions, secure: behindProxy });
  const app = next({ dev: development, hostname: host, port });
  await app.prepare();
  const server = createFront({
    settings,
    sessions,
    behind: app.getRequestHandler(),
    trouble: () => problem,
    development,
  });
  server.on('error', (error: NodeJS.ErrnoException) =>
    end(
      error.code === 'EADDRINUSE'
        ? `Something answers at ${url} already; PORT sets another.`
        : `It cannot listen at ${url}: ${error.message}.`,
    ),
  );
  collectWhenIdle(server);
  server.listen(port, host);
  const reach = describeReach(settings);
  if (reach) console.log(reach);
  for (const signal of ['SIGINT', 'SIGTERM'] as const)
    process.on(signal, () => {
      server.close();
      // what streams on is not waited for: everything acknowledged is on the disk
      process.exit(0);
    });
}

/** What is done every now and then: unused files go, backups are made. */
function keepHouse(folder: string, plan: ReturnType<typeof readBackupPlan>): void {
  const say = (what: string) => (error: unknown) => console.error(`${what} failed: ${(error as Error).message}`);
  const sweep = () => void collectUnused(Date.now()).catch(say('Collecting unused files'));
  const backup = () => void backUp(folder, plan, Date.now(), usedHashes).catch(say('The automatic backup'));
  database();
  // in attacks on a copy everything is done all the time
  const often = Number(process.env.JUTE_GRID_KEEP_HOUSE_MS) || null;
  setTimeout(sweep, often ?? MINUTE).unref();
  setInterval(sweep, often ?? 6 * HOUR).unref();
  setTimeout(backup, often ?? MINUTE / 2).unref();
  setInterval(backup, often ?? HOUR / 2).unref();
}

start().catch((error: unknown) => {
  if (error instanceof SettingsError || error instanceof OwnedError) end(error.message);
  console.error(error);
  process.exit(1);
});
