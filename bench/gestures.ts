import { chromium, type Page } from '@playwright/test';
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { CHROMIUM } from '../playwright.config';
import { serve } from '../tests/serve';
import { median, type Rows } from './measure';

const PORT = 4472;
const MOVES = 20;
const RUNS = 7;
/** No task of the main thread may be longer in any gesture, ms. */
const LIMIT_MS = 50;
/** Bytes of pictures to the first good picture in true light. */
const MOST_BYTES = 6e6;

/** Waits until nothing is under way, and a little longer. */
async function idle(page: Page): Promise<void> {
  await page.waitForTimeout(250);
  await page.waitForFunction(() => !document.querySelector('[aria-busy="true"]'), undefined, { timeout: 180_000 });
  await page.waitForTimeout(500);
}

/** The longest task of the main thread in each gesture on the demo, ms, by the browser's own observer. */
async function measureGestures(url: string, drawn: boolean): Promise<Record<string, number>> {
  const browser = await chromium.launch(CHROMIUM);
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.addInitScript((stubbed) => {
      localStorage.setItem(
        'jute-grid-room',
        JSON.stringify({ state: { light: 'draft', preview: 256, shadows: false }, version: 0 }),
      );
      // without a graphics card drawing is the processor's: what is left is the application's own work
      if (stubbed)
        for (const call of ['drawElements', 'drawArrays', 'drawElementsInstanced', 'drawArraysInstanced'] as const)
          WebGL2RenderingContext.prototype[call] = () => undefined;
      const seen = window as unknown as { longest: number };
      seen.longest = 0;
      new PerformanceObserver((list) => {
        for (const { duration } of list.getEntries()) seen.longest = Math.max(seen.longest, duration);
      }).observe({ type: 'longtask', buffered: true });
    }, !drawn);
    await page.goto(`${url}/projects/pellow-landing`);
    await page.waitForSelector('[data-testid="slide-area"]');
    await idle(page);
    await idle(page);
    const out: Record<string, number> = {};
    const take = async (name: string, gesture: () => Promise<void>) => {
      await page.evaluate(() => ((window as unknown as { longest: number }).longest = 0));
      await gesture();
      // tasks are told when they have ended
      await page.waitForTimeout(120);
      out[name] = await page.evaluate(() => (window as unknown as { longest: number }).longest);
      await idle(page);
    };
    const moves = async (x: number, y: number, dx: number, dy: number) => {
      for (let n = 1; n <= MOVES; n++) {
        await page.mouse.move(x + dx * n, y + dy * n);
        await page.waitForTimeout(30);
      }
    };
    const area = (await page.getByTestId('slide-area').boundingBox())!;
    const [x, y] = [area.x + area.width / 2, area.y + area.height / 2];
    await take('a slide on the sheet', async () => {
      await page.mouse.move(x, y);
      await page.mouse.down();
      await moves(x, y, 3, -2);
      await page.waitForTimeout(400);
      await page.mouse.up();
      await idle(page);
    });
    await take('joints changed', async () => {
      const joints = page.getByRole('region', { name: 'Pieces', exact: true }).getByLabel('Joints');
      await joints.fill('4');
      await joints.press('Enter');
      await idle(page);
    });
    const room = (await page.getByTestId('room-canvas').boundingBox())!;
    const [rx, ry] = [room.x + room.width * 0.4, room.y + room.height * 0.4];
    await take('moving over the room', () => moves(rx, ry, 6, 4));
    await take('going round', async () => {
      await page.mouse.move(rx, ry);
      await page.mouse.down();
      await moves(rx, ry, 6, 3);
      await page.mouse.up();
    });
    await take('picking', async () => {
      await page.locator('[data-surface]').nth(2).click();
      await idle(page);
    });
    return out;
  } finally {
    await browser.close();
  }
}

/** Bytes of pictures that come before the room in true light has settled. */
async function measureBytes(url: string): Promise<number> {
  const browser = await chromium.launch(CHROMIUM);
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    const session = await page.context().newCDPSession(page);
    await session.send('Network.enable');
    const pictures = new Set<string>();
    let bytes = 0;
    session.on('Network.responseReceived', (e) => {
      if (e.response.url.includes('/api/images/')) pictures.add(e.requestId);
    });
    session.on('Network.loadingFinished', (e) => {
      if (pictures.has(e.requestId)) bytes += e.encodedDataLength;
    });
    await page.goto(`${url}/projects/pellow-landing`);
    await page.waitForSelector('[data-testid="slide-area"]');
    await idle(page);
    return bytes;
  } finally {
    await browser.close();
  }
}

/**
 * Gestures on the demo, drawing calls stubbed (the limit; median of seven) and real (told beside it), and the bytes of
 * pictures to the first picture in true light.
 */
export async function benchGestures(rows: Rows): Promise<void> {
  const data = mkdtempSync(path.join(tmpdir(), 'jute-grid-gestures-'));
  spawnSync(process.execPath, ['dist/seed.mjs'], { env: { ...process.env, JUTE_GRID_DATA: data }, stdio: 'ignore' });
  const { url, process: server } = await serve(PORT, data);
  try {
    const runs: Record<string, number>[] = [];
    for (let n = 0; n < RUNS; n++) runs.push(await measureGestures(url, false));
    const real = await measureGestures(url, true);
    for (const name of Object.keys(real)) {
      const value = median(runs.map((r) => r[name]));
      rows.push({
        name: `longest task: ${name}`,
        value,
        unit: 'ms',
        against: `${LIMIT_MS} ms; with drawing by the processor ${Math.round(real[name])} ms`,
        ratio: value / LIMIT_MS,
        budget: 1,
      });
    }
    const bytes = await measureBytes(url);
    rows.push({
      name: 'pictures to the first picture in true light',
      value: bytes / 1e6,
      unit: 'MB',
      against: `${MOST_BYTES / 1e6} MB`,
      ratio: bytes / MOST_BYTES,
      budget: 1,
    });
  } finally {
    server.kill();
    rmSync(data, { recursive: true, force: true });
  }
}
