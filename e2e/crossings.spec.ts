import type { Page } from '@playwright/test';
import { expect, saved, test, type Demo } from './fixtures.js';
import { expectNoBarriers } from './barriers.js';

async function openCrossings(page: Page, demo: Demo, query = ''): Promise<void> {
  await page.goto(demo.url(`crossings${query}`));
  await page.getByText(/Gate:/).waitFor();
  await page.getByText(/of \d+ pairs/).waitFor();
}

test('after a month: who talks to whom, by which bindings, and what is said back', async ({ page, demo }) => {
  await openCrossings(page, demo, '?shows=list');
  await expect(page.getByText('73 of 73 pairs')).toBeVisible();
  await page.getByRole('button', { name: /^RopeGauge to LineTile: 12 deliveries/ }).click();
  const cell = page.getByRole('article', { name: 'RopeGauge to LineTile' });
  await expect(cell).toContainText('12 deliveries');
  await expect(cell).toContainText('12 through channels');
  await expect(cell).toContainText('triggers nothing in it');
  await cell.getByRole('link', { name: 'All of them in the sheet' }).first().click();
  const rows = page.locator('[data-row]');
  await expect(rows.first()).toBeVisible();
  await expect(page.getByRole('button', { name: /^only these \d+/ })).toBeVisible();
  await page.getByRole('button', { name: /^only these \d+/ }).click();
  await expect(page.getByText('209 bindings')).toBeVisible();
});

test('the matrix is pointed at and gone through by arrows; the address keeps the cell', async ({
  page,
  demo,
}) => {
  await openCrossings(page, demo, '?order=name');
  const matrix = page.getByRole('group', { name: /Who talks to whom/ });
  // The third row and second column of the cells.
  await matrix.click({ position: { x: 190 + 26 * 1.5, y: 132 + 26 * 2.5 } });
  await expect(page.getByRole('article')).toHaveAttribute('aria-label', 'Beacon to AltitudeStrip');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('article')).toHaveAttribute('aria-label', 'Cabin to Beacon');
  await page.reload();
  await expect(page.getByRole('article')).toHaveAttribute('aria-label', 'Cabin to Beacon');
  await page.getByRole('button', { name: 'Swap sides' }).click();
  await expect(page.getByRole('article')).toHaveAttribute('aria-label', 'Beacon to Cabin');
});

test('what crosses scenes is told apart, and the matrix follows an edit', async ({ page, demo }) => {
  await openCrossings(page, demo, '?by=scene&shows=list&only=across');
  const row = page.getByRole('button', { name: /^valley-station to summit-refuge: 1 delivery/ });
  await row.click();
  await page.getByRole('article').getByRole('link', { name: 'valley-station' }).first().click();
  await page.locator('.sentence.sought .said').focus();
  await page.keyboard.press('Delete');
  await saved(page);
  await page.getByRole('navigation', { name: 'Views' }).getByRole('link', { name: 'Crossings' }).click();
  await page.getByRole('button', { name: 'by scene' }).click();
  await page.getByRole('button', { name: 'list' }).click();
  await expect(page.getByRole('button', { name: /^valley-station to valley-station/ })).toBeVisible();
  await expect(row).toHaveCount(0);
});

test('no barrier that axe can find in Crossings, on either ground', async ({ page, demo }) => {
  await openCrossings(page, demo, '?from=Cabin&to=Winch');
  await page.getByRole('article').waitFor();
  await expectNoBarriers(page);
  await page.getByRole('button', { name: 'list' }).click();
  await page.locator('.celltable').waitFor();
  await expectNoBarriers(page);
});
