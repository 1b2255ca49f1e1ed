import { expect, openMast, saved, strip, test, thing } from './fixtures.js';

test('closing a cycle is reported at once, and its finding shows the way round', async ({ page, demo }) => {
  await page.goto(demo.url('wire?scope=pylon-ridge&at=brake-2&event=onEngaged'));
  const footer = page.getByRole('contentinfo');
  await expect(footer).toContainText('cycles 4');
  await strip(page, 'onEngaged').getByRole('button', { name: 'Add a receiver' }).click();
  await thing(page, 'brake-2').click();
  await page.getByRole('button', { name: /^engage/ }).click();
  await expect(footer).toContainText('cycles 5');
  await expect(footer).toContainText(/last edit: \+1 error.*A cycle of 1 hop through pylon-ridge:brake-2/);
  const sentence = strip(page, 'onEngaged').locator('.sentence').last();
  await expect(sentence).toContainText('runs forever within one frame');
  await sentence.getByRole('link', { name: 'Show' }).click();

  const finding = page.getByRole('article', { name: 'Finding' });
  await expect(finding.getByRole('heading', { level: 2 })).toContainText('A cycle of 1 hop');
  await expect(finding.getByRole('group', { name: /Cycle of 1 hop: .*brake-2 onEngaged/ })).toBeVisible();
  await finding.getByRole('link', { name: /^pylon-ridge: when brake-2.onEngaged do brake-2.engage/ }).click();
  await expect(page.locator('.sentence.sought')).toContainText('brake-2 engage');
});

test('taking a receiver off the plan leaves its bindings dangling; undo brings both back', async ({
  page,
  demo,
}) => {
  await openMast(page, demo);
  const errors = page.getByRole('contentinfo').locator('[data-count="error"]');
  await expect(errors).toHaveText('19 errors');
  await thing(page, 'brake-1').click();
  await page.getByRole('button', { name: /Remove \(3 bindings name it\)/ }).click();
  await expect(errors).toHaveText('22 errors');
  await expect(thing(page, 'brake-1')).toHaveCount(0);
  await page.goto(demo.url('audit?rule=dangling-target'));
  await expect(page.locator('.findingrow')).toHaveCount(8);
  await expect(
    page.locator('.findingrow').filter({ hasText: '"brake-1" is not in pylon-ridge' }),
  ).toHaveCount(2);
  await saved(page);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(errors).toHaveText('19 errors');
  await expect(page.locator('.findingrow')).toHaveCount(6);
  await expect(
    page.getByText('This finding no longer exists.').or(page.getByText('horn-7').first()).first(),
  ).toBeVisible();
});

test('a missing receiver is found, opened in Wire and mended; the audit says it is gone', async ({
  page,
  demo,
}) => {
  await page.goto(demo.url('audit'));
  await expect(page.getByRole('heading', { level: 1 })).toContainText('stops this build: 19 errors');
  await page.locator('.findingrow').filter({ hasText: 'horn-7' }).click();
  const finding = page.getByRole('article', { name: 'Finding' });
  await expect(finding).toContainText(/horn-7 is not declared\. The nearest names? (is|are) horn-/);
  await finding.getByRole('link', { name: 'pylon-ridge: when mast-2.onGust do horn-7.sound' }).click();
  const sentence = page.locator('.sentence.sought');
  await expect(sentence).toContainText('"horn-7" is not in pylon-ridge');
  await sentence.locator('.said').focus();
  await page.keyboard.press('Delete');
  await expect(page.getByRole('contentinfo')).toContainText(/last edit: .*1 gone/);
});

test('a long chain is drawn with all of its hops, what leads to each, and those beyond the limit', async ({
  page,
  demo,
}) => {
  await page.goto(demo.url('audit?rule=long-chain'));
  const finding = page.getByRole('article', { name: 'Finding' });
  await expect(finding.getByRole('group', { name: /Chain of 7 hops/ })).toBeVisible();
  await expect(finding.locator('.stop.beyond')).toHaveCount(1);
  await expect(finding.locator('.stop')).toHaveCount(14);
  await expect(finding.locator('.stop .hop')).toHaveText(['1', '2', '3', '4', '5', '6', '7']);
  await expect(finding.locator('.stop .via').filter({ hasText: 'after 0.5s (in pylon-ridge)' })).toHaveCount(
    1,
  );
  await expect(finding.locator('.stop .delay')).toHaveText(['0.5 s', '1 s']);
});

test('findings are walked by keys, searched, and narrowed by severity; the address holds it all', async ({
  page,
  demo,
}) => {
  await page.goto(demo.url('audit'));
  await page.getByRole('group', { name: /Findings/ }).focus();
  const heading = page.getByRole('article').getByRole('heading', { level: 2 });
  const seen = new Set<string>();
  for (let i = 0; i < 10; i++) {
    const text = (await heading.textContent()) ?? '';
    seen.add(text);
    await page.keyboard.press('ArrowDown');
    await expect(heading).not.toHaveText(text);
  }
  expect(seen.size).toBe(10);
  await page.getByRole('button', { name: '19 errors' }).click();
  await expect(page.locator('.rulehead').first()).toBeVisible();
  await page.getByLabel('Search findings').fill('horn-7');
  await expect(page.locator('.findingrow')).toHaveCount(1);
  await page.reload();
  await expect(page.locator('.findingrow')).toHaveCount(1);
  await page.getByLabel('Search findings').fill('nothing like it');
  await expect(page.getByText('Nothing matches.')).toBeVisible();
  await page.getByRole('button', { name: /^All/ }).click();
  await expect(page.locator('.findingrow').nth(5)).toBeVisible();
});

test('a fix is taken from the finding, as one edit that can be undone', async ({ page, demo }) => {
  await page.goto(demo.url('audit?rule=relay-cycle'));
  const finding = page.getByRole('article', { name: 'Finding' });
  await expect(
    finding.getByRole('button', { name: 'Limit to once: when relay-east.onAlarm do relay-west.note' }),
  ).toBeVisible();
  await expect(finding.getByText('takes 1 finding away, brings note relay-cycle').first()).toBeVisible();
  await finding.getByRole('button', { name: 'Remove: when relay-west.onAlarm do relay-east.note' }).click();
  await expect(page.getByRole('contentinfo')).toContainText('cycles 3');
  await expect(page.getByRole('contentinfo').locator('[data-count="error"]')).toHaveText('18 errors');
  await saved(page);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('contentinfo')).toContainText('cycles 4');
});
