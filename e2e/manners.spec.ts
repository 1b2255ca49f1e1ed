import { readFileSync } from 'node:fs';
import { DEMO, expect, openMast, saved, strip, test, thing, signAs, useTheme } from './fixtures.js';

test('the sender is chosen by typing, and back leads to the one before', async ({ page, demo }) => {
  await openMast(page, demo);
  const sender = page.getByRole('combobox', { name: 'Sender' });
  await sender.fill('mast 3');
  await expect(page.getByRole('option', { name: /mast-3/ })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Wire: mast-3 in pylon-ridge');
  await expect(strip(page, 'onGust').locator('.sentence')).toContainText('brake-3 engage (force = 30)');
  await page.goBack();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Wire: mast-2 in pylon-ridge');
  await expect(sender).toHaveValue('mast-2');
});

test('the plan zooms about the pointer, pans, and shows all again', async ({ page, demo }) => {
  await openMast(page, demo);
  const hit = thing(page, 'mast-2').locator('.hit');
  const where = async (): Promise<{ x: number; y: number }> => (await hit.boundingBox())!;
  const home = await where();
  await page.mouse.move(home.x + 10, home.y + 10);
  await page.mouse.wheel(0, -600);
  await expect.poll(async () => Math.abs((await where()).x - home.x)).toBeLessThan(12);
  await expect(thing(page, 'director')).toHaveCount(0);
  await page.mouse.move(400, 600);
  await page.mouse.down();
  await page.mouse.move(460, 650, { steps: 4 });
  await page.mouse.up();
  await expect.poll(async () => Math.round((await where()).x - home.x)).toBeGreaterThan(40);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Wire: mast-2 in pylon-ridge');
  await page.getByRole('button', { name: 'Show all' }).click();
  await expect.poll(async () => Math.round((await where()).x)).toBe(Math.round(home.x));
});

test('the plan shows the running order of the active event, and nested receivers when they are sought', async ({
  page,
  demo,
}) => {
  await page.goto(demo.url('wire?scope=pylon-ridge&at=controller-ridge&event=onHalt'));
  await expect(thing(page, 'winch-4').locator('.ordertext')).toHaveText('1');
  await expect(thing(page, 'cabin-4').locator('.ordertext')).toHaveText('2');
  await expect(thing(page, 'cabin-4/heater')).toHaveCount(0);
  await strip(page, 'onHalt').getByRole('button', { name: 'Add a receiver' }).click();
  await page.getByLabel('Find receivers').fill('heater');
  await expect(thing(page, 'cabin-4/heater')).toHaveClass(/lit/);
  await expect(thing(page, 'winch-4')).toHaveClass(/faded/);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
});

test('an entry and a sleeper are told apart on the plan, to the eye and to a reader', async ({
  page,
  demo,
}) => {
  await page.goto(demo.url('wire?scope=valley-station'));
  await expect(thing(page, 'start-a').locator('.entrymark')).toHaveCount(1);
  await expect(page.getByRole('button', { name: 'start-a, Rescuer, entry' })).toBeVisible();
  await page.getByLabel('Scope').selectOption('pylon-ridge');
  await expect(page.getByRole('button', { name: 'climber-1, Climber, asleep' })).toBeVisible();
});

test('the export is the document that was put in, and edits stand in the history by name', async ({
  page,
  demo,
  server,
}) => {
  await openMast(page, demo);
  await page.getByRole('link', { name: 'Exchange' }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Save .json' }).click(),
  ]);
  await openMast(page, demo);
  expect(download.suggestedFilename()).toBe('Storm over Veyra.oquel.json');
  expect(JSON.parse(readFileSync(await download.path(), 'utf8'))).toEqual(
    JSON.parse(readFileSync(DEMO, 'utf8')),
  );
  await signAs(page, 'Ines');
  await strip(page, 'onGust').locator('[data-binding="gust-2c"] .said').focus();
  await page.keyboard.press('m');
  await saved(page);
  const history = await server.get(`/api/projects/${demo.id}/edits?after=1`);
  expect(history.body).toMatchObject({
    edits: [{ who: 'Ines', label: 'pylon-ridge: muted when mast-2.onGust do horn-7.sound' }],
  });
  await expect(page.getByRole('button', { name: 'Undo' })).toHaveAttribute(
    'title',
    /muted when mast-2\.onGust do horn-7\.sound/,
  );
});

test('the theme that was chosen stays chosen, and the system is followed', async ({ page, demo }) => {
  await openMast(page, demo);
  await useTheme(page, 'Dark');
  await page.reload();
  await expect(page.locator('html')).toHaveAttribute('data-mode', 'dark');
  await useTheme(page, 'Light');
  await expect(page.locator('html')).toHaveAttribute('data-mode', 'light');
  // The system's own is followed while it changes.
  await useTheme(page, 'System');
  await page.emulateMedia({ colorScheme: 'dark' });
  await expect(page.locator('html')).toHaveAttribute('data-mode', 'dark');
  await page.emulateMedia({ colorScheme: 'light' });
  await expect(page.locator('html')).toHaveAttribute('data-mode', 'light');
});

test('nothing runs out of the window from narrow to very wide', async ({ page, demo }) => {
  for (const width of [1024, 1280, 2560]) {
    await page.setViewportSize({ width, height: 800 });
    for (const view of [
      'plan?scope=pylon-ridge&chosen=shelf-1',
      'wire?scope=pylon-ridge&at=mast-2',
      'audit?rule=long-chain',
    ]) {
      await page.goto(demo.url(view));
      await page.getByText(/Gate:/).waitFor();
      const beyond = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
      expect(beyond).toBeLessThanOrEqual(0);
    }
  }
});

test('an address that is none leads back, and a document can be dropped on the list', async ({
  page,
  server,
}) => {
  await page.goto(`${server.url}/nowhere`);
  await page.getByRole('link', { name: 'All projects' }).click();
  await page.locator('.projectrow').first().waitFor();
  const data = await page.evaluateHandle(() => {
    const transfer = new DataTransfer();
    const text = JSON.stringify({
      format: 'oquel.project/1',
      name: 'Dropped hut',
      assets: [{ id: 'hut', kind: 'scene' }],
    });
    transfer.items.add(new File([text], 'hut.json', { type: 'application/json' }));
    return transfer;
  });
  await page.dispatchEvent('main', 'drop', { dataTransfer: data });
  await page.getByRole('button', { name: 'Save as a new project' }).click();
  await expect(page.getByText('hut has no events')).toBeVisible();
  await expect(page.locator('.project')).toHaveText('Dropped hut');
  await expect(page.getByRole('link', { name: /Gate: passed/ })).toBeVisible();
});

test('panels are resized by pointer and keys, stay so, and go back by a double click', async ({
  page,
  demo,
}) => {
  await openMast(page, demo);
  const divider = page.getByRole('separator', { name: 'Width of the wiring' });
  const left = async (): Promise<number> => (await page.locator('.strips').boundingBox())!.x;
  const before = await left();
  await divider.focus();
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('ArrowLeft');
  await expect(async () => expect(await left()).toBeCloseTo(before - 48, 0)).toPass();
  const box = (await divider.boundingBox())!;
  await page.mouse.move(box.x, box.y + 300);
  await page.mouse.down();
  await page.mouse.move(box.x + 100, box.y + 300, { steps: 4 });
  await page.mouse.up();
  await expect(async () => expect(await left()).toBeCloseTo(before + 52, -1)).toPass();
  await page.reload();
  await page.locator('.strips').waitFor();
  await expect(async () => expect(await left()).toBeCloseTo(before + 52, -1)).toPass();
  await divider.dblclick();
  await expect(async () => expect(await left()).toBeCloseTo(before, 0)).toPass();
});
