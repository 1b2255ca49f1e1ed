import { expect, openMast, saved, strip, test } from './fixtures.js';
import type { Page } from '@playwright/test';

function field(page: Page): ReturnType<Page['locator']> {
  return page.getByRole('combobox', { name: /^Line/ });
}
async function paste(page: Page, text: string): Promise<void> {
  await page.evaluate((lines) => {
    const data = new DataTransfer();
    data.setData('text', lines);
    (document.activeElement ?? document.body).dispatchEvent(
      new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
    );
  }, text);
}

test('a binding is typed as a line, completed as it is typed', async ({ page, demo }) => {
  await openMast(page, demo);
  await page.keyboard.press('w');
  await expect(field(page)).toHaveValue('when mast-2.onGust do ');
  await page.keyboard.type('brake-2');
  await page.keyboard.press('Tab');
  await page.keyboard.type('eng');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(field(page)).toHaveValue('when mast-2.onGust do brake-2.engage ');
  await expect(page.getByText('This would be reported: force (float) is missing')).toBeVisible();
  await page.keyboard.type('(');
  await page.keyboard.press('Tab');
  await page.keyboard.type('$sp');
  await page.keyboard.press('Tab');
  await page.keyboard.type(') once');
  await page.keyboard.press('Enter');
  await expect(strip(page, 'onGust').locator('.sentence').last()).toContainText(
    'brake-2 engage (force = $speed)',
  );
  await expect(strip(page, 'onGust').locator('.sentence').last()).toContainText('once');
  await saved(page);
  await page.reload();
  await expect(strip(page, 'onGust').locator('.count')).toHaveText('4');
});

test('a line that makes no sense is reported with its place, and nothing is added', async ({
  page,
  demo,
}) => {
  await openMast(page, demo);
  await field(page).fill('when mast-2.onGust brake-1.engage');
  await page.keyboard.press('Enter');
  await expect(page.getByText('At character 20: expected "do", found "brake-1.engage"')).toBeVisible();
  await expect(field(page)).toHaveAttribute('aria-invalid', 'true');
  expect(await page.evaluate(() => getSelection()?.toString())).toBe('brake-1.engage');
  await expect(strip(page, 'onGust').locator('.count')).toHaveText('3');
});

test('many lines are pasted: what each becomes is shown first, and all are one undo', async ({
  page,
  demo,
}) => {
  await openMast(page, demo);
  await paste(
    page,
    [
      'when mast-2.onGust do brake-2.engage(force = $speed)',
      'when mast-2.onGust do brake-1.engage(force = $speed)',
      'when mast-2.onCalm do brake-9/lining.release',
      'when mast-2.onCalm brake-1.engage',
      'when mast-2.onIcedUp do brake-3.release after 2s',
    ].join('\n'),
  );
  const panel = page.getByRole('dialog', { name: 'Pasted lines' });
  await expect(panel.locator('ol li')).toHaveCount(5);
  for (const [i, state] of ['new', 'exists', 'has problems', 'cannot be read', 'new'].entries()) {
    await expect(panel.locator('ol li').nth(i)).toContainText(state);
  }
  await panel.getByRole('button', { name: 'Add 2 bindings' }).click();
  await expect(strip(page, 'onGust').locator('.count')).toHaveText('4');
  await expect(strip(page, 'onIcedUp').locator('.count')).toHaveText('2');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(strip(page, 'onGust').locator('.count')).toHaveText('3');
  await expect(strip(page, 'onIcedUp').locator('.count')).toHaveText('1');
});

test('bindings of one event are copied as lines and put on another', async ({ page, demo, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await openMast(page, demo);
  await strip(page, 'onCalm').getByRole('button', { name: 'Copy as lines' }).click();
  const copied = await page.evaluate(() => navigator.clipboard.readText());
  expect(copied).toBe('when mast-2.onCalm do every TrackBrake [line = @line].release');
  await strip(page, 'onStruck').locator('h2').click();
  await paste(page, copied);
  const panel = page.getByRole('dialog', { name: 'Pasted lines' });
  await panel.getByRole('radio', { name: /all to mast-2.onStruck/ }).check();
  await panel.getByRole('button', { name: 'Add 1 binding' }).click();
  await expect(strip(page, 'onStruck').locator('.sentence')).toContainText(
    'every TrackBrake [line = @line] release',
  );
});
