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
  const { head, ...rest } = seen;
  expect(head).toMatch(new RegExp(`^Plan of quay · Harbour <&> "night" · edit \\d+ · ${today}$`));
  expect(rest).toEqual({
    broken: false,
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

test('crossings and figures are saved as pictures, with what they show in their head', async ({
  page,
  demo,
}) => {
  await page.goto(demo.url('crossings'));
  await page.getByText(/Gate:/).waitFor();
  const crossings = (await exported(page, /^Export Crossings/, 'Save as SVG')).toString();
  expect(crossings).toMatch(
    /<title>Crossings by \w+ · Storm over Veyra · (edit \d+|build)[^<]* · \d{4}-\d{2}-\d{2}<\/title>/,
  );
  expect(crossings).toContain('WindMast');
  await page.goto(demo.url('audit?tab=figures'));
  const figures = (await exported(page, /^Export Figures/, 'Save as SVG')).toString();
  expect(figures).toMatch(/\d+ bindings over all instances/);
  expect(figures).toContain('limit 6');
  expect(figures).toContain('relay-cycle');
  // Each is a picture that a browser can draw.
  for (const svg of [crossings, figures]) {
    const width = await page.evaluate(async (text) => {
      const image = new Image();
      image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(text)}`;
      await image.decode();
      return image.naturalWidth;
    }, svg);
    expect(width).toBeGreaterThan(400);
  }
});
