import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import type { TestServer } from '../apps/server/test/harness.js';
import { expect, saved, strip, test } from './fixtures.js';
import { harbour, scene } from './harbour.js';

const MILL = readFileSync(new URL('./games/mill.txt', import.meta.url), 'utf8');

async function newYard(page: Page, server: TestServer, name: string): Promise<{ id: string; base: string }> {
  await page.goto(server.url);
  await page.getByRole('button', { name: 'New project' }).click();
  await page.keyboard.type(name);
  await page.keyboard.press('Enter');
  await page.getByLabel('First scene').waitFor();
  await page.keyboard.type('yard');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Scope')).toHaveValue('yard');
  await saved(page);
  const id = new URL(page.url()).pathname.split('/')[2];
  return { id, base: `${server.url}/p/${id}` };
}
/** As if it came from the clipboard, wherever the focus is. */
async function paste(page: Page, text: string): Promise<void> {
  await page.evaluate((t) => {
    const clipboardData = new DataTransfer();
    clipboardData.setData('text', t);
    const at = document.activeElement ?? document.body;
    at.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }));
  }, text);
}
function panel(page: Page): ReturnType<Page['getByRole']> {
  return page.getByRole('dialog', { name: 'Pasted lines' });
}

test('fifty lines in an empty scene: one paste, one Enter, and it is placed, wired and audited; one undo takes all away', async ({
  page,
  server,
}) => {
  const { id, base } = await newYard(page, server, 'Mill');
  await page.goto(`${base}/wire?scope=yard`);
  await page.getByPlaceholder(/^when mast-2/).waitFor();
  await paste(page, MILL);
  await expect(panel(page).getByRole('button', { name: /^Add 50 bindings and \d+ more/ })).toBeFocused();
  await expect(panel(page)).toContainText('No new findings.');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/Wire: plate-1 in yard/);
  await expect(page.getByText('Gate: passed')).toBeVisible();
  await saved(page);
  const yard = await scene(server, id, 'yard');
  expect(yard.bindings).toHaveLength(50);
  expect(yard.placements).toHaveLength(28);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await saved(page);
  const before = await scene(server, id, 'yard');
  expect([before.bindings ?? [], before.placements ?? []]).toEqual([[], []]);
  expect(await scene(server, id, 'Plate')).toBeUndefined();
});

test('a line that is typed makes what it names; what is made can be said otherwise first', async ({
  page,
  server,
}) => {
  const { id, base } = await harbour(page, server, 'Typed');
  const wire = page.getByPlaceholder(/^when mast-2/);
  await wire.fill('when bell-1.onRung do lamp-1.light(colour = "red") once');
  await page
    .getByRole('button', { name: 'Enter adds it and creates lamp-1, the prefab Lamp and light' })
    .waitFor();
  await wire.press('Enter');
  await expect(wire).toHaveValue('');
  await expect(strip(page, 'onRung')).toContainText('lamp-1 light');
  await saved(page);
  expect((await scene(server, id, 'Lamp')) as unknown).toMatchObject({
    actions: [{ name: 'light', params: [{ name: 'colour', type: 'string' }] }],
  });
  // Said otherwise: in the panel, where many lines are pasted.
  await wire.blur();
  await paste(page, 'when bell-1.onTolled do lamp-2.blink\nwhen lamp-2.onFaded do #night(by = sender)');
  await panel(page).getByLabel('How onFaded is created').fill('event onFaded every');
  await panel(page).getByLabel('How onFaded is created').press('Enter');
  await expect(panel(page).locator('[data-need="event:Lamp/onFaded"]')).toContainText('at character');
  await expect(panel(page).getByRole('button', { name: /^Add 2/ })).toBeDisabled();
  await panel(page).getByLabel('How onFaded is created').fill('event onFaded every 5s');
  await panel(page).getByLabel('How onFaded is created').press('Enter');
  await panel(page)
    .getByRole('button', { name: /^Add 2 bindings/ })
    .click();
  await saved(page);
  expect((await scene(server, id, 'Lamp')) as unknown).toMatchObject({
    events: [{ name: 'onFaded', cause: { type: 'timer', every: 5 } }],
  });
  await page.goto(`${base}/catalogue?entry=channel%3Anight`);
  await expect(page.getByLabel('Payload')).toHaveValue('by: instance');
});

test('a name that looks misspelt is asked about, and nothing of it is made', async ({ page, server }) => {
  const { id } = await harbour(page, server, 'Slips');
  const wire = page.getByPlaceholder(/^when mast-2/);
  await wire.fill('when bell-1.onRang do gaet-2.open');
  await expect(
    page.getByText('onRang does not exist. Did you mean onRung? Enter lets you decide'),
  ).toBeVisible();
  await wire.press('Enter');
  const asked = panel(page).locator('[data-need="event:Bell/onRang"]');
  await expect(asked).toContainText('onRang does not exist. Did you mean');
  await expect(panel(page)).toContainText('2 names need a decision');
  await asked.getByRole('button', { name: 'onRung' }).click();
  await panel(page).locator('[data-need="placement:gaet-2"]').getByRole('button', { name: 'gate-2' }).click();
  await panel(page).getByRole('button', { name: 'Add 1 binding and 1 more' }).click();
  await expect(strip(page, 'onRung')).toContainText('gate-2 open');
  await saved(page);
  const quay = await scene(server, id, 'quay');
  expect(quay.placements!.map((p) => p.id)).toEqual(['bell-1', 'gate-1', 'gate-2']);
});

test('the finder declares an action, and leads on to a receiver that is not there', async ({
  page,
  server,
}) => {
  const { id } = await harbour(page, server, 'Finder');
  await strip(page, 'onRung').getByRole('button', { name: 'Add a receiver' }).click();
  const find = page.getByLabel('Find receivers');
  await find.fill('gate-1');
  await find.press('Enter');
  const line = page.getByLabel('Declare an action and wire it');
  await line.fill('shake(by: number)');
  await line.press('Enter');
  await expect(page.getByRole('alert')).toContainText('expected');
  await line.fill('shake(by?: float)');
  await line.press('Enter');
  await expect(strip(page, 'onRung')).toContainText('gate-1 shake');
  await saved(page);
  expect((await scene(server, id, 'Gate')) as unknown).toMatchObject({
    actions: [
      { name: 'open' },
      { name: 'shut' },
      { name: 'shake', params: [{ name: 'by', optional: true }] },
    ],
  });
  await strip(page, 'onRung').getByRole('button', { name: 'Add a receiver' }).click();
  await find.fill('buoy-1');
  await find.press('Enter');
  const wire = page.getByPlaceholder(/^when mast-2/);
  await expect(wire).toHaveValue('when bell-1.onRung do buoy-1.');
  await page.keyboard.type('sway');
  await page.keyboard.press('Enter');
  await expect(strip(page, 'onRung')).toContainText('buoy-1 sway');
});

test('what dangles is made where it is reported', async ({ page, server }) => {
  const { id, base } = await harbour(page, server, 'TriedFix');
  await page.goto(`${base}/wire?scope=quay&at=bell-1`);
  await page.getByPlaceholder(/^when mast-2/).waitFor();
  await paste(page, 'when bell-1.onRung do mast-1.bend');
  await panel(page)
    .getByLabel(/Create what is missing/)
    .uncheck();
  await panel(page).getByLabel('Add line 1').check();
  await panel(page).getByRole('button', { name: 'Add 1 binding' }).click();
  const sentence = strip(page, 'onRung').locator('.sentence', { hasText: 'mast-1' });
  await expect(sentence).toContainText('"mast-1" is not in quay');
  await sentence.getByRole('button', { name: 'Fix', exact: true }).click();
  await sentence.getByRole('button', { name: /^Create mast-1/ }).click();
  await expect(sentence).not.toContainText('is not in quay');
  await saved(page);
  expect((await scene(server, id, 'quay')).placements!.map((p) => p.id)).toContain('mast-1');
});
