import { noMaps, type Prep } from '@/core/prep/schema';

/** What the store would say aloud; the page's own messages are not there in a test. */
const said: { title: string; action?: { onClick: () => void } }[] = [];
jest.mock('sonner', () => ({
  toast: {
    warning: (title: string, options?: { action?: { onClick: () => void } }) => said.push({ title, ...options }),
  },
}));

import { newStep, settlePrep, usePrep } from './prepStore';

const picture: Prep = {
  id: 'prep-1',
  name: 'Plaster',
  revision: 4,
  picture: { image: 'a'.repeat(64), widthPx: 800, heightPx: 600, file: 'plaster.png' },
  pixelsPerInch: null,
  steps: [],
  derived: noMaps,
  grain: 'none',
  leaves: null,
  source: '',
  licence: '',
  credit: '',
  material: null,
};

/** A server that keeps one prep and refuses what is based on an older one. */
function serve() {
  let stored = picture;
  let down = false;
  const bases: number[] = [];
  const respond = (status: number, body: object) =>
    new Response(JSON.stringify(body), { status, headers: { 'content-type': 'application/json' } });
  global.fetch = jest.fn(async (_path: RequestInfo | URL, init?: RequestInit) => {
    await new Promise((r) => setTimeout(r, 5));
    if (down) throw new TypeError('no answer');
    if (init?.method !== 'PATCH') return respond(200, stored);
    const { baseRevision, ...change } = JSON.parse(String(init.body)) as Prep & { baseRevision: number };
    bases.push(baseRevision);
    if (baseRevision !== stored.revision) return respond(409, { title: 'Changed elsewhere', detail: 'Another tab.' });
    stored = { ...stored, ...change, revision: stored.revision + 1 };
    return respond(200, stored);
  }) as typeof fetch;
  return {
    bases,
    get stored() {
      return stored;
    },
    changeElsewhere: (change: Partial<Prep>) => (stored = { ...stored, ...change, revision: stored.revision + 1 }),
    goDown: (is: boolean) => (down = is),
  };
}

const shown = () => usePrep.getState().prep!;
const { change, undo, redo, open } = usePrep.getState();

let server: ReturnType<typeof serve>;
beforeEach(() => {
  said.length = 0;
  server = serve();
  open(picture);
});
afterEach(settlePrep);

test('changes show at once and are stored together, a moment after the last', async () => {
  change({ name: 'Lime' });
  change({ grain: 'x' });
  expect(shown().name).toBe('Lime');
  await settlePrep();
  expect(server.bases).toEqual([4]);
  expect(server.stored).toMatchObject({ name: 'Lime', revision: 5 });
  expect(shown().revision).toBe(5);
});

test('a gesture is one step back; undo and redo are stored as well', async () => {
  for (const name of ['P', 'Pl', 'Pla']) change({ name }, 'typing');
  change({ credit: 'R. Moss' });
  undo();
  expect(shown()).toMatchObject({ name: 'Pla', credit: '' });
  undo();
  expect(shown().name).toBe('Plaster');
  redo();
  await settlePrep();
  expect(server.stored.name).toBe('Pla');
});

test('what changes while storing is stored next, on the revision that came back', async () => {
  change({ name: 'Lime' });
  await new Promise((r) => setTimeout(r, 302));
  change({ name: 'Lime wash' });
  await settlePrep();
  expect(server.bases).toEqual([4, 5]);
  expect(server.stored.name).toBe('Lime wash');
});

test('after a change in another tab it goes on from there, and undo brings back what was done here', async () => {
  const theirs = newStep('colour');
  server.changeElsewhere({ name: 'Theirs', steps: [theirs] });
  change({ name: 'Ours' });
  await settlePrep();
  expect(shown()).toMatchObject({ name: 'Theirs', revision: 5, steps: [theirs] });
  expect(usePrep.getState()).toMatchObject({ error: null, step: theirs.id });
  expect(said.map(({ title }) => title)).toEqual(['This prep was changed in another tab']);

  change({ credit: 'R. Moss' });
  await settlePrep();
  expect(server.stored).toMatchObject({ name: 'Theirs', credit: 'R. Moss', revision: 6 });

  undo();
  said[0].action!.onClick();
  await settlePrep();
  expect(server.stored).toMatchObject({ name: 'Ours', steps: [], revision: 7 });
});

test('without an answer nothing is lost: it says so and the next change takes all along', async () => {
  server.goDown(true);
  change({ name: 'Lime' });
  await settlePrep();
  expect(usePrep.getState().error).toMatch(/does not answer/);
  expect(shown().name).toBe('Lime');
  server.goDown(false);
  change({ credit: 'R. Moss' });
  await settlePrep();
  expect(server.stored).toMatchObject({ name: 'Lime', credit: 'R. Moss' });
  expect(usePrep.getState().error).toBeNull();
});
