import type { Locator, Page } from '@playwright/test';
import { expect, openMast, saved, test, type Demo } from './fixtures.js';
import { expectNoBarriers } from './barriers.js';

async function openBuilds(page: Page, demo: Demo): Promise<void> {
  await page.goto(demo.url('builds'));
  await page.getByText(/Gate:/).waitFor();
}
async function freeze(page: Page, name: string): Promise<void> {
  await page.getByLabel('Name of the build').fill(name);
  await page.getByRole('button', { name: 'Freeze' }).click();
  await expect(page.getByRole('region', { name: `Build ${name}` })).toBeVisible();
}
const lines = (page: Page): Locator => page.locator('.changeline');
async function removeBinding(page: Page, demo: Demo, binding: string): Promise<void> {
  await openMast(page, demo);
  await page.locator(`[data-binding="${binding}"] .said`).focus();
  await page.keyboard.press('Delete');
  await saved(page);
}

test('the demo has two builds, compared with one another and with now as sentences', async ({
  page,
  server,
}) => {
  const projects = (await server.get('/api/projects')).body as { id: string; createdAt: string }[];
  const [oldest] = projects.sort((a, b) => (a.createdAt < b.createdAt ? -1 : 1));
  await page.goto(`${server.url}/p/${oldest.id}/builds`);
  const rows = page.getByRole('list', { name: 'Builds, the newest first' }).getByRole('button');
  await expect(rows).toHaveCount(2);
  await expect(rows.first()).toContainText('Storm test');
  await expect(rows.first()).toContainText('approved by Aila against the gate');
  const head = page.getByRole('region', { name: 'Build Storm test' });
  await expect(head).toContainText('Aila rejected it');
  await expect(head).toContainText('waived by Ines');
  await expect(page.getByText('From Storm test to now')).toBeVisible();
  await page.getByLabel('Only those').selectOption('renamed');
  await expect(lines(page).filter({ hasText: 'event onStopLine is now onHalt' })).toContainText(
    '11 bindings carried along',
  );
  await page.getByLabel('Only those').selectOption('');
  await expect(page.getByRole('button', { name: 'bindings: 12 new, 2 changed, 2 moved' })).toBeVisible();
  await expect(lines(page).filter({ hasText: 'horn-1.hush after 5s' })).toContainText(
    'was: when horn-1.onSounded do horn-7.hush after 5s',
  );
  await expect(page.getByRole('list', { name: 'From build to build' }).getByRole('listitem')).toHaveText([
    'First ride: 12 errors, 31 warnings, 28 notes; 145 bindings, a longest chain of 7 hops, 1 cycle',
    /^Storm test: 16 errors, 46 warnings, 16 notes; 197 bindings/,
    /^now: 19 errors, 54 warnings, 14 notes; 209 bindings/,
  ]);
  await page.getByRole('tab', { name: /Findings 13 new, 4 gone/ }).click();
  await expect(lines(page).filter({ hasText: 'has no action "armed"' })).toContainText('new');

  await page.getByRole('tab', { name: /Changes/ }).click();
  await page.getByLabel('Compared with').selectOption({ index: 1 });
  await expect(page.getByText('From First ride to Storm test')).toBeVisible();
  await expect(lines(page).filter({ hasText: 'channel crewCall is now crewAlert' })).toContainText(
    'carried along',
  );
  await page.getByLabel('Only those').selectOption('changed');
  await expect(lines(page)).toHaveCount(1);
  await expect(lines(page)).toContainText('policy maxChain: 6');
  // The address holds what is compared.
  await page.reload();
  await expect(page.getByText('From First ride to Storm test')).toBeVisible();
  await expect(lines(page)).toHaveCount(1);
});

test('a build is frozen, changed away from, compared and gone back to; that is undone like an edit', async ({
  page,
  demo,
}) => {
  await openBuilds(page, demo);
  await expect(page.getByText('No build has been frozen yet.')).toBeVisible();
  await freeze(page, 'week 1');
  await expect(page.getByText('No differences.')).toBeVisible();
  const before = await demo.document();
  await removeBinding(page, demo, 'gust-2b');
  await page.getByRole('link', { name: 'Builds' }).click();
  await expect(lines(page)).toHaveCount(1);
  await expect(lines(page)).toContainText('gone');
  await expect(lines(page)).toContainText('when mast-2.onGust do');
  await page.getByRole('button', { name: 'Restore this build' }).click();
  await expect(page.getByText('No differences.')).toBeVisible();
  await saved(page);
  expect(await demo.document()).toEqual(before);
  await page.getByRole('button', { name: 'Restore this build' }).click();
  await expect(page.getByText('the project is like that already')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(lines(page)).toHaveCount(1);
});

test('somebody lets a build through, against the gate only with a reason; others see it at once', async ({
  page,
  demo,
  context,
}) => {
  await openBuilds(page, demo);
  await freeze(page, 'week 1');
  const other = await context.newPage();
  await openBuilds(other, demo);
  const head = page.getByRole('region', { name: 'Build week 1' });
  await head.getByRole('button', { name: 'Approve' }).click();
  await expect(head.getByRole('alert')).toContainText('say why it is let through nevertheless');
  await head.getByLabel('Reason').fill('for the ride of Friday');
  await head.getByRole('button', { name: 'Approve' }).click();
  await expect(head.getByRole('listitem').first()).toContainText('approved it');
  await expect(other.getByRole('region', { name: 'Build week 1' })).toContainText('for the ride of Friday');

  await page.getByLabel('Name of the build').fill('week 1');
  await page.getByRole('button', { name: 'Freeze' }).click();
  await expect(page.getByRole('alert')).toContainText('there is a build called "week 1" already');
});

test('a document is put in as a build, or refused with the place where it is broken', async ({
  page,
  demo,
}) => {
  await openBuilds(page, demo);
  const choose = async (text: string): Promise<void> => {
    await page.getByLabel('Name of the build').fill('from elsewhere');
    await page
      .getByLabel('A document as a build')
      .setInputFiles({ name: 'x.json', mimeType: 'application/json', buffer: Buffer.from(text) });
  };
  await choose('{"format":"oquel.project/1","name":"x","assets":[{"id":"a","kind":"room"}]}');
  await expect(page.getByRole('alert')).toContainText('/assets/0/kind');
  const document = (await demo.document()) as { assets: { bindings?: object[] }[] };
  document.assets[0].bindings!.pop();
  await choose(JSON.stringify(document));
  await expect(page.getByRole('region', { name: 'Build from elsewhere' })).toContainText('imported by');
  await expect(lines(page)).toHaveCount(1);
  await expect(lines(page)).toContainText('new');
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Save the document' }).click();
  expect((await download).suggestedFilename()).toBe('from elsewhere.oquel.json');
});

test('the audit shows what is new since a build', async ({ page, demo, server }) => {
  await openBuilds(page, demo);
  await freeze(page, 'week 1');
  await page.getByRole('link', { name: 'New since then, in Audit' }).click();
  await expect(page.getByText('0 findings new')).toBeVisible();
  const item = {
    id: 'to-nobody',
    from: { at: 'mast-2', event: 'onGust' },
    to: { at: 'horn-99', action: 'sound' },
  };
  await server.post(`/api/projects/${demo.id}/edits`, {
    base: 1,
    who: 'Tomas',
    label: 'wired horn-99',
    changes: [{ op: 'insert', list: 'bindings', asset: 'pylon-ridge', index: 0, item }],
  });
  await expect(page.getByText(/[1-9]\d* findings? new/)).toBeVisible();
  await page.goto(demo.url('audit'));
  await page.getByLabel('New since').selectOption('week 1');
  await expect(page.getByText(/[1-9]\d* findings? new/)).toBeVisible();
  await page.getByRole('button', { name: 'Show all' }).click();
  await expect(page.getByLabel('New since')).toBeVisible();
  await page.goto(demo.url('audit?since=nothing'));
  await expect(page.getByRole('alert')).toContainText('There is no such build.');
});

test('no barrier that axe can find in Builds, on either ground', async ({ page, server }) => {
  const projects = (await server.get('/api/projects')).body as { id: string; createdAt: string }[];
  const [oldest] = projects.sort((a, b) => (a.createdAt < b.createdAt ? -1 : 1));
  for (const query of ['', '?show=findings']) {
    await page.goto(`${server.url}/p/${oldest.id}/builds${query}`);
    await lines(page).first().waitFor();
    await expectNoBarriers(page);
  }
});
