import type { Page } from '@playwright/test';
import { expect, test } from './fixtures.js';
import { harbour } from './harbour.js';

/** More than any view holds. */
const MOST = 400;

/** Goes through a page by Tab alone: what was never reached, and what was reached but cannot be seen. */
async function tabbedThrough(page: Page): Promise<{ presses: number; missed: string[]; unseen: string[] }> {
  await page.evaluate(() => {
    const reached = new Set<Element>();
    const unseen: string[] = [];
    const named = (e: Element): string =>
      `${e.tagName.toLowerCase()} ${(e.getAttribute('aria-label') ?? e.textContent ?? '').trim().slice(0, 40)}`;
    Object.assign(window, { reached, unseen, named });
    document.addEventListener('focusin', ({ target }) => {
      const e = target as Element;
      reached.add(e);
      const { width, height, right, bottom, left, top } = e.getBoundingClientRect();
      const isSeen =
        width > 0 && height > 0 && right > 0 && bottom > 0 && left < innerWidth && top < innerHeight;
      if (!isSeen) unseen.push(named(e));
    });
  });
  let presses = 0;
  for (; presses < MOST; presses++) {
    await page.keyboard.press('Tab');
    const isBack = await page.evaluate(
      () => document.activeElement === document.body || document.activeElement?.matches('.skip') === true,
    );
    if (isBack && presses > 0) break;
  }
  const { missed, unseen } = await page.evaluate(() => {
    const { reached, unseen, named } = window as unknown as {
      reached: Set<Element>;
      unseen: string[];
      named: (e: Element) => string;
    };
    const controls = [
      ...document.querySelectorAll<HTMLElement>('a[href], button, input, select, textarea, [tabindex="0"]'),
    ];
    const wanted = controls.filter(
      (e) =>
        e.tabIndex >= 0 &&
        !e.matches(':disabled, [type="hidden"], [type="radio"]') &&
        e.checkVisibility({ visibilityProperty: true }),
    );
    return { missed: wanted.filter((e) => !reached.has(e)).map(named), unseen };
  });
  return { presses, missed, unseen };
}

for (const view of [
  'plan?scope=pylon-ridge&chosen=mast-2',
  'wire?scope=pylon-ridge&at=mast-2',
  'wire/sheet',
  'ripple?at=pylon-ridge:mast-1&name=onGust',
  'crossings?from=Cabin&to=Winch',
  'catalogue',
  'rehearse',
  'rehearse/plays',
  'rehearse/walk',
  'audit',
  'builds',
  'exchange',
]) {
  test(`Tab reaches all that can be done, and leaves again: ${view.split('?')[0]}`, async ({
    page,
    demo,
  }) => {
    await page.goto(demo.url(view));
    await page.getByText(/Gate:/).waitFor();
    const { presses, missed, unseen } = await tabbedThrough(page);
    expect(presses).toBeLessThan(MOST);
    expect(missed).toEqual([]);
    expect(unseen).toEqual([]);
  });
}

test('Tab reaches all of a project that was made here', async ({ page, server }) => {
  const { base } = await harbour(page, server, 'Tab alone');
  for (const view of ['plan?scope=quay&chosen=bell-1', 'wire?scope=quay', 'rehearse', 'audit', 'builds']) {
    await page.goto(`${base}/${view}`);
    await page.getByText(/Gate:/).waitFor();
    expect(await tabbedThrough(page)).toMatchObject({ missed: [], unseen: [] });
  }
});
