import type { Locator } from '@playwright/test';
import { expect, saved, strip, test, thing } from './fixtures.js';
import { type Made, kept, PROJECT_LINES } from './lock-game.js';

/** Where things stand is what the pointer decides; the finder names bindings after their receiver. */
function withoutPlaces(document: unknown): Made {
  const made = structuredClone(document) as Made;
  for (const { placements = [], bindings = [] } of made.assets) {
    for (const p of placements) delete p.at;
    for (const b of bindings) delete b.id;
  }
  return made;
}

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
