import { createHash } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Command } from '@/core/project/commands';
import { collectUnused } from './collect';
import { hasBlob, listBlobs, putBlob, readBlob } from './data';
import { closeDatabase } from './database';
import {
  blankMaterial,
  createMaterial,
  deleteMaterial,
  editMaterial,
  listMaterials,
  readMaterial,
  restoreMaterial,
} from '../library/materials';
import { asProblem, Problem } from '../http/problem';
import {
  changeProject,
  createProject,
  deleteProject,
  duplicateProject,
  goTo,
  listHistory,
  listProjects,
  nameHistoryEntry,
  projectAt,
  readProject,
  redoProject,
  restoreProject,
  undoProject,
} from './projects';
import { ENDPOINTS } from '@/api/endpoints';
import { MaterialChange, NewMaterial } from '@/api/materials';
import { readJson } from '../http/body';
import { check } from '../http/validate';

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'jute-grid-store-'));
  process.env.JUTE_GRID_DATA = folder;
});
afterAll(async () => {
  await closeDatabase();
  rmSync(folder, { recursive: true, force: true });
});

const rename = (name: string): Command => ({ kind: 'setProject', name });
const named = async (id: string) => (await readProject(id)).project.name;

describe('history', () => {
  test('undo, redo, and a branch that stays reachable', async () => {
    const { project } = await createProject('A');
    const { id } = project;
    let { revision } = await changeProject(id, 0, [rename('B')]);
    ({ revision } = await changeProject(id, revision, [rename('C')]));
    ({ revision } = await undoProject(id, revision));
    expect(await named(id)).toBe('B');
    ({ revision } = await changeProject(id, revision, [rename('D')]));
    const history = await listHistory(id);
    expect(history.map((h) => [h.label, h.onPath])).toEqual([
      ['Rename the project “B”', true],
      ['Rename the project “C”', false],
      ['Rename the project “D”', true],
    ]);
    // over to the other branch and back to the start
    ({ revision } = await goTo(id, revision, history[1].id));
    expect(await named(id)).toBe('C');
    let state = await goTo(id, revision, null);
    expect([state.project.name, state.canUndo, state.canRedo]).toEqual(['A', false, true]);
    // redo follows the branch stood on last
    state = await redoProject(id, state.revision);
    state = await redoProject(id, state.revision);
    expect(state.project.name).toBe('C');
    await nameHistoryEntry(id, history[1].id, 'before the client came');
    expect((await listHistory(id))[1].name).toBe('before the client came');
    // looked at without going there, on this branch and on the other
    expect((await projectAt(id, history[2].id)).name).toBe('D');
    expect((await projectAt(id, history[0].id)).name).toBe('B');
    expect((await projectAt(id, null)).name).toBe('A');
    expect(await named(id)).toBe('C');
    await expect(projectAt(id, 'change-nowhere')).rejects.toThrow(/history entry/);
    await expect(goTo(id, state.revision, 'change-nowhere')).rejects.toThrow(/history entry/);
  });

  test('commands of one gesture are one step', async () => {
    const { project } = await createProject('Start');
    let revision = 0;
    for (const name of ['a', 'b', 'c'])
      ({ revision } = await changeProject(project.id, revision, [rename(name)], 'drag-1'));
    ({ revision } = await changeProject(project.id, revision, [rename('d')], 'drag-2'));
    expect(await listHistory(project.id)).toHaveLength(2);
    ({ revision } = await undoProject(project.id, revision));
    expect(await named(project.id)).toBe('c');
    ({ revision } = await undoProject(project.id, revision));
    expect(await named(project.id)).toBe('Start');
    ({ revision } = await redoProject(project.id, revision));
    expect(await named(project.id)).toBe('c');
    // after stepping back, the same gesture starts a step of its own
    await undoProject(project.id, revision);
  });

  test('a stale base changes nothing and says what happened', async () => {
    const { project } = await createProject('X');
    await changeProject(project.id, 0, [rename('Y')]);
    const error = await changeProject(project.id, 0, [rename('Z')]).catch((e: unknown) => e);
    expect(error).toBeInstanceOf(Problem);
    expect((error as Problem).extra).toMatchObject({ revision: 1, changed: ['Rename the project “Y”'] });
    expect(await named(project.id)).toBe('Y');
  });

  test('a command that does not fit leaves no trace', async () => {
    const { project } = await createProject('Whole');
    const wrong: Command = { kind: 'removeView', id: 'none' };
    await expect(changeProject(project.id, 0, [rename('Half'), wrong])).rejects.toThrow(/view “none”/);
    expect(await readProject(project.id)).toMatchObject({ revision: 0, project: { name: 'Whole' } });
    expect(await listHistory(project.id)).toEqual([]);
  });
});

test('projects: copy, bin and back', async () => {
  const { project } = await createProject('Original');
  await changeProject(project.id, 0, [rename('Renamed')]);
  const copy = await duplicateProject(project.id);
  expect(copy).toMatchObject({ revision: 0, canUndo: false, project: { name: 'Renamed (copy)' } });
  await deleteProject(project.id);
  expect((await listProjects()).map((p) => p.id)).not.toContain(project.id);
  expect((await listProjects(true)).find((p) => p.id === project.id)).toMatchObject({ deleted: true });
  await restoreProject(project.id);
  expect((await listProjects()).map((p) => p.id)).toContain(project.id);
  await deleteProject(project.id, true);
  await expect(readProject(project.id)).rejects.toThrow(/no project/);
});

test('materials are versions: an edit makes the next, older ones stay', async () => {
  const made = await createMaterial({ ...blankMaterial('Oak', 600, 300), id: 'oak' });
  expect(made.version).toBe(1);
  await editMaterial('oak', { widthMm: 700 });
  expect(await readMaterial('oak')).toMatchObject({ version: 2, widthMm: 700, heightMm: 300 });
  expect(await readMaterial('oak', 1)).toMatchObject({ widthMm: 600 });
  await expect(createMaterial({ ...blankMaterial('Oak', 1, 1), id: 'oak' })).rejects.toThrow(/already/);
  await deleteMaterial('oak');
  expect(await listMaterials()).toEqual([]);
  await restoreMaterial('oak');
  expect(await listMaterials()).toHaveLength(1);
});

test('files nobody refers to are collected, young ones and those in any history are kept', async () => {
  const used = await putBlob(new TextEncoder().encode('used'));
  const unused = await putBlob(new TextEncoder().encode('unused'));
  expect((await readBlob(used)).toString()).toBe('used');
  const map = { image: used, widthPx: 1, heightPx: 1, file: 'a.png' };
  await createMaterial({ ...blankMaterial('Kept', 10, 10), id: 'kept', maps: { baseColour: map } });
  // no longer in the newest version, but in an older one
  await editMaterial('kept', { maps: {} });
  expect(await collectUnused(Date.now())).toBe(0);
  expect(await collectUnused(Date.now() + 2 * 3600 * 1000)).toBe(1);
  expect([hasBlob(used), hasBlob(unused)]).toEqual([true, false]);
  expect((await listBlobs()).map((b) => b.hash)).toEqual([used]);
});

describe('validation names the field and what would be right', () => {
  const fieldOf = (work: () => unknown) => {
    try {
      work();
    } catch (error) {
      const { status, detail, extra } = asProblem(error);
      return { status, detail, field: extra.field };
    }
    throw new Error('nothing was refused');
  };

  test.each<[unknown, string, RegExp]>([
    [{ kind: 'fly' }, 'commands.3.kind', /not known here/],
    [{ kind: 'setProject', unit: 'ell' }, 'commands.3.unit', /one of mm, cm, m, in, ft-in/],
    [{ kind: 'setProject', colour: 'red' }, 'commands.3.colour', /not known here/],
    [{ kind: 'removeView' }, 'commands.3.id', /missing/],
    [{ kind: 'setProject', northDeg: 400 }, 'commands.3.northDeg', /400/],
    [null, 'commands.3', /object/],
    [{ unit: 'cm' }, 'commands.3.kind', /missing/],
  ])('%j', (command, field, detail) => {
    const fine = { kind: 'setProject', unit: 'cm' };
    const sent = { baseRevision: 0, commands: [fine, fine, fine, command] };
    expect(fieldOf(() => check(ENDPOINTS['POST /api/projects/{id}/changes'].body, sent))).toEqual({
      status: 400,
      field,
      detail: expect.stringMatching(detail),
    });
  });

  test('materials', () => {
    expect(check(NewMaterial, { name: 'Oak', widthMm: 10, heightMm: 20 })).toMatchObject({ name: 'Oak' });
    expect(fieldOf(() => check(NewMaterial, { name: 'Oak', widthMm: 10 })).field).toBe('heightMm');
    expect(fieldOf(() => check(MaterialChange, { widthMm: 0 })).field).toBe('widthMm');
    expect(fieldOf(() => check(MaterialChange, { builtIn: true })).field).toBe('builtIn');
  });

  test('what is no JSON', async () => {
    const request = new Request('http://localhost', { method: 'POST', body: '{"a":' });
    await expect(readJson(request)).rejects.toMatchObject({ status: 400, extra: { field: 'body' } });
  });

  test('a full disk is an answer', () => {
    expect(asProblem(Object.assign(new Error('x'), { code: 'ENOSPC' }))).toMatchObject({ status: 507 });
  });
});

test('a file in pieces is the file in one, by name and content', async () => {
  const pieces = [3, 0, 2_000_000, 5].map((n, i) => new Uint8Array(n).fill(i + 1));
  const whole = Buffer.concat(pieces);
  const name = await putBlob(pieces);
  expect(name).toBe(createHash('sha256').update(whole).digest('hex'));
  expect(await putBlob(whole)).toBe(name);
  expect((await readBlob(name)).equals(whole)).toBe(true);
});
