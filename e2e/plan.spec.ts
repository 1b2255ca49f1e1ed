import type { Page } from '@playwright/test';
import { expect, saved, test, thing, type Demo } from './fixtures.js';
import { harbour, scene } from './harbour.js';

interface Placed {
  id: string;
  asset: string;
  at?: [number, number];
  area?: unknown;
  asleep?: boolean;
  properties?: Record<string, unknown>;
}
interface Scene {
  placements: Placed[];
  bindings: { id: string; from: { at?: string }; to: { at?: string } }[];
}
async function ridge(page: Page, demo: Demo): Promise<Scene> {
  await saved(page);
  const document = await demo.document();
  return document.assets.find((a) => a.id === 'pylon-ridge') as unknown as Scene;
}
async function placed(page: Page, demo: Demo, id: string): Promise<Placed | undefined> {
  return (await ridge(page, demo)).placements.find((p) => p.id === id);
}
async function openPlan(page: Page, demo: Demo, more = ''): Promise<void> {
  await page.goto(demo.url(`plan?scope=pylon-ridge${more}`));
  await page.getByText(/Gate:/).waitFor();
  await thing(page, 'mast-2').waitFor();
}
async function drag(page: Page, from: { x: number; y: number }, dx: number, dy: number): Promise<void> {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(from.x + dx / 2, from.y + dy / 2, { steps: 3 });
  await page.mouse.move(from.x + dx, from.y + dy, { steps: 3 });
  await page.mouse.up();
}
async function middle(page: Page, selector: string): Promise<{ x: number; y: number }> {
  const box = (await page.locator(selector).boundingBox())!;
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
}

test('a thing is placed by pointing, and again until Escape', async ({ page, demo }) => {
  await openPlan(page, demo);
  await page.getByRole('combobox', { name: 'Place' }).fill('wind');
  await page.getByRole('option', { name: 'WindMast prefab' }).click();
  await expect(page.getByText('Click where WindMast goes')).toBeVisible();
  const near = await middle(page, '.thing[data-path="brake-1"] .hit');
  await page.mouse.click(near.x + 60, near.y + 30);
  await expect(thing(page, 'wind-mast-1')).toHaveClass(/chosen/);
  await page.mouse.click(near.x + 120, near.y + 50);
  await expect(thing(page, 'wind-mast-2')).toHaveClass(/chosen/);
  await page.locator('.stagebar').click({ position: { x: 4, y: 4 } });
  await page.keyboard.press('Escape');
  await expect(page.getByText('Click where')).toHaveCount(0);
  const { placements } = await ridge(page, demo);
  const [first] = placements.filter((p) => p.asset === 'WindMast' && p.id.startsWith('wind-mast'));
  expect(first.at!.every((m) => Number.isInteger(m * 2))).toBe(true);
});

test('things are moved by drawing, by arrows and in numbers; each is one undo', async ({ page, demo }) => {
  await openPlan(page, demo);
  const before = (await placed(page, demo, 'mast-2'))!.at!;
  await drag(page, await middle(page, '.thing[data-path="mast-2"] .hit'), 56, 28);
  const drawn = (await placed(page, demo, 'mast-2'))!.at!;
  expect(drawn[0]).toBeGreaterThan(before[0] + 5);
  expect(drawn[1]).toBeGreaterThan(before[1] + 2);
  expect(drawn.every((m) => Number.isInteger(m * 2))).toBe(true);
  await thing(page, 'mast-2').locator('.hit').focus();
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('Shift+ArrowUp');
  expect((await placed(page, demo, 'mast-2'))!.at).toEqual([drawn[0] - 0.5, drawn[1] - 5]);
  await page.getByLabel('x', { exact: true }).fill('12.25');
  await page.keyboard.press('Enter');
  expect((await placed(page, demo, 'mast-2'))!.at).toEqual([12.25, drawn[1] - 5]);
  for (let i = 0; i < 4; i++) await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByLabel('x', { exact: true })).toHaveValue(String(before[0]));
  expect((await placed(page, demo, 'mast-2'))!.at).toEqual(before);
});

test('a new name is carried into every binding', async ({ page, demo }) => {
  await openPlan(page, demo, '&chosen=mast-2');
  await page.getByLabel('Name', { exact: true }).fill('mast-1');
  await expect(page.getByText('mast-1 already exists')).toBeVisible();
  await page.getByLabel('Name', { exact: true }).fill('north-mast');
  await page.keyboard.press('Enter');
  await expect(thing(page, 'north-mast')).toHaveClass(/chosen/);
  const { bindings } = await ridge(page, demo);
  expect(bindings.filter((b) => b.from.at === 'north-mast')).toHaveLength(5);
  expect(bindings.filter((b) => b.from.at === 'mast-2' || b.to.at === 'mast-2')).toEqual([]);
  await expect(page.locator('[data-count="error"]')).toHaveText(/19 errors/);
});

test('a group framed on the plan is duplicated with its wiring', async ({ page, demo }) => {
  await openPlan(page, demo);
  const a = await middle(page, '.thing[data-path="mast-2"] .hit');
  const b = await middle(page, '.thing[data-path="brake-1"] .hit');
  await page.keyboard.down('Shift');
  const [left, top] = [Math.min(a.x, b.x) - 25, Math.min(a.y, b.y) - 20];
  await drag(page, { x: left, y: top }, Math.abs(a.x - b.x) + 45, Math.abs(a.y - b.y) + 40);
  await page.keyboard.up('Shift');
  await expect(thing(page, 'mast-2')).toHaveClass(/chosen/);
  await expect(thing(page, 'brake-1')).toHaveClass(/chosen/);
  await page.goto(demo.url('plan?scope=pylon-ridge&chosen=mast-2,brake-1'));
  await thing(page, 'brake-1').waitFor();
  const { bindings: before } = await ridge(page, demo);
  await page.getByRole('button', { name: 'Duplicate with bindings' }).click();
  await expect(page.getByRole('group', { name: 'Chosen: 2 things' })).toBeVisible();
  const { placements, bindings } = await ridge(page, demo);
  const mast = placements.filter((p) => p.asset === 'WindMast').at(-1)!;
  const brake = placements.filter((p) => p.asset === 'TrackBrake').at(-1)!;
  const copies = bindings.slice(before.length);
  expect(copies.some((c) => c.from.at === mast.id && c.to.at === brake.id)).toBe(true);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(thing(page, mast.id)).toHaveCount(0);
  expect((await ridge(page, demo)).bindings).toHaveLength(before.length);
});

test('what would break is shown before a thing is taken off', async ({ page, demo }) => {
  await openPlan(page, demo, '&chosen=mast-2');
  await thing(page, 'mast-2').locator('.hit').focus();
  await page.keyboard.press('Delete');
  const panel = page.getByRole('dialog', { name: 'Remove mast-2 from the plan' });
  await expect(panel.getByRole('heading')).toContainText('5 bindings name it');
  await expect(panel).toContainText('when mast-2.onGust do brake-1 engage');
  await expect(panel.getByText(/new error/)).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(panel).toHaveCount(0);
  await thing(page, 'mast-2').locator('.hit').focus();
  await page.keyboard.press('Delete');
  await panel.getByRole('button', { name: 'Remove with 5 bindings' }).click();
  await expect(thing(page, 'mast-2')).toHaveCount(0);
  const { bindings } = await ridge(page, demo);
  expect(bindings.filter((b) => b.from.at === 'mast-2')).toEqual([]);
});

test('an area is pulled by its handle, and set in metres', async ({ page, demo }) => {
  await openPlan(page, demo, '&chosen=shelf-1');
  await drag(page, await middle(page, '.handle'), 30, 0);
  const pulled = (await placed(page, demo, 'shelf-1'))!.area as { circle: number };
  expect(pulled.circle).toBeGreaterThan(6);
  await page.getByLabel('radius', { exact: true }).fill('0');
  await expect(page.getByText('expected more than 0')).toBeVisible();
  await page.getByLabel('radius', { exact: true }).fill('6.5');
  await page.keyboard.press('Enter');
  expect((await placed(page, demo, 'shelf-1'))!.area).toEqual({ circle: 6.5 });
  await page.getByLabel('Area').selectOption('polygon');
  await expect(page.locator('.handle')).toHaveCount(4);
  await page.getByLabel('Area').selectOption('');
  await expect(page.locator('.handle')).toHaveCount(1);
  expect((await placed(page, demo, 'shelf-1'))!.area).toBeUndefined();
});

test('many are changed at once, from the list and by keyboard', async ({ page, demo }) => {
  await openPlan(page, demo);
  await page.getByLabel('Filter the list').fill('beacon');
  const rows = page.getByRole('list', { name: 'Things in pylon-ridge' }).getByRole('button');
  await expect(rows).toHaveCount(3);
  await rows.first().focus();
  await page.keyboard.press('Enter');
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Shift+ArrowDown');
  await expect(page.getByRole('group', { name: 'Chosen: 3 things' })).toBeVisible();
  await page.getByLabel('line', { exact: true }).fill('nowhere');
  await expect(page.getByText(/no value of Line/)).toBeVisible();
  await page.getByLabel('line', { exact: true }).fill('west');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Asleep at first' }).click();
  const { placements } = await ridge(page, demo);
  const beacons = placements.filter((p) => p.asset === 'Beacon');
  expect(beacons.map((p) => [p.properties?.line, p.asleep])).toEqual(beacons.map(() => ['west', true]));
});

test('marks say what things are, and lines what the selected one reaches: in running order, all of it, or hidden', async ({
  page,
  server,
}) => {
  const { id, base } = await harbour(page, server, 'Sights');
  await page.goto(`${base}/plan?scope=quay`);
  const sights = page.locator('.sights .sight');
  await page.locator('.thing[data-path="bell-1"] .hit').click();
  await expect(sights).toHaveCount(1);
  await expect(page.locator('.sights text')).toHaveText('1 once, 2');
  await page.locator('.thing[data-path="gate-1"] .hit').click();
  await expect(page.locator('.sight.incoming text')).toHaveText('1 once, 2');
  await page.getByLabel('Wiring').selectOption('all');
  await expect(page.locator('.sights text')).toHaveText('× 2');
  await page.getByLabel('Wiring').selectOption('none');
  await expect(sights).toHaveCount(0);
  // The mark is by what the prefab is called and declares, until another is chosen.
  await page.getByLabel('Scope').selectOption('Bell');
  const mark = page.getByLabel('Mark of Bell on plans');
  await expect(mark.locator('option:checked')).toHaveText('sound (automatic)');
  await mark.selectOption('light');
  await saved(page);
  expect(await scene(server, id, 'Bell')).toMatchObject({ mark: 'light' });
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(mark).toHaveValue('');
});

test('a scene of two thousand things opens legible: what stands too near is a dot with a count that opens', async ({
  page,
  server,
}) => {
  const placements = Array.from({ length: 2000 }, (_, i) => ({
    id: `lamp-${i}`,
    asset: i % 3 === 0 ? 'Bell' : 'Lamp',
    at: [(i % 50) * 1.5, Math.floor(i / 50) * 1.5],
  }));
  const prefabs = ['Lamp', 'Bell'].map((name) => ({ id: name, kind: 'prefab' }));
  const assets = [...prefabs, { id: 'square', kind: 'scene', size: [80, 64], placements }];
  const id = await server.import(JSON.stringify({ format: 'oquel.project/1', name: 'Square', assets }));
  await page.goto(`${server.url}/p/${id}/plan?scope=square`);
  const dots = page.locator('.cluster circle');
  await expect(dots.first()).toBeVisible();
  const counts = await page.locator('.cluster text').allTextContents();
  const alone = await page.locator('.stage .thing').count();
  expect(counts.reduce((n, text) => n + Number(text), 0) + alone).toBe(2000);
  await expect(dots.first()).toHaveAccessibleName(/^\d+ things: \d+ Lamp, \d+ Bell$/);
  const most = async (): Promise<number> =>
    Math.max(...(await page.locator('.cluster text').allTextContents()).map(Number));
  const before = await most();
  await dots.nth(Math.floor((await dots.count()) / 2)).click();
  await expect.poll(most).toBeLessThan(before);
});
