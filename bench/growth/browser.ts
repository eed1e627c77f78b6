import { chromium, type Page } from '@playwright/test';
import { CHROMIUM } from '../../playwright.config';
import type { Measured } from './api';
import type { Served } from './served';

/** Moves of the pointer, keys typed: enough for a mean. */
const MOVES = 40;
const MOST_MS = 600_000;

/** Main-thread work in a page so far, ms: scripts, layout, painting, whatever a task was for. */
async function busyMs(page: Page): Promise<() => Promise<number>> {
  const session = await page.context().newCDPSession(page);
  await session.send('Performance.enable', { timeDomain: 'timeTicks' });
  return async () => {
    const { metrics } = await session.send('Performance.getMetrics');
    return metrics.find((m) => m.name === 'TaskDuration')!.value * 1000;
  };
}

const idle = async (page: Page) => {
  await page.waitForTimeout(200);
  await page.waitForFunction(() => !document.querySelector('[aria-busy="true"]'), undefined, { timeout: MOST_MS });
};

/** What someone at the studio waits for, in a browser that draws without a graphics card. */
export async function measureStudio({ url, id, project }: Served): Promise<Measured> {
  const browser = await chromium.launch(CHROMIUM);
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    // the browser's own graphics are started first: what is measured is the application
    await page.goto('data:text/html,<canvas></canvas>');
    await page.evaluate(() => {
      const canvas = document.querySelector('canvas')!;
      canvas.getContext('webgl2')!.finish();
      document.createElement('canvas').getContext('2d')!.fillRect(0, 0, 1, 1);
    });
    await page.addInitScript(() => {
      localStorage.setItem(
        'jute-grid-room',
        JSON.stringify({ state: { light: 'draft', preview: 256, shadows: false }, version: 0 }),
      );
      const seen = window as unknown as { longest: number };
      seen.longest = 0;
      new PerformanceObserver((list) => {
        for (const { duration } of list.getEntries()) seen.longest = Math.max(seen.longest, duration);
      }).observe({ type: 'longtask', buffered: true });
    });
    const longest = () =>
      page.evaluate(() => {
        const seen = window as unknown as { longest: number };
        const { longest: found } = seen;
        seen.longest = 0;
        return found;
      });
    const busy = await busyMs(page);
    const timed = async (work: () => Promise<void>): Promise<number> => {
      const start = performance.now();
      await work();
      return performance.now() - start;
    };
    const out: Measured = {};

    out['opening'] = await timed(async () => {
      await page.goto(`${url}/projects/${id}`);
      await page.waitForSelector('canvas', { timeout: MOST_MS });
      await idle(page);
    });
    out['opening, longest task'] = await longest();

    const canvas = (await page.locator('canvas').first().boundingBox())!;
    const before = await busy();
    for (let n = 0; n < MOVES; n++) {
      await page.mouse.move(
        canvas.x + canvas.width * (0.25 + (0.5 * ((n * 7) % MOVES)) / MOVES),
        canvas.y + canvas.height * (0.35 + (0.3 * ((n * 11) % MOVES)) / MOVES),
      );
      await page.waitForTimeout(30);
    }
    out['hover'] = ((await busy()) - before) / MOVES;
    await longest();

    const filter = page.getByLabel('Filter surfaces');
    await filter.click();
    const typed = 'room 17';
    const atFilter = await busy();
    for (const key of typed) {
      await page.keyboard.type(key);
      await page.waitForTimeout(60);
    }
    out['key in the filter'] = ((await busy()) - atFilter) / typed.length;
    out['key in the filter, longest task'] = await longest();

    const row = page.locator('[data-surface]').first();
    const atPick = await busy();
    await row.click();
    await idle(page);
    out['pick'] = (await busy()) - atPick;
    await longest();

    const name = project.surfaces[(await row.getAttribute('data-surface'))!].name;
    const joint = page.getByRole('region', { name: 'Pieces', exact: true }).getByLabel('Joints');
    await joint.fill('14');
    const atJoint = await busy();
    out['one joint, until it is seen'] = await timed(async () => {
      await page.keyboard.press('Enter');
      await idle(page);
    });
    out['one joint, main thread'] = (await busy()) - atJoint;
    out['one joint, longest task'] = await longest();

    const atUndo = await busy();
    out['one undo, until it is seen'] = await timed(async () => {
      await page.getByRole('button', { name: 'Undo', exact: true }).click();
      await idle(page);
    });
    out['one undo, main thread'] = (await busy()) - atUndo;
    out['one undo, longest task'] = await longest();
    if (!name) throw new Error('no surface was picked');

    // all walls at once: the first of them, then all with its material
    await filter.fill('wall south');
    await page.locator('[data-surface]').first().click();
    await page.getByRole('button', { name: 'Pick', exact: true }).click();
    await page.getByRole('button', { name: /^All with this material/ }).click();
    await idle(page);
    await joint.fill('12');
    await longest();
    out['joint of all walls, until it is seen'] = await timed(async () => {
      await page.keyboard.press('Enter');
      await idle(page);
    });
    out['joint of all walls, longest task'] = await longest();
    out['undo of it, until it is seen'] = await timed(async () => {
      await page.getByRole('button', { name: 'Undo', exact: true }).click();
      await idle(page);
    });
    out['undo of it, longest task'] = await longest();

    // round the building, and towards it
    await page.mouse.move(canvas.x + canvas.width * 0.4, canvas.y + canvas.height * 0.5);
    await page.mouse.down();
    for (let n = 1; n <= 30; n++) {
      await page.mouse.move(canvas.x + canvas.width * 0.4 + n * 4, canvas.y + canvas.height * 0.5);
      await page.waitForTimeout(16);
    }
    await page.mouse.up();
    out['turning, longest task'] = await longest();
    for (let n = 0; n < 40; n++) {
      await page.mouse.wheel(0, -120);
      await page.waitForTimeout(16);
    }
    out['coming near, longest task'] = await longest();
    out['coming near, until it is seen'] = await timed(() => idle(page));
    return out;
  } finally {
    await browser.close();
  }
}
