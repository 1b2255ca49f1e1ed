import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { test as base, type Page } from '@playwright/test';
import { newDatabase, TestServer } from '../apps/server/test/harness.js';

export const DEMO = fileURLToPath(new URL('../demo/storm-over-veyra.json', import.meta.url));
const WEB = fileURLToPath(new URL('../apps/web/dist', import.meta.url));

export function startServer(databaseUrl: string, env: Record<string, string> = {}): Promise<TestServer> {
  return TestServer.start(databaseUrl, { OQUEL_WEB: WEB, ...env });
}

/** A copy of the demo for one test. */
export interface Demo {
  id: string;
  /** Address of a view of it. */
  url: (view: string) => string;
  document: () => Promise<{ assets: { id: string; bindings?: { id: string }[] }[] }>;
}

/** One server and database for all tests of a worker; every test that asks for `demo` works on its own copy of it. */
export const test = base.extend<{ demo: Demo }, { server: TestServer }>({
  server: [
    // Playwright demands the braces.
    // eslint-disable-next-line no-empty-pattern
    async ({}, use) => {
      const server = await startServer(await newDatabase(), { OQUEL_DEMO: DEMO });
      await use(server);
      await server.stop();
    },
    { scope: 'worker' },
  ],
  demo: async ({ server }, use) => {
    const id = await server.import(readFileSync(DEMO, 'utf8'));
    await use({
      id,
      url: (view) => `${server.url}/p/${id}/${view}`,
      document: async () => (await server.get(`/api/projects/${id}/document`)).body as never,
    });
  },
});
export { expect } from '@playwright/test';

/** Opens Wire on the ridge's second mast, with the audit there. */
export async function openMast(page: Page, demo: Demo): Promise<void> {
  await page.goto(demo.url('wire?scope=pylon-ridge&at=mast-2'));
  await page.getByText(/Gate:/).waitFor();
}
export function strip(page: Page, event: string): ReturnType<Page['locator']> {
  return page.locator(`[data-event="${event}"]`);
}
export function thing(page: Page, path: string): ReturnType<Page['locator']> {
  return page.locator(`.thing[data-path="${path}"]`);
}
export async function saved(page: Page): Promise<void> {
  await page.locator('[data-saving="saved"]').waitFor();
}

/** Opens the menu of the person who works here. */
export async function openPerson(page: Page): Promise<ReturnType<Page['locator']>> {
  await page.locator('button.person').click();
  return page.getByRole('dialog', { name: 'You' });
}
export async function signAs(page: Page, name: string): Promise<void> {
  await (await openPerson(page)).getByLabel('Your name in the history').fill(name);
  await page.keyboard.press('Enter');
  await page.locator('.personmenu').waitFor({ state: 'detached' });
}
export async function useTheme(page: Page, theme: 'System' | 'Light' | 'Dark'): Promise<void> {
  await (await openPerson(page)).getByLabel(theme).check();
  await page.keyboard.press('Escape');
  await page.locator('.personmenu').waitFor({ state: 'detached' });
}
