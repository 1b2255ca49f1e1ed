import { expect, saved, test } from './fixtures.js';
import { harbour } from './harbour.js';

test('any step is changed in place, typed or by pointing; what it needs is said; a strict rehearsal fails on a loss', async ({
  page,
  server,
}) => {
  const { id, base } = await harbour(page, server, 'Steps');
  // The bell says how hard it was rung.
  await page.goto(`${base}/catalogue?entry=event%3ABell%2FonRung`);
  await page.getByLabel('Payload').fill('force: float');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Apply' }).click();
  await saved(page);
  await page.goto(`${base}/rehearse`);
  await page.getByRole('button', { name: 'Make a new one' }).click();
  await page.getByLabel('Step, typed').fill('quay:bell-1.onRung');
  await page.keyboard.press('Enter');
  const step = page.locator('[data-step="0"]');
  await expect(step).toContainText('quay:bell-1 raises onRung needs force');

  // What is missing is typed into its gap.
  await step.getByRole('button', { name: 'Change step 1' }).click();
  const line = step.getByLabel('Step 1', { exact: true });
  await expect(line).toHaveValue('raise quay:bell-1.onRung(force = )');
  await expect(line).toHaveAttribute('aria-invalid', 'true');
  await page.keyboard.press('Enter');
  await expect(line).toBeVisible();
  await line.fill('raise quay:bell-1.onRung(force = 3)');
  await page.keyboard.press('Enter');
  await expect(step).toContainText('quay:bell-1 raises onRung (force = 3)');
  await expect(step.getByText('needs force')).toHaveCount(0);
  await expect(step.getByRole('button', { name: /raises onRung/ })).toBeFocused();

  // Escape leaves it as it was; F2 opens it; a thing that is pressed on the plan takes the place of the one in it.
  await page.keyboard.press('F2');
  await line.fill('nonsense');
  await expect(step.getByRole('status')).toContainText('at character 1: expected raise, publish, expect');
  await page.keyboard.press('Escape');
  await expect(step).toContainText('(force = 3)');
  await page.keyboard.press('F2');
  await page.locator('.thing[data-path="gate-1"] .hit').click();
  await expect(line).toHaveValue('raise quay:gate-1.onRung(force = 3)');
  await line.focus();
  await page.keyboard.press('Escape');

  // A step becomes an expectation, and its undo brings it back.
  await step.getByRole('button', { name: 'Change step 1' }).click();
  await line.fill('expect quay:gate-1 did open 0 times');
  await page.keyboard.press('Enter');
  await expect(page.locator('.rehearsalstage')).toContainText('1 of 1 expectations hold');
  await saved(page);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(step).toContainText('raises onRung (force = 3)');

  // The bell can be rung once: a second ring is refused, which fails a strict rehearsal.
  await page.goto(`${base}/plan?scope=Bell`);
  await page.locator('[data-decl="onRung"]').getByRole('button').first().click();
  await page.getByLabel('How often onRung is raised at most').fill('1');
  await page.keyboard.press('Enter');
  await saved(page);
  await page.goto(`${base}/rehearse`);
  await page.getByLabel('Step, typed').fill('quay:bell-1.onRung');
  await page.keyboard.press('Enter');
  await expect(page.locator('.rehearsalstage')).toContainText('1 event refused');
  await expect(page.locator('.rehearsalstage')).toContainText('Passes');
  await page.getByLabel('fails if anything is lost or refused').check();
  await expect(page.locator('.rehearsalstage')).toContainText('Fails');
  await saved(page);
  const { body } = (await server.get(`/api/projects/${id}/document`)) as {
    body: { rehearsals: { strict?: boolean }[] };
  };
  expect(body.rehearsals[0].strict).toBe(true);
});
