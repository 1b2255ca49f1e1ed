import type { Page } from '@playwright/test';
import { expect, saved, test } from './fixtures.js';
import { expectNoBarriers } from './barriers.js';
import { project, declare, place, ask, open } from './begin-steps.js';

test('a project is renamed, duplicated, archived, deleted and restored in the list', async ({
  page,
  server,
}) => {
  await project(page, server.url, 'Old mill');
  await page.goto(server.url);
  const row = (name: string): ReturnType<Page['locator']> =>
    page.locator('.projectrow', { has: page.getByText(name, { exact: true }) });
  await expect(row('Old mill')).toContainText('Passes');
  const act = async (name: string, what: string): Promise<void> => {
    await page.getByRole('button', { name: `More actions for ${name}`, exact: true }).click();
    await page.getByRole('menuitem', { name: what }).click();
  };
  await act('Old mill', 'Rename');
  await page.getByLabel('New name of Old mill').fill('Water mill');
  await page.keyboard.press('Enter');
  await expect(row('Water mill')).toContainText('renamed the project to Water mill');
  await act('Water mill', 'Duplicate');
  await expect(row('Water mill copy')).toBeVisible();
  await act('Water mill copy', 'Archive');
  await expect(row('Water mill copy')).toHaveCount(0);
  await page.getByRole('button', { name: /^Archived/ }).click();
  await page.getByRole('button', { name: 'Restore Water mill copy' }).click();
  await page.getByRole('button', { name: /^Projects/ }).click();
  await act('Water mill copy', 'Delete');
  await expect(page.getByRole('status').getByText('is in the bin')).toBeVisible();
  await page.getByRole('button', { name: /^Bin/ }).click();
  await expect(row('Water mill copy')).toContainText('deleted for good on');
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByRole('button', { name: /^Projects/ }).click();
  await expect(row('Water mill copy')).toBeVisible();
  await page.getByLabel('Search projects').fill('no such mill');
  await expect(page.getByText('No project has that name.')).toBeVisible();
  await page.getByLabel('Search projects').fill('');
  await page.getByRole('button', { name: 'New project' }).click();
  await page.getByRole('textbox', { name: 'Name', exact: true }).fill('From the sample');
  await page.getByLabel('Start with').selectOption('sample');
  await expectNoBarriers(page);
  await page.getByRole('button', { name: 'Create' }).click();
  await expect(page.getByRole('link', { name: /Gate: passed/ })).toBeVisible();
  await expect(page.getByLabel('Scope')).toHaveValue('landing');
});

test('bad input is reported in words, and nothing is lost', async ({ page, server }) => {
  const id = await project(page, server.url, 'Bad words');
  const base = `${server.url}/p/${id}`;
  await page.keyboard.type('🌊');
  await expect(page.getByText('A name needs at least one letter')).toBeVisible();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('quay');
  await page.keyboard.press('Enter');
  await place(page, ['Crane', 'Hook']);
  await open(page, base, 'plan?scope=Crane');
  await declare(page, ['height = 3', 'onLifted', 'lift(to: int): set height to $to; raise onLifted']);
  const line = page.getByRole('combobox', { name: 'Add' });
  for (const [text, said] of [
    ['height = 4', 'there is already a property height'],
    ['turn(by: int): set height to by', '$by for the parameter, or "by" in quotes for text'],
    ['drop: set height', '"to" and a value'],
    ['speed: flaot', 'expected'],
  ]) {
    await line.fill(text);
    await line.press('Enter');
    await expect(page.getByText(said).first()).toBeVisible();
    await expect(line).toHaveValue(text);
  }
  // Tab stays in a line that is not finished.
  await line.fill('drop: set height to ');
  await page.keyboard.press('Tab');
  await expect(line).toBeFocused();
  await line.fill('');
  // What contains itself is reported, and can be undone.
  await place(page, ['Hook']);
  await open(page, base, 'plan?scope=Hook');
  await place(page, ['Crane']);
  await expect(page.locator('[data-count="error"]')).toHaveText(/[1-9]\d* errors?/);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.locator('[data-count="error"]')).toHaveText(/0 errors/);
  await page.getByLabel('Name of the prefab').fill('Crane');
  await expect(page.getByText('Crane already exists')).toBeVisible();
  await page.keyboard.press('Escape');
  await saved(page);
  const { assets } = await ask(server, `/api/projects/${id}/document`);
  expect(assets.map((a) => a.id)).toEqual(['quay', 'Crane', 'Hook']);
});

test('two windows that rename the same thing: one learns what the other did', async ({
  page,
  server,
  context,
}) => {
  const id = await project(page, server.url, 'Two hands');
  const base = `${server.url}/p/${id}`;
  await page.keyboard.type('quay');
  await page.keyboard.press('Enter');
  await place(page, ['Crane']);
  await open(page, base, 'plan?scope=Crane');
  await declare(page, ['onLifted']);
  await saved(page);
  const other = await context.newPage();
  await other.goto(`${base}/plan?scope=Crane`);
  await other.locator('[data-decl="onLifted"]').waitFor();
  await context.setOffline(true);
  const rename = async (p: Page, to: string): Promise<void> => {
    await p.locator('[data-decl="onLifted"] .declline').focus();
    await p.keyboard.press('F2');
    await p.getByRole('combobox', { name: 'event' }).fill(`${to} from code`);
    await p.keyboard.press('Enter');
  };
  await rename(page, 'onRaised');
  await rename(other, 'onHoisted');
  await context.setOffline(false);
  await expect
    .poll(async () => JSON.stringify((await server.get(`/api/projects/${id}/document`)).body), {
      timeout: 30_000,
    })
    .toMatch(/onRaised|onHoisted/);
  const reported = async (): Promise<number> => {
    const counts = [page, other].map((p) => p.getByRole('dialog', { name: 'Edit conflict' }).count());
    return (await Promise.all(counts)).reduce((a, b) => a + b);
  };
  await expect.poll(reported, { timeout: 30_000 }).toBe(1);
  await other.close();
});
