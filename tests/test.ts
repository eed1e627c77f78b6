import { test as base } from '@playwright/test';
import { type ChildProcess, spawn } from 'node:child_process';
import { cpSync, rmSync } from 'node:fs';
import path from 'node:path';
import { SEEDED } from './seed';

export { expect } from '@playwright/test';

/** Starts the built application on a data folder of its own and waits until it answers. */
export async function serve(port: number, data: string): Promise<{ url: string; process: ChildProcess }> {
  const url = `http://127.0.0.1:${port}`;
  const server = spawn(
    process.execPath,
    ['node_modules/next/dist/bin/next', 'start', '-H', '127.0.0.1', '-p', String(port)],
    {
      env: { ...process.env, JUTE_GRID_DATA: data, JUTE_GRID_CHECK_ANSWERS: '1', NODE_ENV: 'production' },
      stdio: 'ignore',
    },
  );
  for (let i = 0; i < 240; i++) {
    const answers = await fetch(`${url}/api/health`).then(
      (r) => r.ok,
      () => false,
    );
    if (answers) return { url, process: server };
    await new Promise((r) => setTimeout(r, 250));
  }
  throw new Error(`the server did not answer at ${url}`);
}

interface Served {
  url: string;
  /** Its data folder. */
  data: string;
}

/** Every worker has a server of its own, on a copy of the seeded data: tests of one never meet those of another. */
export const test = base.extend<object, { server: Served }>({
  server: [
    async ({}, use, { parallelIndex }) => {
      const data = path.resolve(`tmp/e2e-data-${parallelIndex}`);
      rmSync(data, { recursive: true, force: true });
      cpSync(SEEDED, data, { recursive: true });
      const { url, process: server } = await serve(4391 + parallelIndex, data);
      await use({ url, data });
      server.kill();
    },
    { scope: 'worker', auto: true, timeout: 240_000 },
  ],
  baseURL: async ({ server }, use) => use(server.url),
});
