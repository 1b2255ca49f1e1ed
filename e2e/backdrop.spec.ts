import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { unzipSync } from 'fflate';
import { expect, saved, test } from './fixtures.js';
import { expectNoBarriers } from './barriers.js';

/** A drawing of 400 by 200 pixels; drawn by the browser into a PNG where one is wanted. */
const SVG = `<svg xmlns="http://www.w3.org/2000/svg" width="400" height="200"><rect width="400" height="200" fill="#9bd"/><path d="M0 100H400" stroke="#333"/></svg>`;
const picture = (page: Page): ReturnType<Page['locator']> => page.locator('.plan-pane image.backdrop');

test('a project from nothing: a backdrop is chosen, scaled by two points, dimmed, exported and imported with it', async ({
  page,
  server,
}) => {
  await page.goto(server.url);
  await page.getByRole('button', { name: 'New project' }).click();
  await page.keyboard.type(`Quay ${Date.now()}`);
  await page.keyboard.press('Enter');
  await page.getByLabel('First scene').getByLabel('Name', { exact: true }).fill('quay');
  await page.getByRole('button', { name: 'Create the scene' }).click();
  await page.getByRole('button', { name: 'Layers' }).click();
  await page.getByRole('button', { name: 'Set the backdrop picture ...' }).click();
  const panel = page.getByRole('dialog', { name: 'Backdrop of quay' });
  const file = panel.getByLabel('Picture of the backdrop');
  await file.setInputFiles({ name: 'notes.txt', mimeType: 'text/plain', buffer: Buffer.from('no picture') });
  await expect(panel.getByRole('alert')).toContainText('notes.txt is not a picture that can be shown');
  await file.setInputFiles({ name: 'quay.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(SVG) });
  await expect(picture(page)).toBeVisible();
  // It is fitted to the plan with its own proportions: twice as wide as high.
  const width = panel.getByLabel('Width of the backdrop');
  const before = Number(await width.inputValue());
  const box = (await picture(page).boundingBox())!;
  expect(box.width / box.height).toBeCloseTo(2, 1);

  await panel.getByRole('button', { name: 'Scale by two points' }).click();
  const plan = page.getByRole('group', { name: 'Plan of quay' });
  const at = (await plan.boundingBox())!;
  // A quarter of the picture's width apart, and 10 m by what is known: the picture is 40 m wide.
  const [x, y] = [box.x - at.x + 30, box.y - at.y + box.height / 2];
  await plan.click({ position: { x, y } });
  await expect(panel.getByRole('status')).toContainText('the second point');
  await plan.click({ position: { x: x + box.width / 4, y } });
  await panel.getByLabel('Metres between the points').fill('0');
  await expect(panel.getByText('expected metres above 0')).toBeVisible();
  await panel.getByLabel('Metres between the points').fill('10');
  await page.keyboard.press('Enter');
  await expect(async () => expect(Number(await width.inputValue())).not.toBe(before)).toPass();
  expect(Number(await width.inputValue())).toBeGreaterThan(39);
  expect(Number(await width.inputValue())).toBeLessThan(41);

  await panel.getByLabel('How much the backdrop is dimmed').focus();
  await page.keyboard.press('ArrowRight');
  await expect(picture(page)).toHaveAttribute('opacity', /0\.4/);
  await expectNoBarriers(page);
  await panel.getByRole('button', { name: 'Close' }).click();
  await saved(page);

  // Out as a folder: the picture stands beside the documents. In again: it is there.
  await page.getByRole('link', { name: 'Exchange' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save .zip', exact: true }).click();
  const zip = readFileSync(await (await download).path());
  const inside = Object.keys(unzipSync(new Uint8Array(zip)));
  expect(inside.filter((name) => /^pictures\/[0-9a-f]{32}\.svg$/.test(name))).toHaveLength(1);
  await page
    .getByLabel('File to import')
    .setInputFiles({ name: 'quay.zip', mimeType: 'application/zip', buffer: zip });
  const here = page.url();
  await page.getByRole('button', { name: 'Save as a new project' }).click();
  await page.waitForURL(/\/wire/);
  expect(page.url()).not.toBe(here);
  await page.getByRole('link', { name: 'Plan', exact: true }).click();
  await expect(picture(page)).toBeVisible();

  // Without its file the panel says so, and undo takes the picture off again.
  await page.getByRole('button', { name: 'Layers' }).click();
  await page.getByRole('checkbox', { name: 'Backdrop picture' }).uncheck();
  await expect(picture(page)).toHaveCount(0);
  await page.getByRole('checkbox', { name: 'Backdrop picture' }).check();
  await page.getByRole('button', { name: 'Set the backdrop picture ...' }).click();
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await expect(picture(page)).toHaveCount(0);
  await saved(page);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(picture(page)).toBeVisible();
});

test('a document alone has no pictures: the plan stays usable, and the panel says what to do', async ({
  page,
  server,
}) => {
  const backdrop = { picture: `${'ab'.repeat(16)}.png`, at: [0, 0], size: [40, 20] };
  const scene = { id: 'quay', kind: 'scene', size: [40, 20], backdrop };
  const id = await server.import({ format: 'oquel.project/1', name: 'Quay', assets: [scene] });
  await page.goto(`${server.url}/p/${id}/plan`);
  await page.getByRole('button', { name: 'Layers' }).click();
  await page.getByRole('button', { name: 'Set the backdrop picture ...' }).click();
  await expect(page.getByRole('alert')).toContainText('Choose its file again');
});

test('layers: areas off, what starts asleep stands out; both are remembered', async ({ page, demo }) => {
  await page.goto(demo.url('plan?scope=pylon-ridge'));
  await page.getByText(/Gate:/).waitFor();
  await expect(page.locator('.plan-pane .area').first()).toBeVisible();
  await page.getByRole('button', { name: 'Layers' }).click();
  await page.getByRole('checkbox', { name: 'Sensing areas' }).uncheck();
  await page.getByRole('checkbox', { name: 'Highlight what starts asleep' }).check();
  await expect(page.locator('.plan-pane .area')).toHaveCount(0);
  await page.reload();
  await expect(page.locator('.thing.asleep.lit').first()).toBeVisible();
  await expect(page.locator('.plan-pane .area')).toHaveCount(0);
  await expect(page.locator('.thing.faded').first()).toBeVisible();
});
