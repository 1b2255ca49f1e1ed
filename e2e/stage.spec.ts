import { expect, saved, test, thing, type Demo } from './fixtures.js';
import type { Page } from '@playwright/test';

interface Placed {
  id: string;
  at?: [number, number];
  area?: { rect?: [number, number]; polygon?: [number, number][] };
  authority?: string;
}
async function placements(page: Page, demo: Demo, scene: string): Promise<Placed[]> {
  await saved(page);
  const { assets } = await demo.document();
  return (assets.find((a) => a.id === scene) as unknown as { placements: Placed[] }).placements;
}
async function openPlan(page: Page, demo: Demo, query: string): Promise<void> {
  await page.goto(demo.url(`plan?${query}`));
  await page.getByText(/Gate:/).waitFor();
}

test('a new prefab is made, declared, placed, and taken out again with what would break shown first', async ({
  page,
  demo,
}) => {
  await openPlan(page, demo, 'scope=pylon-ridge');
  await page.getByLabel('New scene, prefab or widget').selectOption('prefab');
  const name = page.getByLabel('Name of the new prefab');
  await name.fill('Cabin');
  await expect(page.getByRole('alert')).toContainText('already exists');
  await name.press('Enter');
  await expect(name).toBeVisible();
  await name.fill('SnowFence');
  await name.press('Enter');
  await expect(page.getByLabel('Scope')).toHaveValue('SnowFence');
  await page.getByRole('combobox', { name: 'Add' }).fill('onEvent from code');
  await page.keyboard.press('Enter');
  await page.locator('[data-decl="onEvent"]').getByRole('button').click();
  await page.getByLabel('Tags of SnowFence').fill('#hazard slope');
  await page.keyboard.press('Enter');
  const area = page.getByLabel('Sensing area of SnowFence');
  await area.fill('circle of 5');
  await expect(page.getByText('circle 5, or rect 4 x 2')).toBeVisible();
  await area.fill('rect 6 x 2');
  await page.keyboard.press('Enter');
  await page.getByLabel('Who may raise onEvent').selectOption('only operator');
  await page.getByLabel('Note on onEvent').fill('It is nearly full.');
  await page.keyboard.press('Enter');
  await saved(page);
  const { assets } = await demo.document();
  expect(assets.find((a) => a.id === 'SnowFence')).toEqual({
    id: 'SnowFence',
    kind: 'prefab',
    tags: ['hazard', 'slope'],
    area: { rect: [6, 2] },
    events: [
      {
        name: 'onEvent',
        cause: { type: 'code' },
        delivery: { send: { only: ['operator'] } },
        note: 'It is nearly full.',
      },
    ],
  });

  await page.getByLabel('Scope').selectOption('pylon-ridge');
  await page.getByRole('combobox', { name: 'Place' }).fill('snow');
  await page.getByRole('option', { name: 'SnowFence prefab' }).click();
  const brake = (await thing(page, 'brake-1').locator('.hit').boundingBox())!;
  await page.mouse.click(brake.x + 90, brake.y + 40);
  await expect(thing(page, 'snow-fence-1')).toHaveClass(/chosen/);
  await page.locator('.stagebar').click({ position: { x: 4, y: 4 } });
  await page.keyboard.press('Escape');
  await openPlan(page, demo, 'scope=SnowFence');
  await page.getByRole('group', { name: 'About SnowFence' }).getByRole('button', { name: 'Remove' }).click();
  const panel = page.getByRole('dialog', { name: 'Remove SnowFence from the project' });
  await expect(panel).toContainText('It stands in pylon-ridge (1)');
  await expect(panel).toContainText(/new: snow-fence-1 in pylon-ridge is a SnowFence/);
  await panel.getByRole('button', { name: 'Keep it' }).click();
  await page.getByRole('group', { name: 'About SnowFence' }).getByRole('button', { name: 'Remove' }).click();
  await panel.getByRole('button', { name: 'Remove it' }).click();
  await expect(page.getByLabel('Scope')).not.toHaveValue('SnowFence');
  await expect(page.locator('[data-count="error"]')).toHaveText(/20 errors/);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.locator('[data-count="error"]')).toHaveText(/19 errors/);
});

test('things are turned as a group, each with its area, and back', async ({ page, demo }) => {
  const before = await (async () => {
    await openPlan(page, demo, 'scope=pylon-ridge&chosen=mat-3,mat-4');
    return placements(page, demo, 'pylon-ridge');
  })();
  await page.getByRole('button', { name: 'Rotate' }).click();
  const turned = (await placements(page, demo, 'pylon-ridge')).filter((p) => p.id.startsWith('mat-'));
  expect(turned.map((p) => [p.at, p.area])).toEqual([
    [[46, 26], { rect: [3, 4] }],
    [[30, 70], { rect: [3, 4] }],
  ]);
  await page.locator('.stagebar').click({ position: { x: 4, y: 4 } });
  await page.keyboard.press('{');
  const back = (await placements(page, demo, 'pylon-ridge')).filter((p) => p.id.startsWith('mat-'));
  expect(back.map((p) => p.at)).toEqual(before.filter((p) => p.id.startsWith('mat-')).map((p) => p.at));
  await page.keyboard.press(']');
  const askew = (await placements(page, demo, 'pylon-ridge')).find((p) => p.id === 'mat-3')!;
  expect(askew.area?.polygon).toHaveLength(4);
  for (let i = 0; i < 3; i++) await page.getByRole('button', { name: 'Undo' }).click();
  expect(await placements(page, demo, 'pylon-ridge')).toEqual(before);
});

test('a widget is drawn in proportion, chosen by pointing and by keys', async ({ page, demo }) => {
  await openPlan(page, demo, 'scope=LineBoard');
  const boxes = page.getByRole('group', { name: 'Parts of LineBoard' });
  await expect(boxes.getByRole('button')).toHaveCount(3);
  await expect(boxes.getByRole('button', { name: 'east, LineTile' })).toContainText(
    'events: onPressed, onHoldAsked',
  );
  await boxes.getByRole('button', { name: 'west, LineTile' }).click();
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('west');
  await page.goto(demo.url('wire?scope=LineBoard&at=.'));
  const wired = page.getByRole('group', { name: 'Boxes of LineBoard' });
  await wired.getByRole('button', { name: 'summit, LineTile' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-event="onHoldAsked"] .count')).toHaveText('1');
  await expect(wired.getByRole('button', { name: 'summit, LineTile' })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
});

test('peers are given to placements; the history of one scope is read', async ({ page, demo }) => {
  await openPlan(page, demo, 'scope=valley-station&chosen=flare-2');
  await expect(page.getByText(/belongs to the peer "gueest"/)).toBeVisible();
  await page.getByLabel('operator').selectOption('guest');
  await expect(page.getByText(/belongs to the peer "gueest"/)).toHaveCount(0);
  const [flare] = (await placements(page, demo, 'valley-station')).filter((p) => p.id === 'flare-2');
  expect(flare).toMatchObject({ operator: 'guest' });
  await openPlan(page, demo, 'scope=pylon-ridge&chosen=horn-2');
  await page.getByRole('button', { name: 'Asleep at first' }).click();
  await saved(page);
  await page.getByRole('button', { name: 'History' }).click();
  const history = page.getByRole('dialog', { name: 'History' });
  await expect(history.getByRole('listitem')).toHaveCount(2);
  await history.getByLabel('Edits of').selectOption('pylon-ridge');
  await expect(history.getByRole('listitem')).toHaveCount(1);
  await expect(history.getByRole('listitem')).toContainText('pylon-ridge: set asleep of horn-2');
});

test('an older edit is undone alone, unless a later one touched the same', async ({ page, demo }) => {
  await openPlan(page, demo, 'scope=pylon-ridge&chosen=horn-2');
  await page.getByRole('button', { name: 'Asleep at first' }).click();
  await saved(page);
  await openPlan(page, demo, 'scope=pylon-ridge&chosen=mast-1');
  await page.getByRole('button', { name: 'Asleep at first' }).click();
  await page.getByRole('button', { name: 'Asleep at first' }).click();
  await saved(page);
  await page.getByRole('button', { name: 'History' }).click();
  const history = page.getByRole('dialog', { name: 'History' });
  await expect(history.getByRole('listitem')).toHaveCount(3);
  await history
    .getByRole('button', { name: /^Undo: pylon-ridge: set asleep of mast-1/ })
    .last()
    .click();
  await expect(page.getByText(/cannot be undone alone: .* came after it and touched the same/)).toBeVisible();
  await history.getByRole('button', { name: /^Undo: pylon-ridge: set asleep of horn-2/ }).click();
  await expect(history.getByText('undid: pylon-ridge: set asleep of horn-2')).toBeVisible();
  const [horn] = (await placements(page, demo, 'pylon-ridge')).filter((p) => p.id === 'horn-2');
  expect(horn).not.toHaveProperty('asleep');
});
