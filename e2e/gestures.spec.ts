import type { Page } from '@playwright/test';
import { expect, saved, strip, test, thing } from './fixtures.js';
import { harbour, scene } from './harbour.js';

test('things are copied, cut and pasted with what is wired between them, into another scene and window', async ({
  page,
  server,
  context,
}) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write'], { origin: server.url });
  const { id, base } = await harbour(page, server, 'Clipboard');
  await page.goto(`${base}/plan?scope=quay`);
  await thing(page, 'bell-1').locator('.hit').click();
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Control+c');
  const lines = await page.evaluate(() => navigator.clipboard.readText());
  expect(lines.split('\n').map((l) => l.split(' ').slice(0, 4).join(' '))).toEqual([
    'place bell-1 of Bell',
    'place gate-1 of Gate',
    'when bell-1.onRung do gate-1.open',
    'when bell-1.onRung do gate-1.shut',
  ]);
  const other = await context.newPage();
  await other.goto(`${base}/plan?scope=deck`);
  await other.getByText('Nothing is here yet').waitFor();
  await other.locator('.plan svg').first().click();
  await other.keyboard.press('Control+v');
  await expect(thing(other, 'gate-1')).toBeVisible();
  await other.keyboard.press('Control+v');
  await expect(thing(other, 'gate-2')).toBeVisible();
  await saved(other);
  const deck = await scene(server, id, 'deck');
  expect(deck.placements!.map((p) => p.id)).toEqual(['bell-1', 'gate-1', 'bell-2', 'gate-2']);
  expect(deck.bindings!.slice(2).map(({ from, to }) => [from, to])).toEqual([
    [
      { at: 'bell-2', event: 'onRung' },
      { at: 'gate-2', action: 'open' },
    ],
    [
      { at: 'bell-2', event: 'onRung' },
      { at: 'gate-2', action: 'shut' },
    ],
  ]);
  // Cut: what names it is asked about first.
  await thing(other, 'gate-2').locator('.hit').click({ button: 'right' });
  await other.getByRole('menuitem', { name: 'Cut' }).click();
  await other
    .getByRole('dialog', { name: 'Remove 2 things from the plan' })
    .getByRole('button')
    .first()
    .click();
  await expect(thing(other, 'gate-2')).toHaveCount(0);
  // What is no line at all is said to be none, and changes nothing.
  await other.evaluate(() => navigator.clipboard.writeText('hello'));
  await other.locator('.plan svg').first().click();
  await other.keyboard.press('Control+v');
  await expect(other.getByText('Nothing was pasted: line 1: expected "when", found "hello"')).toBeVisible();
  await other.close();
});

test('a context menu has all that can be done, by right click and by its key', async ({ page, server }) => {
  const { id, base } = await harbour(page, server, 'Menus');
  const item = (name: string): ReturnType<Page['getByRole']> => page.getByRole('menuitem', { name });
  // A thing of the plan.
  await page.goto(`${base}/plan?scope=quay`);
  await thing(page, 'bell-1').locator('.hit').click({ button: 'right' });
  await expect(page.getByRole('menu', { name: 'bell-1' })).toBeVisible();
  await item('Duplicate with bindings').click();
  await expect(thing(page, 'bell-2')).toBeVisible();
  await thing(page, 'bell-2').locator('.hit').focus();
  await page.keyboard.press('Shift+F10');
  await item('Rename').click();
  await expect(page.locator('.chosenbar input[name="placement"]')).toBeFocused();
  await page.keyboard.type('small bell');
  await page.keyboard.press('Enter');
  await expect(thing(page, 'small-bell')).toBeVisible();
  // A sentence.
  await page.goto(`${base}/wire?scope=quay&at=bell-1`);
  const sentences = strip(page, 'onRung').locator('.sentence');
  await sentences.first().locator('.said').focus();
  await page.keyboard.press('Shift+F10');
  await item('Run later').click();
  await expect(sentences.last()).toContainText('open');
  await sentences.last().locator('.said').click({ button: 'right' });
  await item('Duplicate').click();
  await expect(sentences).toHaveCount(3);
  await sentences.last().locator('.said').click({ button: 'right' });
  await item('Remove').click();
  await expect(sentences).toHaveCount(2);
  // A thing in Wire.
  await thing(page, 'small-bell').locator('.hit').click({ button: 'right' });
  await item('Add a receiver').click();
  await expect(page.getByLabel('Sender')).toHaveValue('small-bell');
  await expect(page.locator('.finder')).toBeVisible();
  // What is declared: a property merged into another one.
  await page.goto(`${base}/plan?scope=Bell`);
  await page.locator('[data-decl="pitch"] .declline').click({ button: 'right' });
  await item('Merge into tone').click();
  await page.getByRole('button', { name: 'Apply' }).click();
  await expect(page.locator('[data-decl="pitch"]')).toHaveCount(0);
  // An entry of the catalogue.
  await page.goto(`${base}/catalogue`);
  await page.getByRole('combobox', { name: 'Declare' }).fill('tag loud: Bell');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('On', { exact: true })).toHaveValue('Bell');
  await page.locator('[data-entry="tag:loud"]').click({ button: 'right' });
  await item('Rename').click();
  await expect(page.getByLabel('Name of the tag')).toBeFocused();
  await page.keyboard.type('noisy');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Apply' }).click();
  await expect(page.locator('[data-entry="tag:noisy"]')).toBeVisible();
  await saved(page);
  expect(await scene(server, id, 'Bell')).toMatchObject({ tags: ['noisy'] });
});

test('after a fix the next finding is shown, until none is left', async ({ page, server }) => {
  const { base } = await harbour(page, server, 'Fixes');
  const wire = page.getByPlaceholder(/^when mast-2/);
  for (const text of ['when bell-1.onRung do gate-9/wing.open', 'when bell-1.onRung do gate-8/wing.shut']) {
    await wire.fill(text);
    await wire.press('Enter');
    await expect(wire).toHaveValue('');
  }
  await saved(page);
  await page.goto(`${base}/audit?rule=dangling-target`);
  const finding = page.getByRole('article', { name: 'Finding' });
  await page.locator('.findingrow').first().click();
  const first = await finding.locator('h2').textContent();
  await finding
    .getByRole('button', { name: /^Remove|^remove/ })
    .first()
    .click();
  await expect(finding.locator('h2')).not.toHaveText(first!);
  await expect(finding).toContainText('is not in quay');
  await expect(page.getByRole('group', { name: 'Findings, arrow keys move' })).toBeFocused();
  await finding
    .getByRole('button', { name: /^Remove|^remove/ })
    .first()
    .click();
  await expect(page.getByText('This finding no longer exists')).toBeVisible();
});
