import { expect, test } from '@playwright/test';
import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';

const PORT = 4392;
const url = `http://127.0.0.1:${PORT}`;

async function serve(data: string): Promise<ChildProcess> {
  const server = spawn(
    process.execPath,
    ['node_modules/next/dist/bin/next', 'start', '-H', '127.0.0.1', '-p', String(PORT)],
    {
      env: { ...process.env, JUTE_GRID_DATA: data, NODE_ENV: 'production' },
      stdio: 'ignore',
    },
  );
  for (let i = 0; i < 240; i++) {
    if (
      await fetch(`${url}/api/health`).then(
        (r) => r.ok,
        () => false,
      )
    )
      return server;
    await new Promise((r) => setTimeout(r, 250));
  }
  throw new Error('the server did not start');
}

const json = async (method: string, at: string, body?: unknown) => {
  const response = await fetch(url + at, {
    method,
    headers: { 'content-type': 'application/json' },
    body: body ? JSON.stringify(body) : undefined,
  });
  return (await response.json()) as Record<string, unknown>;
};

test('200 commands, kill -9 in the middle: every acknowledged one is there, undo walks back to the start', async () => {
  const data = mkdtempSync(path.join(tmpdir(), 'jute-grid-'));
  let server = await serve(data);
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
    server = await serve(data);
    const after = (await json('GET', `/api/projects/${id}`)) as unknown as {
      revision: number;
      project: { name: string };
    };
    expect(after.revision).toBeGreaterThanOrEqual(acknowledged);
    expect(after.project.name).toBe(`Step ${after.revision}`);
    for (let n = after.revision; n < 200; n++) await send(n);
    let state = { revision: 200, canUndo: true, project: { name: 'Step 200' } };
    for (let back = 199; back >= 0; back--) {
      state = (await json('POST', `/api/projects/${id}/undo`, {
        baseRevision: state.revision,
      })) as unknown as typeof state;
      expect(state.project.name).toBe(back === 0 ? 'Start' : `Step ${back}`);
    }
    expect(state.canUndo).toBe(false);
    expect(await json('POST', `/api/projects/${id}/undo`, { baseRevision: state.revision })).toMatchObject({
      status: 409,
    });
  } finally {
    server.kill('SIGKILL');
    rmSync(data, { recursive: true, force: true });
  }
});
