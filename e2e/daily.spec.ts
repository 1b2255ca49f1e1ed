import type { Page } from '@playwright/test';
import { expect, openMast, saved, strip, test, thing } from './fixtures.js';

/** Presses keys one by one and counts them. */
function counter(page: Page): { keys: number; press: (...keys: string[]) => Promise<void> } {
  const count = {
    keys: 0,
    press: async (...keys: string[]): Promise<void> => {
      for (const key of keys) {
        count.keys++;
        await page.keyboard.press(key);
      }
    },
  };
  return count;
}
/** Clicks and counts. */
function pointer(): { clicks: number; click: (target: ReturnType<Page['locator']>) => Promise<void> } {
  const count = {
    clicks: 0,
    click: async (target: ReturnType<Page['locator']>): Promise<void> => {
      count.clicks++;
      await target.click();
    },
  };
  return count;
}

async function activate(page: Page, event: string): Promise<void> {
  await strip(page, event).click({ position: { x: 20, y: 20 } });
  await expect(strip(page, event)).toHaveClass(/active/);
}

test('five receivers are added to one event: eight clicks', async ({ page, demo }) => {
  await openMast(page, demo);
  const five = ['beacon-3', 'beacon-4', 'beacon-5', 'shelf-1', 'shelf-3'];
  const { changes } = await sameAction(page, demo, five);
  expect(changes).toBeGreaterThan(0);
  await openMast(page, demo);
  const calm = strip(page, 'onCalm');
  const hand = pointer();
  await hand.click(calm.getByRole('button', { name: 'Add a receiver' }));
  for (const path of five) await hand.click(thing(page, path));
  await hand.click(page.getByRole('button', { name: /^rest/ }));
  expect(hand.clicks).toBeLessThanOrEqual(8);
  await expect(calm.locator('.count')).toHaveText('6');
});

test('five receivers are added to one event: twelve keys', async ({ page, demo }) => {
  const { changes } = await sameAction(page, demo, [
    'beacon-3',
    'beacon-4',
    'beacon-5',
    'shelf-1',
    'shelf-3',
  ]);
  expect(changes).toBeGreaterThan(0);
  await openMast(page, demo);
  await activate(page, 'onCalm');
  const keys = counter(page);
  await keys.press('a', '#', 'r', 'e', 's', 't');
  await expect(page.getByRole('dialog').getByRole('option')).toHaveCount(5);
  await keys.press('Control+a', 'Enter');
  await expect(page.locator('.actionrow:focus')).toContainText('rest');
  await keys.press('Enter');
  expect(keys.keys).toBeLessThanOrEqual(12);
  await expect(strip(page, 'onCalm').locator('.count')).toHaveText('6');
});

test('copies are scoped by a key on both sides: twelve keys', async ({ page, demo }) => {
  await openMast(page, demo);
  await activate(page, 'onIcedUp');
  const keys = counter(page);
  await keys.press('a', '*', 'b', 'e', 'Enter');
  await expect(page.locator('.actionrow:focus')).toBeVisible();
  await expect(page.getByLabel('line is equal to')).toHaveValue('@line');
  await keys.press('Enter');
  expect(keys.keys).toBeLessThanOrEqual(12);
  const made = strip(page, 'onIcedUp').locator('.sentence').last();
  await expect(made).toContainText('every Beacon [line = @line]');
  await expect(made).toContainText(/takes \d+ now/);
});

test('one placement is made to differ from its prefab, and is as all others again', async ({
  page,
  demo,
}) => {
  await openMast(page, demo);
  const hand = pointer();
  await hand.click(thing(page, 'cabin-3'));
  const inside = page.getByRole('region', { name: 'Inside cabin-3' });
  await hand.click(inside.getByRole('button', { name: /off in cabin-3/ }).first());
  expect(hand.clicks).toBeLessThanOrEqual(4);
  await saved(page);
  const ridge = async (): Promise<{ muted?: string[] }> => {
    const { assets } = await demo.document();
    const scene = assets.find((a) => a.id === 'pylon-ridge') as unknown as {
      placements: { id: string; muted?: string[] }[];
    };
    return scene.placements.find((p) => p.id === 'cabin-3')!;
  };
  expect((await ridge()).muted).toHaveLength(1);
  await page.goto(demo.url('plan?scope=pylon-ridge&chosen=cabin-3'));
  await expect(page.getByText('Differs from Cabin:')).toBeVisible();
  await expect(page.getByRole('button', { name: /^cabin-3, Cabin, differs/ })).toBeVisible();
  await page.getByRole('button', { name: 'Reset' }).click();
  await expect(page.getByText('Differs from Cabin:')).toHaveCount(0);
  await saved(page);
  expect((await ridge()).muted).toBeUndefined();
});

test('a widget’s press reaches a scene through a channel: sixteen keys by wire line', async ({
  page,
  demo,
}) => {
  await openMast(page, demo);
  await page.getByLabel('Scope').selectOption('LineTile');
  await activate(page, 'onPressed');
  const keys = counter(page);
  await keys.press('w', '#', 's', 'Tab', 'Enter');
  await expect(strip(page, 'onPressed').locator('.sentence').last()).toContainText('#sledReady');
  await expect(page.locator('.sentence.sought .said')).toBeFocused();
  await keys.press('h');
  await expect(page.getByLabel('Scope')).toHaveValue('pylon-ridge');
  await expect(page.getByRole('region', { name: 'All on #sledReady' })).toContainText('LineTile');
  await keys.press('w', 'c', 'a', 'r', 'Tab', 'Tab', 'Enter');
  expect(keys.keys).toBeLessThanOrEqual(16);
  await expect(strip(page, 'sledReady').locator('.sentence').last()).toContainText('cart-2');
});

test('a widget’s press reaches a scene through a channel: ten clicks', async ({ page, demo }) => {
  await openMast(page, demo);
  await page.getByLabel('Scope').selectOption('LineTile');
  const hand = pointer();
  await hand.click(strip(page, 'onPressed').getByRole('button', { name: 'Add a receiver' }));
  await hand.click(page.getByRole('option', { name: '#sledReady' }));
  await hand.click(page.locator('.actionrow').first());
  await hand.click(strip(page, 'onPressed').getByRole('button', { name: /heard by/ }));
  await hand.click(strip(page, 'sledReady').getByRole('button', { name: 'Add a receiver' }));
  await hand.click(thing(page, 'beacon-3'));
  await hand.click(page.getByRole('button', { name: /^blink/ }));
  expect(hand.clicks).toBeLessThanOrEqual(10);
  await expect(strip(page, 'sledReady').locator('.sentence').last()).toContainText('beacon-3 blink');
});

test('a receiver in another scene is found, with what load sets say of it', async ({ page, demo }) => {
  await openMast(page, demo);
  await strip(page, 'onCalm').getByRole('button', { name: 'Add a receiver' }).click();
  const finder = page.getByRole('dialog');
  await finder.getByRole('button', { name: 'other scenes' }).click();
  await finder.getByLabel('Find receivers').fill('valley horn');
  await finder.getByRole('option').first().click();
  await expect(finder.getByRole('status')).toContainText(
    'valley-station is loaded with pylon-ridge in ascent; not in rescue',
  );
});

test('all that a binding can say is said in its editor', async ({ page, demo }) => {
  await openMast(page, demo);
  await page.locator('[data-binding="gust-2a"] .said').click();
  const editor = page.getByRole('group', { name: 'Change this binding' });
  await editor.getByLabel('Receiver').fill('brake-3');
  await editor.getByRole('button', { name: 'in code' }).click();
  await editor.getByLabel('When the code binds it').selectOption('start');
  await editor.getByLabel('What the code releases at its end').selectOption('never');
  await editor.getByLabel('Note').fill('until the crew is up');
  await editor.getByRole('button', { name: 'Save' }).click();
  await saved(page);
  const { assets } = await demo.document();
  expect(assets.find((a) => a.id === 'pylon-ridge')!.bindings!.find((b) => b.id === 'gust-2a')).toEqual({
    id: 'gust-2a',
    from: { at: 'mast-2', event: 'onGust' },
    to: { at: 'brake-3', action: 'engage' },
    args: { force: { payload: 'speed' } },
    origin: 'code',
    bind: 'start',
    release: 'never',
    note: 'until the crew is up',
  });
});

/** Gives things of two kinds an action of the same name, and a tag of their own, so that five can be wired at once. */
async function sameAction(
  page: Page,
  demo: { id: string; url: (view: string) => string },
  five: readonly string[],
): Promise<{ changes: number }> {
  const origin = new URL(demo.url('')).origin;
  const project = (await (await page.request.get(`${origin}/api/projects/${demo.id}`)).json()) as {
    version: number;
    document: { assets: { id: string; tags?: string[]; actions?: { name: string }[] }[] };
  };
  expect(five).toHaveLength(5);
  const changes = project.document.assets
    .filter((a) => a.id === 'Beacon' || a.id === 'IceShelf')
    .flatMap((a) => [
      { op: 'set', asset: a.id, part: 'actions', value: [...(a.actions ?? []), { name: 'rest' }] },
      { op: 'set', asset: a.id, part: 'tags', value: [...(a.tags ?? []), 'resting'] },
    ]);
  changes.push(...([{ op: 'remove', list: 'placements', asset: 'pylon-ridge', id: 'shelf-2' }] as never[]));
  const answer = await page.request.post(`${origin}/api/projects/${demo.id}/edits`, {
    data: { base: project.version, who: 'ines', label: 'pylon-ridge: five that rest', changes },
  });
  expect(answer.ok(), await answer.text()).toBe(true);
  return { changes: changes.length };
}
