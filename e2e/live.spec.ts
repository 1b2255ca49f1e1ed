import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { newDatabase } from '../apps/server/test/harness.js';
import { DEMO, expect, openMast, saved, startServer, strip, test, thing, type Demo } from './fixtures.js';
import type { Page } from '@playwright/test';
import { expectNoBarriers } from './barriers.js';

async function addRelease(page: Page, brake: string): Promise<void> {
  await strip(page, 'onCalm').getByRole('button', { name: 'Add a receiver' }).click();
  await thing(page, brake).click();
  await page.getByRole('button', { name: /^release/ }).click();
}
const count = (page: Page, event: string): ReturnType<Page['locator']> =>
  strip(page, event).locator('.count');
async function as(page: Page, name: string): Promise<void> {
  await page.addInitScript((who) => localStorage.setItem('oquel.who', who), name);
}

test('two windows on two servers: edits, undo and who is where come over at once', async ({ browser }) => {
  const databaseUrl = await newDatabase();
  const [one, two] = [await startServer(databaseUrl), await startServer(databaseUrl)];
  const id = await one.import(readFileSync(DEMO, 'utf8'));
  const at = (url: string): Demo => ({
    id,
    url: (view) => `${url}/p/${id}/${view}`,
    document: () => Promise.reject(new Error('not asked for')),
  });
  const contexts = [await browser.newContext(), await browser.newContext()];
  const [mine, theirs] = [await contexts[0].newPage(), await contexts[1].newPage()];
  await as(mine, 'Ines');
  await as(theirs, 'Tomas');
  await openMast(mine, at(one.url));
  await openMast(theirs, at(two.url));
  await addRelease(mine, 'brake-1');
  await expect(count(theirs, 'onCalm')).toHaveText('2');
  await expect(theirs.getByText('edit by Ines:')).toBeVisible();
  // Undo takes one's own edits; those of others are undone from the history.
  await expect(theirs.getByRole('button', { name: 'Undo' })).toBeDisabled();
  await theirs.getByRole('button', { name: 'History' }).click();
  await theirs.getByRole('button', { name: /^Undo: / }).click();
  await theirs.getByRole('button', { name: 'Close' }).click();
  await expect(count(mine, 'onCalm')).toHaveText('1');
  await expect(mine.getByText('edit by Tomas:')).toBeVisible();
  await theirs.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(count(mine, 'onCalm')).toHaveText('2');
  await mine.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(count(theirs, 'onCalm')).toHaveText('1');
  await mine.getByRole('button', { name: 'Redo', exact: true }).click();
  await expect(count(theirs, 'onCalm')).toHaveText('2');

  await theirs.goto(at(two.url).url('audit?rule=relay-cycle'));
  await mine.getByRole('button', { name: '1 other window of this project' }).click();
  const here = mine.getByRole('dialog', { name: 'Also here' });
  await expect(here).toContainText('Tomas');
  await expectNoBarriers(mine, '.present');
  await here.getByRole('link', { name: 'Audit, relay-cycle' }).click();
  await expect(mine).toHaveURL(/audit\?rule=relay-cycle/);
  await theirs.close();
  await expect(mine.getByRole('button', { name: /other window/ })).toHaveCount(0);
  await Promise.all(contexts.map((c) => c.close()));
  await Promise.all([one.stop(), two.stop()]);
});

test('what two people change at once is shown with both sides, and either can be chosen', async ({
  page,
  demo,
  browser,
  server,
}) => {
  const theirs = await browser.newContext();
  const other = await theirs.newPage();
  await as(other, 'Tomas');
  await openMast(page, demo);
  await openMast(other, demo);
  const first = (p: Page): ReturnType<Page['locator']> =>
    strip(p, 'onGust').locator('[data-binding="gust-2a"]');
  const mute = async (p: Page): Promise<void> => {
    await first(p).locator('.said').focus();
    await p.keyboard.press('m');
  };
  // This window does not hear of the other one's edit before its own.
  await page.route(/\/api\//, (route) => route.abort());
  await mute(other);
  await saved(other);
  const stored = await server.get(`/api/projects/${demo.id}/edits?after=1`);
  expect((stored.body as { edits: unknown[] }).edits).toHaveLength(1);
  await strip(page, 'onGust').locator('[data-binding="gust-2a"] .said').focus();
  await page.keyboard.press('Delete');
  await expect(page.getByText('server not answering: 1 edit waiting')).toBeVisible();
  await page.unroute(/\/api\//);
  const choice = page.getByRole('dialog', { name: 'Edit conflict' });
  await expect(choice).toContainText('Tomas changed the same thing');
  await expect(choice.getByRole('row', { name: /gust-2a/ })).toContainText('off');
  await expect(choice.getByRole('row', { name: /gust-2a/ })).toContainText('not there');
  await expectNoBarriers(page, '.conflict');
  await choice.getByRole('button', { name: 'Use mine' }).click();
  await expect(choice).toHaveCount(0);
  await saved(page);
  await expect(first(other)).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(first(other)).toHaveClass(/off/);
  await theirs.close();
});

test('eight windows of one browser share one stream: each hears at once, and the first may be closed', async ({
  demo,
  context,
}) => {
  const pages: Page[] = [];
  for (let i = 0; i < 8; i++) pages.push(await context.newPage());
  for (const page of pages) await openMast(page, demo);
  const last = pages[7];
  await expect(last.getByRole('button', { name: '7 other windows of this project' })).toBeVisible();
  await addRelease(last, 'brake-1');
  for (const page of pages) await expect(count(page, 'onCalm')).toHaveText('2');
  await pages[0].close();
  await expect(last.getByRole('button', { name: '6 other windows of this project' })).toBeVisible();
  await addRelease(pages[3], 'brake-2');
  for (const page of pages.slice(1)) await expect(count(page, 'onCalm')).toHaveText('3');
});

test('edits of a window that was closed are found by the list of projects and by another window, and stored', async ({
  demo,
  context,
  server,
}) => {
  const first = await context.newPage();
  await openMast(first, demo);
  await first.route(/\/api\//, (route) => route.abort());
  await addRelease(first, 'brake-1');
  await addRelease(first, 'brake-2');
  await expect(first.getByText('server not answering: 2 edits waiting')).toBeVisible();
  await first.close();
  const second = await context.newPage();
  await second.goto(server.url);
  const row = second.locator('.projectrow', { has: second.locator(`a[href*="${demo.id}"]`) }).first();
  await expect(row).toContainText('2 edits not stored');
  await openMast(second, demo);
  await expect(second.getByText('2 edits from a closed window are not stored')).toBeVisible();
  await expect(count(second, 'onCalm')).toHaveText('1');
  await second.getByRole('button', { name: 'Review' }).click();
  const panel = second.getByRole('dialog', { name: 'Unsaved edits' });
  await expect(panel).toContainText('brake-2');
  await expectNoBarriers(second, '.kept');
  await panel.getByRole('button', { name: 'Store them' }).click();
  await expect(panel).toHaveCount(0);
  await saved(second);
  await expect(count(second, 'onCalm')).toHaveText('3');
  await second.goto(server.url);
  await expect(second.getByText('not stored')).toHaveCount(0);
});

test('an edit left for somebody else’s is set aside, and can be done after all', async ({
  page,
  demo,
  browser,
}) => {
  const theirs = await browser.newContext();
  const other = await theirs.newPage();
  await as(other, 'Tomas');
  await openMast(page, demo);
  await openMast(other, demo);
  const said = (p: Page): ReturnType<Page['locator']> =>
    strip(p, 'onGust').locator('[data-binding="gust-2a"] .said');
  await page.route(/\/api\//, (route) => route.abort());
  await said(other).focus();
  await other.keyboard.press('m');
  await saved(other);
  await said(page).focus();
  await page.keyboard.press('Delete');
  await page.unroute(/\/api\//);
  await page.getByRole('button', { name: 'Keep Tomas’s' }).click();
  await expect(page.getByText('1 edit set aside')).toBeVisible();
  await expect(said(page)).toHaveCount(1);
  await page.getByRole('button', { name: 'Review' }).click();
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(said(other)).toHaveCount(0);
  await expect(page.getByText('1 edit set aside')).toHaveCount(0);
  await theirs.close();
});

interface Cluster {
  port: number;
  data: string;
  database: (name: string) => Promise<string>;
  remove: () => Promise<void>;
}
/** PostgreSQL of this test's own, which may be killed. */
async function ownPostgres(folder: string, port?: number): Promise<Cluster> {
  const { startPostgres } = (await import(new URL('../scripts/lib/postgres.mjs', import.meta.url).href)) as {
    startPostgres: (dir: string, port?: number) => Promise<Cluster>;
  };
  return startPostgres(join(folder, 'postgres'), port);
}

test('the database is killed in the middle of edits: what was stored is there, what waited is stored once', async ({
  page,
}) => {
  test.setTimeout(240_000);
  const folder = mkdtempSync(join(tmpdir(), 'oquel-e2e-'));
  let cluster = await ownPostgres(folder);
  const server = await startServer(await cluster.database('live'));
  const id = await server.import(readFileSync(DEMO, 'utf8'));
  await page.goto(`${server.url}/p/${id}/wire?scope=pylon-ridge&at=mast-2`);
  await page.getByText(/Gate:/).waitFor();
  await addRelease(page, 'brake-1');
  await saved(page);
  const pid = Number(readFileSync(join(cluster.data, 'postmaster.pid'), 'utf8').split('\n')[0]);
  process.kill(pid, 'SIGKILL');
  await addRelease(page, 'brake-2');
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByRole('button', { name: 'Redo' }).waitFor();
  await addRelease(page, 'brake-3');
  await expect(page.getByText('server not answering: 3 edits waiting')).toBeVisible();
  cluster = await ownPostgres(folder, cluster.port);
  await expect(page.locator('[data-saving="saved"]')).toBeVisible({ timeout: 40_000 });
  await page.reload();
  await expect(count(page, 'onCalm')).toHaveText('3');
  const edits = await server.get(`/api/projects/${id}/edits?after=1`);
  expect((edits.body as { edits: { kind: string }[] }).edits.map((e) => e.kind)).toEqual([
    'edit',
    'edit',
    'undo',
    'edit',
  ]);
  await server.stop();
  await cluster.remove();
  rmSync(folder, { recursive: true, force: true });
});

test('the database goes away under an open window: edits wait, outlive a reload, and are stored', async ({
  page,
}) => {
  const databaseUrl = await newDatabase();
  const server = await startServer(databaseUrl);
  const id = await server.import(readFileSync(DEMO, 'utf8'));
  const name = new URL(databaseUrl).pathname.slice(1);
  const admin = new pg.Client({ connectionString: process.env.OQUEL_TEST_POSTGRES });
  await admin.connect();
  await page.goto(`${server.url}/p/${id}/wire?scope=pylon-ridge&at=mast-2`);
  await page.getByText(/Gate:/).waitFor();
  await admin.query(`alter database ${name} allow_connections false`);
  await admin.query(`select pg_terminate_backend(pid) from pg_stat_activity where datname = '${name}'`);
  await addRelease(page, 'brake-1');
  await expect(page.getByText('server not answering: 1 edit waiting')).toBeVisible();
  await addRelease(page, 'brake-2');
  await expect(count(page, 'onCalm')).toHaveText('3');
  await page.reload();
  await expect(page.getByRole('heading', { name: 'This project cannot be opened' })).toBeVisible();
  await admin.query(`alter database ${name} allow_connections true`);
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(count(page, 'onCalm')).toHaveText('3');
  await saved(page);
  await page.reload();
  await expect(count(page, 'onCalm')).toHaveText('3');
  await admin.end();
  await server.stop();
});

test('a server that has stopped without a word shows as not answering within fifteen seconds', async ({
  page,
}) => {
  const server = await startServer(await newDatabase());
  const id = await server.import(readFileSync(DEMO, 'utf8'));
  await page.goto(`${server.url}/p/${id}/wire?scope=pylon-ridge&at=mast-2`);
  await saved(page);
  await page.getByText(/Gate:/).waitFor();
  server.process.kill('SIGSTOP');
  try {
    await expect(page.getByText('server not answering')).toBeVisible({ timeout: 15_000 });
    await addRelease(page, 'brake-1');
    await expect(page.getByText('server not answering: 1 edit waiting')).toBeVisible();
  } finally {
    server.process.kill('SIGCONT');
  }
  await expect(page.locator('[data-saving="saved"]')).toBeVisible({ timeout: 30_000 });
  await expect(count(page, 'onCalm')).toHaveText('2');
  await server.stop();
});
