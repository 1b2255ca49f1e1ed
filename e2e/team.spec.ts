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
  test.setTimeout(120_000);
  const server = await startServer(await newDatabase(), { OQUEL_TEAM: '1' });
  try {
    await team(browser, server);
  } finally {
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
