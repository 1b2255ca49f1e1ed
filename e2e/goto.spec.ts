import { expect, openMast, saved, strip, test, thing, signAs } from './fixtures.js';
import { expectNoBarriers } from './barriers.js';

test('anything with a name is a few keys away, from every view', async ({ page, demo }) => {
  await openMast(page, demo);
  await page.keyboard.press('Control+k');
  const field = page.getByRole('combobox', { name: 'Go to' });
  await expect(field).toBeFocused();
  await page.keyboard.type('mast-3');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Wire: mast-3 in pylon-ridge');
  await page.keyboard.press('Control+k');
  await page.keyboard.type('gust-2b');
  await expect(page.getByRole('option').first()).toContainText('pylon-ridge: when mast-2.onGust do #tension');
  await page.keyboard.press('Enter');
  await expect(strip(page, 'onGust').locator('.sentence.sought')).toContainText('#tension');
  await page.keyboard.press('Control+k');
  await page.keyboard.type('summit-r');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Plan of summit-refuge');
  await expect(thing(page, 'cabin-5')).toBeVisible();
  await page.keyboard.press('Control+k');
  await page.keyboard.type('engage trackbrake');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/^\d+ of 209$/)).toBeVisible();
  await page.keyboard.press('Control+k');
  await page.keyboard.type('no such thing at all');
  await expect(page.getByText('No match.')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(field).toHaveCount(0);
});

test('all keys stand on one page, and both pages bar nobody', async ({ page, demo }) => {
  await openMast(page, demo);
  await page.keyboard.press('?');
  await expect(page.getByRole('heading', { name: 'Shortcuts' })).toBeVisible();
  await expectNoBarriers(page);
  await page.keyboard.press('a');
  await expect(page.getByRole('combobox', { name: 'Find receivers' })).toHaveCount(0);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Go to' }).click();
  await expect(page.getByRole('option').first()).toBeVisible();
  await expectNoBarriers(page);
});

test('the history says who did what, the newest first', async ({ page, demo }) => {
  await openMast(page, demo);
  await signAs(page, 'Ines');
  await strip(page, 'onGust').locator('[data-binding="gust-2c"] .said').focus();
  await page.keyboard.press('m');
  await page.getByRole('button', { name: 'Undo' }).click();
  await saved(page);
  await page.getByRole('button', { name: 'History' }).click();
  const edits = page.getByRole('list', { name: 'Edits, the newest first' }).getByRole('listitem');
  await expect(edits).toHaveCount(2);
  await expect(edits.first()).toContainText('Ines');
  await expect(edits.first()).toContainText('undone: pylon-ridge: muted when mast-2.onGust do horn-7.sound');
  await page.getByLabel('Filter the history').fill('nobody');
  await expect(page.getByText('No edit matches.')).toBeVisible();
  await expectNoBarriers(page);
});
