import { expect, test } from '../test';
import { serve } from '../serve';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';

const callAt = (url: string) => async (method: string, at: string, body?: unknown) => {
  const response = await fetch(url + at, {
    method,
    headers: { 'content-type': 'application/json' },
    body: body ? JSON.stringify(body) : undefined,
  });
  return (await response.json()) as Record<string, unknown>;
};

const title = '200 commands, kill -9 in the middle: every acknowledged one is there, undo walks back to the start';
test(title, async ({}, info) => {
  const data = mkdtempSync(path.join(tmpdir(), 'jute-grid-'));
  const port = 4399 + info.parallelIndex;
  const first = await serve(port, data);
  const json = callAt(first.url);
  let server = first.process;
  try {
    const { project } = await json('POST', '/api/projects', { name: 'Start' });
    const id = (project as { id: string }).id;
    let acknowledged = 0;
    const send = async (n: number) => {
      const answer = await json('POST', `/api/projects/${id}/changes`, {
        baseRevision: n,
        commands: [{ kind: 'setProject', name: `Step ${n + 1}` }],
      });
      expect(answer.revision).toBe(n + 1);
      acknowledged = n + 1;
    };
    for (let n = 0; n < 120; n++) await send(n);
    // one more is on its way while the server dies
    const dying = send(120).catch(() => undefined);
    server.kill('SIGKILL');
    await dying;
    ({ process: server } = await serve(port, data));
    const after = (await json('GET', `/api/projects/${id}`)) as unknown as {
      revision: number;
      project: { name: string };
    };
    expect(after.revision).toBeGreaterThanOrEqual(acknowledged);
    expect(after.project.name).toBe(`Step ${after.revision}`);
    for (let n = after.revision; n < 200; n++) await send(n);
    let state = { revision: 200, canUndo: true, patch: [] as unknown[] };
    for (let back = 199; back >= 0; back--) {
      state = (await json('POST', `/api/projects/${id}/undo`, {
        baseRevision: state.revision,
      })) as unknown as typeof state;
      // the difference alone is sent, not the document
      expect(state.patch).toEqual([{ path: ['name'], value: back === 0 ? 'Start' : `Step ${back}` }]);
    }
    expect(await json('GET', `/api/projects/${id}`)).toMatchObject({ project: { name: 'Start' } });
    expect(state.canUndo).toBe(false);
    expect(await json('POST', `/api/projects/${id}/undo`, { baseRevision: state.revision })).toMatchObject({
      status: 409,
    });
  } finally {
    server.kill('SIGKILL');
    rmSync(data, { recursive: true, force: true });
  }
});
