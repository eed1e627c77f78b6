import { test as base } from '@playwright/test';
import { cpSync, rmSync } from 'node:fs';
import path from 'node:path';
import { SEEDED } from './seed';
import { serve } from './serve';

export { expect } from '@playwright/test';

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
  /** Nothing a page does may be held back by what the server says pages may do. */
  page: async ({ page }, use) => {
    const refused: string[] = [];
    page.on('console', (message) => {
      if (/content security policy/i.test(message.text())) refused.push(message.text());
    });
    await use(page);
    if (refused.length) throw new Error(`the page's own policy refused it something: ${refused[0]}`);
  },
});
