import { expect, saved, test, type Demo } from './fixtures.js';
import type { TestServer } from '../apps/server/test/harness.js';
import type { Page } from '@playwright/test';

/** Questions that somebody has who comes back after a month, each answered without leaving the application. */
async function open(page: Page, demo: Demo, view: string): Promise<void> {
  await page.goto(demo.url(view));
  await page.getByText(/Gate:/).waitFor();
}

test('what event is where, who raises it, who hears it', async ({ page, demo }) => {
  await open(page, demo, 'wire');
  await page.keyboard.press('Control+k');
  await page.keyboard.type('overload');
  await expect(page.getByRole('option').filter({ hasText: 'RopeGauge' }).first()).toContainText('onOverload');
  await page.keyboard.press('Escape');
  await open(page, demo, 'catalogue?entry=event%3ARopeGauge%2FonOverload');
  const panel = page.getByRole('article', { name: 'event RopeGauge onOverload' });
  await expect(panel).toContainText('Cause: the game’s code');
  await expect(panel).toContainText(/Listeners [1-9]/);
  await expect(panel).toContainText('controller-east');
});

test('what would break if it is renamed, carries something else, or its object is taken off', async ({
  page,
  demo,
}) => {
  await open(page, demo, 'catalogue?entry=event%3ARopeGauge%2FonOverload');
  await page.getByLabel('Name of the event').fill('onTooTight');
  await page.getByLabel('Name of the event').press('Enter');
  const look = page.getByRole('dialog');
  await expect(look).toContainText('used in 7 places');
  await expect(look).toContainText('No finding would change.');
  await look.getByRole('button', { name: 'Cancel' }).click();
  await page.getByLabel('Payload').fill('');
  await page.getByLabel('Payload').press('Enter');
  await expect(look.locator('.fault').first()).toContainText('new: ');
  await look.getByRole('button', { name: 'Cancel' }).click();
  await open(page, demo, 'plan?scope=valley-station&chosen=gauge-1');
  await page.getByRole('button', { name: 'Remove' }).click();
  await expect(page.getByText(/new error/)).toBeVisible();
  await expect(page.getByText(/gauge-1\.onOverload/).first()).toBeVisible();
  expect((await demo.document()).assets[0].bindings!.some((b) => b.id === 'overload-east')).toBe(true);
});

test('who talks to whom across scenes, and what has happened since', async ({ page, demo, server }) => {
  await open(page, demo, 'crossings');
  await expect(page.getByText(/cross/).first()).toBeVisible();
  await open(page, demo, 'builds');
  await page.getByLabel('Name of the build').fill('before the break');
  await page.getByRole('button', { name: 'Freeze' }).click();
  await expect(page.getByText('No differences.')).toBeVisible();
  await server.post(`/api/projects/${demo.id}/edits`, {
    base: 1,
    who: 'Tomas',
    label: 'halt-east: waits',
    changes: [
      {
        op: 'replace',
        list: 'bindings',
        asset: 'valley-station',
        id: 'halt-east',
        item: {
          id: 'halt-east',
          from: { at: 'controller-east', event: 'onHalt' },
          to: { at: 'winch-1', action: 'stop' },
          delay: 3,
        },
      },
    ],
  });
  await expect(page.locator('.changeline')).toContainText('do winch-1.stop after 3s');
  await page.getByRole('button', { name: 'History' }).click();
  await expect(page.getByRole('dialog', { name: 'History' }).getByRole('listitem')).toContainText('Tomas');
});

async function withFortyUses(server: TestServer, demo: Demo): Promise<void> {
  const changes = Array.from({ length: 40 }, (_, i) => ({
    op: 'insert',
    list: 'bindings',
    asset: 'pylon-ridge',
    index: 1e6,
    item: {
      id: `forty-${i}`,
      from: { at: 'mast-2', event: 'onIcedUp' },
      to: { at: `brake-${1 + (i % 2)}`, action: i % 4 < 2 ? 'engage' : 'release' },
      ...(i % 4 < 2 ? { args: { force: { payload: 'depth' } } } : {}),
    },
  }));
  const { status } = await server.post(`/api/projects/${demo.id}/edits`, {
    base: 1,
    who: 'Ines',
    label: 'wired the ice',
    changes,
  });
  expect(status).toBe(201);
}

test('an event with forty uses is renamed everywhere by one edit, and undone by one', async ({
  page,
  demo,
  server,
}) => {
  await withFortyUses(server, demo);
  const before = await demo.document();
  await open(page, demo, 'catalogue?entry=event%3AWindMast%2FonIcedUp');
  const uses = JSON.stringify(before).split('"event":"onIcedUp"').length - 1;
  expect(uses).toBeGreaterThanOrEqual(40);
  await page.getByLabel('Name of the event').fill('onFrozen');
  await page.getByLabel('Name of the event').press('Enter');
  await expect(page.getByRole('dialog')).toContainText(/used in \d+ places/);
  await expect(page.getByRole('dialog')).toContainText('No finding would change.');
  await page.getByRole('button', { name: 'Apply' }).click();
  await expect(page.getByRole('article', { name: 'event WindMast onFrozen' })).toContainText(
    `Listeners ${uses}`,
  );
  await saved(page);
  const renamed = JSON.stringify(await demo.document());
  expect(renamed).not.toContain('onIcedUp');
  expect(renamed.split('"event":"onFrozen"').length - 1).toBe(uses);
  await page.keyboard.press('Control+z');
  await saved(page);
  expect(await demo.document()).toEqual(before);
});
