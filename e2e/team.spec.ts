import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Browser, Page } from '@playwright/test';
import { newDatabase, type TestServer } from '../apps/server/test/harness.js';
import { expectNoBarriers } from './barriers.js';
import { expect, saved, startServer, test } from './fixtures.js';
import { harbour } from './harbour.js';

/** Somebody with a browser of their own. */
async function browserOf(browser: Browser): Promise<Page> {
  return (await browser.newContext()).newPage();
}
async function join(page: Page, link: string, name: string): Promise<void> {
  await page.goto(link);
  await page.getByLabel('Your name').fill(name);
  await page.getByLabel('Sign-in name').fill(name.toLowerCase().replace(' ', '.'));
  await page.getByRole('textbox', { name: 'Password' }).fill(`the gorge of ${name} is deep`);
  await page.getByRole('button', { name: 'Join' }).click();
  await page.getByRole('button', { name: 'New project' }).waitFor();
}
/** The link that is shown once. */
async function linkShown(page: Page, who: string): Promise<string> {
  return page.getByLabel(`The link for ${who}.`).inputValue();
}
/** Every action of a team, from the first start on a database without anything. */
test('a team from nothing: joins, is given roles, and whoever is removed is out at once', async ({
  browser,
}) => {
  test.setTimeout(360_000);
  const server = await startServer(await newDatabase(), { OQUEL_TEAM: '1' });
  try {
    await team(browser, server);
  } finally {
    await server.stop();
  }
});

/** What somebody did while the server was away, in a browser that several people use. */
test('edits that wait in the browser are sent by nobody but whoever made them', async ({ browser }) => {
  const databaseUrl = await newDatabase();
  let server = await startServer(databaseUrl, { OQUEL_TEAM: '1' });
  const { port } = new URL(server.url);
  try {
    const page = await browserOf(browser);
    await join(page, `${server.url}/join#${await server.printed(/\/join#(\S+)/)}`, 'Ada Chief');
    const { id, base } = await harbour(page, server, 'Shared harbour');
    const invited = await page.request.post(`${server.url}/api/projects/${id}/invitations`, {
      data: { note: 'Bo', role: 'designer' },
    });
    const { secret } = (await invited.json()) as { secret: string };
    await page.goto(`${base}/wire?scope=quay&at=bell-1`);
    await page.getByText(/Gate:/).waitFor();
    await server.stop();
    const line = page.getByPlaceholder(/^when mast-2/);
    await line.fill('when bell-1.onRung do gate-1.open after 5s');
    await line.press('Enter');
    await expect(page.getByText(/1 edit waiting/)).toBeVisible();
    await page.goto('about:blank');

    server = await startServer(databaseUrl, { OQUEL_TEAM: '1', PORT: port });
    await page.goto(`${server.url}/account`);
    await page.getByRole('button', { name: 'Sign out' }).click();
    await page.getByLabel('Sign-in name').waitFor();
    await join(page, `${server.url}/join#${secret}`, 'Bo Baker');
    await page.goto(`${base}/wire?scope=quay&at=bell-1`);
    await page.getByText(/Gate:/).waitFor();
    await saved(page);
    await expect(page.getByText(/after 5s/)).toHaveCount(0);
    await page.goto(`${server.url}/account`);
    await page.getByRole('button', { name: 'Sign out' }).click();
    await page.getByLabel('Sign-in name').fill('ada.chief');
    await page.getByLabel('Password').fill('the gorge of Ada Chief is deep');
    await page.keyboard.press('Enter');
    await page.getByRole('link', { name: 'Shared harbour' }).waitFor();
    await page.goto(`${base}/wire?scope=quay&at=bell-1`);
    await expect(page.getByText(/after 5s/).first()).toBeVisible();
    await saved(page);
    const { edits } = (await (
      await page.request.get(`${server.url}/api/projects/${id}/edits?after=1`)
    ).json()) as { edits: { who: string }[] };
    expect(edits.at(-1)?.who).toBe('Ada Chief');
  } finally {
    await server.stop();
  }
});

/** A page of another site, which wants to have something done with the cookie of whoever opens it. */
test('a page of another site has nothing done, and reads nothing, with the cookie of whoever opens it', async ({
  browser,
}) => {
  const server = await startServer(await newDatabase(), { OQUEL_TEAM: '1' });
  const foreign = createServer((_request, response) => {
    response.writeHead(200, { 'Content-Type': 'text/html' });
    response.end(
      `<form method="post" enctype="text/plain" action="${server.url}/api/projects"><input name='{"format":"oquel.project/1","name":"By a form","assets":[],"note":"' value='"}'></form>`,
    );
  });
  try {
    const page = await browserOf(browser);
    await join(page, `${server.url}/join#${await server.printed(/\/join#(\S+)/)}`, 'Ada Chief');
    const projects = async (): Promise<string[]> =>
      ((await (await page.request.get(`${server.url}/api/projects`)).json()) as { name: string }[]).map(
        (p) => p.name,
      );
    expect(await projects()).toEqual([]);
    await new Promise<void>((resolve) => foreign.listen(0, '127.0.0.1', resolve));
    const { port } = foreign.address() as AddressInfo;
    const other = await page.context().newPage();
    await other.goto(`http://localhost:${port}/`);
    const tried = await other.evaluate(async (url) => {
      const body = JSON.stringify({ format: 'oquel.project/1', name: 'By a script', assets: [] });
      const send = (init: RequestInit): Promise<string> =>
        fetch(`${url}/api/projects`, { credentials: 'include', ...init }).then(
          async (r) => `read: ${await r.text()}`,
          () => 'nothing was read',
        );
      return [
        await send({}),
        await send({ method: 'POST', body, headers: { 'Content-Type': 'application/json' } }),
        await send({ method: 'POST', body, headers: { 'Content-Type': 'text/plain' }, mode: 'no-cors' }),
      ];
    }, server.url);
    expect(tried.slice(0, 2)).toEqual(['nothing was read', 'nothing was read']);
    await other.locator('form').evaluate((form: HTMLFormElement) => form.submit());
    await other.waitForURL(/api\/projects/);
    expect(await projects()).toEqual([]);
    // The page itself was signed in all the while.
    await page.getByRole('link', { name: 'Ada Chief' }).waitFor();
  } finally {
    foreign.close();
    await server.stop();
  }
});

async function team(browser: Browser, server: TestServer): Promise<void> {
  const lead = await browserOf(browser);
  await lead.goto(server.url);
  await expect(lead.getByRole('button', { name: 'Sign in' })).toBeDisabled();
  await expectNoBarriers(lead);
  await lead.getByLabel('Sign-in name').fill('nobody');
  await lead.getByLabel('Password').fill('nothing at all');
  await lead.keyboard.press('Enter');
  await expect(lead.getByRole('alert')).toHaveText('The name or the password is wrong.');
  await join(lead, `${server.url}/join#${await server.printed(/\/join#(\S+)/)}`, 'Ada Chief');
  const { id, base } = await harbour(lead, server, 'Team harbour');

  // People are invited by a lead, with a role.
  await lead.locator('button.person').click();
  await lead.getByRole('link', { name: 'People and tokens of this project' }).click();
  const invite = lead.getByRole('form', { name: 'Invite' });
  await invite.getByLabel('Whom it is for').fill('Rae');
  await invite.getByLabel('Role offered').selectOption('reader');
  await invite.getByRole('button', { name: 'Make a link' }).click();
  const link = await linkShown(lead, 'Rae');
  await expectNoBarriers(lead);

  // A reader sees edits, and makes none.
  const rae = await browserOf(browser);
  await join(rae, link, 'Rae Reader');
  await rae.goto(`${base}/wire?scope=quay&at=bell-1`);
  await rae.getByText(/Gate:/).waitFor();
  await expect(rae.getByText('reader', { exact: true })).toBeVisible();
  await lead.goto(`${base}/wire?scope=quay&at=bell-1`);
  const line = (page: Page): ReturnType<Page['getByPlaceholder']> => page.getByPlaceholder(/^when mast-2/);
  await line(lead).fill('when bell-1.onRung do gate-1.open after 3s');
  await line(lead).press('Enter');
  await saved(lead);
  await expect(rae.getByText(/after 3s/).first()).toBeVisible();
  await line(rae).fill('when bell-1.onRung do gate-1.open after 9s');
  await line(rae).press('Enter');
  await expect(rae.getByText(/You are a reader of this project/)).toBeVisible();
  await expect(rae.getByText(/after 9s/)).toHaveCount(0);

  // Made a designer, she edits in the window that is open.
  await lead.goto(`${base}/team`);
  await lead.getByLabel('Role of Rae Reader').selectOption('designer');
  await expect(rae.getByText('reader', { exact: true })).toHaveCount(0);
  await line(rae).fill('when bell-1.onRung do gate-1.open after 7s');
  await line(rae).press('Enter');
  await saved(rae);
  const { edits } = (await lead.request
    .get(`${server.url}/api/projects/${id}/edits?after=1`)
    .then((r) => r.json())) as {
    edits: { who: string }[];
  };
  expect(edits.at(-1)?.who).toBe('Rae Reader');

  // She proposes to waive a finding; the lead accepts, and signs with that.
  await line(rae).fill('when bell-1.onRung do gate-1.open once');
  await line(rae).press('Enter');
  await saved(rae);
  await rae.goto(`${base}/audit`);
  const doubled = /duplicate|same/i;
  await rae.getByRole('button', { name: doubled }).first().click();
  await rae.getByLabel('Why it is waived').fill('one of them goes later');
  await rae.getByRole('button', { name: 'Propose to waive' }).click();
  await expect(rae.getByText('Rae Reader proposes to waive it: “one of them goes later”')).toBeVisible();
  await expect(rae.getByRole('button', { name: 'Accept' })).toHaveCount(0);
  await saved(rae);
  await lead.goto(rae.url());
  await lead.getByRole('button', { name: 'Accept' }).click();
  await expect(
    lead.getByText(/Waived by Ada Chief: “one of them goes later \(proposed by Rae Reader\)”/),
  ).toBeVisible();

  // Without a role the window is empty within a second, and the project is in no list.
  await lead.goto(`${base}/team`);
  await lead.getByRole('button', { name: 'Take the role away' }).first().waitFor();
  const row = lead.getByRole('row', { name: /Rae Reader/ });
  await row.getByRole('button', { name: 'Take the role away' }).click();
  await expect(rae.getByText('You have no role in this project')).toBeVisible({ timeout: 2000 });
  await expect(rae.locator('.thing')).toHaveCount(0);
  await rae.goto(server.url);
  await expect(rae.getByText('Team harbour')).toHaveCount(0);

  // A token is shown once, and revoked.
  await lead.getByLabel('Name of the token').fill('build server');
  await lead.getByRole('button', { name: 'Make a token' }).click();
  const token = await lead.getByLabel('The token build server.').inputValue();
  const headers = { Authorization: `Bearer ${token}` };
  const gate = `${server.url}/api/projects/${id}/gate`;
  expect((await fetch(gate, { headers })).status).toBe(200);
  await lead.getByRole('button', { name: 'Done' }).click();
  await expect(lead.getByText(token)).toHaveCount(0);
  await lead.getByRole('button', { name: 'Revoke' }).click();
  await expect(lead.getByText('No token yet.')).toBeVisible();
  expect((await fetch(gate, { headers })).status).toBe(401);

  // The administrator ends the account; its window asks to sign in.
  await lead.goto(`${server.url}/people`);
  await expectNoBarriers(lead);
  await lead
    .getByRole('row', { name: /Rae Reader/ })
    .getByRole('button', { name: 'End the account' })
    .click();
  await expect(lead.getByText('account ended')).toBeVisible();
  await rae.goto(`${server.url}/account`);
  await expect(rae.getByRole('button', { name: 'Sign in' })).toBeVisible();

  // One's own account: another password, and out.
  await lead.goto(`${server.url}/account`);
  await expectNoBarriers(lead);
  await lead.getByRole('textbox', { name: 'The one until now' }).fill('the gorge of Ada Chief is deep');
  await lead.getByRole('textbox', { name: 'The new one' }).fill('short');
  await lead.keyboard.press('Enter');
  await expect(lead.getByRole('alert')).toContainText('fewer than 12 characters');
  await lead.getByRole('textbox', { name: 'The new one' }).fill('a ropeway in the snow');
  await lead.keyboard.press('Enter');
  await expect(lead.getByRole('status')).toContainText('The password is changed');
  await lead.getByRole('button', { name: 'Sign out' }).click();
  await lead.getByLabel('Sign-in name').fill('ada.chief');
  await lead.getByLabel('Password').fill('a ropeway in the snow');
  await lead.keyboard.press('Enter');
  await expect(lead.getByText('Team harbour')).toBeVisible();
  await lead.getByRole('link', { name: 'Ada Chief' }).waitFor();
}
