import { applyPatch, findDifference, type Patch } from '@/core/history/patch';
import { type PrepCommand, runPrepCommands } from '@/core/prep/commands';
import type { Prep } from '@/core/prep/schema';
import { prepOf } from '@/core/testing/prep';

/** What the store would say aloud; the page's own messages are not there in a test. */
const said: { title: string; description?: string; action?: { onClick: () => void } }[] = [];
jest.mock('sonner', () => {
  const say = (title: string, options?: object) => said.push({ title, ...options });
  return { toast: Object.assign(say, { warning: say, error: say }) };
});

import { newStep, settlePrep, usePrep } from './prepStore';

const picture = prepOf();

/** A server that keeps one prep with its history, and refuses what is based on an older revision. */
function serve() {
  let stored = picture;
  let revision = 4;
  let down = false;
  const past: { inverse: Patch; gesture?: string }[] = [];
  const bases: number[] = [];
  const respond = (status: number, body: object) =>
    new Response(JSON.stringify(body), { status, headers: { 'content-type': 'application/json' } });
  const standing = () => ({ revision, canUndo: past.length > 0, canRedo: false });
  global.fetch = jest.fn(async (path: RequestInfo | URL, init?: RequestInit) => {
    await new Promise((r) => setTimeout(r, 5));
    if (down) throw new TypeError('no answer');
    if (!init?.body) return respond(200, { prep: stored, ...standing() });
    const { baseRevision, commands, gesture } = JSON.parse(String(init.body)) as {
      baseRevision: number;
      commands?: PrepCommand[];
      gesture?: string;
    };
    bases.push(baseRevision);
    if (baseRevision !== revision)
      return respond(409, { title: 'Stale', detail: 'Another tab.', field: 'baseRevision', changed: ['Set Colour'] });
    revision++;
    if (commands) {
      const after = runPrepCommands(stored, commands);
      const inverse = findDifference(after, stored);
      const last = past.at(-1);
      stored = after;
      if (gesture && last?.gesture === gesture) last.inverse = [...inverse, ...last.inverse];
      else past.push({ inverse, gesture });
      return respond(200, standing());
    }
    expect(String(path)).toMatch(/undo$/);
    const patch = past.pop()!.inverse;
    stored = applyPatch(stored, patch);
    return respond(200, { patch, ...standing() });
  }) as typeof fetch;
  return {
    bases,
    get stored() {
      return stored;
    },
    changeElsewhere(change: Partial<Prep>) {
      stored = { ...stored, ...change };
      revision++;
    },
    goDown: (is: boolean) => (down = is),
  };
}

const shown = () => usePrep.getState().prep!;
const { change, undo, open, look } = usePrep.getState();

let server: ReturnType<typeof serve>;
beforeEach(() => {
  said.length = 0;
  server = serve();
  open({ prep: picture, revision: 4, canUndo: false, canRedo: false });
});
afterEach(settlePrep);

test('changes show at once and are sent one after the other', async () => {
  change({ name: 'Lime' });
  change({ grain: 'x' });
  expect(shown()).toMatchObject({ name: 'Lime', grain: 'x' });
  expect(usePrep.getState()).toMatchObject({ canUndo: true, pending: 2 });
  await settlePrep();
  expect(server.bases).toEqual([4, 5]);
  expect(server.stored).toMatchObject({ name: 'Lime', grain: 'x' });
  expect(usePrep.getState()).toMatchObject({ revision: 6, pending: 0 });
});

test('a gesture is one step back, and steps back are the server’s', async () => {
  for (const name of ['P', 'Pl', 'Pla']) change({ name }, 'typing');
  change({ credit: 'R. Moss' });
  await undo();
  expect(shown()).toMatchObject({ name: 'Pla', credit: '' });
  await undo();
  expect(shown().name).toBe('Plaster');
  expect(server.stored).toEqual(shown());
});

test('what is done while a step back is on its way stands on top of it', async () => {
  change({ name: 'Lime' });
  await settlePrep();
  const back = undo();
  change({ grain: 'y' });
  expect(shown()).toMatchObject({ name: 'Lime', grain: 'y' });
  await back;
  expect(shown()).toMatchObject({ name: 'Plaster', grain: 'y' });
  await settlePrep();
  expect(server.stored).toEqual(shown());
});

test('after a change in another tab it goes on from there, and one’s own can be applied to that', async () => {
  const theirs = newStep('colour');
  server.changeElsewhere({ grain: 'y', steps: [theirs] });
  change({ name: 'Ours' });
  change({ credit: 'R. Moss' });
  await settlePrep();
  // the one that was refused is taken back, the one behind it is not lost
  expect(shown()).toMatchObject({ name: 'Plaster', grain: 'y', steps: [theirs], credit: 'R. Moss' });
  expect(server.stored).toEqual(shown());
  expect(said.map(({ title }) => title)).toEqual(['This prep was changed in another tab']);
  expect(said[0].description).toContain('There: Set Colour.');
  said[0].action!.onClick();
  await settlePrep();
  expect(server.stored).toMatchObject({ name: 'Ours', grain: 'y', steps: [theirs], credit: 'R. Moss' });
});

test('a step of one’s own is applied to theirs, and leaves their other steps as they are', async () => {
  const [even, colour] = [newStep('even'), newStep('colour')];
  change({ steps: [even, colour] });
  await settlePrep();
  server.changeElsewhere({ steps: [{ ...even, on: false }, colour] });
  change({ steps: [even, { ...colour, on: false }] });
  await settlePrep();
  said[0].action!.onClick();
  await settlePrep();
  expect(server.stored.steps.map((s) => s.on)).toEqual([false, false]);
});

test('the step that is looked at stays, or gives way to the last when it is gone', async () => {
  const [even, colour] = [newStep('even'), newStep('colour')];
  change({ steps: [even, colour] });
  look(even.id);
  change({ grain: 'x' });
  expect(usePrep.getState().step).toBe(even.id);
  change({ steps: [colour] });
  expect(usePrep.getState().step).toBe(colour.id);
});

test('without an answer nothing is lost: it says so once, and the next change takes all along', async () => {
  server.goDown(true);
  change({ name: 'Lime' });
  await settlePrep();
  change({ grain: 'x' });
  await settlePrep();
  expect(usePrep.getState().error).toMatch(/does not answer/);
  expect(said.map(({ title }) => title)).toEqual(['Not saved']);
  expect(shown().name).toBe('Lime');
  server.goDown(false);
  change({ credit: 'R. Moss' });
  await settlePrep();
  expect(server.stored).toMatchObject({ name: 'Lime', grain: 'x', credit: 'R. Moss' });
  expect(usePrep.getState()).toMatchObject({ error: null, pending: 0 });
});

test('what is on its way when another picture is opened is still stored, and not shown', async () => {
  change({ name: 'Lime' });
  open({ prep: { ...picture, id: 'prep-2', name: 'Slate' }, revision: 0, canUndo: false, canRedo: false });
  await new Promise((r) => setTimeout(r, 30));
  expect(server.stored.name).toBe('Lime');
  expect(shown().name).toBe('Slate');
  expect(usePrep.getState().revision).toBe(0);
});
