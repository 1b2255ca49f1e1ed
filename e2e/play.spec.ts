import { readFileSync } from 'node:fs';
import {
  expand,
  indexProject,
  readProjectText,
  rehearse,
  traceText,
  type Rehearsal,
  type Step,
} from '@oquel/core';
import type { Page } from '@playwright/test';
import { DEMO, expect, test } from './fixtures.js';

interface Line {
  kind: string;
  t: number;
  n: number;
  cause: number;
  at: string;
  event: string;
  payload: object;
}

async function hold(page: Page, key: string, until: (at: [number, number]) => boolean): Promise<void> {
  await page.keyboard.down(key);
  await expect
    .poll(
      async () => {
        const said = (await page.locator('canvas').getAttribute('data-player')) ?? '0 0';
        return until(said.split(' ').map(Number) as [number, number]);
      },
      { intervals: [40] },
    )
    .toBe(true);
  await page.keyboard.up(key);
}
async function saveTrace(page: Page): Promise<string> {
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save the trace' }).click();
  return readFileSync(await (await download).path(), 'utf8');
}

test('walking onto the mat by keyboard does in the game what the rehearsal of the demo says', async ({
  page,
  server,
}) => {
  await page.goto(`${server.url}/play`);
  const log = page.getByRole('list', { name: 'What happened' });
  await expect(log).toContainText('beacon-1: lit is true');
  await hold(page, 'ArrowRight', ([x]) => x >= 16.2);
  await hold(page, 'ArrowDown', ([, y]) => y >= 34.4);
  // The beacon is lit and dimmed on the same step; two seconds later the doors close, and the winch runs.
  await expect(log).toContainText('beacon-7: lit is false');
  await expect(log).toContainText('cabin-6: doorsOpen is false');
  await expect(log).toContainText('winch-6: running is true');
  await expect(page.getByRole('status').filter({ hasText: 'The east line stands.' })).toBeVisible();

  // What the game wrote is what the core makes of the same steps.
  const text = await saveTrace(page);
  const lines = text
    .trimEnd()
    .split('\n')
    .map((l) => JSON.parse(l) as Line);
  const { project } = readProjectText(readFileSync(DEMO, 'utf8'));
  const index = indexProject(project);
  const isStart = ({ at, event }: Line): boolean => {
    const [, path] = at.split(':');
    const asset = path.split('/').reduce<string>((of, id) => {
      const owner = index.assets[index.assetAt.get(of)!];
      return owner.placements[owner.placementAt.get(id)!].asset;
    }, at.split(':')[0]);
    const owner = index.assets[index.assetAt.get(asset)!];
    return ['start', 'timer'].includes(owner.events[owner.eventAt.get(event)!].cause.type);
  };
  const steps = lines
    .filter((l) => l.kind === 'raise' && l.cause === 0 && !isStart(l))
    .map(({ t, at, event }): Step => ({ at: t / 1e6, raise: { at, event, activator: 'Rescuer' } }));
  expect(steps).toMatchObject([{ raise: { at: 'valley-station:mat-6', event: 'onStepped' } }]);
  const last = lines.at(-1)!.t;
  const rehearsal: Rehearsal = {
    name: 'the play',
    loadSet: 'ascent',
    steps: [...steps, { at: last / 1e6, expect: { at: 'valley-station:.', asleep: false } }],
  };
  const expected: string[] = [];
  rehearse(expand(index), [rehearsal], (line) => {
    if ('n' in line && line.kind !== 'expect' && line.t <= last) {
      const { step: _step, ...record } = JSON.parse(traceText(line)) as { step?: number };
      expected.push(JSON.stringify(record));
    }
  });
  expect(text.trimEnd().split('\n')).toEqual(expected);
});

test('things are used and pressed, and the game pauses', async ({ page, server }) => {
  await page.goto(`${server.url}/play/`);
  const log = page.getByRole('list', { name: 'What happened' });
  await page.getByRole('button', { name: 'board/east' }).click();
  await expect(log).toContainText('board/east onPressed');
  await page.getByRole('button', { name: 'ribbon' }).click();
  await expect(log).toContainText('dial: point');
  await page.keyboard.press('p');
  await expect(log).toContainText('paused');
  await page.keyboard.press('p');
  await expect(log).toContainText('goes on');
  await hold(page, 'ArrowUp', ([, y]) => y <= 18.5);
  await hold(page, 'ArrowRight', ([x]) => x >= 18);
  await expect(page.getByText('Near: cabin-1.')).toBeVisible();
  await page.keyboard.press('e');
  await expect(log).toContainText('cabin-1 onCalledFor');
});
