import fc from 'fast-check';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Command } from '@/core/project/commands';
import { part, surface } from '@/core/testing/project';
import { closeDatabase, database } from './database';
import { storedModel } from './testing';
import { changeProject, createProject, goTo, listHistory, readProject, redoProject, undoProject } from './projects';

/*
 * A change writes what it changed; the document is what was last written whole with all that came since. Whatever is
 * done, what is read after a restart is what was answered.
 */

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'jute-grid-log-'));
  process.env.JUTE_GRID_DATA = folder;
});
afterEach(async () => {
  await closeDatabase();
  rmSync(folder, { recursive: true, force: true });
});

/** A house of so many walls, in one change. */
async function house(walls: number): Promise<string> {
  const { project } = await createProject('House');
  const surfaces = Array.from({ length: walls }, (_, n) => surface(`wall-${n}`, { name: `Wall ${n}` }));
  const addModel: Command = { kind: 'addModel', model: await storedModel(), parts: [part()], surfaces, materials: [] };
  await changeProject(project.id, 0, [addModel]);
  return project.id;
}
const rename = (n: number, name: string): Command[] => [{ kind: 'setSurfaces', ids: [`wall-${n}`], name }];
const rowOf = async (id: string) => ({
  ...(await database().selectFrom('documents').selectAll().where('id', '=', id).executeTakeFirstOrThrow()),
  ...(await database().selectFrom('texts').select('document').where('owner', '=', id).executeTakeFirstOrThrow()),
});
const patches = () => database().selectFrom('patches').selectAll().orderBy('revision').execute();

/** As a server that has just been started reads it. */
async function readAnew(id: string) {
  await closeDatabase();
  return readProject(id);
}

test('a change of a large document writes only what it changed', async () => {
  const id = await house(400);
  const { document, written } = await rowOf(id);
  await changeProject(id, 1, rename(7, 'North'));
  const after = await rowOf(id);
  expect([after.document, after.written, after.revision]).toEqual([document, written, 2]);
  const [patch] = (await patches()).slice(-1);
  expect(patch).toMatchObject({ owner: id, revision: 2 });
  expect(patch.patch.length).toBeLessThan(200);
  expect((await readAnew(id)).project.surfaces['wall-7'].name).toBe('North');
});

test('now and then the document is written whole, and what came before is let go', async () => {
  const id = await house(400);
  const { written } = await rowOf(id);
  const long = (n: number) => 'x'.repeat(150) + n;
  const all = Array.from({ length: 400 }, (_, n) => n);
  let revision = 1;
  for (let k = 0; k < 4; k++) {
    const commands = all.flatMap((n) => rename(n, long(n + k)));
    revision = (await changeProject(id, revision, commands)).revision;
  }
  const row = await rowOf(id);
  expect(row.written).toBeGreaterThan(written);
  for (const { revision: r } of await patches()) expect(r).toBeGreaterThan(row.written);
  expect((await readAnew(id)).project.surfaces['wall-9'].name).toBe(long(12));
});

test('a document of an older form is written whole at its first change', async () => {
  const id = await house(300);
  await database().updateTable('documents').set({ form: -1 }).execute();
  await changeProject(id, 1, rename(3, 'East'));
  expect(await rowOf(id)).toMatchObject({ written: 2, since: 0 });
  expect(await patches()).toEqual([]);
  expect((await readAnew(id)).project.surfaces['wall-3'].name).toBe('East');
});

test('what is thrown away for good takes its patches along', async () => {
  const id = await house(300);
  await changeProject(id, 1, rename(3, 'East'));
  expect(await patches()).not.toEqual([]);
  await database().deleteFrom('documents').where('id', '=', id).execute();
  expect(await patches()).toEqual([]);
  expect(await database().selectFrom('texts').selectAll().execute()).toEqual([]);
});

test('whatever is done, a restarted server reads what was answered', async () => {
  const step = fc.oneof(
    fc.record({ do: fc.constant('rename' as const), n: fc.nat(199), length: fc.integer({ min: 1, max: 180 }) }),
    fc.record({ do: fc.constant('renameAll' as const), length: fc.integer({ min: 100, max: 180 }) }),
    fc.constant({ do: 'undo' as const }),
    fc.constant({ do: 'redo' as const }),
    fc.record({ do: fc.constant('goTo' as const), share: fc.double({ min: 0, max: 1, noNaN: true }) }),
    fc.constant({ do: 'restart' as const }),
  );
  await fc.assert(
    fc.asyncProperty(fc.array(step, { minLength: 4, maxLength: 14 }), async (steps) => {
      const id = await house(200);
      let shown = await readProject(id);
      for (const s of steps) {
        const { revision } = shown;
        if (s.do === 'rename') shown = await changeProject(id, revision, rename(s.n, 'y'.repeat(s.length)));
        else if (s.do === 'renameAll') {
          const all = Object.keys(shown.project.surfaces).flatMap((_, n) => rename(n, 'z'.repeat(s.length) + revision));
          if (all.length) shown = await changeProject(id, revision, all);
        } else if (s.do === 'undo' && shown.canUndo) shown = await undoProject(id, revision);
        else if (s.do === 'redo' && shown.canRedo) shown = await redoProject(id, revision);
        else if (s.do === 'goTo') {
          const entries = await listHistory(id);
          shown = await goTo(id, revision, entries[Math.floor(s.share * (entries.length - 1))].id);
        } else if (s.do === 'restart') {
          const { project, ...standing } = await readAnew(id);
          expect(project).toEqual(shown.project);
          expect(standing.revision).toBe(revision);
        }
        // the model is always there to be renamed
        if (!Object.keys(shown.project.surfaces).length) shown = await redoProject(id, shown.revision);
      }
      const read = await readAnew(id);
      expect(read.project).toEqual(shown.project);
      expect(read.revision).toBe(shown.revision);
    }),
    { numRuns: 25 },
  );
}, 60_000);
