import type { Page } from '@playwright/test';
import type { TestServer } from '../apps/server/test/harness.js';
import { expect, saved, strip, test, thing } from './fixtures.js';
import { harbour, scene } from './harbour.js';

/** The harbour with a bell that says how it is struck; the wire line is ready. */
async function bell(page: Page, server: TestServer, name: string): Promise<{ id: string; base: string }> {
  const made = await harbour(page, server, name);
  await page.goto(`${made.base}/catalogue`);
  await page.getByRole('combobox', { name: 'Declare' }).fill('enum Tone: deep, high');
  await page.keyboard.press('Enter');
  await saved(page);
  await page.goto(`${made.base}/plan?scope=Bell`);
  const line = page.getByRole('combobox', { name: 'Add', exact: true });
  await line.fill('event onStruck(tone: enum:Tone, force: int) from code');
  await line.press('Enter');
  await saved(page);
  await page.goto(`${made.base}/wire?scope=quay&at=bell-1`);
  return made;
}
async function wires(page: Page, ...lines: string[]): Promise<void> {
  const wire = page.getByPlaceholder(/^when mast-2/);
  for (const text of lines) {
    await wire.fill(text);
    await wire.press('Enter');
    await expect(wire).toHaveValue('');
  }
}

test('a binding asks before it acts: by keys, by pointing, in the editor, and the game follows', async ({
  page,
  server,
}) => {
  const { id } = await bell(page, server, 'Asking');
  await wires(page, 'when bell-1.onStruck do gate-1.open', 'when bell-1.onStruck do gate-1.shut');
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
  await page.getByRole('button', { name: 'Enter sets the condition: if $tone = "deep"' }).click();
  await expect(sentences.last()).toContainText('if $tone = "deep"');
  // What is wrong is reported where it is typed.
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

test('one binding for each value of a field; a value that nothing handles is marked, fixed, undone', async ({
  page,
  server,
}) => {
  const { id } = await bell(page, server, 'Each');
  await wires(page, 'when bell-1.onStruck do gate-1.open if $force > 2');
  const struck = strip(page, 'onStruck');
  const sentences = struck.locator('.sentence');
  await sentences.first().locator('.said').click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'One for each tone' }).click();
  await expect(sentences).toHaveCount(2);
  await expect(sentences.first()).toContainText('if $tone = "deep" and $force > 2');
  await expect(sentences.last()).toContainText('if $tone = "high" and $force > 2');
  await sentences.last().locator('.said').focus();
  await page.keyboard.press('Delete');
  await expect(struck).toContainText('nothing handles tone = high');
  await struck.getByRole('button', { name: 'Fix', exact: true }).click();
  await struck.getByRole('button', { name: /high/ }).click();
  await expect(sentences).toHaveCount(2);
  await expect(struck).not.toContainText('nothing handles');
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(struck).toContainText('nothing handles');
  await saved(page);
  expect((await scene(server, id, 'quay')).bindings).toHaveLength(3);
  // Undone one by one, and done again.
  const undo = page.getByRole('button', { name: 'Undo', exact: true });
  await undo.click();
  await expect(sentences).toHaveCount(2);
  await expect(struck).not.toContainText('nothing handles');
  await undo.click();
  await expect(sentences).toHaveCount(1);
  await expect(sentences.first()).not.toContainText('$tone');
  await page.getByRole('button', { name: 'Redo', exact: true }).click();
  await expect(sentences).toHaveCount(2);
});

test('what asks is drawn hollow on the plan and in the ripple, and reported in words', async ({
  page,
  server,
}) => {
  const { base } = await bell(page, server, 'Hollow');
  await wires(
    page,
    'when bell-1.onStruck do gate-1.open if $tone = high',
    'when bell-1.onStruck do gate-1.shut',
  );
  const gate = thing(page, 'gate-1');
  await expect(gate.locator('circle.order')).toHaveCount(2);
  await expect(gate.locator('circle.order.asking')).toHaveCount(1);
  await expect(gate.locator('title')).toHaveText(/1 if \$tone = "high"/);
  await page.goto(`${base}/ripple?at=quay:bell-1&name=onStruck`);
  await expect(page.getByText('a hollow line has a condition')).toBeVisible();
  await expect(page.locator('.ribbonhollow')).toHaveCount(1);
  const asked = page.getByRole('button', { name: /gate-1\.open, if \$tone = "high"/ });
  await expect(asked.getByText('if $tone = "high"', { exact: true })).toBeVisible();
  await expect(page.getByRole('button', { name: /gate-1\.shut, followed/ })).toBeVisible();
  await page.getByRole('button', { name: 'list', exact: true }).click();
  await expect(page.getByRole('button', { name: /gate-1\.open, if \$tone = "high"$/ })).toBeVisible();
});

test('the sheet finds what asks, groups by it, and lets many ask, as one undo', async ({ page, server }) => {
  const { id, base } = await bell(page, server, 'Sheet');
  await wires(
    page,
    'when bell-1.onStruck do gate-1.open if $force > 3',
    'when bell-1.onStruck do gate-1.shut',
  );
  await saved(page);
  await page.goto(`${base}/wire/sheet?scope=quay`);
  const rows = page.locator('[data-row]');
  await expect(rows).toHaveCount(4);
  await page.getByRole('button', { name: 'With a condition', exact: true }).click();
  await expect(rows).toHaveCount(1);
  await page.getByRole('button', { name: 'With a condition', exact: true }).click();
  await page.getByLabel('Only this question').click();
  await page.getByRole('option', { name: /^\$force/ }).click();
  await expect(rows).toHaveCount(1);
  await page.getByLabel('Only this question').press('Escape');
  await page.goto(`${base}/wire/sheet?scope=quay&group=question`);
  await expect(page.locator('.heading').first()).toContainText('no condition');
  await page.getByRole('listbox', { name: 'Bindings' }).focus();
  await page.keyboard.press('Control+a');
  await page.getByLabel('Change', { exact: true }).selectOption('asksAlso');
  const condition = page.getByLabel('condition, such as $speed > 12');
  await condition.fill('$tone = ');
  await expect(page.getByText(/at character \d+/)).toBeVisible();
  await condition.fill('$tone = loud');
  await expect(
    page.getByText(/4 left out: nothing carries "tone"|4 left out: .*"loud" is no value of Tone/),
  ).toBeVisible();
  await condition.fill('$tone = deep');
  await expect(page.getByText('2 left out: nothing carries "tone"')).toBeVisible();
  await page.getByRole('button', { name: 'Change 2' }).click();
  await expect(rows.filter({ hasText: 'if $force > 3 and $tone = "deep"' })).toHaveCount(1);
  await expect(rows.filter({ hasText: 'if $tone = "deep"' })).toHaveCount(1);
  await saved(page);
  expect((await scene(server, id, 'quay')).bindings!.filter((b) => 'if' in b)).toHaveLength(2);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(rows.filter({ hasText: '$tone' })).toHaveCount(0);
});
