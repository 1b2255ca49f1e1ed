import type { Page } from '@playwright/test';
import type { TestServer } from '../apps/server/test/harness.js';
import { expect, saved, strip, test, thing } from './fixtures.js';

/** A project from nothing in the interface: two scenes, a bell and a gate that are wired in the first. */
async function harbour(page: Page, server: TestServer, name: string): Promise<{ id: string; base: string }> {
  await page.goto(server.url);
  await page.getByRole('button', { name: 'New project' }).click();
  await page.keyboard.type(name);
  await page.keyboard.press('Enter');
  await page.getByLabel('First scene').waitFor();
  const id = new URL(page.url()).pathname.split('/')[2];
  await page.keyboard.type('quay');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Scope')).toHaveValue('quay');
  const palette = page.getByRole('combobox', { name: 'Place' });
  for (const prefab of ['Bell', 'Gate']) {
    await palette.fill(prefab);
    await palette.press('Enter');
    await expect(palette).toHaveValue('');
  }
  const create = async (kind: string, named: string): Promise<void> => {
    await page.getByLabel('New scene, prefab or widget').selectOption(kind);
    await page.getByLabel(`Name of the new ${kind}`).fill(named);
    await page.keyboard.press('Enter');
    await expect(page.getByLabel('Scope')).toHaveValue(named);
  };
  await create('scene', 'deck');
  const line = page.getByRole('combobox', { name: 'Add', exact: true });
  for (const [prefab, lines] of [
    ['Bell', ['onRung', 'tone = "deep"', 'pitch = "low"']],
    ['Gate', ['open', 'shut']],
  ] as const) {
    await page.getByLabel('Scope').selectOption(prefab);
    for (const text of lines) {
      await line.fill(text);
      await line.press('Enter');
      await expect(line).toHaveValue('');
    }
  }
  const base = `${server.url}/p/${id}`;
  await saved(page);
  await page.goto(`${base}/wire?scope=quay&at=bell-1`);
  const wire = page.getByPlaceholder(/^when mast-2/);
  for (const text of ['when bell-1.onRung do gate-1.open once', 'when bell-1.onRung do gate-1.shut']) {
    await wire.fill(text);
    await wire.press('Enter');
    await expect(wire).toHaveValue('');
  }
  await saved(page);
  return { id, base };
}
interface Doc {
  assets: {
    id: string;
    placements?: { id: string }[];
    bindings?: { id: string; from: unknown; to: unknown }[];
  }[];
}
async function scene(server: TestServer, id: string, name: string): Promise<Doc['assets'][number]> {
  const { assets } = (await server.get(`/api/projects/${id}/document`)).body as Doc;
  return assets.find((a) => a.id === name)!;
}

test('things are copied, cut and pasted with what is wired between them, into another scene and window', async ({
  page,
  server,
  context,
}) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write'], { origin: server.url });
  const { id, base } = await harbour(page, server, 'Clipboard');
  await page.goto(`${base}/plan?scope=quay`);
  await thing(page, 'bell-1').locator('.hit').click();
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Control+c');
  const lines = await page.evaluate(() => navigator.clipboard.readText());
  expect(lines.split('\n').map((l) => l.split(' ').slice(0, 4).join(' '))).toEqual([
    'place bell-1 of Bell',
    'place gate-1 of Gate',
    'when bell-1.onRung do gate-1.open',
    'when bell-1.onRung do gate-1.shut',
  ]);
  const other = await context.newPage();
  await other.goto(`${base}/plan?scope=deck`);
  await other.getByText('Nothing is here yet').waitFor();
  await other.locator('.plan svg').first().click();
  await other.keyboard.press('Control+v');
  await expect(thing(other, 'gate-1')).toBeVisible();
  await other.keyboard.press('Control+v');
  await expect(thing(other, 'gate-2')).toBeVisible();
  await saved(other);
  const deck = await scene(server, id, 'deck');
  expect(deck.placements!.map((p) => p.id)).toEqual(['bell-1', 'gate-1', 'bell-2', 'gate-2']);
  expect(deck.bindings!.slice(2).map(({ from, to }) => [from, to])).toEqual([
    [
      { at: 'bell-2', event: 'onRung' },
      { at: 'gate-2', action: 'open' },
    ],
    [
      { at: 'bell-2', event: 'onRung' },
      { at: 'gate-2', action: 'shut' },
    ],
  ]);
  // Cut: what names it is asked about first.
  await thing(other, 'gate-2').locator('.hit').click({ button: 'right' });
  await other.getByRole('menuitem', { name: 'Cut' }).click();
  await other.getByRole('dialog', { name: 'Take 2 things off the plan' }).getByRole('button').first().click();
  await expect(thing(other, 'gate-2')).toHaveCount(0);
  // What is no line at all is said to be none, and changes nothing.
  await other.evaluate(() => navigator.clipboard.writeText('hello'));
  await other.locator('.plan svg').first().click();
  await other.keyboard.press('Control+v');
  await expect(other.getByText('Nothing was pasted: line 1: expected "when", found "hello"')).toBeVisible();
  await other.close();
});

test('a context menu has all that can be done, by right click and by its key', async ({ page, server }) => {
  const { id, base } = await harbour(page, server, 'Menus');
  const item = (name: string): ReturnType<Page['getByRole']> => page.getByRole('menuitem', { name });
  // A thing of the plan.
  await page.goto(`${base}/plan?scope=quay`);
  await thing(page, 'bell-1').locator('.hit').click({ button: 'right' });
  await expect(page.getByRole('menu', { name: 'bell-1' })).toBeVisible();
  await item('Duplicate with its bindings').click();
  await expect(thing(page, 'bell-2')).toBeVisible();
  await thing(page, 'bell-2').locator('.hit').focus();
  await page.keyboard.press('Shift+F10');
  await item('Rename').click();
  await expect(page.locator('.chosenbar input[name="placement"]')).toBeFocused();
  await page.keyboard.type('small bell');
  await page.keyboard.press('Enter');
  await expect(thing(page, 'small-bell')).toBeVisible();
  // A sentence.
  await page.goto(`${base}/wire?scope=quay&at=bell-1`);
  const sentences = strip(page, 'onRung').locator('.sentence');
  await sentences.first().locator('.said').focus();
  await page.keyboard.press('Shift+F10');
  await item('Run later').click();
  await expect(sentences.last()).toContainText('open');
  await sentences.last().locator('.said').click({ button: 'right' });
  await item('Duplicate').click();
  await expect(sentences).toHaveCount(3);
  await sentences.last().locator('.said').click({ button: 'right' });
  await item('Remove').click();
  await expect(sentences).toHaveCount(2);
  // A thing in Wire.
  await thing(page, 'small-bell').locator('.hit').click({ button: 'right' });
  await item('Add a receiver').click();
  await expect(page.getByLabel('Sender')).toHaveValue('small-bell');
  await expect(page.locator('.finder')).toBeVisible();
  // What is declared: a property merged into another one.
  await page.goto(`${base}/plan?scope=Bell`);
  await page.locator('[data-decl="pitch"] .declline').click({ button: 'right' });
  await item('Merge into tone').click();
  await page.getByRole('button', { name: 'Do it' }).click();
  await expect(page.locator('[data-decl="pitch"]')).toHaveCount(0);
  // An entry of the catalogue.
  await page.goto(`${base}/catalogue`);
  await page.getByRole('combobox', { name: 'Declare' }).fill('tag loud: Bell');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('On', { exact: true })).toHaveValue('Bell');
  await page.locator('[data-entry="tag:loud"]').click({ button: 'right' });
  await item('Rename').click();
  await expect(page.getByLabel('Name of the tag')).toBeFocused();
  await page.keyboard.type('noisy');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Do it' }).click();
  await expect(page.locator('[data-entry="tag:noisy"]')).toBeVisible();
  await saved(page);
  expect(await scene(server, id, 'Bell')).toMatchObject({ tags: ['noisy'] });
});

test('a binding asks before it acts: by keys, by pointing, in the editor, and the game follows', async ({
  page,
  server,
}) => {
  const { id, base } = await harbour(page, server, 'Asking');
  await page.goto(`${base}/catalogue`);
  await page.getByRole('combobox', { name: 'Declare' }).fill('enum Tone: deep, high');
  await page.keyboard.press('Enter');
  await saved(page);
  await page.goto(`${base}/plan?scope=Bell`);
  const line = page.getByRole('combobox', { name: 'Add', exact: true });
  await line.fill('event onStruck(tone: enum:Tone, force: int) from code');
  await line.press('Enter');
  await saved(page);
  await page.goto(`${base}/wire?scope=quay&at=bell-1`);
  const wire = page.getByPlaceholder(/^when mast-2/);
  for (const text of ['when bell-1.onStruck do gate-1.open', 'when bell-1.onStruck do gate-1.shut']) {
    await wire.fill(text);
    await wire.press('Enter');
    await expect(wire).toHaveValue('');
  }
  const sentences = strip(page, 'onStruck').locator('.sentence');
  // By keys: I, then what is asked, completed.
  await sentences.first().locator('.said').focus();
  await page.keyboard.press('i');
  await page.keyboard.type('$f');
  await page.keyboard.press('Tab');
  await page.keyboard.type('>3');
  await page.keyboard.press('Enter');
  await expect(sentences.first()).toContainText('if $force > 3');
  await expect(sentences.first().locator('.said').first()).toBeFocused();
  // By pointing: the word, one of what can be asked, and that it is so.
  await sentences.last().hover();
  await sentences.last().getByRole('button', { name: 'if', exact: true }).click();
  await page.getByRole('option', { name: '$tone = "deep"' }).click();
  await page.getByRole('button', { name: 'Enter lets it act only if $tone = "deep"' }).click();
  await expect(sentences.last()).toContainText('if $tone = "deep"');
  // What is wrong is told where it is typed.
  await sentences.last().locator('.said').focus();
  await page.keyboard.press('i');
  const asked = page.getByRole('combobox', { name: 'if', exact: true });
  await asked.fill('$tone = loud');
  await expect(page.getByText('"loud" is no value of Tone')).toBeVisible();
  await page.keyboard.press('Escape');
  // In the editor too.
  await sentences.last().locator('.said').click();
  const editor = page.getByRole('group', { name: 'Change this binding' });
  await editor.getByLabel('Only if').fill('$tone in (deep, high) and $force');
  await editor.getByRole('button', { name: 'Save' }).click();
  await expect(editor.getByRole('alert')).toContainText('expected a test');
  await editor.getByLabel('Only if').fill('$tone in (deep, high) and $force < 9');
  await editor.getByRole('button', { name: 'Save' }).click();
  await expect(sentences.last()).toContainText('if $tone in ("deep", "high") and $force < 9');
  await saved(page);
  const { bindings } = await scene(server, id, 'quay');
  expect(bindings!.slice(2)).toMatchObject([
    { if: [{ payload: 'force', is: { over: 3 } }] },
    {
      if: [
        { payload: 'tone', is: { oneOf: ['deep', 'high'] } },
        { payload: 'force', is: { under: 9 } },
      ],
    },
  ]);
});

test('after a cure the next finding is shown, until none is left', async ({ page, server }) => {
  const { base } = await harbour(page, server, 'Cures');
  const wire = page.getByPlaceholder(/^when mast-2/);
  for (const text of ['when bell-1.onRung do gate-9.open', 'when bell-1.onRung do gate-8.shut']) {
    await wire.fill(text);
    await wire.press('Enter');
    await expect(wire).toHaveValue('');
  }
  await saved(page);
  await page.goto(`${base}/audit?rule=dangling-target`);
  const finding = page.getByRole('article', { name: 'Finding' });
  await page.locator('.findingrow').first().click();
  const first = await finding.locator('h2').textContent();
  await finding
    .getByRole('button', { name: /^Remove|^remove/ })
    .first()
    .click();
  await expect(finding.locator('h2')).not.toHaveText(first!);
  await expect(finding).toContainText('is not in quay');
  await expect(page.getByRole('group', { name: 'Findings, arrow keys move' })).toBeFocused();
  await finding
    .getByRole('button', { name: /^Remove|^remove/ })
    .first()
    .click();
  await expect(page.getByText('This finding is gone')).toBeVisible();
});
