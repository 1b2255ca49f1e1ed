import type { Locator, Page } from '@playwright/test';
import { expect, saved, test, type Demo } from './fixtures.js';
import { expectNoBarriers } from './barriers.js';

interface Declared {
  events: { name: string; payload?: unknown; cause: unknown; note?: string }[];
  actions: { name: string; effects?: unknown; params?: unknown }[];
  properties: { name: string; type: string; default: unknown; isKey?: boolean }[];
  bindings: { from: { event?: string } }[];
}
async function declared(page: Page, demo: Demo, id: string): Promise<Declared> {
  await saved(page);
  const document = await demo.document();
  return document.assets.find((a) => a.id === id) as unknown as Declared;
}
async function openCabin(page: Page, demo: Demo): Promise<void> {
  await page.goto(demo.url('plan?scope=Cabin'));
  await page.getByText(/Gate:/).waitFor();
  await page.getByRole('region', { name: 'Events' }).waitFor();
}
function row(page: Page, name: string): Locator {
  return page.locator(`.declrow[data-decl="${name}"]`);
}
const line = (page: Page): Locator => page.getByRole('combobox', { name: 'Add' });

test('an event gets another name: who uses it is shown first, then all are carried along', async ({
  page,
  demo,
}) => {
  await openCabin(page, demo);
  await row(page, 'onDocked').getByRole('button').click();
  const name = page.getByLabel('Name of onDocked', { exact: true });
  await name.fill('onDoorsClosed');
  await expect(page.getByText('there already')).toBeVisible();
  await name.fill('onMoored');
  await page.keyboard.press('Enter');
  const panel = page.getByRole('dialog');
  await expect(panel.getByRole('heading')).toContainText(
    /renamed the event onDocked to onMoored: used in \d+ places/,
  );
  await expect(panel).toContainText('No finding would change.');
  await panel.getByRole('button', { name: 'Cancel' }).click();
  await expect(row(page, 'onDocked')).toBeVisible();
  await row(page, 'onDocked').getByRole('button').click();
  await page.getByLabel('Name of onDocked', { exact: true }).fill('onMoored');
  await page.keyboard.press('Enter');
  await panel.getByRole('button', { name: 'Apply' }).click();
  const cabin = await declared(page, demo, 'Cabin');
  expect(cabin.events[0].name).toBe('onMoored');
  expect(cabin.bindings.filter((b) => b.from.event === 'onMoored')).toHaveLength(3);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(row(page, 'onDocked')).toBeVisible();
  expect((await declared(page, demo, 'Cabin')).bindings.some((b) => b.from.event === 'onMoored')).toBe(false);
});

test('what a changed payload would break is reported before it is changed', async ({ page, demo }) => {
  await page.goto(demo.url('plan?scope=WindMast'));
  await row(page, 'onGust').getByRole('button').click();
  const carries = page.getByLabel('What onGust carries');
  await carries.fill('speed float');
  await expect(page.getByText(/at 7: expected ":" and a type/)).toBeVisible();
  await carries.fill('speed: string');
  await page.keyboard.press('Enter');
  const panel = page.getByRole('dialog');
  await expect(panel).toContainText(/new: .*expected float, found string/);
  await panel.getByRole('button', { name: 'Apply' }).click();
  await expect(page.getByRole('contentinfo')).toContainText(/\+\d+ errors?/);
  expect((await declared(page, demo, 'WindMast')).events[0].payload).toEqual([
    { name: 'speed', type: 'string' },
  ]);
});

test('events, actions with effects, and properties are declared by lines, changed, and removed', async ({
  page,
  demo,
}) => {
  await openCabin(page, demo);
  await line(page).fill('onEvent every 2.5s');
  await page.keyboard.press('Enter');
  await expect(row(page, 'onEvent')).toBeVisible();
  await expect(line(page)).toBeFocused();
  await line(page).fill('act: open the door');
  await expect(page.getByText(/At character 6: expected an effect/)).toBeVisible();
  await line(page).fill('act: raise onEvent after 0.5s when moving is true');
  await page.keyboard.press('Enter');
  await line(page).fill('value = 7 key');
  await page.keyboard.press('Enter');
  await line(page).fill('value: bool');
  await expect(page.getByText(/there is already a property value/)).toBeVisible();
  await line(page).fill('');
  const cabin = await declared(page, demo, 'Cabin');
  expect(cabin.events.at(-1)).toEqual({ name: 'onEvent', cause: { type: 'timer', every: 2.5 } });
  expect(cabin.actions.at(-1)).toEqual({
    name: 'act',
    effects: [{ raise: 'onEvent', delay: 0.5, when: { property: 'moving', is: true } }],
  });
  expect(cabin.properties.at(-1)).toEqual({ name: 'value', type: 'int', default: 7, isKey: true });
  await row(page, 'value').getByRole('button').click();
  await page.getByLabel('Default of value').fill('many');
  await expect(page.getByText('expected int, found "many"')).toBeVisible();
  await page.keyboard.press('Escape');
  await row(page, 'act').getByRole('button').first().focus();
  await page.keyboard.press('F2');
  const typed = page.getByRole('combobox', { name: 'action' });
  await expect(typed).toHaveValue('act: raise onEvent after 0.5s when moving is true');
  await typed.fill('act(n: int): raise onEvent; wake');
  await page.keyboard.press('Enter');
  expect((await declared(page, demo, 'Cabin')).actions.at(-1)).toEqual({
    name: 'act',
    params: [{ name: 'n', type: 'int' }],
    effects: [{ raise: 'onEvent' }, { wake: true }],
  });
  await row(page, 'act').getByRole('button').first().click();
  await expect(row(page, 'act').locator('.wayof')).toHaveText(/act\(n: int\).*onEvent.*wakes/);
  await row(page, 'value').getByRole('button').first().focus();
  await page.keyboard.press('Delete');
  await expect(row(page, 'value')).toHaveCount(0);
  await expect(page.locator('.declline').last()).toBeFocused();
  await expectNoBarriers(page);
});
