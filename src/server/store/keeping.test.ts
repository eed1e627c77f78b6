import Sqlite from 'better-sqlite3';
import { spawn } from 'node:child_process';
import {
  chmodSync,
  existsSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  truncateSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { blankMaterial, createMaterial, listMaterials } from '../library/materials';
import { backUp, listBackups, newestBackup, restore } from './backups';
import { clearBroken, collectUnused, usedHashes } from './collect';
import { folder, hasBlob, putBlob, removeBlob, touchBlob } from './data';
import { closeDatabase, database, MIGRATIONS, runAtOnce } from './database';
import { examine } from './examine';
import { findMissing } from './missing';
import { OwnedError, ownFolder } from './owner';
import { createProject, listProjects } from './projects';

/** What is kept of a data folder, and what is found of its state. */

const HOUR = 3600_000;
const PLAN = { count: 2, days: 60, hours: 24 };
let at: string;
beforeEach(() => {
  at = mkdtempSync(path.join(tmpdir(), 'jute-grid-keeping-'));
  process.env.JUTE_GRID_DATA = at;
});
afterEach(async () => {
  await closeDatabase();
  rmSync(at, { recursive: true, force: true });
});
const file = () => path.join(at, 'jute-grid.sqlite');
const bytes = (text: string) => new TextEncoder().encode(text);
const blobAt = (hash: string) => path.join(folder('blobs'), hash.slice(0, 2), hash);
const age = (hash: string) => utimesSync(blobAt(hash), new Date(0), new Date(0));

describe('one process owns a folder', () => {
  test('the second is told who has it; when the first lets go, it may', () => {
    const release = ownFolder(at, 'The server at http://127.0.0.1:4310');
    expect(() => ownFolder(at, 'Another')).toThrow(OwnedError);
    expect(() => ownFolder(at, 'Another')).toThrow(/The server at http:\/\/127\.0\.0\.1:4310 \(process \d+, since 20/);
    release();
    ownFolder(at, 'Another')();
  });

  test('one that was killed owns nothing any more', async () => {
    const script =
      `const S=require('better-sqlite3');globalThis.l=new S(${JSON.stringify(path.join(at, 'owner.lock'))});` +
      `l.pragma('journal_mode = DELETE');l.exec('begin exclusive');console.log('has it');setInterval(()=>{},1e3)`;
    const other = spawn(process.execPath, ['-e', script], { stdio: ['ignore', 'pipe', 'inherit'] });
    await new Promise((told) => other.stdout.once('data', told));
    expect(() => ownFolder(at, 'This')).toThrow(OwnedError);
    const gone = new Promise((done) => other.once('exit', done));
    other.kill('SIGKILL');
    await gone;
    ownFolder(at, 'This')();
  });
});

describe('what is wrong with a data folder is found before it is opened', () => {
  const made = async () => {
    await createProject('Lodge');
    await putBlob(bytes('a'));
    await closeDatabase();
  };

  test('nothing, where it is new or sound', async () => {
    expect(examine(path.join(at, 'new'))).toBeNull();
    expect(examine(at)).toBeNull();
    await made();
    expect(examine(at)).toBeNull();
  });

  test.each<[string, () => void, RegExp]>([
    ['truncated', () => truncateSync(file(), 5000), /is damaged|cannot be read/],
    [
      'overwritten',
      () => writeFileSync(file(), 'this is a letter to the client, not a database at all'),
      /cannot be read/,
    ],
    ['emptied', () => truncateSync(file(), 0), /is empty, while the files/],
    ['gone', () => rmSync(file()), /is gone, while the files/],
    [
      'without its tables',
      () => {
        rmSync(file());
        new Sqlite(file()).exec('create table other (a)').close();
      },
      /has lost its tables/,
    ],
  ])('%s', async (_what, spoil, said) => {
    await made();
    for (const ending of ['-wal', '-shm']) rmSync(`${file()}${ending}`, { force: true });
    spoil();
    const found = examine(at)!;
    expect(found.sentence).toMatch(said);
    expect(found.remedy).toMatch(/npm run restore/);
  });

  test('cut off within its first page, before any file came in', async () => {
    await createProject('Lodge');
    await closeDatabase();
    for (const ending of ['-wal', '-shm']) rmSync(`${file()}${ending}`, { force: true });
    truncateSync(file(), 3000);
    expect(examine(at)!.sentence).toMatch(/lost its tables|damaged|cannot be read/);
  });

  test('nothing, where the very first start was broken off', () => {
    const raw = new Sqlite(file());
    raw.pragma('journal_mode = WAL');
    raw.close();
    expect(examine(at)).toBeNull();
  });

  test('torn in the middle', async () => {
    for (let n = 0; n < 60; n++) await createProject(`Lodge ${n}`);
    await closeDatabase();
    const whole = readFileSync(file());
    whole.fill(0x5a, 8192, 8192 + 12_000);
    writeFileSync(file(), whole);
    expect(examine(at)!.sentence).toMatch(/damaged|cannot be read/);
  });

  test('written by a newer version: nothing is offered but to update', async () => {
    await made();
    const raw = new Sqlite(file());
    for (let n = 0; n <= MIGRATIONS.length; n++) raw.prepare('insert into migrations (name) values (?)').run('later');
    raw.close();
    expect(examine(at)).toMatchObject({ sentence: expect.stringMatching(/newer version/) as string });
    expect(examine(at)!.remedy).toMatch(/Update/);
  });

  (process.getuid?.() === 0 ? test.skip : test)('read-only', async () => {
    await made();
    chmodSync(at, 0o500);
    expect(examine(at)!.sentence).toMatch(/cannot be written to/);
    chmodSync(at, 0o700);
  });

  test('stored files that are gone are named with what misses them', async () => {
    const image = await putBlob(bytes('oak'));
    const map = { image, widthPx: 1, heightPx: 1, file: 'oak.png' };
    await createMaterial({ ...blankMaterial('Smoked oak', 10, 10), maps: { baseColour: map } });
    expect(await findMissing()).toEqual([]);
    rmSync(blobAt(image));
    expect(await findMissing()).toEqual([
      { sentence: expect.stringMatching(/A stored file of the material “Smoked oak” is missing/) as string },
    ]);
  });

  test('one document that cannot be read hides no other', async () => {
    const { project: bad } = await createProject('Torn');
    await createProject('Sound');
    await closeDatabase();
    await database().updateTable('texts').set({ document: '{"id":' }).where('owner', '=', bad.id).execute();
    await database().updateTable('documents').set({ summary: null }).execute();
    const cards = await listProjects();
    expect(cards.map((c) => [c.name, c.damaged]).sort()).toEqual([
      ['Sound', false],
      ['Torn', true],
    ]);
  });
});

describe('automatic backups', () => {
  test('are made when the newest is old enough, open, and go when there are too many', async () => {
    await createProject('Lodge');
    expect(await backUp(at, PLAN, 0, usedHashes)).toBe(true);
    const day = 24 * HOUR;
    const made = (n: number) => utimesSync(listBackups(at)[0].file, new Date(n * day), new Date(n * day));
    made(0);
    expect(await backUp(at, PLAN, day / 2, usedHashes)).toBe(false);
    for (const n of [1, 2, 3]) {
      expect(await backUp(at, PLAN, n * day, usedHashes)).toBe(true);
      made(n);
    }
    expect(listBackups(at).map((b) => b.madeMs / day)).toEqual([3, 2]);
    expect(readdirSync(path.join(at, 'backups')).filter((n) => !/\.sqlite(\.used)?$/.test(n))).toEqual([]);
    expect(await backUp(at, { ...PLAN, count: 0 }, 9 * day, usedHashes)).toBe(false);
  });

  test('what a backup refers to is not swept, and goes with it', async () => {
    const image = await putBlob(bytes('old print'));
    await createMaterial({
      ...blankMaterial('Old', 1, 1),
      id: 'old',
      maps: { baseColour: { image, widthPx: 1, heightPx: 1, file: 'a' } },
    });
    await backUp(at, PLAN, Date.now(), usedHashes);
    runAtOnce('delete from materials');
    age(image);
    expect(await collectUnused(Date.now())).toBe(0);
    for (const { file: backup } of listBackups(at)) for (const ending of ['', '.used']) rmSync(`${backup}${ending}`);
    expect(await collectUnused(Date.now())).toBe(1);
  });

  test('the newest good one is put in place of a damaged database, which is kept', async () => {
    await createProject('Saved');
    await backUp(at, PLAN, Date.now() - HOUR, usedHashes);
    await closeDatabase();
    writeFileSync(path.join(at, 'backups', '2999-01-01T00-00-00-000Z.sqlite'), 'no database');
    writeFileSync(file(), 'no database either');
    expect(newestBackup(at)!.file).not.toContain('2999');
    expect(examine(at)!.remedy).toMatch(/newest good backup is of/);
    expect(await restore(at, null, Date.now())).toMatch(/is in place/);
    expect(examine(at)).toBeNull();
    expect((await listProjects()).map((p) => p.name)).toEqual(['Saved']);
    const aside = readdirSync(at).find((n) => n.startsWith('replaced-'))!;
    expect(readFileSync(path.join(at, aside, 'jute-grid.sqlite'), 'utf8')).toBe('no database either');
  });

  test('a folder that is no backup is refused, and nothing changes', async () => {
    await createProject('Here');
    await closeDatabase();
    const before = statSync(file()).mtimeMs;
    await expect(restore(at, path.join(at, 'blobs'), 0)).rejects.toThrow(/is no backup/);
    await expect(restore(at, null, 0)).rejects.toThrow(/no automatic backup/);
    expect(statSync(file()).mtimeMs).toBe(before);
  });
});

describe('the sweep', () => {
  test('a file that is put again is young again', async () => {
    const hash = await putBlob(bytes('again'));
    age(hash);
    expect(await putBlob(bytes('again'))).toBe(hash);
    expect(await collectUnused(Date.now())).toBe(0);
    expect(hasBlob(hash)).toBe(true);
  });

  test('one that is put between the look and the taking stays, with its row', async () => {
    const hash = await putBlob(bytes('between'));
    age(hash);
    let told = false;
    // as a request that comes in just then: the file is touched, or written anew
    expect(touchBlob(hash)).toBe(true);
    expect(removeBlob(hash, Date.now() - HOUR, () => (told = true))).toBe(false);
    expect([hasBlob(hash), told]).toEqual([true, false]);
  });

  test('pictures come in while sweeps run, and none is lost', async () => {
    const names = Array.from({ length: 34 }, (_, n) => bytes(`picture ${n}`));
    for (const hash of await Promise.all(names.map((b) => putBlob(b)))) age(hash);
    const sweeps = Promise.all(Array.from({ length: 5 }, () => collectUnused(Date.now())));
    const made = await Promise.all(
      names.map(async (b, n) => {
        const image = await putBlob(b);
        const map = { image, widthPx: 1, heightPx: 1, file: 'a.png' };
        await createMaterial({ ...blankMaterial(`M ${n}`, 1, 1), maps: { baseColour: map } });
        return image;
      }),
    );
    await sweeps;
    await collectUnused(Date.now());
    expect(made.filter((hash) => !hasBlob(hash))).toEqual([]);
    expect(await listMaterials()).toHaveLength(34);
  });

  test('while a job runs nothing goes', async () => {
    const hash = await putBlob(bytes('read by a job'));
    age(hash);
    const job = {
      id: 'job-1',
      project: null,
      kind: 'export',
      progress: 0,
      message: '',
      options: '{}',
      result: null,
      made: '',
    };
    await database()
      .insertInto('jobs')
      .values({ ...job, state: 'running' })
      .execute();
    expect(await collectUnused(Date.now())).toBe(0);
    await database().updateTable('jobs').set({ state: 'done' }).execute();
    expect(await collectUnused(Date.now())).toBe(1);
  });

  test('files of jobs and stills that belong to nothing go; what was broken off goes at the start', async () => {
    await createProject('Lodge');
    writeFileSync(path.join(folder('exports'), 'job-gone'), 'x');
    writeFileSync(path.join(folder('cache'), 'still-project-gone.jpg'), 'x');
    writeFileSync(path.join(folder('cache'), 'abc-64.png.1.tmp'), 'x');
    writeFileSync(path.join(folder('uploads'), 'blob.1.tmp'), 'x');
    const hash = await putBlob(bytes('going'));
    await collectUnused(Date.now());
    await clearBroken();
    expect(readdirSync(folder('exports'))).toEqual([]);
    expect(readdirSync(folder('cache'))).toEqual([]);
    expect(readdirSync(folder('uploads'))).toEqual([]);
    expect(existsSync(blobAt(hash))).toBe(true);
  });
});
