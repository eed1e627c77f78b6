import type { Command } from '@/core/project/commands';
import { findDifference } from '@/core/history/patch';
import { emptyProject, type Project } from '@/core/project/schema';

/** What the store would say aloud; the page's own messages are not there in a test. */
const said: { title: string; action?: { onClick: () => void } }[] = [];
jest.mock('sonner', () => {
  const say = (title: string, options?: { action?: { onClick: () => void } }) => said.push({ title, ...options });
  return { toast: Object.assign(say, { warning: say, error: say }) };
});

import { shownSpec, useProject } from './projectStore';

interface Call {
  method: string;
  path: string;
  body: { baseRevision?: number; commands?: Command[]; gesture?: string } | null;
}

/** A server that keeps one project, answers in order, and can be told to refuse. */
function serve(start: Project) {
  const calls: Call[] = [];
  let revision = 0;
  let stored = start;
  let refuse: { status: number; body: object } | null = null;
  const respond = (status: number, body: object) =>
    new Response(JSON.stringify(body), {
      status,
      headers: { 'content-type': status < 400 ? 'application/json' : 'application/problem+json' },
    });
  global.fetch = jest.fn(async (path: RequestInfo | URL, init?: RequestInit) => {
    const body = init?.body ? (JSON.parse(String(init.body)) as Call['body']) : null;
    calls.push({ method: init?.method ?? 'GET', path: String(path), body });
    // answers take a while, so that changes queue up
    await new Promise((r) => setTimeout(r, 5));
    if (refuse && body?.commands) {
      const answer = refuse;
      refuse = null;
      return respond(answer.status, answer.body);
    }
    if (body?.commands && body.baseRevision !== revision) {
      return respond(409, { title: 'Changed', detail: 'stale', field: 'baseRevision', changed: ['Rename'] });
    }
    if (body?.commands) revision++;
    if (String(path).endsWith('/undo'))
      return respond(200, { patch: findDifference(start, stored), revision, canUndo: false, canRedo: true });
    return respond(200, { project: stored, revision, canUndo: revision > 0, canRedo: false });
  }) as typeof fetch;
  return {
    calls,
    refuseOnce: (status: number, body: object) => (refuse = { status, body }),
    /** Somebody else changes it. */
    changeElsewhere: (project: Project) => {
      revision++;
      stored = project;
    },
    get revision() {
      return revision;
    },
  };
}

const rename = (name: string): Command => ({ kind: 'setProject', name });
const idle = async () => {
  while (useProject.getState().pending > 0) await new Promise((r) => setTimeout(r, 3));
};

beforeEach(async () => {
  said.length = 0;
});

async function opened() {
  const project = emptyProject('p', 'First');
  const server = serve(project);
  await useProject.getState().load('p');
  server.calls.length = 0;
  return server;
}

describe('the project’s store', () => {
  test('applies at once and sends one after the other, each on the revision before it', async () => {
    const server = await opened();
    const { run } = useProject.getState();
    run([rename('A')]);
    run([rename('B')], 'gesture-1');
    run([rename('C')], 'gesture-1');
    expect(useProject.getState().project!.name).toBe('C');
    expect(useProject.getState().canUndo).toBe(true);
    await idle();
    const sent = server.calls.map((c) => c.body);
    expect(sent.map((b) => b!.baseRevision)).toEqual([0, 1, 2]);
    expect(sent.map((b) => b!.gesture)).toEqual([undefined, 'gesture-1', 'gesture-1']);
    expect(useProject.getState().revision).toBe(3);
    expect(said).toEqual([]);
  });

  test('a stale change is taken back, what others did is shown, and it can be applied to that', async () => {
    const server = await opened();
    server.changeElsewhere({ ...emptyProject('p', 'Theirs'), unit: 'm' });
    useProject.getState().run([rename('Mine')]);
    expect(useProject.getState().project!.name).toBe('Mine');
    await idle();
    expect(useProject.getState().project).toMatchObject({ name: 'Theirs', unit: 'm' });
    expect(said[0].title).toContain('another tab');
    said[0].action!.onClick();
    expect(useProject.getState().project).toMatchObject({ name: 'Mine', unit: 'm' });
    await idle();
    expect(server.revision).toBe(2);
  });

  test('what waits behind a stale change is neither lost nor hidden', async () => {
    const server = await opened();
    server.changeElsewhere({ ...emptyProject('p', 'Theirs'), unit: 'm' });
    const { run } = useProject.getState();
    run([rename('Mine')]);
    run([{ kind: 'setProject', northDeg: 30 }]);
    await idle();
    expect(useProject.getState().project).toMatchObject({ name: 'Theirs', unit: 'm', northDeg: 30 });
    expect(server.calls.at(-1)!.body!.commands).toEqual([{ kind: 'setProject', northDeg: 30 }]);
    expect(server.revision).toBe(2);
  });

  test('what the server refuses is rolled back, with the way to try again', async () => {
    const server = await opened();
    server.refuseOnce(422, { title: 'No', detail: 'It does not fit.', field: 'name' });
    useProject.getState().run([rename('Refused')]);
    await idle();
    expect(useProject.getState().project!.name).toBe('First');
    expect(said.map((s) => s.title)).toEqual(['Not saved']);
    said[0].action!.onClick();
    await idle();
    expect(server.revision).toBe(1);
  });

  test('what cannot be applied is never sent', async () => {
    const server = await opened();
    useProject.getState().run([{ kind: 'removeModel', model: 'nowhere' }]);
    await idle();
    expect(server.calls).toEqual([]);
    expect(said.map((s) => s.title)).toEqual(['That does not fit']);
    expect(useProject.getState().project!.name).toBe('First');
  });

  test('what is the same after an answer stays the same object', async () => {
    const server = await opened();
    const before = useProject.getState().project!;
    server.changeElsewhere({ ...(JSON.parse(JSON.stringify(before)) as Project), name: 'Other' });
    await useProject.getState().undo();
    await idle();
    const after = useProject.getState().project!;
    expect(after.name).toBe('Other');
    expect(after.light).toBe(before.light);
    expect(after.surfaces).toBe(before.surfaces);
  });

  test('a preview is shown and never sent; a change ends it', async () => {
    const server = await opened();
    const spec = { material: 'oak' } as never;
    useProject.getState().setPreview({ s: spec });
    expect(shownSpec(useProject.getState(), 's')).toBe(spec);
    expect(server.calls).toEqual([]);
    useProject.getState().run([rename('Done')]);
    expect(shownSpec(useProject.getState(), 's')).toBeNull();
    await idle();
  });
});
