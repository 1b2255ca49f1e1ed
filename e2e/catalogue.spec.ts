import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { expect, saved, strip, test, type Demo } from './fixtures.js';
import { expectNoBarriers } from './barriers.js';

async function openCatalogue(page: Page, demo: Demo, query = ''): Promise<void> {
  await page.goto(demo.url(`catalogue${query}`));
  await page.getByText(/Gate:/).waitFor();
  await page.locator('.entryrow').first().waitFor();
}
function entry(page: Page, key: string): ReturnType<Page['locator']> {
  return page.locator(`[data-entry="${key}"]`);
}

test('after a month: what is an event, who hears it, who raises it, and where is that wired', async ({
  page,
  demo,
}) => {
  await openCatalogue(page, demo);
  await page.getByLabel('Search the catalogue').fill('halt line');
  await entry(page, 'event:LineController/onHalt').click();
  const panel = page.getByRole('article', { name: 'event LineController onHalt' });
  await expect(panel).toContainText('Raised by 1');
  await expect(panel).toContainText('LineController does halt');
  await expect(panel).toContainText('Listeners 12');
  await panel.getByRole('link', { name: 'pylon-ridge' }).first().click();
  await expect(strip(page, 'onHalt').locator('.sentence.sought')).toContainText('winch-4 stop');
  await page.goBack();
  await expect(page.getByRole('article', { name: 'event LineController onHalt' })).toBeVisible();
});

test('an event with many uses is renamed with all of them, and that is undone as one', async ({
  page,
  demo,
}) => {
  await openCatalogue(page, demo, '?entry=event%3ALineController%2FonHalt');
  const name = page.getByLabel('Name of the event');
  await name.fill('onStandstill');
  await name.press('Enter');
  await expect(page.getByRole('dialog')).toContainText('used in 13 places');
  await expect(page.getByRole('dialog')).toContainText('No finding would change.');
  await page.getByRole('button', { name: 'Apply' }).click();
  await expect(page.getByRole('article', { name: 'event LineController onStandstill' })).toContainText(
    'Listeners 12',
  );
  await saved(page);
  expect(JSON.stringify(await demo.document())).not.toContain('onHalt');
  await page.keyboard.press('Control+z');
  await saved(page);
  const document = JSON.stringify(await demo.document());
  expect(document).not.toContain('onStandstill');
  expect(document.split('"onHalt"').length - 1).toBeGreaterThan(12);
});

test('what a change would break is seen first, and it can be kept as it was', async ({ page, demo }) => {
  await openCatalogue(page, demo, '?kind=channel&entry=channel%3Atension');
  await page.getByLabel('Payload').fill('pull: float');
  await page.getByLabel('Payload').press('Enter');
  await expect(page.getByRole('dialog')).toContainText(/used in \d+ places/);
  await page.getByRole('dialog').getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByLabel('Payload')).toHaveValue(/tension/);
  await page.getByRole('button', { name: 'Remove' }).click();
  await expect(page.getByRole('dialog')).toContainText('removed the channel tension');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toBeHidden();
  await page.getByLabel('Merge into').selectOption('crewAlert');
  await expect(page.getByRole('dialog')).toContainText(/new: /);
  await page.getByRole('button', { name: 'Apply' }).click();
  await expect(page.getByRole('article', { name: 'channel crewAlert' })).toBeVisible();
  await expect(entry(page, 'channel:tension')).toHaveCount(0);
});

test('a name that is taken or is none is reported where it is typed', async ({ page, demo }) => {
  await openCatalogue(page, demo, '?entry=event%3ALineController%2FonHalt');
  const name = page.getByLabel('Name of the event');
  await name.fill('onAlarm');
  await expect(page.getByText('is taken')).toBeVisible();
  await name.fill('on halt');
  await expect(page.getByText(/must begin with a letter/)).toBeVisible();
  await page.getByLabel('Payload').fill('speed float');
  await expect(page.getByLabel('Payload')).toHaveAttribute('aria-invalid', 'true');
});

test('filters by kind and mark are kept by the address; the arrows go through the list', async ({
  page,
  demo,
}) => {
  await openCatalogue(page, demo);
  await page.getByRole('button', { name: /^channels/ }).click();
  await page.getByRole('button', { name: /^unheard/ }).click();
  await expect(page).toHaveURL(/kind=channel&mark=unheard/);
  const rows = page.locator('.entryrow');
  await expect(rows.first()).toContainText('channel');
  await page.reload();
  await expect(page.getByRole('button', { name: /^unheard/ })).toHaveAttribute('aria-pressed', 'true');
  await page.getByRole('button', { name: /^unheard/ }).click();
  await page.getByRole('listbox', { name: 'All entries' }).focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await expect(rows.nth(1)).toHaveAttribute('aria-selected', 'true');
  await page.getByLabel('Search the catalogue').fill('no such thing');
  await page.getByRole('button', { name: /^Show all/ }).click();
  await expect(rows.first()).toBeVisible();
});

test('the list is saved for people who have no Oquel', async ({ page, demo }) => {
  await openCatalogue(page, demo);
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'CSV' }).click(),
  ]);
  expect(file.suggestedFilename()).toBe('catalogue.csv');
  const text = readFileSync(await file.path(), 'utf8');
  expect(text.split('\r\n')[0]).toBe(
    'kind,asset,name,carries,comes about,raised or done by,heard by,marks,note',
  );
  expect(text).toContain('event,LineController,onHalt,line: enum:Line,its own actions,1,12,');
  const [printed] = await Promise.all([
    page.waitForEvent('popup'),
    page.getByRole('button', { name: 'Print' }).click(),
  ]);
  await expect(printed.getByRole('heading', { name: /Storm over Veyra/ })).toBeVisible();
  await expect(printed.getByText('onHalt')).toBeVisible();
});

test('no barrier that axe can find in the catalogue, on either ground', async ({ page, demo }) => {
  await openCatalogue(page, demo, '?kind=event&entry=event%3AFlareRack%2FonCounted');
  await page.getByRole('article').waitFor();
  await page.getByRole('button', { name: 'Remove' }).click();
  await page
    .getByText(/gone|new:|No finding/)
    .first()
    .waitFor();
  await expectNoBarriers(page);
});
