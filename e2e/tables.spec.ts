import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import type { TestServer } from '../apps/server/test/harness.js';
import { expect, saved, test } from './fixtures.js';
import { harbour } from './harbour.js';

const MILL = readFileSync(new URL('./games/mill.txt', import.meta.url), 'utf8');

interface Whole {
  enums?: unknown[];
  channels?: unknown[];
  assets: { id: string; placements?: { id: string }[]; bindings?: unknown[] }[];
}
/** A project with nothing in it, open in Exchange. */
async function emptyProject(page: Page, server: TestServer, name: string): Promise<string> {
  await page.goto(server.url);
  await page.getByRole('button', { name: 'New project' }).click();
  await page.keyboard.type(name);
  await page.keyboard.press('Enter');
  await page.getByLabel('First scene').getByRole('link', { name: 'Exchange' }).click();
  await page.getByRole('heading', { name: 'Import' }).waitFor();
  return new URL(page.url()).pathname.split('/')[2];
}
async function documentOf(server: TestServer, id: string): Promise<Whole> {
  return (await server.get(`/api/projects/${id}/document`)).body as Whole;
}
/** As if it came from the clipboard. */
async function paste(page: Page, text: string): Promise<void> {
  await page.evaluate((t) => {
    const clipboardData = new DataTransfer();
    clipboardData.setData('text/plain', t);
    const event = new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true });
    document.body.dispatchEvent(event);
  }, text);
}
async function takeOut(page: Page, of: string, word: string): Promise<string> {
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.locator('.goout dl > div').filter({ hasText: of }).getByRole('button', { name: word }).click(),
  ]);
  return readFileSync(await file.path(), 'utf8');
}

test('fifty rows of a spreadsheet in an empty project: one paste, one Enter; one undo takes all away', async ({
  page,
  server,
}) => {
  const id = await emptyProject(page, server, 'Mill of rows');
  const rows = MILL.split('\n').filter((line) => line.startsWith('when '));
  await paste(page, `scene\tsentence\n${rows.map((line) => `yard\t${line}`).join('\n')}\n`);
  await expect(page.getByRole('button', { name: 'Import 50 new' })).toBeFocused();
  await expect(page.getByText('Findings: 0 new, 0 gone.')).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByText('Gate: passed')).toBeVisible();
  await saved(page);
  const [yard] = (await documentOf(server, id)).assets;
  expect([yard.id, yard.bindings?.length, yard.placements?.length]).toEqual(['yard', 50, 28]);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await saved(page);
  expect((await documentOf(server, id)).assets).toEqual([]);
});

test('every kind comes in as a table, from nothing, and goes out so that it comes back the same', async ({
  page,
  server,
}) => {
  const id = await emptyProject(page, server, 'Locks');
  const tables: [kind: string, text: string][] = [
    ['enums', 'enum\tvalue\nSide\tleft\nSide\tright'],
    ['key tables', 'key table\tkeys\nTexts\thello, "good, bye"'],
    ['channels', 'channel\tpayload\nwater\tlevel: float'],
    ['assets', 'id\tkind\ttags\tsize\nGate\tprefab\theavy\t\nlock\tscene\t\t40 x 24'],
    ['properties', 'asset\tproperty\ttype\tdefault\nGate\tside\tenum:Side\tright\nGate\tisOpen\tbool\tno'],
    ['events', 'asset\tevent\tcause\tpayload\nGate\tonOpened\traised\tside: enum:Side'],
    ['actions', 'asset\taction\tparameters\teffects\nGate\topen\t\tset isOpen to true; raise onOpened'],
    ['placements', 'scene\tid\tof\tside\nlock\tgate-1\tGate\tleft\nlock\tgate-2\tGate\tright'],
    ['load sets', 'load set\tscenes\nday\tlock'],
    ['peers', 'peer\trole\nhost\tserver'],
    ['bindings', 'scene\tfrom\tevent\tto\taction\tif\nlock\tgate-1\tonOpened\tgate-2\topen\t$side is "left"'],
  ];
  for (const [kind, text] of tables) {
    await paste(page, text);
    await expect(page.getByLabel('What the table is of').locator('option:checked')).toHaveText(kind);
    await expect(page.getByText(/Findings: 0 new|Findings: \d new, \d gone/)).toBeVisible();
    await page.getByRole('button', { name: /^Import \d new/ }).press('Enter');
    await expect(page.getByLabel('What the table is of')).toHaveCount(0);
  }
  await saved(page);
  const whole = await documentOf(server, id);
  expect(whole).toMatchObject({
    enums: [{ name: 'Side', values: ['left', 'right'] }],
    tables: [{ name: 'Texts', keys: ['hello', 'good, bye'] }],
    assets: [
      {
        id: 'Gate',
        actions: [{ name: 'open', effects: [{ set: 'isOpen', to: true }, { raise: 'onOpened' }] }],
      },
      {
        id: 'lock',
        placements: [
          { id: 'gate-1', asset: 'Gate', properties: { side: 'left' } },
          { id: 'gate-2', asset: 'Gate', properties: { side: 'right' } },
        ],
        bindings: [{ from: { at: 'gate-1', event: 'onOpened' }, if: [{ payload: 'side', is: 'left' }] }],
      },
    ],
  });
  for (const [kind] of tables) {
    await page.getByLabel('What the table holds').selectOption(kind);
    const csv = await takeOut(page, 'Tables', 'Save .csv');
    await page
      .getByLabel('File to import')
      .setInputFiles({ name: `${kind}.csv`, mimeType: 'text/csv', buffer: Buffer.from(csv) });
    await expect(page.getByText(/^\d+ unchanged\./)).toBeVisible();
    await expect(page.getByRole('button', { name: 'Import 0 new' })).toBeDisabled();
    await page.getByRole('button', { name: 'Cancel' }).click();
  }
  expect(await documentOf(server, id)).toEqual(whole);
});

test('what is wrong with a table is reported, what is meant is asked, and it is read as something else by hand', async ({
  page,
  server,
}) => {
  const { id } = await harbour(page, server, 'Doubts');
  await page.getByRole('link', { name: 'Exchange' }).click();
  await page.getByRole('heading', { name: 'Import' }).waitFor();
  const rows = [
    'quay\tbell-2\tBell\t5\t5',
    'quay\tbell-3\tBall\t6\t5',
    'quay\tbell-4\tBell\tfar\t5',
    'kwai\tbell-5\tBell\t7\t5',
  ];
  await paste(page, `scene\tid\tof\tx\ty\n${rows.join('\n')}`);
  await expect(page.getByText('Some names need a decision.')).toBeVisible();
  await expect(page.locator('.csvrow').filter({ hasText: 'line 4' })).toContainText(
    'x: "far" is not a number',
  );
  const asked = page.locator('[data-need="asset:Ball"]');
  await asked.getByRole('button', { name: 'Bell' }).click();
  await expect(asked).toHaveCount(0);
  await expect(page.locator('.csvrow').filter({ hasText: 'line 3' })).toContainText(
    'place bell-3 of Bell at 6, 5',
  );
  await page.getByRole('button', { name: 'Import 3 new' }).click();
  await saved(page);
  const { assets } = await documentOf(server, id);
  expect(assets.find((a) => a.id === 'kwai')?.placements?.map((p) => p.id)).toEqual(['bell-5']);
  expect(assets.find((a) => a.id === 'quay')?.placements?.map((p) => p.id)).toEqual([
    'bell-1',
    'gate-1',
    'bell-2',
    'bell-3',
  ]);
  // A column can be taken for nothing, and the table for another.
  await paste(page, 'name,note\nwind,from the hill\n');
  await page.getByLabel('What the table is of').selectOption('channels');
  await expect(page.locator('.csvrow')).toContainText('channel wind note "from the hill"');
  await page.getByLabel('Column of note').selectOption('');
  await expect(page.locator('.csvrow')).not.toContainText('note');
});

test('a whole project goes out as lines, and they give the same in an empty one', async ({
  page,
  server,
  demo,
}) => {
  await page.goto(demo.url('exchange'));
  await page.getByText(/Gate:/).waitFor();
  const text = await takeOut(page, 'Lines', 'Save .txt');
  expect(text).toContain('// Not in these lines:');
  const before = (await demo.document()) as Whole;
  const id = await emptyProject(page, server, 'From lines');
  await page
    .getByLabel('File to import')
    .setInputFiles({ name: 'veyra.txt', mimeType: 'text/plain', buffer: Buffer.from(text) });
  const dialog = page.getByRole('dialog', { name: 'Pasted lines' });
  // What dangles in the demo is to dangle here.
  await dialog.getByRole('button', { name: 'Add every line exactly as written' }).click();
  await dialog.getByRole('button', { name: /^Add 209 bindings/ }).click();
  await expect(dialog).toHaveCount(0);
  await saved(page);
  const back = await documentOf(server, id);
  expect(back.assets.map((a) => a.bindings ?? [])).toEqual(before.assets.map((a) => a.bindings ?? []));
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await saved(page);
  expect((await documentOf(server, id)).assets).toEqual([]);
});

test('what is chosen on the plan goes into another project with all that it needs', async ({
  page,
  server,
  context,
}) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  const { base } = await harbour(page, server, 'From here');
  await page.goto(`${base}/plan?scope=quay`);
  await page.locator('.thing[data-path="bell-1"] .hit').click();
  await page.keyboard.down('Shift');
  await page.locator('.thing[data-path="gate-1"] .hit').click();
  await page.keyboard.up('Shift');
  await page.locator('.thing[data-path="gate-1"] .hit').click({ button: 'right' });
  await page.getByRole('menuitem', { name: /^Copy with everything it needs/ }).click();
  const text = await page.evaluate(() => navigator.clipboard.readText());
  expect(text.split('\n')[0]).toMatch(/^place bell-1 of Bell at /);
  await page.goto(server.url);
  await page.getByRole('button', { name: 'New project' }).click();
  await page.keyboard.type('To here');
  await page.keyboard.press('Enter');
  await page.getByLabel('First scene').waitFor();
  await page.keyboard.type('pier');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Scope')).toHaveValue('pier');
  await saved(page);
  await paste(page, text);
  const dialog = page.getByRole('dialog', { name: 'Pasted lines' });
  await dialog.getByRole('button', { name: /^Add 2 bindings and \d+ more/ }).click();
  await saved(page);
  const { assets } = await documentOf(server, new URL(page.url()).pathname.split('/')[2]);
  expect(assets.map((a) => [a.id, a.placements?.length, a.bindings?.length])).toEqual([
    ['pier', 2, 2],
    ['Bell', undefined, undefined],
    ['Gate', undefined, undefined],
  ]);
});
