import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { card, settled } from '../fixtures';
import { expect, test } from '../test';

const WIDTHS = [1100, 1280, 1600, 2200];
const SEGMENTS = ['Material', 'Mapping', 'Repeat', 'Start', 'Pieces', 'Variation', 'Finish', 'Wear'];

async function quiet(page: Page, layout: 'both' | 'sheet' = 'both'): Promise<void> {
  await page.addInitScript(
    (layout) =>
      localStorage.setItem(
        'jute-grid-room',
        JSON.stringify({ state: { light: 'draft', preview: 256, shadows: false, layout }, version: 0 }),
      ),
    layout,
  );
}

/**
 * What is wrong with the boxes of texts and controls as they are seen now: cut off, out of the window, or covered
 * by something else. Names that people give (rows of lists) may end in dots where their tooltip says them.
 */
const faults = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const out: string[] = [];
    const say = (what: string, e: Element) => {
      const named = (e.getAttribute('aria-label') ?? e.textContent ?? '').trim().slice(0, 50);
      out.push(`${what}: ${named || e.outerHTML.slice(0, 80)}`);
    };
    const scrolls = (e: Element) => /(auto|scroll)/.test(getComputedStyle(e).overflowX + getComputedStyle(e).overflowY);
    /** The part of the window in which an element can be seen at all. */
    const seenIn = (e: Element) => {
      let [l, t, r, b] = [0, 0, innerWidth, innerHeight];
      for (let p = e.parentElement; p; p = p.parentElement) {
        if (!scrolls(p)) continue;
        const box = p.getBoundingClientRect();
        [l, t, r, b] = [Math.max(l, box.left), Math.max(t, box.top), Math.min(r, box.right), Math.min(b, box.bottom)];
      }
      return { l, t, r, b };
    };
    const shown = (e: Element) => {
      const { width, height } = e.getBoundingClientRect();
      const style = getComputedStyle(e);
      return width > 1 && height > 1 && style.visibility !== 'hidden' && !e.closest('.sr-only,[aria-hidden="true"]');
    };
    for (const e of document.querySelectorAll<HTMLElement>(
      'button,input,select,a,h1,h2,p,span,label,legend,td,th,dt,dd',
    )) {
      if (!shown(e)) continue;
      const box = e.getBoundingClientRect();
      const { l, t, r, b } = seenIn(e);
      if (box.bottom <= t || box.top >= b || box.right <= l || box.left >= r) continue;
      if (box.right > innerWidth + 1 || box.left < -1) say('out of the window', e);
      const style = getComputedStyle(e);
      const cut = style.overflowX !== 'visible' && !scrolls(e) && e.scrollWidth > e.clientWidth + 1;
      const named = e.closest('[data-surface],[title]');
      if (cut && !(e instanceof HTMLInputElement) && !named) say('cut off', e);
      if (e instanceof HTMLInputElement && e.type === 'text' && e.scrollWidth > e.clientWidth + 1) say('cut off', e);
      if (!(e instanceof HTMLButtonElement || e instanceof HTMLInputElement || e instanceof HTMLSelectElement))
        continue;
      const [x, y] = [(box.left + box.right) / 2, (box.top + box.bottom) / 2];
      if (x < l || x > r || y < t || y > b) continue;
      const there = document.elementFromPoint(x, y);
      if (there && !e.contains(there) && !there.contains(e)) say('covered', e);
    }
    return [...new Set(out)];
  });

/** Without findings by axe, in the theme of the day and of the night, which differ in their colours alone. */
async function passesAxe(page: Page, what: string, within?: string): Promise<void> {
  for (const theme of ['day', 'night']) {
    await page.evaluate((name) => (document.documentElement.dataset.theme = name), theme);
    const axe = new AxeBuilder({ page: page as never }).exclude('nextjs-portal');
    if (within) axe.include(within);
    if (theme === 'night') axe.withRules(['color-contrast']);
    else axe.withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'best-practice']);
    const { violations } = await axe.analyze();
    expect(
      violations.map((v) => `${what}, ${theme}: ${v.id}: ${v.nodes[0].target.join(' ')} ${v.nodes[0].failureSummary}`),
    ).toEqual([]);
  }
  await page.evaluate(() => (document.documentElement.dataset.theme = 'day'));
}

const VIEWS = [
  ['projects', '/'],
  ['studio', '/projects/pellow-landing'],
  ['materials', '/projects/pellow-landing/materials'],
  ['modules', '/projects/pellow-landing/modules'],
  ['prep', '/projects/pellow-landing/prep'],
  ['hand-over', '/projects/pellow-landing/hand-over'],
] as const;

for (const [name, at] of VIEWS) {
  test(`${name}: one heading, axe finds nothing by day and night, nothing is cut off or covered at any width`, async ({
    page,
  }) => {
    await quiet(page);
    await page.goto(at);
    await settled(page);
    await expect(page.locator('h1')).toHaveCount(1);
    await passesAxe(page, name);
    for (const width of WIDTHS) {
      await page.setViewportSize({ width, height: 800 });
      await settled(page);
      // a busy machine lays out late
      await expect.poll(() => faults(page), { message: `${name} at ${width}`, timeout: 10_000 }).toEqual([]);
    }
  });
}

test('every segment of the bench, opened over its length: whole at every width, and without findings', async ({
  page,
}) => {
  test.setTimeout(400_000);
  // the bench is the same beside a room
  await quiet(page, 'sheet');
  await page.goto('/projects/pellow-landing');
  await settled(page);
  for (const name of SEGMENTS) {
    const longer = (await card(page, name)).getByRole('button', { name: 'Longer' });
    if (await longer.isVisible()) await longer.click();
    await settled(page);
    for (const width of WIDTHS) {
      await page.setViewportSize({ width, height: 800 });
      // a busy machine lays out late
      await expect.poll(() => faults(page), { message: `${name} at ${width}`, timeout: 10_000 }).toEqual([]);
      if (width !== WIDTHS[0]) continue;
      // where there is least room, what lies further down is looked at, too
      const further = page.getByRole('group', { name: `${name}, rarely used` });
      for (const [k, fields] of (await further.locator('fieldset').all()).entries()) {
        await fields.scrollIntoViewIfNeeded();
        const message = `${name} at ${width}, group ${k + 1} of what is rarely used`;
        await expect.poll(() => faults(page), { message, timeout: 10_000 }).toEqual([]);
      }
    }
    await page.setViewportSize({ width: 1280, height: 800 });
    await page.waitForTimeout(250);
    await passesAxe(page, name, `section[aria-label="${name}"]`);
  }
});

test('panels and menus: without findings', async ({ page }) => {
  await quiet(page);
  await page.goto('/projects/pellow-landing');
  await settled(page);
  for (const open of ['History', 'Keys', 'Zone', 'Pick', 'Views', 'Show', 'Sun', 'Split']) {
    await page.getByRole('button', { name: open, exact: true }).first().click();
    await page.waitForTimeout(300);
    await passesAxe(page, open);
    await page.keyboard.press('Escape');
  }
  await page.keyboard.press('Control+k');
  await passesAxe(page, 'palette');
});

test('keys lead to every segment and field by name, and Escape leaves what is under way', async ({ page }) => {
  await quiet(page);
  await page.goto('/projects/pellow-landing');
  await settled(page);
  for (const [n, name] of SEGMENTS.entries()) {
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    await page.keyboard.press(`Shift+Digit${n + 1}`);
    const segment = page.getByRole('region', { name, exact: true });
    await expect(segment.locator(':focus')).toHaveCount(1);
    await expect(segment.getByRole('button', { name: `Unfold ${name}` })).toHaveCount(0);
  }
  // a word of the spec line unfolds its segment at its field
  for (const [word, field] of [
    ['Smoked oak boards', 'Find a material'],
    ['turned 0°', 'Turned'],
    ['at the lower left corner', 'Datum'],
    ['shuffle 7', 'Shuffle'],
  ]) {
    await page.getByTestId('spec-line').getByRole('button', { name: word }).click();
    await expect(page.getByLabel(field, { exact: true }).first()).toBeFocused();
  }
  // what is rarely used is found by its name, or by what else people call it
  for (const [typed, field] of [
    ['edges rounded', /^Edges rounded/],
    ['skew', 'Shear'],
    ['seed', 'Shuffle'],
    ['faces lean', /^Faces lean/],
  ] as const) {
    await page.keyboard.press('Control+k');
    await page.keyboard.type(typed);
    // the list follows what is typed
    await expect(page.locator('[cmdk-item][aria-selected="true"]')).toBeVisible();
    await page.waitForTimeout(200);
    await page.keyboard.press('Enter');
    await expect(page.getByLabel(field).first()).toBeFocused();
  }
  await page.keyboard.press('Escape');
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await (await card(page, 'Variation')).getByRole('button', { name: 'Pin pieces' }).click();
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'Pin pieces' })).toHaveAttribute('aria-pressed', 'false');
  await page.getByRole('button', { name: 'Mark out', exact: true }).click();
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await page.keyboard.press('Escape');
  await expect(page.getByRole('group', { name: 'Mark out' })).toHaveCount(0);
});
