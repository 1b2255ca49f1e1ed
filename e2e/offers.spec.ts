import { expect, saved, test } from './fixtures.js';
import { harbour, scene } from './harbour.js';

test('what is looked for and not there is declared where it was looked for: Catalogue and Ripple', async ({
  page,
  server,
}) => {
  const { id, base } = await harbour(page, server, 'Offers');
  await page.goto(`${base}/catalogue`);
  const search = page.getByLabel('Search the catalogue');
  const line = page.getByRole('combobox', { name: 'Declare' });
  await search.fill('tide');
  await page.getByRole('button', { name: 'Declare the channel tide' }).click();
  await page.keyboard.type('(level: float)');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('article', { name: 'channel tide' })).toBeVisible();
  await page.getByLabel('Only of this asset').selectOption('Gate');
  await search.fill('onSwung');
  await page.getByRole('button', { name: 'Declare the event onSwung of Gate' }).click();
  await expect(line).toHaveValue('event onSwung');
  await line.press('Enter');
  await expect(page.getByRole('article', { name: 'event Gate onSwung' })).toBeVisible();
  // What already exists is reported, and nothing is changed.
  await line.fill('event onSwung when used');
  await expect(page.getByText(/expected another name: it exists as: event onSwung from code/)).toBeVisible();
  await line.fill('');
  await page.getByLabel('Only of this asset').selectOption('');
  await line.fill('event onLost');
  await expect(page.getByText('expected an asset to be chosen beside the search first')).toBeVisible();
  await saved(page);

  await page.goto(`${base}/ripple?at=quay:bell-1`);
  const start = page.getByLabel('Where it begins');
  await start.fill('quay:gate-1.onShut');
  await page.getByRole('option', { name: /declare this event of Gate/ }).click();
  await expect(page.getByLabel('Event or action')).toHaveValue('onShut');
  await start.fill('dawn');
  await page.getByRole('option', { name: /#dawn declare this channel/ }).click();
  await expect(start).toHaveValue('#dawn');
  await saved(page);
  const { channels } = (await server.get(`/api/projects/${id}/document`)).body as { channels: unknown };
  expect(channels).toEqual([{ name: 'tide', payload: [{ name: 'level', type: 'float' }] }, { name: 'dawn' }]);
  expect(await scene(server, id, 'Gate')).toMatchObject({
    events: [
      { name: 'onSwung', cause: { type: 'code' } },
      { name: 'onShut', cause: { type: 'raised' } },
    ],
  });
});

test('unused declarations are listed, and removed in one go', async ({ page, server }) => {
  const { id, base } = await harbour(page, server, 'Tidy');
  const before: unknown = (await server.get(`/api/projects/${id}/document`)).body;
  await page.goto(`${base}/catalogue`);
  await page.getByRole('button', { name: 'Unused declarations' }).click();
  const list = page.getByRole('list', { name: 'Unused declarations' });
  await expect(list.getByRole('listitem')).toHaveText([
    'Bell: property tone: string = "deep"',
    'Bell: property pitch: string = "low"',
  ]);
  await list.getByRole('checkbox').nth(1).uncheck();
  await expect(page.getByText('Findings: 0 new, 0 gone.')).toBeVisible();
  await page.getByRole('button', { name: 'Remove 1', exact: true }).click();
  await expect(list.getByRole('listitem')).toHaveCount(1);
  await saved(page);
  expect(await scene(server, id, 'Bell')).toMatchObject({ properties: [{ name: 'pitch' }] });
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(list.getByRole('listitem')).toHaveCount(2);
  await saved(page);
  expect((await server.get(`/api/projects/${id}/document`)).body).toEqual(before);
  await page.getByRole('button', { name: 'Choose all' }).click();
  await page.getByRole('button', { name: 'Remove 2', exact: true }).click();
  await expect(page.getByText('Every declaration is used.')).toBeVisible();
});
