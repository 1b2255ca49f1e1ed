import { AxeBuilder } from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { expect, saved, test, type Demo } from './fixtures.js';

interface Declared {
  events: { name: string; payload?: unknown; cause: unknown }[];
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
  await page.getByRole('region', { name: 'Says' }).waitFor();
}

test('an event gets another name: who uses it is shown first, then all are carried along', async ({
  page,
  demo,
}) => {
  await openCabin(page, demo);
  const name = page.getByLabel('Name of onDocked', { exact: true });
  await name.fill('onDoorsClosed');
  await expect(page.getByText('there already')).toBeVisible();
  await name.fill('onMoored');
  await page.keyboard.press('Enter');
  const panel = page.getByRole('dialog');
  await expect(panel.getByRole('heading')).toContainText('8 bindings use it, all carried along');
  await expect(panel).toContainText('No finding would change.');
  await panel.getByRole('button', { name: 'Keep it as it was' }).click();
  await expect(page.getByLabel('Name of onDocked', { exact: true })).toHaveValue('onDocked');
  await page.getByLabel('Name of onDocked', { exact: true }).fill('onMoored');
  await page.keyboard.press('Enter');
  await panel.getByRole('button', { name: 'Do it' }).click();
  const cabin = await declared(page, demo, 'Cabin');
  expect(cabin.events[0].name).toBe('onMoored');
  expect(cabin.bindings.filter((b) => b.from.event === 'onMoored')).toHaveLength(3);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByLabel('Name of onDocked', { exact: true })).toBeVisible();
  expect((await declared(page, demo, 'Cabin')).bindings.some((b) => b.from.event === 'onMoored')).toBe(false);
});

test('what a changed payload would break is told before it is changed', async ({ page, demo }) => {
  await page.goto(demo.url('plan?scope=WindMast'));
  const carries = page.getByLabel('What onGust carries');
  await carries.fill('speed float');
  await expect(page.getByText(/at 7: expected ":" and a type/)).toBeVisible();
  await carries.fill('speed: string');
  await page.keyboard.press('Enter');
  const panel = page.getByRole('dialog');
  await expect(panel).toContainText(/new: .*expected float, found string/);
  await panel.getByRole('button', { name: 'Do it' }).click();
  await expect(page.getByRole('contentinfo')).toContainText(/\+\d+ errors?/);
  expect((await declared(page, demo, 'WindMast')).events[0].payload).toEqual([
    { name: 'speed', type: 'string' },
  ]);
});

test('events, actions with effects, and properties are declared and taken away', async ({ page, demo }) => {
  await openCabin(page, demo);
  await page.getByRole('button', { name: 'Add an event' }).click();
  await page.getByLabel('When onEvent is raised').selectOption('timer');
  await page.getByLabel('How often the timer of onEvent runs').fill('2.5');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Add an action' }).click();
  await page.getByLabel('Another effect of act').fill('open the door');
  await expect(page.getByText(/at 1: expected an effect/)).toBeVisible();
  await page.getByLabel('Another effect of act').fill('raise onEvent after 0.5s when moving is true');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Effect 1 of act')).toHaveValue(
    'raise onEvent after 0.5s when moving is true',
  );
  await page.getByRole('button', { name: 'Add a property' }).click();
  await page.getByLabel('Type of value').fill('int');
  await page.keyboard.press('Enter');
  await page.getByLabel('Default of value').fill('many');
  await expect(page.getByText('expected int, found "many"')).toBeVisible();
  await page.getByLabel('Default of value').fill('7');
  await page.keyboard.press('Enter');
  await page.locator('[data-decl="value"]').getByRole('button', { name: 'key' }).click();
  const cabin = await declared(page, demo, 'Cabin');
  expect(cabin.events.at(-1)).toEqual({ name: 'onEvent', cause: { type: 'timer', every: 2.5 } });
  expect(cabin.actions.at(-1)).toEqual({
    name: 'act',
    effects: [{ raise: 'onEvent', delay: 0.5, when: { property: 'moving', is: true } }],
  });
  expect(cabin.properties.at(-1)).toEqual({ name: 'value', type: 'int', default: 7, isKey: true });
  await page.getByRole('button', { name: 'Remove value' }).click();
  await expect(page.getByLabel('Type of value')).toHaveCount(0);
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.html.slice(0, 120)).join(' | ')}`)).toEqual(
    [],
  );
});
