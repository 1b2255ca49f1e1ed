import { readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import type { Page } from '@playwright/test';
import { expect, saved, test } from './fixtures.js';
import { expectNoBarriers } from './barriers.js';
import { project, declare, place, ask, open } from './begin-steps.js';

/** What comes out of making the game of these tests; written anew with OQUEL_WRITE_GAME=1. */
const GAME = fileURLToPath(new URL('./games/lock.json', import.meta.url));

/** Lines that declare what each prefab and widget says, does and has. */
const DEFINITIONS: [asset: string, lines: string[]][] = [
  ['Lever', ['line: key:lines key', 'onPulled', 'event onHeld(side: enum:Side) from code']],
  [
    'Gate',
    [
      'isOpen = false',
      'line: key:lines key',
      'onOpened',
      'onShut',
      'open: set isOpen to true; raise onOpened',
      'shut: set isOpen to false; raise onShut',
    ],
  ],
  ['Lamp', ['side: enum:Side', 'light(side: enum:Side): set side to $side', 'dark']],
  ['Keeper', ['onArrived when entered', 'wait while asleep: wake']],
  ['Button', ['onPressed', 'flash']],
  ['Panel', ['onAsked when raised', 'ask: raise onAsked']],
];
async function inCatalogue(page: Page, lines: readonly string[]): Promise<void> {
  const line = page.getByRole('combobox', { name: 'Declare' });
  for (const text of lines) {
    await line.fill(text);
    await line.press('Enter');
    await expect(line).toHaveValue('');
  }
}
async function wire(page: Page, lines: readonly string[]): Promise<void> {
  const line = page.getByPlaceholder(/^when mast-2/);
  for (const text of lines) {
    await line.fill(text);
    await line.press('Enter');
    await expect(line).toHaveValue('');
  }
}

test('a small game is made from nothing, wired, audited, renamed, undone and redone, and exported', async ({
  page,
  server,
}) => {
  test.setTimeout(360_000);
  const id = await project(page, server.url, 'The lock');
  const base = `${server.url}/p/${id}`;
  await page.keyboard.type('Upper Lock');
  await expect(page.getByText('saved as upper-lock')).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Scope')).toHaveValue('upper-lock');
  await expect(page.getByRole('note')).toContainText('Place something');

  await open(page, base, 'catalogue');
  await expect(page.getByText('Nothing is declared yet')).toBeVisible();
  await inCatalogue(page, [
    'enum Side: left, right',
    'key table lines: bow, stern',
    'channel water(side: enum:Side)',
    'peer host server',
    'peer mate client',
  ]);

  await open(page, base, 'plan?scope=upper-lock');
  await place(page, ['Lever', 'Gate', 'Lamp', 'Lamp', 'Keeper']);
  await page.getByLabel('New scene, prefab or widget').selectOption('scene');
  await page.getByLabel('Name of the new scene').fill('lower-lock');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Scope')).toHaveValue('lower-lock');
  await place(page, ['Gate', 'Lamp']);
  for (const widget of ['Button', 'Panel']) {
    await page.getByLabel('New scene, prefab or widget').selectOption('widget');
    await page.getByLabel('Name of the new widget').fill(widget);
    await page.keyboard.press('Enter');
    await expect(page.getByLabel('Scope')).toHaveValue(widget);
  }
  for (const [asset, lines] of DEFINITIONS) {
    await open(page, base, `plan?scope=${asset}`);
    await declare(page, lines);
  }
  // A gate has a lamp of its own, a panel two buttons.
  await open(page, base, 'plan?scope=Gate');
  await place(page, ['Lamp']);
  await open(page, base, 'plan?scope=Panel');
  await place(page, ['Button', 'Button']);
  await open(page, base, 'plan?scope=upper-lock');
  await place(page, ['Panel']);
  await open(page, base, 'catalogue');
  await inCatalogue(page, ['load set day: upper-lock, lower-lock']);

  await open(page, base, 'wire?scope=Gate&at=.');
  await wire(page, ['when .onOpened do lamp-1.light(side = left)']);
  await open(page, base, 'wire?scope=Panel&at=button-1');
  await wire(page, ['when button-1.onPressed do .ask', 'when button-2.onPressed do button-1.flash']);
  await open(page, base, 'wire?scope=upper-lock&at=lever-1');
  await wire(page, [
    'when lever-1.onPulled do gate-1.open',
    'when lever-1.onHeld do #water[@line](side = $side)',
    'when gate-1.onOpened do lamp-1.light(side = right) after 0.5s',
    'when gate-1.onShut do lamp-2.dark',
    'when panel-1.onAsked do gate-1.shut once',
  ]);
  await open(page, base, 'wire?scope=lower-lock&at=gate-1');
  await wire(page, ['when #water do lamp-1.light(side = $side)', 'when gate-1.onOpened do lamp-1.dark']);
  await saved(page);
  const made = (await server.get(`/api/projects/${id}/document`)).body as object;
  if (process.env.OQUEL_WRITE_GAME) writeFileSync(GAME, `${JSON.stringify(made, null, 2)}\n`);
  expect(made).toEqual(JSON.parse(readFileSync(GAME, 'utf8')));
  const audit = await ask(server, `/api/projects/${id}/audit?today=2026-11-01`);
  expect(audit.summary.error).toBe(0);

  // Half of it gets other names, each carried along.
  await open(page, base, 'plan?scope=Gate');
  await page.getByLabel('Name of the prefab').fill('Sluice Gate');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Apply' }).click();
  await expect(page.getByLabel('Scope')).toHaveValue('SluiceGate');
  const row = page.locator('[data-decl="open"] .declline');
  await row.focus();
  await page.keyboard.press('F2');
  await page.getByRole('combobox', { name: 'action' }).fill('raiseGate: set isOpen to true; raise onOpened');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toContainText('used in');
  await page.getByRole('button', { name: 'Apply' }).click();
  await open(page, base, 'catalogue?entry=enum%3ASide');
  await page.getByLabel('Values').fill('port, right');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Apply' }).click();
  await open(page, base, 'catalogue?entry=channel%3Awater');
  await page.getByLabel('Name of the channel').fill('tide');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Apply' }).click();
  await saved(page);
  const renamed = await ask(server, `/api/projects/${id}/document`);
  const text = JSON.stringify(renamed);
  for (const gone of ['"Gate"', '"open"', '"water"', '"left"']) expect(text).not.toContain(gone);
  const after = await ask(server, `/api/projects/${id}/audit?today=2026-11-01`);
  expect(after.summary).toEqual(audit.summary);

  // All of it undone, to the empty project, and done again.
  await open(page, base, 'wire');
  const all = async (button: string, key: string): Promise<void> => {
    const step = page.getByRole('button', { name: button, exact: true });
    for (let i = 0; i < 200 && (await step.isEnabled()); i++) {
      await page.keyboard.press(key);
      await saved(page);
    }
  };
  await all('Undo', 'Control+z');
  await expect(page.getByText('the project has no scene')).toBeVisible({ timeout: 30_000 });
  await saved(page);
  expect((await server.get(`/api/projects/${id}/document`)).body).toEqual({
    format: 'oquel.project/1',
    name: 'The lock',
    assets: [],
  });
  await all('Redo', 'Control+Shift+z');
  await expect(page.getByLabel('Scope')).toBeVisible({ timeout: 30_000 });
  await saved(page);
  await expect.poll(() => ask(server, `/api/projects/${id}/document`), { timeout: 30_000 }).toEqual(renamed);
});

test('every empty view says what is missing and leads on, and none has a barrier', async ({
  page,
  server,
}) => {
  test.setTimeout(240_000);
  const id = await project(page, server.url, 'Nothing yet');
  const base = `${server.url}/p/${id}`;
  const empty: [string, string | RegExp][] = [
    ['plan', 'Name the first scene'],
    ['wire', 'Go to Plan to make the first scene'],
    ['ripple', 'Go to Plan to make the first scene'],
    ['crossings', 'Go to Wire to add the first one'],
    ['catalogue', 'Nothing is declared yet'],
    ['rehearse', 'Make a new one'],
    ['builds', 'No build has been frozen yet'],
  ];
  for (const [view, says] of empty) {
    await open(page, base, view);
    await expect(page.getByText(says)).toBeVisible();
    await expectNoBarriers(page);
  }
  await open(page, base, 'wire');
  await page.getByRole('link', { name: 'Go to Plan to make the first scene' }).click();
  await expect(page.getByLabel('First scene').getByLabel('Name')).toBeFocused();
  await page.keyboard.type('quay');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Scope')).toHaveValue('quay');
  // After undo of a scene one is not left on its page.
  await page.getByLabel('New scene, prefab or widget').selectOption('prefab');
  await page.getByLabel('Name of the new prefab').fill('Crane');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Scope')).toHaveValue('Crane');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByLabel('Scope')).toHaveValue('quay');
});
