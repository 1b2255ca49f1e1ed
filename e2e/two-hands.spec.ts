import type { Locator } from '@playwright/test';
import { expect, saved, test } from './fixtures.js';
import { type Made, kept, PROJECT_LINES } from './lock-game.js';

test('a small game from nothing by keyboard alone', async ({ page, server }) => {
  test.setTimeout(360_000);
  const { keyboard } = page;
  const press = async (...keys: string[]): Promise<void> => {
    for (const key of keys) await keyboard.press(key);
  };
  /** Tab until something has the focus. */
  const tabTo = async (target: Locator): Promise<void> => {
    await target.waitFor();
    for (let i = 0; i < 80; i++) {
      if (await target.evaluate((e) => e === document.activeElement)) return;
      await keyboard.press('Tab');
    }
    throw new Error(`Tab does not lead to ${String(target)}`);
  };
  const goTo = async (name: string): Promise<void> => {
    await press('Control+k');
    await page.getByRole('dialog', { name: 'Go to' }).waitFor();
    await keyboard.type(name);
    await press('Enter');
    await page.getByRole('dialog', { name: 'Go to' }).waitFor({ state: 'detached' });
  };
  const lines = async (line: Locator, texts: readonly string[]): Promise<void> => {
    await tabTo(line);
    for (const text of texts) {
      await keyboard.type(text);
      await press('Enter');
      await expect(line).toHaveValue('');
    }
  };
  const declare = async (asset: string, texts: readonly string[]): Promise<void> => {
    await goTo(asset);
    await expect(page.getByLabel('Scope')).toHaveValue(asset);
    await lines(page.getByRole('combobox', { name: 'Add', exact: true }), texts);
  };
  const place = async (scope: string, names: readonly string[]): Promise<void> => {
    await goTo(scope);
    await expect(page.getByLabel('Scope')).toHaveValue(scope);
    const palette = page.getByRole('combobox', { name: 'Place' });
    await tabTo(palette);
    for (const name of names) {
      await keyboard.type(name);
      await press('Enter');
      // The name of what was placed is selected; Enter leaves it and leads back.
      await expect(page.locator('.chosenbar input[name="placement"]')).toBeFocused();
      await press('Enter');
      await expect(palette).toBeFocused();
    }
  };
  const create = async (kind: string, name: string): Promise<void> => {
    await tabTo(page.getByLabel('New scene, prefab or widget'));
    await keyboard.type(kind);
    await tabTo(page.getByLabel(`Name of the new ${kind}`));
    await keyboard.type(name);
    await press('Enter');
    await expect(page.getByLabel('Scope')).toHaveValue(name);
  };
  const wire = async (sender: string, texts: readonly string[]): Promise<void> => {
    await goTo(sender);
    await page.waitForURL((url) => url.searchParams.get('at') === sender.split(' ')[0]);
    await page.locator('.strips').waitFor();
    for (const text of texts) {
      await press('w');
      await press('Control+a');
      await keyboard.type(text);
      await press('Enter');
      await expect(page.getByPlaceholder(/^when mast-2/)).toHaveValue('');
      await press('Escape');
    }
  };

  await page.goto(server.url);
  await tabTo(page.getByRole('button', { name: 'New project' }));
  await press('Enter');
  await keyboard.type('The lock');
  await press('Enter');
  await page.getByLabel('First scene').waitFor();
  const id = new URL(page.url()).pathname.split('/')[2];
  await keyboard.type('upper-lock');
  await press('Enter');
  await expect(page.getByLabel('Scope')).toHaveValue('upper-lock');
  await goTo('Catalogue');
  await lines(page.getByRole('combobox', { name: 'Declare' }), PROJECT_LINES);
  await place('upper-lock', ['Lever', 'Gate', 'Lamp', 'Lamp', 'Keeper']);
  await create('scene', 'lower-lock');
  await place('lower-lock', ['Gate', 'Lamp']);
  await create('widget', 'Button');
  await create('widget', 'Panel');
  await declare('Lever', ['line: key:lines key', 'onPulled', 'event onHeld(side: enum:Side) from code']);
  await declare('Gate', [
    'isOpen = false',
    'line: key:lines key',
    'onOpened',
    'onShut',
    'open: set isOpen to true; raise onOpened',
    'shut: set isOpen to false; raise onShut',
  ]);
  await declare('Lamp', ['side: enum:Side', 'light(side: enum:Side): set side to $side', 'dark']);
  await declare('Keeper', ['onArrived when entered', 'wait while asleep: wake']);
  await declare('Button', ['onPressed', 'flash']);
  await declare('Panel', ['onAsked when raised', 'ask: raise onAsked']);
  await place('Gate', ['Lamp']);
  await place('Panel', ['Button', 'Button']);
  await place('upper-lock', ['Panel']);
  await goTo('Catalogue');
  await lines(page.getByRole('combobox', { name: 'Declare' }), ['load set day: upper-lock, lower-lock']);
  await wire('lamp-1 gate', ['when .onOpened do lamp-1.light(side = left)']);
  await wire('button-1', ['when button-1.onPressed do .ask', 'when button-2.onPressed do button-1.flash']);
  await wire('lever-1', [
    'when lever-1.onPulled do gate-1.open',
    'when lever-1.onHeld do #water[@line](side = $side)',
    'when gate-1.onOpened do lamp-1.light(side = right) after 0.5s',
    'when gate-1.onShut do lamp-2.dark',
    'when panel-1.onAsked do gate-1.shut once',
  ]);
  await wire('gate-1 lower', [
    'when #water do lamp-1.light(side = $side)',
    'when gate-1.onOpened do lamp-1.dark',
  ]);
  await saved(page);
  expect((await server.get(`/api/projects/${id}/document`)).body).toEqual(kept());
  await expect(page.locator('[data-count="error"]')).toHaveText(/0 errors/);

  // Renamed: an asset in its definition, a channel in the catalogue, a thing on the plan. Then all of it undone.
  await goTo('Gate');
  await tabTo(page.getByLabel('Name of the prefab'));
  await press('Control+a');
  await keyboard.type('Sluice Gate');
  await press('Enter');
  await tabTo(page.getByRole('button', { name: 'Apply' }));
  await press('Enter');
  await expect(page.getByLabel('Scope')).toHaveValue('SluiceGate');
  await goTo('Catalogue');
  const list = page.getByRole('listbox', { name: 'All entries' });
  await tabTo(list);
  await press('End');
  while ((await list.locator('[aria-selected="true"]').getAttribute('data-entry')) !== 'channel:water') {
    await press('ArrowUp');
    await page.waitForTimeout(20);
  }
  await press('F2');
  await keyboard.type('tide');
  await press('Enter');
  await tabTo(page.getByRole('button', { name: 'Apply' }));
  await press('Enter');
  await goTo('upper-lock');
  await page.getByRole('list', { name: 'Things in upper-lock' }).waitFor();
  await tabTo(page.locator('[data-part="lever-1"] button'));
  await press('Enter', 'Shift+F10');
  await page.getByRole('menuitem', { name: 'Rename' }).waitFor();
  await keyboard.type('Ren');
  await press('Enter');
  await expect(page.locator('.chosenbar input[name="placement"]')).toBeFocused();
  await keyboard.type('north lever');
  await press('Enter');
  await expect(page.locator('[data-part="north-lever"]')).toBeVisible();
  await saved(page);
  const text = JSON.stringify((await server.get(`/api/projects/${id}/document`)).body);
  for (const gone of ['"Gate"', '"water"', '"lever-1"']) expect(text).not.toContain(gone);
  for (let i = 0; i < 3; i++) {
    await press('Control+z');
    await saved(page);
  }
  await expect
    .poll(async () => (await server.get(`/api/projects/${id}/document`)).body as Made, { timeout: 15_000 })
    .toEqual(kept());
});
