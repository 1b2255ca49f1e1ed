import { AxeBuilder } from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';

/** Rules that the ground can break. */
const OF_COLOUR = ['color-contrast', 'link-in-text-block'];

/**
 * Expects no barrier that axe can find in what is shown, or in one part of it, on both grounds; the page ends on the light
 * one.
 */
export async function expectNoBarriers(page: Page, within?: string): Promise<void> {
  await expectNone(page, within);
  await page.emulateMedia({ colorScheme: 'dark' });
  // Pages of the guide follow the system by themselves.
  if ((await page.locator('html[data-mode]').count()) > 0)
    await expect(page.locator('html')).toHaveAttribute('data-mode', 'dark');
  // Colours that are on their way are neither.
  await page.waitForTimeout(300);
  await expectNone(page, within, OF_COLOUR);
  await page.emulateMedia({ colorScheme: 'light' });
}

async function expectNone(page: Page, within?: string, rules?: string[]): Promise<void> {
  let axe = new AxeBuilder({ page });
  if (within !== undefined) axe = axe.include(within);
  if (rules) axe = axe.withRules(rules);
  const { violations } = await axe.analyze();
  expect(violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.html.slice(0, 120)).join(' | ')}`)).toEqual(
    [],
  );
}
