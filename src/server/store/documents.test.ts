import Sqlite from 'better-sqlite3';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { applyPatch } from '@/core/history/patch';
import { defaultSpec } from '@/core/specification/schema';
import { prepOf } from '@/core/testing/prep';
import { part, surface } from '@/core/testing/project';
import { oak } from '@/core/testing/surfaces';
import { closeDatabase, database, MIGRATIONS } from './database';
import { storeImage } from './images';
import { storedModel } from './testing';
import {
  changeProject,
  createProject,
  listHistory,
  listProjects,
  readProject,
  redoProject,
  undoProject,
  whereLaid,
} from './projects';
import {
  changePrep,
  goToInPrep,
  listPreps,
  namePrepEntry,
  prepHistory,
  readPrep,
  redoPrep,
  undoPrep,
} from '../prep/preps';

/** A data folder as a version of the program with so many migrations left it. */
function olderFolder(migrations: number, fill: (raw: Sqlite.Database) => void): string {
  const folder = mkdtempSync(path.join(tmpdir(), 'jute-grid-documents-'));
  const raw = new Sqlite(path.join(folder, 'jute-grid.sqlite'));
  raw.pragma('foreign_keys = ON');
  raw.exec('create table migrations (id integer primary key, name text not null) strict');
  for (const [name, statements] of MIGRATIONS.slice(0, migrations)) {
    for (const statement of statements) raw.exec(statement);
    raw.prepare('insert into migrations (name) values (?)').run(name);
  }
  fill(raw);
  raw.close();
  return folder;
}

const prep = prepOf();

let folder: string;
afterEach(async () => {
  await closeDatabase();
  rmSync(folder, { recursive: true, force: true });
});

describe('a folder with projects and preps in tables of their own', () => {
  beforeEach(() => {
    folder = olderFolder(2, (raw) => {
      const put = (table: string, ...values: unknown[]) =>
        raw.prepare(`insert into ${table} values (${values.map(() => '?').join(', ')})`).run(...values);
      const named = (name: string) => JSON.stringify({ id: 'p', name });
      put('projects', 'p', 'C', named('C'), 2, 'change-2', '2026-01-01', '2026-01-02', null);
      const rename = (name: string) => JSON.stringify([{ kind: 'setProject', name }]);
      const back = (name: string) => JSON.stringify([{ path: ['name'], value: name }]);
      // a step whose parent is younger in the table's order
      put('changes', 'change-2', 'p', null, rename('C'), 1, back('B'), 'Rename “C”', null, null, '2026-01-02', 2);
      put('changes', 'change-1', 'p', null, rename('B'), 1, back('A'), 'Rename “B”', 'first', 'g', '2026-01-01', 1);
      raw.exec(`update changes set parent = 'change-1' where id = 'change-2'`);
      put('revisions', 'p', 1, 'Rename “B”');
      put('revisions', 'p', 2, 'Rename “C”');
      const stored = { ...prep, revision: 7, grain: 'x', material: 'material-1' };
      put('preps', 'prep-1', JSON.stringify(stored), '2026-01-03', null);
      put('preps', 'prep-2', JSON.stringify({ ...stored, id: 'prep-2' }), '2026-01-03', '2026-01-04');
    });
    process.env.JUTE_GRID_DATA = folder;
  });

  test('projects keep what they are and their history', async () => {
    expect(await readProject('p')).toMatchObject({
      project: { name: 'C' },
      revision: 2,
      canUndo: true,
      canRedo: false,
    });
    expect((await listHistory('p')).map((h) => [h.id, h.parent, h.name, h.current])).toEqual([
      ['change-1', null, 'first', false],
      ['change-2', 'change-1', null, true],
    ]);
    const stood = (await readProject('p')).project;
    const step = await undoProject('p', 2);
    // what is sent leads from where a client stands to where the document stands
    expect(step.patch).toEqual([{ path: ['name'], value: 'B' }]);
    expect(applyPatch(stood, step.patch)).toEqual(step.project);
    expect((await undoProject('p', 3)).project.name).toBe('A');
    await expect(undoProject('p', 4)).rejects.toThrow('The project is at the start of its history.');
    expect((await redoProject('p', 4)).project.name).toBe('B');
    await expect(undoProject('p', 2)).rejects.toMatchObject({
      status: 409,
      extra: { changed: ['Undo: Rename “C”', 'Undo: Rename “B”', 'Redo: Rename “B”'] },
    });
  });

  test('preps go on from the revision they had; those thrown away stay so', async () => {
    const opened = await readPrep('prep-1');
    expect(opened).toMatchObject({ revision: 7, canUndo: false, prep: { name: 'Plaster', grain: 'x' } });
    expect(opened.prep).not.toHaveProperty('revision');
    expect((await listPreps()).map((p) => p.id)).toEqual(['prep-1']);
    await expect(readPrep('prep-2')).rejects.toThrow('There is no prep “prep-2”.');
    // one kind is never taken for another
    await expect(readProject('prep-1')).rejects.toThrow('There is no project “prep-1”.');
    const tables = await database().introspection.getTables();
    expect(tables.map((t) => t.name)).not.toContain('preps');
  });
});

test('preps that were listed by an older program are listed as today’s', async () => {
  const { given: _came, ...older } = prep;
  const before = MIGRATIONS.findIndex(([name]) => name === 'given');
  folder = olderFolder(before, (raw) => {
    raw
      .prepare(
        `insert into documents (id, kind, name, summary, revision, head, created, updated, deleted)
         values ('prep-1', 'prep', 'Plaster', ?, 0, null, '2026-01-01', '2026-01-01', null)`,
      )
      .run(JSON.stringify(older));
    raw.prepare(`insert into texts values ('prep-1', ?)`).run(JSON.stringify({ version: 2, ...older }));
  });
  process.env.JUTE_GRID_DATA = folder;
  expect(await listPreps()).toEqual([prep]);
});

test('a prep has the history that projects have', async () => {
  folder = mkdtempSync(path.join(tmpdir(), 'jute-grid-documents-'));
  process.env.JUTE_GRID_DATA = folder;
  const png = await sharp({ create: { width: 8, height: 6, channels: 3, background: '#888' } })
    .png()
    .toBuffer();
  const image = await storeImage(new Uint8Array(png), 'plaster.png');
  await database()
    .insertInto('documents')
    .values({
      id: 'prep-1',
      kind: 'prep',
      name: 'Plaster',
      summary: null,
      revision: 0,
      head: null,
      created: '2026-01-01',
      updated: '2026-01-01',
      deleted: null,
    })
    .execute();
  const document = JSON.stringify({ version: 1, ...prep, picture: { ...prep.picture, image: image.hash } });
  await database().insertInto('texts').values({ owner: 'prep-1', document }).execute();
  const set = (values: object) => [{ kind: 'setPrep' as const, values }];
  await changePrep('prep-1', 0, set({ name: 'L' }), 'typing');
  await changePrep('prep-1', 1, set({ name: 'Lime' }), 'typing');
  const third = await changePrep('prep-1', 2, set({ grain: 'y' }));
  expect(third).toMatchObject({ revision: 3, canUndo: true, canRedo: false, prep: { name: 'Lime', grain: 'y' } });
  const history = await prepHistory('prep-1');
  expect(history.map((h) => h.label)).toEqual(['Rename the prep “Lime”', 'Set grain']);
  await undoPrep('prep-1', 3);
  expect((await undoPrep('prep-1', 4)).prep.name).toBe('Plaster');
  expect((await redoPrep('prep-1', 5)).prep.name).toBe('Lime');
  await namePrepEntry('prep-1', history[1].id, 'as the client liked it');
  expect((await goToInPrep('prep-1', 6, history[1].id)).prep.grain).toBe('y');
  await expect(changePrep('prep-1', 6, set({ name: 'Late' }))).rejects.toThrow(
    'This change was made on revision 6; the prep is at 7. Since then: Go to: as the client liked it.',
  );
  const leaves = { columns: 1, rows: 3, insetMm: 0, rowLines: [0.7, 0.3] };
  await expect(changePrep('prep-1', 7, set({ leaves }))).rejects.toMatchObject({ extra: { field: 'leaves.rowLines' } });
  expect((await readPrep('prep-1')).revision).toBe(7);
});

describe('lists', () => {
  beforeEach(() => {
    folder = mkdtempSync(path.join(tmpdir(), 'jute-grid-documents-'));
    process.env.JUTE_GRID_DATA = folder;
  });
  const set = (values: object) => database().updateTable('documents').set(values).execute();

  test('show what is kept with each document, and read none', async () => {
    const { project } = await createProject('A');
    await changeProject(project.id, 0, [{ kind: 'setProject', name: 'B' }]);
    const before = await listProjects();
    expect(before).toMatchObject([{ name: 'B', revision: 1, surfaces: 0, dressed: 0, sizeMm: null, colours: [] }]);
    await database().updateTable('texts').set({ document: 'no document at all' }).execute();
    expect(await listProjects()).toEqual(before);
    // a server that has just been started has read none yet
    await closeDatabase();
    expect(await listProjects()).toEqual(before);
    await expect(readProject(project.id)).rejects.toThrow();
  });

  test('tell where a material is laid', async () => {
    const { project } = await createProject('Quay');
    await createProject('Bare');
    const materials = [oak({ id: 'slate' }), oak()];
    const spec = defaultSpec('slate');
    const surfaces = [surface('a'), surface('b'), surface('c')];
    await changeProject(project.id, 0, [
      { kind: 'addModel', model: await storedModel(), parts: [part()], surfaces, materials: [] },
      { kind: 'setSpecs', specs: { a: spec, b: spec, c: defaultSpec('oak') }, materials },
    ]);
    expect(await whereLaid('slate')).toEqual([{ id: project.id, name: 'Quay', surfaces: 2 }]);
    expect(await whereLaid('linen')).toEqual([]);
    const { revision } = await undoProject(project.id, 1);
    expect(await whereLaid('slate')).toEqual([]);
    await redoProject(project.id, revision);
    expect(await whereLaid('oak')).toMatchObject([{ surfaces: 1 }]);
  });

  test('what was stored before is worked out once, and kept', async () => {
    const { project } = await createProject('A');
    await set({ summary: null });
    const [card] = await listProjects();
    expect(card).toMatchObject({ id: project.id, surfaces: 0 });
    const kept = await database().selectFrom('documents').select('summary').executeTakeFirstOrThrow();
    expect(JSON.parse(kept.summary!)).toEqual({ surfaces: 0, dressed: 0, sizeMm: null, areas: {}, laid: {} });
    await database().updateTable('texts').set({ document: 'no document at all' }).execute();
    expect(await listProjects()).toEqual([card]);
  });
});
