import type { Page } from '@playwright/test';
import type { TestServer } from '../apps/server/test/harness.js';
import { expect, saved } from './fixtures.js';

/** A project from nothing in the interface: two scenes, a bell and a gate that are wired in the first. */
export async function harbour(
  page: Page,
  server: TestServer,
  name: string,
): Promise<{ id: string; base: string }> {
  await page.goto(server.url);
  await page.getByRole('button', { name: 'New project' }).click();
  await page.keyboard.type(name);
  await page.keyboard.press('Enter');
  await page.getByLabel('First scene').waitFor();
  const id = new URL(page.url()).pathname.split('/')[2];
  await page.keyboard.type('quay');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Scope')).toHaveValue('quay');
  const palette = page.getByRole('combobox', { name: 'Place' });
  for (const prefab of ['Bell', 'Gate']) {
    await palette.fill(prefab);
    await palette.press('Enter');
    await expect(palette).toHaveValue('');
  }
  const create = async (kind: string, named: string): Promise<void> => {
    await page.getByLabel('New scene, prefab or widget').selectOption(kind);
    await page.getByLabel(`Name of the new ${kind}`).fill(named);
    await page.keyboard.press('Enter');
    await expect(page.getByLabel('Scope')).toHaveValue(named);
  };
  await create('scene', 'deck');
  const line = page.getByRole('combobox', { name: 'Add', exact: true });
  for (const [prefab, lines] of [
    ['Bell', ['onRung', 'tone = "deep"', 'pitch = "low"']],
    ['Gate', ['open', 'shut']],
  ] as const) {
    await page.getByLabel('Scope').selectOption(prefab);
    for (const text of lines) {
      await line.fill(text);
      await line.press('Enter');
      await expect(line).toHaveValue('');
    }
  }
  const base = `${server.url}/p/${id}`;
  await saved(page);
  await page.goto(`${base}/wire?scope=quay&at=bell-1`);
  const wire = page.getByPlaceholder(/^when mast-2/);
  for (const text of ['when bell-1.onRung do gate-1.open once', 'when bell-1.onRung do gate-1.shut']) {
    await wire.fill(text);
    await wire.press('Enter');
    await expect(wire).toHaveValue('');
  }
  await saved(page);
  return { id, base };
}
export interface Doc {
  assets: {
    id: string;
    placements?: { id: string }[];
    bindings?: { id: string; from: unknown; to: unknown }[];
  }[];
}
export async function scene(server: TestServer, id: string, name: string): Promise<Doc['assets'][number]> {
  const { assets } = (await server.get(`/api/projects/${id}/document`)).body as Doc;
  return assets.find((a) => a.id === name)!;
}
