import pg from 'pg';
import { newDatabase } from '../apps/server/test/harness.js';
import { expectNoBarriers } from './barriers.js';
import { expect, saved, startServer, test } from './fixtures.js';
import { harbour } from './harbour.js';

/** Begun from nothing: edits and builds are made in the interface, and only their age is made up. */
test('old history and builds go when it is confirmed, and what stays is said before', async ({ page }) => {
  const databaseUrl = await newDatabase();
  const server = await startServer(databaseUrl);
  const client = new pg.Client({ connectionString: databaseUrl });
  await client.connect();
  try {
    await page.goto(`${server.url}/retention`);
    await expect(page.getByText('There is no project yet.')).toBeVisible();
    const { id, base } = await harbour(page, server, 'Old harbour');
    for (const name of ['spring', 'summer', 'autumn'])
      await server.post(`/api/projects/${id}/builds`, { base: await version(), name, who: 'mira' });
    await client.query("update builds set at = at - interval '400 days' where name <> 'autumn'");
    await client.query(`insert into edits (project_id, version, kind, state, label, who, at, changes, inverse)
      select project_id, n - 400, 'edit', 'done', 'long ago', 'jon', now() - interval '500 days', '[]', '[]'
      from edits, generate_series(1, 150) n where version = 2`);

    await page.goto(server.url);
    await page.getByRole('button', { name: /^Bin/ }).click();
    await page.getByRole('link', { name: 'Remove old history and builds' }).click();
    const row = page.getByRole('row', { name: /Old harbour/ });
    await expect(row.getByRole('cell').nth(3)).toHaveText('2');
    await expectNoBarriers(page);
    await page.getByLabel('Remove builds after').fill('3');
    await expect(page.getByText('a whole number of days from 7 to 3650')).toBeVisible();
    await expect(page.getByRole('button', { name: /^Remove/ })).toHaveCount(0);
    await page.getByLabel('Remove builds after').fill('');
    await expect(page.getByText('Stays: all of it.')).toBeVisible();
    await page.getByLabel('Remove builds after').fill('365');

    const ask = page.getByRole('button', { name: 'Remove 150 edits and 2 builds' });
    await ask.click();
    await page.getByRole('button', { name: 'Keep them' }).click();
    await ask.focus();
    await page.keyboard.press('Enter');
    await expect(page.getByText('This cannot be undone.')).toBeVisible();
    await page.keyboard.press('Enter');
    await expect(page.getByRole('status')).toHaveText(/^150 edits and 2 builds removed/);
    await expect(page.getByText('Nothing is that old.')).toBeVisible();

    // The project is as it was, and goes on.
    await page.goto(`${base}/builds`);
    await expect(page.getByText('autumn').first()).toBeVisible();
    await expect(page.getByText('spring')).toHaveCount(0);
    await page.goto(`${base}/wire?scope=quay&at=bell-1`);
    const line = page.getByPlaceholder(/^when mast-2/);
    await line.fill('when bell-1.onRung do gate-1.open after 3s');
    await line.press('Enter');
    await saved(page);

    async function version(): Promise<number> {
      return ((await server.get(`/api/projects/${id}`)).body as { version: number }).version;
    }
  } finally {
    await client.end();
    await server.stop();
  }
});
