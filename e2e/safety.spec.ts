import { readFileSync } from 'node:fs';
import { newDatabase } from '../apps/server/test/harness.js';
import { DEMO, expect, openMast, saved, startServer, strip, test, thing } from './fixtures.js';
import { expectNoBarriers } from './barriers.js';

test('a broken document is refused with every place where it is broken, and nothing is stored', async ({
  page,
  server,
}) => {
  await page.goto(server.url);
  const rows = page.locator('.projectrow');
  await rows.first().waitFor();
  const before = await rows.count();
  const choose = (name: string, text: string): Promise<void> =>
    page
      .getByLabel('Project document to import')
      .setInputFiles({ name, mimeType: 'application/json', buffer: Buffer.from(text) });
  const broken = JSON.parse(readFileSync(DEMO, 'utf8')) as {
    assets: { bindings: { limit: number; to: object }[] }[];
  };
  broken.assets[0].bindings[2].limit = 0;
  broken.assets[0].bindings[4].to = {};
  await choose('broken.json', JSON.stringify(broken));
  const alert = page.getByRole('alert');
  await expect(alert).toContainText('broken.json was not imported; nothing is stored');
  await expect(alert).toContainText(
    '/assets/0/bindings/2/limit: expected a whole number of at least 1, found 0',
  );
  await expect(alert).toContainText('/assets/0/bindings/4/to');
  await choose('torn.json', '{\n "format": "oquel.project/1",,\n}');
  await expect(alert).toContainText('line 2, column 30');
  await page.reload();
  await rows.first().waitFor();
  expect(await rows.count()).toBe(before);

  await choose('whole.json', JSON.stringify({ format: 'oquel.project/1', name: 'Empty hut', assets: [] }));
  await expect(page.getByText('from whole.json; nothing is stored yet')).toBeVisible();
  expect(((await server.get('/api/projects')).body as unknown[]).length).toBe(before);
  await page.getByRole('button', { name: 'Save as a new project' }).click();
  await expect(page.getByText('the project has no scene')).toBeVisible();
});

test('edits wait while the server is away, and are sent when it is back', async ({ page }) => {
  const databaseUrl = await newDatabase();
  let server = await startServer(databaseUrl, { OQUEL_DEMO: DEMO });
  const port = new URL(server.url).port;
  await page.goto(`${server.url}/`);
  await page.getByRole('link', { name: 'Storm over Veyra' }).click();
  await page.getByRole('navigation', { name: 'Views' }).getByRole('link', { name: 'Wire' }).click();
  await page.waitForURL(/\/wire/);
  await page.locator('.strips').waitFor();
  await page.getByLabel('Scope').selectOption('pylon-ridge');
  await thing(page, 'mast-2').click();
  const calm = strip(page, 'onCalm');
  await expect(calm.locator('.count')).toHaveText('1');
  await server.stop('SIGKILL');
  for (const brake of ['brake-1', 'brake-2']) {
    await calm.getByRole('button', { name: 'Add a receiver' }).click();
    await thing(page, brake).click();
    await page.getByRole('button', { name: /^release/ }).click();
  }
  await expect(calm.locator('.count')).toHaveText('3');
  await expect(page.getByText('server not answering: 2 edits waiting')).toBeVisible();
  server = await startServer(databaseUrl, { PORT: port });
  await saved(page);
  await page.reload();
  await expect(strip(page, 'onCalm').locator('.count')).toHaveText('3');
  await server.stop();
});

test('the audit comes as soon as its program can be loaded, and edits are shown as stored meanwhile', async ({
  page,
  demo,
}) => {
  let away = true;
  await page.route('**/assets/audit.worker*', (route) => (away ? route.abort() : route.continue()));
  await page.goto(demo.url('wire?scope=pylon-ridge&at=mast-2'));
  await expect(page.getByText('Auditing ...')).toBeVisible();
  const calm = strip(page, 'onCalm');
  await calm.getByRole('button', { name: 'Add a receiver' }).click();
  await thing(page, 'brake-1').click();
  await page.getByRole('button', { name: /^release/ }).click();
  await expect(calm.locator('.count')).toHaveText('2');
  await saved(page);
  away = false;
  await expect(page.getByText(/Gate:/)).toBeVisible();
});

test('a part or a view that cannot be loaded takes nothing else away', async ({ page, demo }) => {
  let away = true;
  for (const program of ['found-list', 'ripple-view'])
    await page.route(`**/assets/${program}-*.js`, (route) => (away ? route.abort() : route.continue()));
  await page.goto(demo.url('wire?scope=pylon-ridge&at=mast-2'));
  const calm = strip(page, 'onCalm');
  await calm.getByRole('button', { name: 'Add a receiver' }).click();
  await expect(page.getByText('This part could not be loaded')).toBeVisible();
  // What it would have listed can still be chosen on the plan.
  await thing(page, 'brake-1').click();
  await page.getByRole('button', { name: /^release/ }).click();
  await expect(calm.locator('.count')).toHaveText('2');
  await calm.getByRole('button', { name: 'Add a receiver' }).click();
  await expect(page.getByText('This part could not be loaded')).toBeVisible();
  const views = page.getByRole('navigation', { name: 'Views' });
  await views.getByRole('link', { name: 'Ripple' }).click();
  await page.waitForURL(/\/ripple/);
  await expect(page.getByText('This part could not be loaded')).toBeVisible();
  away = false;
  await page.getByRole('button', { name: 'Load the page again' }).click();
  await expect(page.getByRole('group', { name: 'Columns by' })).toBeVisible();
});

test('no barrier that axe can find, on either ground', async ({ page, demo, server }) => {
  test.setTimeout(360_000);
  await page.goto(server.url);
  await page.locator('.projectrow').first().waitFor();
  await expectNoBarriers(page);
  await openMast(page, demo);
  await expectNoBarriers(page);
  await strip(page, 'onGust').getByRole('button', { name: 'Add a receiver' }).click();
  await page.getByRole('option', { name: /brake-2/ }).click();
  await expectNoBarriers(page);
  await page.keyboard.press('Escape');
  await page.keyboard.press('w');
  await page.keyboard.type('br');
  await expect(page.getByRole('listbox', { name: 'What the line can go on with' })).toBeVisible();
  await expectNoBarriers(page);
  await page.goto(demo.url('plan?scope=pylon-ridge&chosen=mast-2,mast-1'));
  await page.getByRole('group', { name: 'Chosen: 2 things' }).waitFor();
  await expectNoBarriers(page);
  await page.getByRole('button', { name: 'Remove' }).click();
  await page.getByText(/new error/).waitFor();
  await expectNoBarriers(page);
  await page.goto(demo.url('audit?rule=relay-cycle'));
  await page.getByRole('article').waitFor();
  await expectNoBarriers(page);
});
