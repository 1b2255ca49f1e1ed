import { expect, openMast, saved, strip, test, thing, openPerson } from './fixtures.js';

test('from the list of projects to the demo, and a receiver found by pointing: three clicks', async ({
  page,
  server,
}) => {
  await page.goto(server.url);
  await page.getByRole('link', { name: 'Storm over Veyra' }).last().click();
  await expect(page.getByRole('link', { name: /Gate: stopped/ })).toBeVisible();
  await page.getByRole('navigation', { name: 'Views' }).getByRole('link', { name: 'Wire' }).click();
  await page.waitForURL(/\/wire/);
  await page.locator('.strips').waitFor();
  await page.getByLabel('Scope').selectOption('pylon-ridge');
  await thing(page, 'mast-2').click();
  const calm = strip(page, 'onCalm');
  await expect(calm.locator('.count')).toHaveText('1');

  let clicks = 0;
  const click = async (target: ReturnType<typeof strip>): Promise<void> => {
    clicks++;
    await target.click();
  };
  await click(calm.getByRole('button', { name: 'Add a receiver' }));
  await click(thing(page, 'brake-3'));
  await click(page.getByRole('button', { name: /^release/ }));
  expect(clicks).toBeLessThanOrEqual(3);

  await expect(calm.locator('.count')).toHaveText('2');
  await expect(calm.locator('.sentence').last()).toContainText('brake-3 release');
});

test('a receiver found by typing: six keys, and everything is kept over a reload', async ({ page, demo }) => {
  await openMast(page, demo);
  const gust = strip(page, 'onGust');
  await expect(gust.locator('.count')).toHaveText('3');
  let keys = 0;
  const press = async (key: string): Promise<void> => {
    keys++;
    await page.keyboard.press(key);
  };
  await press('a');
  await expect(page.getByRole('combobox', { name: 'Find receivers' })).toBeFocused();
  await press('b');
  await press('r');
  await press('Enter');
  await expect(page.locator('.actionrow:focus')).toContainText('engage');
  await press('Enter');
  expect(keys).toBeLessThanOrEqual(6);
  await expect(gust.locator('.count')).toHaveText('4');
  await expect(gust.locator('.sentence').last()).toContainText('brake-2 engage (force = $speed)');
  await saved(page);
  await page.reload();
  await expect(strip(page, 'onGust').locator('.count')).toHaveText('4');
  await expect(page.locator('.sentence.sought')).toContainText('brake-2');
});

test('many receivers at once, with options; what is wired is marked and refused', async ({ page, demo }) => {
  await openMast(page, demo);
  await strip(page, 'onGust').getByRole('button', { name: 'Add a receiver' }).click();
  const finder = page.getByRole('dialog');
  await finder.getByRole('button', { name: /^#safety/ }).click();
  await expect(finder.getByRole('option')).toHaveCount(4);
  await expect(finder.getByRole('option', { name: /brake-1/ })).toContainText('wired: engage');
  await finder.getByRole('option', { name: /brake-1/ }).click();
  await expect(finder.getByRole('button', { name: /engage.*already wired/ })).toBeDisabled();
  await finder.getByRole('option', { name: /brake-1/ }).click();
  await finder.getByRole('option', { name: /brake-2/ }).click();
  await thing(page, 'brake-3').click();
  await finder.getByRole('button', { name: 'once' }).click();
  await finder.getByLabel('Delay in seconds').fill('0.5');
  await finder.getByRole('button', { name: 'Wire 2 receivers' }).click();
  const gust = strip(page, 'onGust');
  await expect(gust.locator('.count')).toHaveText('5');
  await expect(gust.locator('.sentence').nth(3)).toContainText(
    'brake-2 engage (force = $speed)onceafter 0.5s',
  );
  await expect(gust.locator('.sentence').nth(4)).toContainText('brake-3');
});

test('an argument of the wrong type is reported in words, and nothing is wired until it is right', async ({
  page,
  demo,
}) => {
  await openMast(page, demo);
  await strip(page, 'onCalm').getByRole('button', { name: 'Add a receiver' }).click();
  await thing(page, 'brake-1').click();
  const finder = page.getByRole('dialog');
  // What is entered is checked as it is; what is still empty, when it is to be wired.
  await finder.getByLabel(/Argument force/).fill('strong');
  await expect(finder.getByRole('alert')).toContainText('expected float, found "strong"');
  await finder.getByLabel(/Argument force/).fill('');
  await expect(finder.getByRole('alert')).toHaveCount(0);
  await finder.getByRole('button', { name: /^engage/ }).click();
  await expect(finder.getByRole('alert')).toContainText('force needs a value of type float');
  const force = finder.getByLabel(/Argument force/);
  await expect(force).toBeFocused();
  await force.fill('strong');
  await force.press('Enter');
  await expect(finder.getByRole('alert')).toContainText('expected float, found "strong"');
  await force.fill('30');
  await force.press('Enter');
  await expect(strip(page, 'onCalm').locator('.sentence').last()).toContainText('engage (force = 30)');
});

test('publishing to a channel with a key, and hearing it', async ({ page, demo }) => {
  await openMast(page, demo);
  await strip(page, 'onGust').getByRole('button', { name: 'Add a receiver' }).click();
  const finder = page.getByRole('dialog');
  await finder.getByLabel('Find receivers').fill('#tension');
  await finder.getByRole('option', { name: '#tension' }).click();
  await finder.getByLabel('Key on the channel').fill('summit');
  await finder.getByLabel('Key on the channel').press('Enter');
  await expect(strip(page, 'onGust').locator('.sentence').last()).toContainText(
    'publish to #tension["summit"] (tension = $speed)',
  );

  await page.getByRole('combobox', { name: 'Sender' }).fill('#weather');
  await page.keyboard.press('Enter');
  await expect(strip(page, 'weather').locator('.count')).toHaveText('1');
  await strip(page, 'weather').getByRole('button', { name: 'Add a receiver' }).click();
  await thing(page, 'beacon-3').click();
  await finder.getByRole('button', { name: /^blink/ }).click();
  await expect(strip(page, 'weather').locator('.count')).toHaveText('2');
});

test('sentences are changed, moved, muted and removed by keys; undo and redo follow', async ({
  page,
  demo,
}) => {
  await openMast(page, demo);
  const gust = strip(page, 'onGust');
  const first = gust.locator('.sentence .said').first();
  await first.focus();
  await page.keyboard.press('Alt+ArrowDown');
  await expect(gust.locator('.sentence').nth(1)).toContainText('brake-1');
  await gust.locator('[data-binding="gust-2a"] .said').focus();
  await page.keyboard.press('m');
  await expect(gust.locator('[data-binding="gust-2a"]')).toContainText('off');
  await page.keyboard.press('Enter');
  const editor = gust.getByRole('group', { name: 'Change this binding' });
  await editor.getByLabel('Action').selectOption('release');
  await editor.getByLabel(/Limit/).fill('0');
  await editor.getByRole('button', { name: 'Save' }).click();
  await expect(editor.getByRole('alert')).toContainText('at least 1, not "0"');
  await editor.getByLabel(/Limit/).fill('2');
  await editor.getByRole('button', { name: 'Save' }).click();
  await expect(gust.locator('[data-binding="gust-2a"]')).toContainText('brake-1 releaseat most 2off');
  await gust.locator('[data-binding="gust-2a"] .said').focus();
  await page.keyboard.press('Delete');
  await expect(gust.locator('.count')).toHaveText('2');
  await saved(page);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(gust.locator('[data-binding="gust-2a"]')).toContainText('release');
  await page.keyboard.press('Control+z');
  await expect(gust.locator('[data-binding="gust-2a"]')).toContainText('engage (force = $speed)off');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(gust.locator('.sentence').first()).toContainText('brake-1 engage (force = $speed)');
  await page.keyboard.press('Control+Shift+z');
  await expect(gust.locator('.sentence').nth(1)).toContainText('brake-1');
});

test('bindings inside a prefab are wired as in a scene', async ({ page, demo }) => {
  await page.goto(demo.url('wire?scope=Cabin&at=.'));
  await strip(page, 'onSwaying').getByRole('button', { name: 'Add a receiver' }).click();
  await page.getByRole('option', { name: /heater/ }).click();
  await page.getByRole('button', { name: /^cool/ }).click();
  await expect(strip(page, 'onSwaying').locator('.sentence')).toContainText('heater cool');
  await expect(page.getByRole('contentinfo')).toContainText('gone');
});

test('an address that names nothing leads to what there is', async ({ page, demo }) => {
  await page.goto(demo.url('wire?scope=nowhere'));
  await expect(page.getByLabel('Plan of valley-station')).toBeVisible();
  await page.goto(demo.url('wire').replace(demo.id, '00000000-0000-4000-8000-000000000000'));
  await expect(page.getByRole('alert')).toContainText('there is no project of that id');
});

test('a fault is fixed where it is reported, as one undo', async ({ page, demo }) => {
  await openMast(page, demo);
  const fault = page.locator('[data-binding="gust-2c"] .fault');
  await expect(fault).toContainText('"horn-7" is not in pylon-ridge');
  await fault.getByRole('button', { name: 'Fix' }).click();
  await fault
    .getByRole('button', { name: /horn-2/ })
    .first()
    .click();
  await expect(page.locator('[data-binding="gust-2c"] .said')).toContainText('horn-2 sound');
  await expect(page.locator('[data-binding="gust-2c"] .fault')).toHaveCount(0);
  await expect(page.locator('[data-count="error"]')).toHaveText(/18 errors/);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(fault).toContainText('"horn-7"');
});

test('a line drawn from one thing to another opens the finder with both ends answered', async ({
  page,
  demo,
}) => {
  await openMast(page, demo);
  const at = async (path: string): Promise<{ x: number; y: number }> => {
    const box = (await thing(page, path).locator('.hit').boundingBox())!;
    return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  };
  const [from, to] = [await at('mast-1'), await at('brake-3')];
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move((from.x + to.x) / 2, (from.y + to.y) / 2, { steps: 4 });
  await expect(page.locator('.linkline')).toBeVisible();
  await page.mouse.move(to.x, to.y, { steps: 4 });
  await page.mouse.up();
  await expect(thing(page, 'brake-3')).toHaveClass(/picked/);
  await page.getByRole('button', { name: /^release/ }).click();
  await expect(page.locator('.sentence.sought .said')).toContainText('brake-3 release');
  await expect(page).toHaveURL(/at=mast-1/);
});

test('the arrows walk the sentences; after a removal the next one has the focus; one is dragged before another', async ({
  page,
  demo,
}) => {
  await openMast(page, demo);
  const said = (event: string, n: number): ReturnType<typeof strip> =>
    strip(page, event).locator('.sentence .said').nth(n);
  const texts = (): Promise<string[]> => strip(page, 'onGust').locator('.sentence .said').allInnerTexts();
  await said('onGust', 0).focus();
  await page.keyboard.press('ArrowDown');
  await expect(said('onGust', 1)).toBeFocused();
  const before = await texts();
  expect(before.length).toBeGreaterThan(2);
  await page.keyboard.press('Delete');
  await expect.poll(texts).toEqual([before[0], ...before.slice(2)]);
  await expect(said('onGust', 1)).toBeFocused();
  await page.keyboard.press('Control+z');
  await expect.poll(texts).toEqual(before);
  await strip(page, 'onGust')
    .locator('.sentence')
    .nth(2)
    .dragTo(strip(page, 'onGust').locator('.sentence').nth(0));
  await expect.poll(texts).toEqual([before[2], before[0], before[1], ...before.slice(3)]);
});

test('keys of a single letter can be switched off, and then do nothing', async ({ page, demo }) => {
  await openMast(page, demo);
  await (await openPerson(page)).getByRole('button', { name: /Keyboard shortcuts/ }).click();
  await page.getByLabel('Single-letter shortcuts').uncheck();
  await page.getByRole('button', { name: 'Close' }).click();
  const said = strip(page, 'onGust').locator('.sentence .said').first();
  await said.focus();
  await page.keyboard.press('m');
  await page.keyboard.press('a');
  await page.keyboard.press('w');
  await expect(strip(page, 'onGust').locator('.sentence.off')).toHaveCount(0);
  await expect(page.getByRole('combobox', { name: /^Line/ })).not.toBeFocused();
  await page.keyboard.press('Alt+ArrowDown');
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeEnabled();
});
