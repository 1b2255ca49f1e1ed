import type { Page } from '@playwright/test';
import { expect, saved, strip, test, type Demo } from './fixtures.js';
import { expectNoBarriers } from './barriers.js';

async function openRipple(page: Page, demo: Demo, query: string): Promise<void> {
  await page.goto(demo.url(`ripple?${query}`));
  await page.getByText(/Gate:/).waitFor();
  await page
    .getByRole('status')
    .first()
    .getByText(/reached|lead here/)
    .waitFor();
}
function entry(page: Page, name: string | RegExp): ReturnType<Page['locator']> {
  return page.locator('.ripplepane').getByRole('button', { name });
}

test('from a sender’s event to the far end of its chain, and back to the cause', async ({ page, demo }) => {
  await page.goto(demo.url('wire?scope=pylon-ridge&at=mast-1'));
  await strip(page, 'onGust').getByRole('link', { name: 'Ripple' }).click();
  await expect(page.getByRole('status').first()).toContainText('up to 7 hops beyond the limit of 6');
  await expect(entry(page, /mast-1\.onGust/)).toBeVisible();
  const far = entry(page, /beacon-4\.light/);
  await far.click();
  const about = page.getByRole('complementary', { name: /About pylon-ridge:beacon-4\.light/ });
  await expect(about).toContainText('hop 7');
  await about.getByRole('link', { name: 'What leads here' }).click();
  await expect(page.getByRole('button', { name: 'what leads here' })).toHaveAttribute('aria-pressed', 'true');
  await expect(entry(page, /mast-1\.onGust.*, from outside/)).toBeVisible();
  // A binding on the way opens in Wire, and back comes back.
  await entry(page, /controller-ridge\.halt/).click();
  await page
    .getByRole('complementary')
    .getByRole('link', { name: /^when controller-ridge/ })
    .first()
    .click();
  await expect(page.locator('.sentence.sought')).toBeVisible();
  await page.goBack();
  await expect(entry(page, /mast-1\.onGust.*, from outside/)).toBeVisible();
});

test('the heaviest chain is lit with its latency; seconds are an axis; the limit is a line', async ({
  page,
  demo,
}) => {
  await openRipple(page, demo, 'at=pylon-ridge:mast-1&name=onGust');
  await page.getByRole('button', { name: /heaviest chain: 7 hops, 1\.5 s/ }).click();
  await expect(page.locator('.rippleentry.lit')).toHaveCount(8);
  await expect(page.getByText('beyond the limit of 6 hops')).toBeVisible();
  // Each of its hops is numbered where it stands.
  await expect(page.locator('.rippleentry.lit .nth')).toHaveText(['1 ', '2 ', '3 ', '4 ', '5 ', '6 ', '7 ']);
  await expect(entry(page, /controller-ridge\.note, onSlowed after 0\.5 s/)).toBeVisible();
  await page.getByRole('button', { name: 'seconds' }).click();
  await expect(page.locator('.ripplehead')).toContainText('0.5 s');
  await expect(page).toHaveURL(/axis=time/);
  // The seconds are to scale: 0.5 s and 1.5 s stand as far from the start as one to three.
  const left = async (name: RegExp): Promise<number> =>
    Number(await entry(page, name).locator('.spread').getAttribute('x1'));
  const start = await left(/mast-1\.onGust/);
  const [near, far] = [await left(/controller-ridge\.note/), await left(/cabin-4\.closeDoors/)];
  expect((far - start) / (near - start)).toBeCloseTo(3, 3);
});

test('the list says what the picture shows, by keyboard', async ({ page, demo }) => {
  await openRipple(page, demo, 'at=pylon-ridge:director');
  // A cycle that it runs into is one mark, which opens.
  await entry(page, /^cycle of 2/).click();
  await page.getByRole('button', { name: 'Open the cycle' }).click();
  await expect(entry(page, /relay-west\.note.*returns to .*note, instant/)).toBeVisible();
  await page.getByRole('button', { name: 'list', exact: true }).click();
  const list = page.getByRole('list', { name: 'What follows, as a list' });
  await expect(list.getByRole('button').first()).toHaveText('pylon-ridge:director.onTurned');
  await expect(list).toContainText('returns (instant) to');
  await list.getByRole('button').first().focus();
  await page.keyboard.press('ArrowDown');
  await expect(list.getByRole('button').nth(1)).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('complementary', { name: 'About #weather' })).toBeVisible();
  await page.getByRole('button', { name: 'picture' }).click();
  await expect(entry(page, /#weather/)).toHaveClass(/chosen/);
  await entry(page, /#weather/).focus();
  await expect(entry(page, /#weather/)).toBeFocused();
  await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('complementary')).toContainText('hop 1');
});

test('a trial is kept or dropped: what falls away, and how the findings change', async ({ page, demo }) => {
  await openRipple(page, demo, 'at=pylon-ridge:mast-1&name=onGust');
  await entry(page, /winch-3\.slow/).click();
  const trial = page.getByRole('status', { name: 'Trial' });
  const off = page.getByRole('button', { name: /off as a trial/ }).first();
  await off.click();
  await expect(trial).toContainText('1 binding off');
  await expect(trial).toContainText(/\d+ actions fall away/);
  await expect(trial).toContainText(/finding/);
  await expect(entry(page, /beacon-4\.light/)).toHaveClass(/gone/);
  await trial.getByRole('button', { name: 'Drop it' }).click();
  await expect(trial).toHaveCount(0);
  await expect(entry(page, /beacon-4\.light/)).not.toHaveClass(/gone/);
  await off.click();
  await trial.getByRole('button', { name: 'Keep it' }).click();
  await expect(entry(page, /beacon-4\.light/)).toHaveCount(0);
  await saved(page);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(entry(page, /beacon-4\.light/)).toBeVisible();
});

test('filters keep the ways to what fits; a name that is not there is reported', async ({ page, demo }) => {
  await openRipple(page, demo, 'at=pylon-ridge:mast-1&name=onGust');
  await page.getByLabel('Only this asset').selectOption('Beacon');
  await expect(entry(page, /beacon-4\.light/)).toBeVisible();
  await expect(entry(page, /heater\.warm/)).toHaveCount(0);
  await page.goto(demo.url('ripple?at=pylon-ridge:nobody'));
  await expect(page.getByRole('alert')).toContainText('This name is not in the project');
});

test('the plan beside shows what happens where it is, moment by moment, and plays it back', async ({
  page,
  demo,
}) => {
  await openRipple(page, demo, 'at=pylon-ridge:mast-1&name=onGust');
  await page.getByRole('button', { name: 'plan', exact: true }).click();
  const plan = page.getByRole('region', { name: 'Plan' });
  const shown = plan.getByRole('status', { name: 'Moment shown' });
  await expect(shown).toHaveText('start, 0 s: pylon-ridge:mast-1.onGust');
  await plan.getByRole('slider', { name: 'Moment' }).focus();
  await page.keyboard.press('ArrowRight');
  await expect(shown).toHaveText('hop 1, 0 s: pylon-ridge:brake-1.engage');
  await expect(plan.locator('.thing[data-path="brake-1"]')).toHaveClass(/picked/);
  await expect(plan.locator('.thing[data-path="mast-1"]')).toHaveClass(/lit/);
  await expect(entry(page, /brake-1\.engage/)).toHaveClass(/lit/);
  await plan.getByRole('button', { name: 'Play' }).click();
  await expect(shown).toContainText('hop 7, 3 s', { timeout: 20_000 });
  await expect(plan.getByRole('button', { name: 'Play' })).toBeVisible();
  await plan.locator('.thing[data-path="winch-4"] .hit').click();
  await expect(page.getByRole('complementary', { name: /About pylon-ridge:winch-4\.stop/ })).toBeVisible();
  await expect(shown).toContainText('winch-4.stop');
});

test('copies are folded and unfolded', async ({ page, demo }) => {
  await openRipple(page, demo, 'asset=Cabin&name=onDocked');
  const fold = entry(page, /^Cabin\.onDocked x \d/);
  await fold.click();
  await page.getByRole('button', { name: /^Unfold/ }).click();
  await expect(fold).toHaveCount(0);
  await expect(entry(page, /cabin-1\.onDocked/)).toBeVisible();
  await entry(page, /cabin-1\.onDocked/).click();
  await page.getByRole('button', { name: 'Fold copies' }).click();
  await expect(fold).toBeVisible();
});

test('Ripple bars nobody, on either ground', async ({ page, demo }) => {
  await openRipple(page, demo, 'at=pylon-ridge:mast-1&name=onGust');
  await entry(page, /winch-3\.slow/).click();
  await page
    .getByRole('button', { name: /off as a trial/ })
    .first()
    .click();
  await expect(page.getByRole('status', { name: 'Trial' })).toContainText(/finding/);
  await expectNoBarriers(page);
});
