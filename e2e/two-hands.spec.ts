import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import type { Locator } from '@playwright/test';
import { expect, saved, strip, test, thing } from './fixtures.js';

/** The game that is made from nothing, once by keyboard alone and once by pointer, with the names typed. */
const GAME = fileURLToPath(new URL('./games/lock.json', import.meta.url));

interface Made {
  assets: { id: string; placements?: { at?: unknown }[]; bindings?: { id?: string }[] }[];
}
/** Where things stand is what the pointer decides; the finder names bindings after their receiver. */
function withoutPlaces(document: unknown): Made {
  const made = structuredClone(document) as Made;
  for (const { placements = [], bindings = [] } of made.assets) {
    for (const p of placements) delete p.at;
    for (const b of bindings) delete b.id;
  }
  return made;
}
function kept(): Made {
  return JSON.parse(readFileSync(GAME, 'utf8')) as Made;
}
const PROJECT_LINES = [
  'enum Side: left, right',
  'key table lines: bow, stern',
  'channel water(side: enum:Side)',
  'peer host server',
  'peer mate client',
];

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

test('a small game from nothing by pointer alone, with the names typed', async ({ page, server }) => {
  test.setTimeout(360_000);
  let clicks = 0;
  const click = async (target: Locator, options?: Parameters<Locator['click']>[0]): Promise<void> => {
    clicks++;
    await target.click(options);
  };
  const type = (name: string): Promise<void> => page.keyboard.type(name);
  const view = (name: string): Promise<void> =>
    click(page.getByRole('navigation', { name: 'Views' }).getByRole('link', { name, exact: true }));
  const scope = async (name: string): Promise<void> => {
    clicks += 2;
    await page.getByLabel('Scope').selectOption(name);
    await expect(page.getByLabel('Scope')).toHaveValue(name);
  };
  const add = page.getByRole('button', { name: /^Enter (adds|declares|wires)/ });
  /** A name, then ways to go on that are pointed at. */
  const declare = async (name: string, ...goingOn: string[]): Promise<void> => {
    const line = page.getByRole('combobox', { name: 'Add', exact: true });
    if (!(await line.evaluate((e) => e === document.activeElement))) await click(line);
    await type(name);
    for (const piece of goingOn) {
      if (/^\w+$/.test(piece)) await type(piece);
      else
        await click(page.getByRole('listbox').locator('li', { has: page.getByText(piece, { exact: true }) }));
    }
    await click(add);
    await expect(line).toHaveValue('');
  };
  const inCatalogue = async (button: string, rest: string): Promise<void> => {
    const line = page.getByRole('combobox', { name: 'Declare' });
    await click(page.getByRole('button', { name: `New ${button}`, exact: true }));
    await type(rest);
    await click(add);
    await expect(line).toHaveValue('');
  };
  /** Places of the pointer, one after the other. */
  let spot = 0;
  const place = async (name: string, isWidget = false): Promise<void> => {
    await click(page.getByRole('combobox', { name: 'Place' }));
    await type(name);
    await click(page.getByRole('option', { name: new RegExp(`^${name}\\s*(new )?(prefab|widget)`) }).first());
    const ground = isWidget ? page.locator('.widgetboard').first() : page.locator('.plan svg').first();
    const box = (await ground.boundingBox())!;
    spot = (spot + 1) % 8;
    const position = {
      x: box.width / 2 - 100 + (spot % 4) * 60,
      y: box.height / 2 - 30 + Math.floor(spot / 4) * 60,
    };
    await click(ground, { position });
    await expect(page.locator('.chosenbar input[name="placement"]')).toBeFocused();
    // A right click on the ground shows its menu; beside it the placing ends.
    await page.keyboard.press('Escape');
    await page.keyboard.press('Escape');
  };
  const create = async (kind: string, name: string): Promise<void> => {
    clicks += 2;
    await page.getByLabel('New scene, prefab or widget').selectOption(kind);
    await type(name);
    await click(page.getByRole('button', { name: 'Create', exact: true }));
    await expect(page.getByLabel('Scope')).toHaveValue(name);
  };
  /** An event of the chosen sender, a receiver, an action. */
  const wire = async (
    event: string,
    receiver: string,
    action: RegExp,
    more?: () => Promise<void>,
  ): Promise<void> => {
    await click(strip(page, event).getByRole('button', { name: 'Add a receiver' }));
    const name = page.locator('.mono', { hasText: new RegExp(`^${receiver}$`) });
    await click(page.locator('.finder .candidate').filter({ has: name }));
    if (!more) return click(page.locator('.finder .actionrow', { hasText: action }));
    await more();
    await click(page.locator('.finder').getByRole('button', { name: /^Wire / }));
  };
  const sender = async (path: string): Promise<void> => {
    const on = page.locator(`.plan [data-path="${path}"]`);
    await click((await on.locator('.hit').count()) > 0 ? on.locator('.hit') : on);
    await expect(page.getByLabel('Sender')).toHaveValue(path);
  };

  await page.goto(server.url);
  await click(page.getByRole('button', { name: 'New project' }));
  await type('The lock');
  await click(page.getByRole('button', { name: 'Create', exact: true }));
  await page.getByLabel('First scene').waitFor();
  const id = new URL(page.url()).pathname.split('/')[2];
  await type('upper-lock');
  await click(page.getByRole('button', { name: 'Create the scene' }));
  await view('Catalogue');
  for (const line of PROJECT_LINES) {
    const [, kind, rest] = /^(key table|\w+) (.*)$/.exec(line)!;
    await inCatalogue(kind, rest);
  }
  await view('Plan');
  await scope('upper-lock');
  for (const name of ['Lever', 'Gate', 'Lamp', 'Lamp', 'Keeper']) await place(name);
  await create('scene', 'lower-lock');
  for (const name of ['Gate', 'Lamp']) await place(name);
  await create('widget', 'Button');
  await create('widget', 'Panel');

  await scope('Lever');
  await declare('line', ': key:lines', ' key');
  await declare('onPulled');
  await declare('onHeld', '(', 'side', ': enum:Side', ')', ' from code');
  await scope('Gate');
  const before = clicks;
  await declare('isOpen', ' = false');
  await declare('line', ': key:lines', ' key');
  await declare('onOpened');
  await declare('onShut');
  await declare('open', ': set isOpen to true', '; raise onOpened');
  await declare('shut', ': set isOpen to false', '; raise onShut');
  const gate = clicks - before;
  expect(gate).toBeLessThanOrEqual(15);
  await place('Lamp');
  await scope('Lamp');
  await declare('side', ': enum:Side');
  await declare('light', '(', 'side', ': enum:Side', ')', ': set side to $side');
  await declare('dark');
  await scope('Keeper');
  await declare('onArrived', ' when entered');
  await declare('wait', ' while asleep', ': wake');
  await scope('Button');
  await declare('onPressed');
  await declare('flash');
  await scope('Panel');
  await declare('onAsked', ' when raised');
  await declare('ask', ': raise onAsked');
  for (const name of ['Button', 'Button']) await place(name, true);
  await scope('upper-lock');
  await place('Panel');
  await view('Catalogue');
  await inCatalogue('load set', 'day: upper-lock, lower-lock');

  const argument = async (name: string, value: string): Promise<void> => {
    const field = page.locator('.finder').getByLabel(new RegExp(`^Argument ${name}`));
    await click(field, { clickCount: 3 });
    await type(value);
  };
  await view('Wire');
  await scope('Gate');
  await sender('.');
  await wire('onOpened', 'lamp-1', /light/, () => argument('side', 'left'));
  await scope('Panel');
  await sender('button-1');
  await wire('onPressed', 'itself', /ask/);
  await sender('button-2');
  await wire('onPressed', 'button-1', /flash/);
  await scope('upper-lock');
  await sender('lever-1');
  await wire('onPulled', 'gate-1', /open/);
  await wire('onHeld', '#water', /publish/, async () => {
    const key = page.locator('.finder').getByLabel('Key on the channel');
    await click(key);
    await type('@line');
  });
  await sender('gate-1');
  await wire('onOpened', 'lamp-1', /light/, async () => {
    await argument('side', 'right');
    await click(page.locator('.finder').getByLabel('Delay in seconds'));
    await type('0.5');
  });
  await wire('onShut', 'lamp-2', /dark/);
  await sender('panel-1');
  await wire('onAsked', 'gate-1', /shut/, async () => {
    // The fields are those of the action that is current, which the arrows or the focus choose.
    await page.locator('.finder .actionrow', { hasText: /shut/ }).focus();
    await click(page.locator('.finder').getByRole('button', { name: 'once' }));
  });
  await scope('lower-lock');
  await click(page.getByLabel('Sender'));
  await type('#water');
  await click(page.getByRole('option', { name: /^#water/ }));
  await wire('water', 'lamp-1', /light/, () => argument('side', '$side'));
  await sender('gate-1');
  await wire('onOpened', 'lamp-1', /dark/);
  await saved(page);
  const made = (await server.get(`/api/projects/${id}/document`)).body as Made;
  expect(withoutPlaces(made)).toEqual(withoutPlaces(kept()));
  await expect(page.locator('[data-count="error"]')).toHaveText(/0 errors/);

  // Renamed by the context menu; a click elsewhere takes the name.
  await view('Plan');
  await scope('upper-lock');
  await click(thing(page, 'lever-1').locator('.hit'), { button: 'right' });
  await click(page.getByRole('menuitem', { name: 'Rename' }));
  await expect(page.locator('.chosenbar input[name="placement"]')).toBeFocused();
  await type('north lever');
  await click(page.locator('.plan svg').first(), { position: { x: 20, y: 60 } });
  await expect(page.locator('[data-part="north-lever"]')).toBeVisible();
  await click(page.getByRole('button', { name: 'Undo', exact: true }));
  await saved(page);
  await expect
    .poll(async () => (await server.get(`/api/projects/${id}/document`)).body as Made, { timeout: 15_000 })
    .toEqual(made);
  console.log(`      by pointer: ${clicks} clicks, of which the gate ${gate}`);
});
