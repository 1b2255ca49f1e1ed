import type { Page } from '@playwright/test';
import type { TestServer } from '../apps/server/test/harness.js';
import { expect, saved } from './fixtures.js';

export async function project(page: Page, url: string, name: string): Promise<string> {
  await page.goto(url);
  await page.getByRole('button', { name: 'New project' }).click();
  await page.keyboard.type(name);
  await page.keyboard.press('Enter');
  await page.getByLabel('First scene').waitFor();
  return new URL(page.url()).pathname.split('/')[2];
}
export async function declare(page: Page, lines: readonly string[]): Promise<void> {
  const line = page.getByRole('combobox', { name: 'Add' });
  for (const text of lines) {
    await line.fill(text);
    await line.press('Enter');
    await expect(line).toHaveValue('');
  }
}
export async function place(page: Page, names: readonly string[]): Promise<void> {
  const palette = page.getByRole('combobox', { name: 'Place' });
  for (const name of names) {
    await palette.fill(name);
    await palette.press('Enter');
    await expect(palette).toHaveValue('');
  }
}
/** What the server has, as far as these tests look into it. */
export interface Answered {
  version: number;
  summary: { error: number };
  assets: { id: string }[];
}
export async function ask(server: TestServer, path: string): Promise<Answered> {
  return (await server.get(path)).body as Answered;
}
export const open = async (page: Page, base: string, view: string): Promise<void> => {
  await saved(page);
  await page.goto(`${base}/${view}`);
  await page.getByText(/Gate: (passed|stopped)/).waitFor();
};
