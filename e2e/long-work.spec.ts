import { expect, saved, test } from './fixtures.js';
import { harbour } from './harbour.js';

test('opening a project says that it is under way, and can be cancelled', async ({ page, server, demo }) => {
  let release = (): void => undefined;
  const held = new Promise<void>((resolve) => (release = resolve));
  await page.route(`**/api/projects/${demo.id}?*`, async (route) => {
    await held;
    await route.continue().catch(() => undefined);
  });
  await page.goto(demo.url('wire'));
  await expect(page.getByRole('status').filter({ hasText: 'Opening the project' })).toBeVisible();
  await expect(page.getByRole('progressbar', { name: 'Opening the project' })).toBeVisible();
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByRole('button', { name: 'New project' })).toBeVisible();
  await expect(page).toHaveURL(`${server.url}/`);
  release();
  // Opened again, it is there.
  await page.unrouteAll({ behavior: 'ignoreErrors' });
  await page.goto(demo.url('wire'));
  await expect(page.getByText(/Gate:/)).toBeVisible();
});

test('an answer that is no project is reported, and the project opens once the server is right again', async ({
  page,
  server,
}) => {
  const { base } = await harbour(page, server, 'Wrong answer');
  await page.route('**/api/projects/*?author=*', (route) =>
    route.fulfill({ contentType: 'application/json', body: '<html>Bad gateway' }),
  );
  await page.goto(`${base}/wire`);
  await expect(page.getByRole('heading', { name: 'This project cannot be opened' })).toBeVisible();
  await expect(page.getByText('The server’s answer is not a project.')).toBeVisible();
  await page.unrouteAll();
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(page.getByText(/Gate:/)).toBeVisible();
});

test('the same mistake in many places is folded, opened and folded again, in a project from nothing', async ({
  page,
  server,
}) => {
  const { base } = await harbour(page, server, 'Same mistakes');
  const wire = page.getByPlaceholder(/^when mast-2/);
  await wire.fill('when bell-1.onRung do gate-1.open after 1s');
  await wire.press('Enter');
  await expect(wire).toHaveValue('');
  await page.goto(`${base}/wire?scope=quay&at=gate-1`);
  await page.getByRole('button', { name: 'Remove (3 bindings name it)' }).click();
  await saved(page);
  await page.goto(`${base}/audit?rule=dangling-target`);
  const faults = page.getByText(/"gate-1" is not in quay/);
  const fold = page.getByRole('button', { name: 'Show 2 more with the same mistake' });
  await expect(fold).toBeVisible();
  await expect(page.locator('.findings').getByText(/"gate-1" is not in quay/)).toHaveCount(1);
  await fold.click();
  await expect(page.getByRole('button', { name: 'Fold 2 more with the same mistake' })).toBeVisible();
  await expect(page.locator('.findings').getByText(/"gate-1" is not in quay/)).toHaveCount(3);
  await page.getByRole('button', { name: 'Fold 2 more with the same mistake' }).click();
  await expect(fold).toBeVisible();
  await expect(faults.first()).toBeVisible();
});
