import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { AxeBuilder } from '@axe-core/playwright';
import pg from 'pg';
import { newDatabase } from '../apps/server/test/harness.js';
import { DEMO, expect, openMast, saved, startServer, strip, test, thing, type Demo } from './fixtures.js';
import type { Page } from '@playwright/test';

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
  await theirs.getByRole('button', { name: 'Undo' }).click();
  await expect(count(mine, 'onCalm')).toHaveText('1');
  await expect(mine.getByText('edit by Tomas:')).toBeVisible();
  await mine.getByRole('button', { name: 'Redo' }).click();
  await expect(count(theirs, 'onCalm')).toHaveText('2');

  await theirs.goto(at(two.url).url('audit?rule=relay-cycle'));
  await mine.getByRole('button', { name: '1 other window of this project' }).click();
  const here = mine.getByRole('dialog', { name: 'Also here' });
  await expect(here).toContainText('Tomas');
  const { violations } = await new AxeBuilder({ page: mine }).include('.present').analyze();
  expect(violations).toEqual([]);
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
  expect(stored.body).toHaveLength(1);
  await strip(page, 'onGust').locator('[data-binding="gust-2a"] .said').focus();
  await page.keyboard.press('Delete');
  await expect(page.getByText('no server: 1 edit waiting')).toBeVisible();
  await page.unroute(/\/api\//);
  const choice = page.getByRole('dialog', { name: 'Changed by two' });
  await expect(choice).toContainText('Tomas changed the same thing');
  await expect(choice.getByRole('row', { name: /gust-2a/ })).toContainText('off');
  await expect(choice.getByRole('row', { name: /gust-2a/ })).toContainText('not there');
  const { violations } = await new AxeBuilder({ page }).include('.conflict').analyze();
  expect(violations).toEqual([]);
  await choice.getByRole('button', { name: 'Do mine over it' }).click();
  await expect(choice).toHaveCount(0);
  await saved(page);
  await expect(first(other)).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(first(other)).toHaveClass(/off/);
  await theirs.close();
});

test('a window that nobody looks at gives up its connection, and catches up when it is looked at', async ({
  page,
  demo,
  context,
}) => {
  const look = (state: 'hidden' | 'visible'): Promise<void> =>
    page.evaluate((is) => {
      Object.defineProperty(document, 'visibilityState', { configurable: true, get: () => is });
      document.dispatchEvent(new Event('visibilitychange'));
    }, state);
  await openMast(page, demo);
  const other = await context.newPage();
  await openMast(other, demo);
  const here = other.getByRole('button', { name: /other window/ });
  await expect(here).toBeVisible();
  await look('hidden');
  await expect(here).toHaveCount(0, { timeout: 20_000 });
  await addRelease(other, 'brake-1');
  await saved(other);
  await expect(count(page, 'onCalm')).toHaveText('1');
  await look('visible');
  await expect(count(page, 'onCalm')).toHaveText('2');
  await expect(here).toBeVisible();
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
  test.setTimeout(90_000);
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
  await expect(page.getByText('no server: 3 edits waiting')).toBeVisible();
  cluster = await ownPostgres(folder, cluster.port);
  await expect(page.locator('[data-saving="saved"]')).toBeVisible({ timeout: 40_000 });
  await page.reload();
  await expect(count(page, 'onCalm')).toHaveText('3');
  const edits = await server.get(`/api/projects/${id}/edits?after=1`);
  expect((edits.body as { kind: string }[]).map((e) => e.kind)).toEqual(['edit', 'edit', 'undo', 'edit']);
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
  await expect(page.getByText('no server: 1 edit waiting')).toBeVisible();
  await addRelease(page, 'brake-2');
  await expect(count(page, 'onCalm')).toHaveText('3');
  // Loading the window anew is asked about, since edits wait; it is done all the same.
  page.on('dialog', (dialog) => void dialog.accept());
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
