import type { Page } from '@playwright/test';
import { expect, saved, strip, test, type Demo } from './fixtures.js';
import { expectNoBarriers } from './barriers.js';

async function openSheet(page: Page, demo: Demo, more = ''): Promise<void> {
  await page.goto(demo.url(`wire/sheet${more}`));
  await page.getByText(/Gate:/).waitFor();
  await page.locator('[data-row]').first().waitFor();
}
function rows(page: Page): ReturnType<Page['locator']> {
  return page.locator('[data-row]');
}

test('all bindings are filtered by words, facets and switches, and the address keeps it', async ({
  page,
  demo,
}) => {
  await openSheet(page, demo);
  await expect(page.getByText('209 bindings')).toBeVisible();
  await page.getByLabel('Filter', { exact: true }).fill('brake .engage(');
  await expect(page.getByText(/^\d+ of 209$/)).toBeVisible();
  await page.getByLabel('Only this event').click();
  await expect(page.getByRole('option', { name: /onGust/ }).first()).toBeVisible();
  await page.getByRole('option', { name: /^onGust/ }).click();
  await expect(page.getByText(/^4 of 209$/)).toBeVisible();
  await expect(page).toHaveURL(/q=brake/);
  await page.reload();
  await expect(page.getByText(/^4 of 209$/)).toBeVisible();
  await page.getByRole('button', { name: 'Once', exact: true }).click();
  await expect(page.getByText('No binding matches the filter.')).toBeVisible();
  await page.getByRole('button', { name: 'Show all 209' }).click();
  await expect(page.getByText('209 bindings')).toBeVisible();
});

test('many are changed at once, with what they become and what the audit would say first, as one undo', async ({
  page,
  demo,
}) => {
  await openSheet(page, demo, '?scope=pylon-ridge&q=onGust+brake');
  await rows(page).first().click();
  await page.keyboard.press('Control+a');
  await page.getByLabel('Change', { exact: true }).selectOption('delay');
  await page.getByLabel('seconds', { exact: true }).fill('soon');
  await expect(page.getByText('seconds from 0')).toBeVisible();
  await page.getByLabel('seconds', { exact: true }).fill('0.5');
  const steps = page.locator('.steps li');
  await expect(steps).toHaveCount(3);
  await expect(steps.first().locator('ins')).toHaveText(
    'when mast-1.onGust do brake-1.engage(force = $speed) if $speed > 12 after 0.5s',
  );
  await expect(page.getByText(/No finding would change|new warning|gone/)).toBeVisible();
  await page.getByRole('button', { name: 'Change 3' }).click();
  await expect(rows(page).first()).toContainText('after 0.5s');
  await saved(page);
  await page.reload();
  await expect(rows(page).first()).toContainText('after 0.5s');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(rows(page).filter({ hasText: 'after 0.5s' })).toHaveCount(0);
});

test('the list is gone through by keyboard: chosen, muted, taken away, opened', async ({ page, demo }) => {
  await openSheet(page, demo, '?scope=pylon-ridge&q=onGust');
  await expect(rows(page)).toHaveCount(5);
  await page.getByRole('listbox', { name: 'Bindings' }).focus();
  await page.keyboard.press('Space');
  await page.keyboard.press('Shift+ArrowDown');
  await expect(page.getByText('2 bindings chosen')).toBeVisible();
  await page.keyboard.press('m');
  await expect(page.locator('.binding.off')).toHaveCount(2);
  await page.keyboard.press('m');
  await expect(page.locator('.binding.off')).toHaveCount(0);
  await page.keyboard.press('Delete');
  await expect(rows(page)).toHaveCount(3);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(rows(page)).toHaveCount(5);
  await page.getByRole('listbox', { name: 'Bindings' }).focus();
  await page.keyboard.press('End');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/Wire: mast-3 in pylon-ridge/);
  await expect(strip(page, 'onGust').locator('.sentence.sought')).toBeVisible();
  await page.getByRole('link', { name: 'All as a sheet' }).click();
  await expect(page.getByText(/^39 bindings$/)).toBeVisible();
});

test('groups are chosen by their headings, and nothing bars the way', async ({ page, demo }) => {
  await openSheet(page, demo, '?group=sender&sort=findings');
  const heading = page.locator('.heading').first();
  const count = Number(await heading.locator('.soft').textContent());
  await heading.click();
  await expect(page.getByText(count === 1 ? '1 binding chosen' : `${count} bindings chosen`)).toBeVisible();
  await expectNoBarriers(page);
});
