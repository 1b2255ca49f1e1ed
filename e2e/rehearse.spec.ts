import type { Page } from '@playwright/test';
import { expect, saved, strip, test, thing, type Demo } from './fixtures.js';
import { expectNoBarriers } from './barriers.js';

async function openRehearse(page: Page, demo: Demo, name = ''): Promise<void> {
  await page.goto(demo.url(`rehearse${name === '' ? '' : `?name=${encodeURIComponent(name)}`}`));
  await page.getByText(/Gate:/).waitFor();
  await verdict(page).waitFor();
}
function verdict(page: Page): ReturnType<Page['locator']> {
  return page.locator('.verdictline[data-pass]');
}
function log(page: Page): ReturnType<Page['locator']> {
  return page.getByRole('listbox', { name: 'What happened' });
}
function step(page: Page, n: number): ReturnType<Page['locator']> {
  return page.locator(`[data-step="${n}"]`);
}

test('a rehearsal is recorded by pointing, fails after a change of the wiring, is mended and passes', async ({
  page,
  demo,
}) => {
  await openRehearse(page, demo);
  await page.getByRole('button', { name: 'New', exact: true }).click();
  await expect(page.getByLabel('Name of the rehearsal')).toHaveValue('New rehearsal');
  await page.getByLabel('Scene on the plan').selectOption('pylon-ridge');
  await thing(page, 'mat-3').locator('.hit').click();
  await page.getByRole('button', { name: 'enter here' }).click();
  await expect(step(page, 0)).toContainText('pylon-ridge:mat-3 raises onStepped for Rescuer');
  await page
    .getByRole('region', { name: /What can happen to/ })
    .getByRole('button', { name: 'Close' })
    .click();
  // What came of it: at the end the beacon is lit, which is what is wanted.
  await page.getByRole('button', { name: 'expect: pylon-ridge:beacon-3 has lit = true' }).click();
  await expect(verdict(page)).toContainText('Passes 1 of 1 expectations hold');
  await saved(page);

  await page.getByLabel('Search the log').fill('beacon-3 does light');
  await log(page).getByText('pylon-ridge:beacon-3 does light').click();
  await page.getByRole('button', { name: 'muted', exact: true }).click();
  await expect(verdict(page)).toContainText('Fails 0 of 1 expectations hold');
  await expect(page.locator('[data-difference]')).toContainText(/1 new, \d+ gone/);
  await expect(step(page, 1)).toContainText('fails: false');
  await page.keyboard.press('Control+z');
  await expect(verdict(page)).toContainText('Passes 1 of 1');
  await saved(page);
  await page.reload();
  await expect(page.getByLabel('Name of the rehearsal')).toHaveValue('New rehearsal');
  await expect(verdict(page)).toContainText('Passes 1 of 1');
});

test('the instructive failure is followed to its cause, and to the binding that makes it', async ({
  page,
  demo,
}) => {
  await openRehearse(page, demo, 'Boarding at the west platform');
  await expect(verdict(page)).toContainText('Fails 3 of 4 expectations hold');
  await page.getByRole('button', { name: 'refused and lost' }).click();
  await log(page)
    .getByText(/beacon-7 has lit = true; it is false/)
    .click();
  await page.getByRole('button', { name: 'refused and lost' }).click();
  await log(page).getByText('valley-station:beacon-7: lit goes from true to false').click();
  await expect(page.getByRole('region', { name: 'States' })).not.toContainText('beacon-7lit');
  await page.getByRole('button', { name: 'Go to its cause' }).click();
  await expect(page.getByRole('region', { name: 'At the cursor', exact: true })).toContainText(
    'beacon-7 does dim',
  );
  await page.getByRole('button', { name: 'Show on the plan' }).click();
  await expect(
    page.getByRole('region', { name: 'What can happen to valley-station:beacon-7' }),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Close' }).click();
  await page.getByRole('link', { name: 'Open in Wire' }).click();
  await expect(page.locator('[data-binding="mat-6-dim"].sought')).toBeVisible();
});

test('it is played, stepped and scrubbed; the keys do it too', async ({ page, demo }) => {
  await openRehearse(page, demo);
  const cursor = page.getByLabel('Where the cursor stands');
  const last = Number(await cursor.getAttribute('max'));
  await cursor.fill('0');
  await expect(page.getByText('Nothing has changed since the start.')).toBeVisible();
  await page.getByRole('button', { name: 'step', exact: true }).click();
  await expect(cursor).toHaveValue('1');
  await log(page).focus();
  await page.keyboard.press('.');
  await page.keyboard.press('.');
  await page.keyboard.press(',');
  await expect(cursor).toHaveValue('2');
  await page.getByLabel('Speed').selectOption('8');
  await page.getByRole('button', { name: 'play' }).click();
  await expect(page.getByRole('button', { name: 'play' })).toBeVisible({ timeout: 15_000 });
  await expect(cursor).toHaveValue(String(last));
  await expect(page.getByRole('heading', { name: 'At the end' })).toBeVisible();
});

test('a walk is drawn over the plan, and its steps follow from the areas', async ({ page, demo }) => {
  await openRehearse(page, demo);
  await page.getByRole('button', { name: 'New', exact: true }).click();
  await page.getByLabel('Scene on the plan').selectOption('pylon-ridge');
  await page.getByRole('button', { name: 'draw a walk' }).click();
  await page.getByLabel('Points of the walk').fill('10,20 60,20');
  await page.getByLabel('Points of the walk').press('Enter');
  await page.getByLabel('Walking speed').fill('5');
  await page.getByLabel('Walking speed').press('Enter');
  // shelf-1 stands at 30,20 with a circle of 5 m around it: entered after 15 m, left by nobody, since it has no such event.
  await expect(page.locator('.walksteps')).toContainText(
    '4 s: pylon-ridge:shelf-1 raises onCracked for Rescuer',
  );
  const plan = page.locator('.rehearseplan .plan');
  const box = (await plan.boundingBox())!;
  await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
  await expect(page.getByLabel('Points of the walk')).toHaveValue(/^10,20 60,20 \S+$/);
  await page.getByRole('button', { name: /^Add its/ }).click();
  await expect(step(page, 0)).toContainText('shelf-1 raises onCracked');
  await expect(log(page)).toContainText('pylon-ridge:shelf-1 is destroyed, with everything in it');
});

test('all are run: verdicts, what is not covered, marks on the wiring, and the gate', async ({
  page,
  demo,
}) => {
  await openRehearse(page, demo);
  await page.getByRole('button', { name: 'all of them' }).click();
  await page.getByRole('button', { name: 'Run all' }).click();
  await expect(page.locator('[data-rehearsed]')).toContainText('rehearsals 2 of 5 pass');
  await expect(page.locator('[data-verdict="An alarm reaches the office"]')).toContainText(
    'it did not settle',
  );
  await expect(page.getByRole('heading', { name: /^\d+ of 271 bindings were used/ })).toBeVisible();
  await page.getByRole('button', { name: /^pylon-ridge/ }).click();
  await page.getByRole('link', { name: 'gust-2a', exact: true }).click();
  await expect(
    page.locator('[data-binding="gust-2a"]').getByRole('img', { name: 'not rehearsed' }),
  ).toBeVisible();
  await thing(page, 'mast-1').locator('.hit').click();
  await expect(strip(page, 'onGust').getByRole('img', { name: 'rehearsed', exact: true })).toBeVisible();
  await strip(page, 'onGust').getByRole('link', { name: 'Ripple' }).click();
  await page.getByRole('button', { name: 'list', exact: true }).click();
  const follows = page.getByRole('list', { name: 'What follows, as a list' });
  await expect(follows.getByRole('img', { name: 'rehearsed', exact: true }).first()).toBeVisible();
  await page.goBack();
  await page.goBack();
  await page.goBack();
  await page.getByRole('checkbox', { name: 'a failing one stops the gate' }).check();
  await page.getByRole('navigation', { name: 'Views' }).getByRole('link', { name: 'Audit' }).click();
  await expect(page.getByRole('heading', { name: /19 errors and 3 failing rehearsals/ })).toBeVisible();
});

test('who may raise an event is reported for each peer', async ({ page, demo }) => {
  await openRehearse(page, demo);
  await page.getByLabel('Scene on the plan').selectOption('valley-station');
  await thing(page, 'flare-2').locator('.hit').click();
  await page.getByRole('button', { name: 'Who may raise onCounted of flare-2' }).click();
  await expect(
    page.getByText(/guest may not raise this: only the operator, and no peer has that role/),
  ).toBeVisible();
});

/** Two brakes that hand a gust to each other for ever, a tenth of a millisecond apart. */
const ENDLESS = {
  format: 'oquel.project/1',
  name: 'Endless gusts',
  assets: [
    {
      id: 'pylon-ridge',
      kind: 'scene',
      size: [40, 20],
      placements: [
        { id: 'mast-1', asset: 'WindMast', at: [5, 5] },
        { id: 'brake-1', asset: 'TrackBrake', at: [15, 5] },
        { id: 'brake-2', asset: 'TrackBrake', at: [25, 5] },
      ],
      bindings: [
        { id: 'gust', from: { at: 'mast-1', event: 'onGust' }, to: { at: 'brake-1', action: 'engage' } },
        {
          id: 'there',
          from: { at: 'brake-1', event: 'onEngaged' },
          to: { at: 'brake-2', action: 'engage' },
          delay: 0.0001,
        },
        {
          id: 'back',
          from: { at: 'brake-2', event: 'onEngaged' },
          to: { at: 'brake-1', action: 'engage' },
          delay: 0.0001,
        },
      ],
    },
    { id: 'WindMast', kind: 'prefab', events: [{ name: 'onGust', cause: { type: 'code' } }] },
    {
      id: 'TrackBrake',
      kind: 'prefab',
      events: [{ name: 'onEngaged', cause: { type: 'raised' } }],
      actions: [{ name: 'engage', effects: [{ raise: 'onEngaged' }] }],
    },
  ],
  rehearsals: [
    {
      name: 'for ever',
      steps: [
        { at: 0, raise: { at: 'pylon-ridge:mast-1', event: 'onGust' } },
        { at: 200, expect: { at: 'pylon-ridge:brake-1', gone: false } },
      ],
    },
  ],
};

test('a run that does not end leaves the interface alive, can be stopped, and else is ended with its cycle', async ({
  page,
  server,
}) => {
  const id = await server.import(ENDLESS);
  await page.goto(`${server.url}/p/${id}/rehearse`);
  await page.getByRole('button', { name: 'stop it' }).click();
  await expect(page.getByText('Stopped.')).toBeVisible();
  await page.getByRole('button', { name: 'Run it again' }).click();
  // While it runs, the view answers.
  await page.getByLabel('Search the log').fill('never settles');
  await expect(page.getByLabel('Search the log')).toHaveValue('never settles');
  await expect(verdict(page)).toContainText('Fails it did not settle', { timeout: 40_000 });
  await expect(log(page)).toContainText(
    'it never settles: pylon-ridge:brake-1 engage > pylon-ridge:brake-2 engage > pylon-ridge:brake-1 engage',
  );
});

test('a channel is reported with its key and fields, and an event raised by typing where it is', async ({
  page,
  demo,
}) => {
  await openRehearse(page, demo, 'A gust stops the summit line');
  const steps = page.getByRole('list', { name: 'Steps' }).getByRole('listitem');
  const before = await steps.count();
  await page.getByLabel('Channel to publish to').selectOption('tension');
  await page.getByLabel('Key on tension').fill('east');
  await page.getByLabel('Key on tension').press('Enter');
  await page.getByLabel('tension of tension').fill('a lot');
  await expect(page.getByLabel('tension of tension')).toHaveAttribute('aria-invalid', 'true');
  await page.getByLabel('tension of tension').fill('12.5');
  await page.getByLabel('tension of tension').press('Enter');
  await page.getByRole('button', { name: 'Publish' }).click();
  await expect(steps).toHaveCount(before + 1);
  await expect(steps.filter({ hasText: 'publish to tension ["east"] (tension = 12.5)' })).toHaveCount(1);

  const typed = page.getByLabel('Step, typed');
  await typed.fill('pylon-ridge:mast-9.onGust');
  await expect(page.getByText('nothing is called pylon-ridge:mast-9')).toBeVisible();
  await typed.fill('pylon-ridge:mast-2.onCalmly');
  await expect(page.getByText('WindMast has no event onCalmly')).toBeVisible();
  await typed.fill('pylon-ridge:mast-2.onCalm');
  await typed.press('Enter');
  await expect(steps).toHaveCount(before + 2);
  await expect(steps.filter({ hasText: 'pylon-ridge:mast-2 raises onCalm' })).toHaveCount(1);
  await saved(page);
  const document = JSON.stringify(await demo.document());
  expect(document).toContain('"publish":{"channel":"tension","key":"east","payload":{"tension":12.5}}');
});

test('no barrier that axe can find in Rehearse, on either ground', async ({ page, demo }) => {
  await openRehearse(page, demo, 'Boarding at the west platform');
  await page.getByLabel('Search the log').fill('beacon-7 does dim');
  await log(page).getByText('valley-station:beacon-7 does dim').click();
  await expectNoBarriers(page);
  await thing(page, 'mat-6').locator('.hit').click();
  await page.getByRole('button', { name: 'Who may raise onStepped of mat-6' }).click();
  await page.locator('.delivered').waitFor();
  await expectNoBarriers(page);
  await page.getByRole('button', { name: 'all of them' }).click();
  await page.getByRole('button', { name: 'Run all' }).click();
  await page.locator('.covered').waitFor();
  await expectNoBarriers(page);
});

test('three hundred records on thirty lanes: copies are one lane, and are unfolded by keyboard', async ({
  page,
  server,
}) => {
  const prefabs = ['Lamp', 'Bell', 'Gate', 'Horn', 'Pump', 'Flag'];
  const copies = prefabs.flatMap((asset, k) =>
    Array.from({ length: 5 }, (_, i) => ({
      id: `${asset.toLowerCase()}-${i + 1}`,
      asset,
      at: [10 + k * 8, 5 + i * 7],
    })),
  );
  const bindings = copies.map(({ id }, i) => ({
    id: `b${i}`,
    from: { at: 'lever', event: 'onPulled' },
    to: { at: id, action: 'act' },
    delay: i * 0.05,
  }));
  const steps = Array.from({ length: 10 }, (_, i) => ({
    at: i * 2,
    raise: { at: 'yard:lever', event: 'onPulled' },
  }));
  const id = await server.import({
    format: 'oquel.project/1',
    name: 'Thirty',
    assets: [
      {
        id: 'yard',
        kind: 'scene',
        size: [60, 40],
        placements: [{ id: 'lever', asset: 'Lever', at: [3, 3] }, ...copies],
        bindings,
      },
      { id: 'Lever', kind: 'prefab', events: [{ name: 'onPulled', cause: { type: 'use' } }] },
      ...prefabs.map((name) => ({ id: name, kind: 'prefab', actions: [{ name: 'act' }] })),
    ],
    rehearsals: [{ name: 'Pulled ten times', steps }],
  });
  await page.goto(`${server.url}/p/${id}/rehearse`);
  await expect(log(page)).toContainText('yard:flag-5 does act, for the 10th time');
  const lanes = page.getByRole('group', { name: 'Lanes over time' });
  await expect(lanes.getByRole('button')).toHaveText(prefabs.map((name) => `${name} x 5`));
  // What is at the cursor stands in the lane of all of them, and in its own once they are unfolded.
  await expect(lanes.locator('.lanemark.here title')).toHaveText(
    '19.45 s: yard:flag-5 does act, for the 10th time',
  );
  await lanes.getByRole('button', { name: 'Flag x 5' }).focus();
  await page.keyboard.press('Enter');
  await expect(lanes.getByRole('button', { name: 'Flag x 5' })).toHaveAttribute('aria-expanded', 'true');
  await expect(lanes.getByText('flag-5', { exact: true })).toBeVisible();
  await expect(lanes.locator('.lanemark.here')).toHaveCount(1);
  await page.keyboard.press('Enter');
  await expect(lanes.getByText('flag-5', { exact: true })).toHaveCount(0);
  await expect(page.locator('.verdictline')).toContainText('it checks nothing');
});
