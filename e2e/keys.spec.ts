import { expect, saved, test } from './fixtures.js';
import { declare, open, place, project } from './begin-steps.js';

test('copies with the same key are found, put right where they stand, and found again when that is undone', async ({
  page,
  server,
}) => {
  const id = await project(page, server.url, 'Moorings');
  const base = `${server.url}/p/${id}`;
  await page.keyboard.type('quay');
  await page.keyboard.press('Enter');
  await place(page, ['Crane', 'Crane', 'Crane']);
  await open(page, base, 'plan?scope=Crane');
  await declare(page, ['berth = 0 unique', 'side = "north" key', 'onLifted', 'lift: raise onLifted']);

  const finding = (words: RegExp): ReturnType<typeof page.getByText> => page.getByText(words).first();
  const inAudit = async (words: RegExp, isThere: boolean): Promise<void> => {
    await page.getByRole('link', { name: 'Audit', exact: true }).click();
    if (isThere) await expect(finding(words)).toBeVisible();
    else await expect(finding(words)).toHaveCount(0);
  };
  const inPlan = async (thing: string): Promise<void> => {
    await page.getByRole('link', { name: 'Plan', exact: true }).click();
    const things = page.getByRole('list', { name: 'Things in quay' });
    await things.getByRole('button', { name: new RegExp(`^${thing}`) }).click();
  };
  const give = async (thing: string, property: string, value: string): Promise<void> => {
    await inPlan(thing);
    await page.getByLabel(property, { exact: true }).fill(value);
    await page.keyboard.press('Enter');
    await saved(page);
  };
  await open(page, base, 'plan?scope=quay');
  await inAudit(/^3 copies of Crane have berth 0/, true);
  await give('crane-2', 'berth', '2');
  await inAudit(/^2 copies of Crane have berth 0/, true);
  await give('crane-3', 'berth', '3');
  await inAudit(/^\d copies of Crane have berth/, false);

  await give('crane-1', 'side', '"south"');
  await inAudit(/^2 copies of Crane keep the default side/, true);
  await give('crane-2', 'side', '"east"');
  await inAudit(/^\d copies of Crane keep the default/, false);
  await page.keyboard.press('Control+z');
  await saved(page);
  await inAudit(/^2 copies of Crane keep the default side/, true);

  // One more copy comes with the defaults, and another that is as the third.
  await page.getByRole('link', { name: 'Plan', exact: true }).click();
  await place(page, ['Crane']);
  await inAudit(/^3 copies of Crane keep the default side/, true);
  await give('crane-4', 'berth', '3');
  await inAudit(/^2 copies of Crane have berth 3/, true);
});
