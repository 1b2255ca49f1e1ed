import type { Page } from '@playwright/test';
import { expect, openMast, saved, test } from './fixtures.js';
import { harbour } from './harbour.js';
import { expectNoBarriers } from './barriers.js';

async function walker(page: Page): Promise<[number, number]> {
  const said = await page.locator('[data-walker]').getAttribute('data-walker');
  return said!.split(' ').map(Number) as [number, number];
}
const log = (page: Page): ReturnType<Page['locator']> => page.getByRole('listbox', { name: 'What happened' });

test('a walk from nothing: into an area, back in time, another way, kept as a rehearsal that passes', async ({
  page,
  server,
}) => {
  const { base } = await harbour(page, server, 'Walk');
  // The bell senses whoever comes near, and opens the gate.
  await page.goto(`${base}/plan?scope=Bell`);
  await page.getByLabel('Sensing area of Bell').fill('circle 2');
  await page.keyboard.press('Enter');
  const line = page.getByRole('combobox', { name: 'Add', exact: true });
  await line.fill('onNear when entered');
  await line.press('Enter');
  await expect(line).toHaveValue('');
  await page.goto(`${base}/plan?scope=Gate`);
  await line.fill('isOpen = false');
  await line.press('Enter');
  await expect(line).toHaveValue('');
  await line.fill('open: set isOpen = true');
  await saved(page);
  await page.goto(`${base}/wire?scope=quay&at=bell-1`);
  const wire = page.getByPlaceholder(/^when mast-2/);
  await wire.fill('when bell-1.onNear do gate-1.open after 0.5s');
  await wire.press('Enter');
  await expect(wire).toHaveValue('');
  await saved(page);

  // T leads to a walk that begins just before the area of what is wired.
  await page.locator('.plan .hit').first().focus();
  await page.keyboard.press('t');
  await expect(page.getByRole('button', { name: 'hold time' })).toBeVisible();
  await expect(page.getByText('In no area.')).toBeVisible();
  const before = await walker(page);
  await page.keyboard.down('ArrowUp');
  await expect(page.getByText('In bell-1.')).toBeVisible();
  await page.keyboard.up('ArrowUp');
  expect((await walker(page))[1]).toBeLessThan(before[1]);
  await expect(log(page)).toContainText('quay:bell-1 raises onNear');
  await expect(log(page)).toContainText('quay:gate-1 does open');

  // What is at hand is used by E, and by its button.
  await page.keyboard.press('e');
  await expect(log(page)).toContainText('quay:bell-1 raises onRung');
  await page.getByRole('button', { name: 'use bell-1' }).click();
  const count = log(page).getByRole('option').filter({ hasText: 'raises onRung' });
  await expect(count).toHaveCount(2);

  // Time is held; the thing before is looked at, and from there it goes on another way.
  await page.getByRole('button', { name: 'hold time' }).click();
  await log(page).getByRole('option').filter({ hasText: 'raises onNear' }).click();
  await expect(page.getByText('An earlier moment of')).toBeVisible();
  await expect(page.getByRole('region', { name: 'At the cursor' })).toContainText(
    'quay:bell-1 raises onNear',
  );
  await page.getByRole('button', { name: 'Go on from here' }).click();
  await expect(page.getByText('What was walked after this is set aside.')).toBeVisible();
  await expect(count).toHaveCount(0);
  await page.getByRole('button', { name: 'Bring it back' }).click();
  await expect(count).toHaveCount(2);

  // A state that is seen is expected, and the walk is a rehearsal.
  await page.getByRole('button', { name: /^expect: quay:gate-1 has done open/ }).click();
  await page.getByRole('button', { name: 'Keep this walk' }).click();
  await page.getByRole('link', { name: 'Open “Walk in quay”' }).click();
  await expect(page.locator('.verdictline')).toContainText('Passes');
  await expect(page.locator('[data-step]').filter({ hasText: 'raises onRung' })).toHaveCount(2);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('There is no rehearsal named “Walk in quay”.')).toBeVisible();
});

test('wiring edited meanwhile holds for the walk, which stays where it is', async ({ page, demo }) => {
  await page.goto(demo.url('rehearse/walk?scene=valley-station&at=mat-1'));
  await page.getByText(/Gate:/).waitFor();
  await page.keyboard.down('ArrowUp');
  await expect(page.getByText('In mat-1.')).toBeVisible();
  await page.keyboard.up('ArrowUp');
  await expect(log(page)).toContainText('valley-station:beacon-1 does light');
  await page.getByRole('button', { name: 'hold time' }).click();
  const at = await walker(page);
  // Muted where it is seen.
  await log(page).getByRole('option').filter({ hasText: 'beacon-1 does light' }).first().click();
  await page.getByRole('region', { name: 'At the cursor' }).getByRole('button', { name: 'muted' }).click();
  await expect(page.getByText(/By the edit \d+ records? new, [1-9]\d* gone/)).toBeVisible();
  await page.getByRole('button', { name: 'To the present' }).click();
  await expect(log(page)).not.toContainText('beacon-1 does light');
  // It is still there after a look at Wire.
  await page.getByRole('link', { name: 'Wire', exact: true }).click();
  await page.waitForURL(/\/wire/);
  await page.getByPlaceholder(/^when /).waitFor();
  await page.goBack();
  await expect(page.getByRole('button', { name: 'let time go on' })).toBeVisible();
  expect(await walker(page)).toEqual(at);
});

test('a click on the ground is walked to, who walks decides what admits, and slow motion is slow', async ({
  page,
  demo,
}) => {
  await page.goto(demo.url('rehearse/walk?scene=valley-station'));
  await page.getByText(/Gate:/).waitFor();
  await expect(page.getByLabel('Who walks', { exact: true })).toHaveValue('Rescuer');
  await page.getByLabel('Who walks', { exact: true }).selectOption('nobody in particular');
  await page.getByLabel('Walking speed').fill('30');
  await page.keyboard.press('Enter');
  const mat = page.locator('.thing[data-path="mat-1"] .hit');
  const box = (await mat.boundingBox())!;
  // A corner of its area, beside its mark.
  await page.mouse.click(box.x + box.width / 2 + 12, box.y + box.height / 2 + 12);
  await expect(log(page)).toContainText('mat-1 does not raise onStepped: its filter does not allow');
  await page.getByLabel('Pace of time').selectOption('0.1');
  const now = (): Promise<number> =>
    page
      .getByLabel('Moment')
      .inputValue()
      .then((v) => Number(v));
  const from = await now();
  await page.waitForTimeout(1500);
  const passed = (await now()) - from;
  expect(passed).toBeGreaterThan(0);
  expect(passed).toBeLessThan(700_000);
  // Thing by thing.
  await page.getByRole('button', { name: 'next thing' }).click();
  await expect(page.getByRole('button', { name: 'let time go on' })).toBeVisible();
});

test('a project without scenes leads to the first one; a load set that is not there is said', async ({
  page,
  server,
}) => {
  const id = await server.import({ format: 'oquel.project/1', name: 'No scene', assets: [] });
  await page.goto(`${server.url}/p/${id}/rehearse/walk`);
  await expect(page.getByText('there is nowhere to walk')).toBeVisible();
  await page.getByRole('link', { name: 'Go to Plan to make the first scene' }).click();
  await expect(page.getByLabel('First scene')).toBeVisible();
});

test('no barrier that axe can find in Walk, on either ground', async ({ page, demo }) => {
  await openMast(page, demo);
  await page.goto(demo.url('rehearse/walk?scene=valley-station'));
  await log(page).getByRole('option').first().waitFor();
  await page.getByRole('button', { name: 'hold time' }).click();
  await expectNoBarriers(page);
});
