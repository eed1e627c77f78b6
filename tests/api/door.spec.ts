import { expect as base } from '@playwright/test';
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, truncateSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Served } from '../../harden/server';
import { expect, test } from '../test';

const name = 'mara';
const password = 'joints fall where they should';

test('who is asked to sign in sees nothing before, everything after, and nothing again', async ({ browser }, info) => {
  const served = await new Served(4601 + info.parallelIndex, undefined, {
    JUTE_GRID_USER: name,
    JUTE_GRID_PASSWORD: password,
  }).begin();
  const context = await browser.newContext({ baseURL: served.url });
  try {
    const page = await context.newPage();
    await page.goto('/projects/nowhere?a=1');
    await expect(page).toHaveURL(/\/sign-in\?to=/);
    expect((await page.request.get('/api/projects')).status()).toBe(401);
    await page.getByLabel('Name').fill(name);
    await page.getByLabel('Password').fill('joints fall where they may');
    await page.getByRole('button', { name: 'Sign in' }).click();
    await expect(page.getByRole('alert').filter({ hasText: 'not right' })).toBeVisible();
    await page.getByLabel('Password').fill(password);
    await page.keyboard.press('Enter');
    await expect(page).toHaveURL(/\/projects\/nowhere\?a=1$/);
    await page.goto('/');
    await expect(page.getByRole('heading', { name: 'Projects' })).toBeVisible();
    expect((await page.request.get('/api/projects')).status()).toBe(200);
    const [cookie] = await context.cookies();
    expect(cookie).toMatchObject({ httpOnly: true, sameSite: 'Strict' });
    await page.getByRole('button', { name: 'Sign out' }).click();
    await expect(page).toHaveURL(/\/sign-in/);
    expect((await page.request.get('/api/projects')).status()).toBe(401);
  } finally {
    await context.close();
    await served.end();
  }
});

test('a page elsewhere can neither write nor read', async ({ browser, server }) => {
  const page = await (await browser.newContext()).newPage();
  // a page of another site
  await page.route('http://elsewhere.example/', (route) =>
    route.fulfill({ contentType: 'text/html', body: '<p>Hello' }),
  );
  await page.goto('http://elsewhere.example/');
  const projects = async () => ((await (await fetch(`${server.url}/api/projects`)).json()) as unknown[]).length;
  const before = await projects();
  const outcome = await page.evaluate(async (url) => {
    const tries: Record<string, Promise<unknown>> = {
      text: fetch(`${url}/api/projects`, { method: 'POST', mode: 'no-cors', body: '{"name":"Theirs"}' }),
      form: fetch(`${url}/api/projects`, { method: 'POST', mode: 'no-cors', body: new FormData() }),
      json: fetch(`${url}/api/projects`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: '{}',
      }),
      read: fetch(`${url}/api/projects`).then((r) => r.text()),
    };
    const out: Record<string, string> = {};
    for (const [what, attempt] of Object.entries(tries))
      out[what] = await attempt.then(
        () => 'sent',
        () => 'refused',
      );
    return out;
  }, server.url);
  expect(outcome).toMatchObject({ json: 'refused', read: 'refused' });
  expect(await projects()).toBe(before);
  await page.context().close();
});

test('damaged data is said on the page, and a backup put in place by one command', async ({ browser }, info) => {
  const data = mkdtempSync(path.join(tmpdir(), 'jute-grid-damaged-'));
  const port = 4611 + info.parallelIndex;
  const served = await new Served(port, data).begin();
  await served.newProject('Saved');
  const copy = path.join(data, 'copy');
  const env = { ...process.env, JUTE_GRID_DATA: data };
  const command = (file: string) => spawnSync(process.execPath, [`dist/${file}.mjs`, copy], { env, encoding: 'utf8' });
  try {
    expect(command('backup').status).toBe(0);
    // while the server owns the folder nothing is put in place
    const refused = command('restore');
    base(refused.stderr).toMatch(/The server at .* works in/);
    await served.kill();
    truncateSync(path.join(data, 'jute-grid.sqlite'), 3000);
    for (const ending of ['-wal', '-shm']) rmSync(path.join(data, `jute-grid.sqlite${ending}`), { force: true });
    await served.begin();
    const page = await browser.newPage();
    await page.goto(served.url);
    await expect(page.getByRole('heading')).toHaveText('The data cannot be opened');
    await expect(page.getByText(/jute-grid\.sqlite (is damaged|cannot be read|has lost its tables)/)).toBeVisible();
    await expect(page.getByText(/npm run restore/)).toBeVisible();
    await page.close();
    await served.kill();
    expect(command('restore').status).toBe(0);
    await served.begin();
    expect(await served.ask('GET', '/api/projects')).toMatchObject([{ name: 'Saved' }]);
  } finally {
    await served.end();
  }
});
