import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { expectNoBarriers } from './barriers.js';
import { expect, saved, test, thing } from './fixtures.js';

const PAGE = readFileSync(fileURLToPath(new URL('../docs/first-hour.md', import.meta.url)), 'utf8');
/** What is typed stands on the page, letter for letter. */
function typed(text: string): string {
  expect(PAGE).toContain(text);
  return text;
}

/** The page on the first hour, followed step by step as somebody who has never seen Oquel. */
test('the first hour leads from nothing to a build that passes the gate', async ({ page, server }) => {
  test.setTimeout(360_000);
  await page.goto(server.url);
  await page.getByRole('button', { name: 'New project' }).click();
  await page.keyboard.type(typed('Harbour'));
  await page.keyboard.press('Enter');
  await page.getByLabel('First scene').waitFor();
  await page.keyboard.type(typed('quay'));
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Scope')).toHaveValue('quay');
  const base = page.url().replace(/\/plan.*/, '');

  // 3 and 4: things, and what they can do.
  const palette = page.getByRole('combobox', { name: 'Place' });
  for (const prefab of ['Bell', 'Gate']) {
    await palette.fill(typed(prefab));
    await palette.press('Enter');
    await expect(palette).toHaveValue('');
  }
  await expect(thing(page, 'gate-1')).toBeVisible();
  const add = page.getByRole('combobox', { name: 'Add', exact: true });
  for (const [prefab, lines] of [
    ['Bell', ['onRung']],
    ['Gate', ['open', 'shut']],
  ] as const) {
    await page.getByLabel('Scope').selectOption(prefab);
    for (const text of lines) {
      await add.fill(typed(text));
      await add.press('Enter');
      await expect(add).toHaveValue('');
    }
  }

  // 5: wire.
  await page.getByRole('navigation', { name: 'Views' }).getByRole('link', { name: 'Wire' }).click();
  await page.getByLabel('Scope').selectOption('quay');
  await thing(page, 'bell-1').click();
  const line = page.getByPlaceholder(/^when mast-2/);
  await line.fill(typed('when bell-1.onRung do gate-1.open once'));
  await line.press('Enter');
  await expect(line).toHaveValue('');
  await line.fill(typed('when bell-1.onRung do lamp-1.light'));
  await expect(page.getByText('Enter adds it and creates lamp-1, the prefab Lamp and light')).toBeVisible();
  await line.press('Enter');
  await expect(thing(page, 'lamp-1')).toBeVisible();

  // 6: what follows.
  await page.getByRole('link', { name: 'Ripple' }).last().click();
  await expect(page.locator('title', { hasText: 'quay:gate-1.open' })).toBeAttached();
  await expect(page.locator('title', { hasText: 'quay:lamp-1.light' })).toBeAttached();

  // 7: try it.
  await saved(page);
  await page.getByRole('navigation', { name: 'Views' }).getByRole('link', { name: 'Rehearse' }).click();
  await page.getByRole('button', { name: 'Make a new one' }).click();
  await page.getByLabel('Step, typed').fill(typed('quay:bell-1.onRung'));
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-step="0"]')).toContainText('quay:bell-1 raises onRung');
  await page.getByLabel('Step, typed').fill(typed('expect quay:gate-1 did open 1 time'));
  await page.keyboard.press('Enter');
  await expect(page.locator('.rehearsalstage')).toContainText('1 of 1 expectations hold');

  // 8: a mistake on purpose, and its undoing.
  await saved(page);
  await page.goto(`${base}/wire?scope=quay&at=gate-1`);
  await page.getByRole('button', { name: 'Remove (1 binding names it)' }).click();
  await expect(page.getByText('Gate: stopped')).toBeVisible();
  await page.getByRole('navigation', { name: 'Views' }).getByRole('link', { name: 'Audit' }).click();
  await expect(page.getByText(typed('dangling-target')).first()).toBeVisible();
  const [about] = await Promise.all([
    page.context().waitForEvent('page'),
    page.getByRole('article', { name: 'Finding' }).getByRole('link', { name: 'dangling-target' }).click(),
  ]);
  await expect(about.getByRole('heading', { level: 1 })).toHaveText('dangling-target');
  await about.close();
  await page.keyboard.press('Control+z');
  await expect(page.getByText('Gate: passed')).toBeVisible();

  // 9: a build.
  await saved(page);
  await page.getByRole('navigation', { name: 'Views' }).getByRole('link', { name: 'Builds' }).click();
  await page.getByLabel('Name of the build').fill(typed('week 1'));
  await page.getByRole('button', { name: 'Freeze' }).click();
  const build = page.getByRole('region', { name: 'Build week 1' });
  await build.getByRole('button', { name: 'Approve' }).click();
  await expect(build.getByRole('listitem').first()).toContainText('approved it');
});

test('the guide is served with a search, and every view leads to what it says of it', async ({
  page,
  demo,
}) => {
  await page.goto(demo.url('ripple'));
  await page.getByText(/Gate:/).waitFor();
  const [guide] = await Promise.all([
    page.context().waitForEvent('page'),
    page.getByRole('link', { name: 'Guide' }).click(),
  ]);
  await expect(guide).toHaveURL(/views\.html#ripple$/);
  await expect(guide.getByRole('heading', { name: 'Ripple' })).toBeInViewport();
  await expectNoBarriers(guide);
  await guide.keyboard.press('/');
  await guide.keyboard.type('baseline');
  const found = guide.locator('#found');
  await expect(found.getByRole('link').first()).toBeVisible();
  await expectNoBarriers(guide);
  await guide.keyboard.press('Enter');
  await guide.keyboard.press('Enter');
  await expect(found).toBeHidden();
  await expect(guide.getByRole('article')).toContainText(/baseline/i);
  await guide.getByRole('searchbox').fill('no such word anywhere');
  await expect(found).toContainText('Nothing is found');
  await guide.keyboard.press('Escape');
  await expect(guide.getByRole('article')).toBeVisible();
  const away = await guide.goto(new URL('/guide/nothing.html', guide.url()).href);
  expect(away!.status()).toBe(404);
});
