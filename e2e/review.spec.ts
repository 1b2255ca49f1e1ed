import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import Ajv04 from 'ajv-draft-04';
import { createRequire } from 'node:module';
import { expect, openMast, saved, test, type Demo } from './fixtures.js';
import { expectNoBarriers } from './barriers.js';

const require = createRequire(import.meta.url);

async function openAudit(page: Page, demo: Demo, query = ''): Promise<void> {
  await page.goto(demo.url(`audit${query}`));
  await page.getByText(/Gate:/).waitFor();
}
function finding(page: Page, text: string | RegExp): ReturnType<Page['locator']> {
  return page.locator('.findingrow').filter({ hasText: text });
}

test('a cycle is found, broken by an offered fix, and gone', async ({ page, demo }) => {
  await openAudit(page, demo);
  await finding(page, /relay-east onAlarm runs forever/).click();
  const article = page.getByRole('article', { name: 'Finding' });
  const fix = article
    .locator('ul.fixes li')
    .filter({ hasText: /Remove/ })
    .first();
  await expect(fix.locator('summary')).toContainText('takes 1 finding away');
  await fix.locator('summary').click();
  await expect(fix).toContainText('gone: A cycle of 2 hops');
  await fix.getByRole('button').click();
  await expect(finding(page, /relay-east onAlarm runs forever/)).toHaveCount(0);
  await expect(page.getByRole('contentinfo')).toContainText(/cycles\s*3/);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(finding(page, /relay-east onAlarm runs forever/)).toHaveCount(1);
});

test('all findings of a kind are fixed at once, after what is done for each is shown', async ({
  page,
  demo,
}) => {
  // Three of the same kind: the brake is gone that two bindings name.
  await page.goto(demo.url('wire?scope=pylon-ridge&at=brake-1'));
  await page.getByRole('button', { name: /^Remove \(/ }).click();
  await saved(page);
  await openAudit(page, demo, '?rule=dangling-target&text=is+not+in+pylon-ridge');
  await expect(page.locator('.findingrow')).toHaveCount(3);
  const before = await page.locator('.findingrow').count();
  expect(before).toBeGreaterThan(1);
  await page.getByRole('button', { name: /^Fix all/ }).click();
  const alike = page.getByRole('group', { name: 'Fixes for all of this kind' });
  await expect(alike.locator('summary')).toContainText(/takes \d+ findings away/);
  await alike.getByRole('button', { name: /^Apply all/ }).click();
  await expect(page.locator('.findingrow')).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.locator('.findingrow')).toHaveCount(before);
});

test('a waiver needs a reason, holds until its day is over, and is reported when it no longer does', async ({
  page,
  demo,
}) => {
  await page.clock.install({ time: new Date('2026-12-01T10:00:00Z') });
  await openAudit(page, demo);
  await finding(page, /relay-east onAlarm runs forever/).click();
  await page.getByRole('button', { name: 'Waive', exact: true }).click();
  await expect(page.getByText('a waiver needs a reason')).toBeVisible();
  await page.getByLabel('Why it is waived').fill('the alarms answer one another on purpose');
  await page.getByLabel('Until when it is waived').fill('2026-11-30');
  await page.getByRole('button', { name: 'Waive', exact: true }).click();
  await expect(page.getByText('the date has passed')).toBeVisible();
  await page.getByLabel('Until when it is waived').fill('2026-12-03');
  await page.getByRole('button', { name: 'Waive', exact: true }).click();
  await expect(page.locator('[data-count="error"]')).toHaveText(/18 errors/);
  await expect(finding(page, /relay-east onAlarm runs forever/)).toContainText('waived');
  await saved(page);
  // The last day still counts; the day after does not, also in a window that stays open.
  await page.clock.setSystemTime(new Date('2026-12-03T23:00:00Z'));
  await page.evaluate(() => window.dispatchEvent(new Event('focus')));
  await expect(page.locator('[data-count="error"]')).toHaveText(/18 errors/);
  await page.clock.setSystemTime(new Date('2026-12-04T01:00:00Z'));
  await page.evaluate(() => window.dispatchEvent(new Event('focus')));
  await expect(page.locator('[data-count="error"]')).toHaveText(/19 errors/);
  await page.getByRole('tab', { name: 'Waivers' }).click();
  const row = page.locator('tr[data-state="stale"]').filter({ hasText: 'on purpose' });
  await expect(row).toContainText('it has expired');
  const until = row.getByLabel(/^Until when/);
  await until.fill('soon');
  await expect(row.getByRole('alert')).toContainText('a date, such as');
  await until.fill('2026-12-24');
  await until.press('Enter');
  const own = page.locator('tr').filter({ hasText: 'on purpose' });
  await expect(own).toContainText('in force');
  await own.getByRole('button', { name: 'Remove', exact: true }).click();
  await expect(own).toHaveCount(0);
  await page.getByRole('button', { name: 'Remove 2 that no longer apply' }).click();
  await expect(page.locator('tr[data-state]')).toHaveCount(1);
});

test('the policy shows what comes and goes before it is saved', async ({ page, demo }) => {
  await openAudit(page, demo, '?tab=policy');
  const effect = page.getByRole('status', { name: 'What the policy would do' });
  await page.getByLabel('At most, hops in a chain').fill('3');
  await expect(effect).toContainText(/chain of 5 hops; the limit is 3/);
  await page.getByLabel('At most, hops in a chain').fill('7');
  await expect(effect).toContainText('findings go');
  await expect(effect).toContainText(/chain of 7 hops; the limit is 6/);
  await page.getByLabel('Pattern for events').fill('(');
  await expect(page.getByRole('alert').first()).toBeVisible();
  await expect(page.getByRole('button', { name: 'Save the policy' })).toBeDisabled();
  await page.getByLabel('Pattern for events').fill('^on[A-Z]');
  await page.getByLabel('Severity of relay-cycle', { exact: true }).selectOption('info');
  await page.getByRole('button', { name: 'Save the policy' }).click();
  await expect(page.getByRole('contentinfo')).toContainText(/longest chain\s*7 of 7/);
  await page.getByRole('tab', { name: 'Findings' }).click();
  await page.getByLabel('Search findings').fill('starts a chain of 7');
  await expect(finding(page, /starts a chain of 7/)).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(finding(page, /starts a chain of 7/).first()).toBeVisible();
});

test('pictures open what they count', async ({ page, demo }) => {
  await openAudit(page, demo, '?tab=figures');
  await page.getByRole('button', { name: /^7: \d+ events, over the limit/ }).click();
  const opened = page.getByRole('status').filter({ hasText: 'longest chain of 7 hops' });
  await opened.getByRole('link', { name: 'pylon-ridge:mast-1.onGust' }).click();
  await expect(page).toHaveURL(/ripple\?at=pylon-ridge/);
  await page.goBack();
  await page.getByRole('button', { name: /^dangling-target/ }).click();
  await expect(page.locator('.findingrow')).toHaveCount(6);
  await openAudit(page, demo, '?tab=figures');
  await page.locator('.recharts-bar-rectangle').first().click();
  await expect(page.getByRole('status').filter({ hasText: 'longest chain of 1 hop' })).toBeVisible();
});

test('each way out is saved and sound', async ({ page, demo }) => {
  await openAudit(page, demo);
  const saveAs = async (way: string): Promise<string> => {
    const download = page.waitForEvent('download');
    await page.getByRole('group', { name: 'Save the audit as' }).getByRole('button', { name: way }).click();
    return readFileSync(await (await download).path(), 'utf8');
  };
  const json = JSON.parse(await saveAs('JSON')) as {
    format: string;
    findings: unknown[];
    summary: { error: number };
  };
  expect(json.format).toBe('oquel.audit/1');
  const sarif = JSON.parse(await saveAs('SARIF')) as { runs: { results: unknown[] }[] };
  const schema = require('@microsoft/jest-sarif/lib/schemas/sarif-2.1.0-rtm.5.json') as object;
  const validate = new Ajv04.default({ strict: false, validateFormats: false, unicodeRegExp: false }).compile(
    schema,
  );
  expect(validate(sarif), JSON.stringify(validate.errors)).toBe(true);
  expect(sarif.runs[0].results).toHaveLength(json.findings.length);
  const junit = await saveAs('JUnit');
  const parsed = await page.evaluate((text) => {
    const document = new DOMParser().parseFromString(text, 'application/xml');
    return {
      broken: document.querySelector('parsererror') !== null,
      failures: Number(document.documentElement.getAttribute('failures')),
    };
  }, junit);
  expect(parsed.broken).toBe(false);
  expect(parsed.failures).toBeGreaterThan(0);
  const csv = await saveAs('CSV');
  expect(csv.split('\r\n').filter(Boolean)).toHaveLength(json.findings.length + 1);

  // The saved audit is what the next ones are compared with.
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByLabel('New since').selectOption('an audit in a file ...'),
  ]);
  await chooser.setFiles({
    name: 'last.json',
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify(json)),
  });
  await expect(page.getByText('0 findings new')).toBeVisible();
  await openMast(page, demo);
  await openAudit(page, demo);
  const [again] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByLabel('New since').selectOption('an audit in a file ...'),
  ]);
  await again.setFiles({
    name: 'x.json',
    mimeType: 'application/json',
    buffer: Buffer.from('{"format":"x"}'),
  });
  await expect(page.getByRole('alert')).toContainText('x.json is not an audit');
});

test('ten findings are reviewed by keyboard alone: walked, waived, fixed', async ({ page, demo }) => {
  await openAudit(page, demo);
  const list = page.getByRole('group', { name: 'Findings, arrow keys move' });
  await list.focus();
  const said = new Set<string>();
  for (let i = 0; i < 10; i++) {
    said.add(await page.getByRole('article', { name: 'Finding' }).locator('h2').innerText());
    await page.keyboard.press('ArrowDown');
    await page.waitForFunction(
      (n) => document.querySelectorAll('.findingrow')[n]?.getAttribute('aria-current') === 'true',
      i + 1,
    );
  }
  expect(said.size).toBe(10);
  const tabTo = async (name: RegExp): Promise<void> => {
    for (let i = 0; i < 40; i++) {
      await page.keyboard.press('Tab');
      const label = await page.evaluate(() => {
        const el = document.activeElement;
        return el?.getAttribute('aria-label') ?? el?.textContent ?? '';
      });
      if (name.test(label)) return;
    }
    throw new Error(`no way to ${String(name)} by Tab`);
  };
  await tabTo(/^Why it is waived/);
  await page.keyboard.type('seen and accepted');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Waived by somebody: “seen and accepted”')).toBeVisible();
  await openAudit(page, demo, '?text=horn-7');
  await list.focus();
  await expect(page.locator('ul.fixes button').first()).toBeVisible();
  await tabTo(/^Use horn-2/);
  await page.keyboard.press('Enter');
  await expect(finding(page, /horn-7/)).toHaveCount(0);
});

test('findings are grouped as asked, and a chain is seen as a ripple', async ({ page, demo }) => {
  await openAudit(page, demo);
  await page.getByLabel('Grouped by').selectOption('scene');
  await expect(page.locator('.rulehead').filter({ hasText: 'pylon-ridge' })).toBeVisible();
  await page.getByLabel('Grouped by').selectOption('severity');
  await expect(page.locator('.rulehead').first()).toContainText('errors');
  await page.getByLabel('Search findings').fill('gauge-3 starts a chain');
  await finding(page, /gauge-3 onOverload starts a chain of 7/).click();
  await page.getByRole('link', { name: 'See it as a ripple' }).click();
  await expect(page.getByRole('status').first()).toContainText('up to 7 hops');
  await page.goBack();
  await expect(page.getByRole('article', { name: 'Finding' })).toContainText('gauge-3');
});

test('figures, policy and waivers bar nobody, on either ground', async ({ page, demo }) => {
  for (const tab of ['figures', 'policy', 'waivers']) {
    await openAudit(page, demo, `?tab=${tab}`);
    await expectNoBarriers(page);
  }
});
