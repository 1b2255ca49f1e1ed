import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { expect, test } from './fixtures.js';
import { harbour } from './harbour.js';

async function exported(page: Page, of: string | RegExp, as: string): Promise<Buffer> {
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByLabel(of).selectOption({ label: as }),
  ]);
  return readFileSync(await file.path());
}

test('plan, ripple and proof leave as pictures with their head, and as text for documents', async ({
  page,
  server,
  demo,
  context,
}) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write'], { origin: server.url });
  const { base } = await harbour(page, server, 'Harbour <&> "night"');
  await page.goto(`${base}/plan?scope=quay`);
  await page.locator('.stage .thing').first().waitFor();
  const svg = (await exported(page, 'Export Plan of quay', 'Save as SVG')).toString();
  const today = new Date().toISOString().slice(0, 10);
  const seen = await page.evaluate((text) => {
    const document = new DOMParser().parseFromString(text, 'image/svg+xml');
    return {
      broken: document.querySelector('parsererror') !== null,
      head: document.querySelector('title')?.textContent,
      labels: [...document.querySelectorAll('text.label')].map((t) => t.textContent),
      outside: [...document.querySelectorAll('[href], script, image')].length,
    };
  }, svg);
  expect(seen).toEqual({
    broken: false,
    head: `Plan of quay · Harbour <&> "night" · ${today}`,
    labels: ['bell-1', 'gate-1'],
    outside: 0,
  });
  const png = await exported(page, 'Export Plan of quay', 'Save as PNG');
  expect(png.subarray(1, 4).toString()).toBe('PNG');
  // Width and height stand at the 16th byte: twice as fine as on the screen.
  expect(png.readUInt32BE(16)).toBeGreaterThan(1_000);

  await page.goto(`${base}/ripple?at=quay:bell-1&event=onRung`);
  const menu = page.getByLabel(/^Export What follows/);
  await menu.selectOption({ label: 'Copy as Mermaid' });
  await expect(page.getByText('Mermaid text copied')).toBeVisible();
  const mermaid = await page.evaluate(() => navigator.clipboard.readText());
  expect(mermaid).toContain('flowchart LR\n  n0(["bell-1<br/>onRung"])\n');
  expect(mermaid.match(/-->/g)).toHaveLength(2);
  await menu.selectOption({ label: 'Copy as DOT' });
  await expect(page.getByText('DOT text copied')).toBeVisible();
  expect(await page.evaluate(() => navigator.clipboard.readText())).toContain('n0 -> n1;');
  expect((await exported(page, /^Export What follows/, 'Save as SVG')).toString()).toContain('gate-1');

  // The proof of a cycle closes.
  await page.goto(demo.url('audit?rule=relay-cycle'));
  await page.locator('.findingrow').first().click();
  await page.getByLabel(/^Export Cycle of/).selectOption({ label: 'Copy as DOT' });
  await expect(page.getByText('DOT text copied')).toBeVisible();
  expect(await page.evaluate(() => navigator.clipboard.readText())).toContain('style=dashed');
});
