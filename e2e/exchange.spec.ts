import { readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { strToU8, zipSync } from 'fflate';
import { DEMO, expect, saved, test, type Demo } from './fixtures.js';
import { expectNoBarriers } from './barriers.js';

interface Doc {
  name: string;
  assets: { id: string; bindings: { id: string; delay?: number }[] }[];
}
const demoDocument = (): Doc => JSON.parse(readFileSync(DEMO, 'utf8')) as Doc;
async function openExchange(page: Page, demo: Demo): Promise<void> {
  await page.goto(demo.url('exchange'));
  await page.getByText(/Gate:/).waitFor();
}
async function bring(page: Page, name: string, content: string | Uint8Array): Promise<void> {
  await page
    .getByLabel('File to import')
    .setInputFiles({ name, mimeType: 'application/octet-stream', buffer: Buffer.from(content) });
}
async function takeOut(page: Page, name: string): Promise<Buffer> {
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name, exact: true }).click();
  return readFileSync(await (await download).path());
}
const lines = (page: Page): ReturnType<Page['locator']> => page.locator('.changeline');

test('a document is shown against what is here before it is stored, and taken over as one edit', async ({
  page,
  demo,
}) => {
  await openExchange(page, demo);
  const before = await demo.document();
  const document = demoDocument();
  const [, ridge] = document.assets;
  ridge.bindings[0].delay = 2;
  ridge.bindings.splice(2, 1);
  await bring(page, 'from-ines.json', JSON.stringify({ ...document, mood: 'stormy' }));
  const report = page.getByRole('region', { name: 'Report on from-ines.json' });
  await expect(report).toContainText('nothing is stored yet');
  await expect(report).toContainText('1 property that the format does not know');
  await expect(report.getByRole('tab', { name: /bindings 1 gone, 1 changed/ })).toBeVisible();
  await expect(lines(page).filter({ hasText: 'after 2s' })).toContainText('was: when mast-1.onGust');
  await report.getByRole('tab', { name: /Findings:/ }).click();
  await expectNoBarriers(page);
  expect(await demo.document()).toEqual(before);
  await report.getByRole('button', { name: 'Replace this project' }).click();
  await expect(page.getByRole('button', { name: 'Undo' })).toHaveAttribute(
    'title',
    /replaced the project with from-ines.json/,
  );
  await saved(page);
  expect(await demo.document()).toEqual({ ...document, mood: 'stormy' });
  await page.getByRole('button', { name: 'Undo' }).click();
  await saved(page);
  expect(await demo.document()).toEqual(before);
});

test('a report that has become old is not acted on', async ({ page, demo, server }) => {
  await openExchange(page, demo);
  const document = demoDocument();
  document.assets[1].bindings.pop();
  await bring(page, 'late.json', JSON.stringify(document));
  await page.getByRole('region', { name: 'Report on late.json' }).waitFor();
  const id = document.assets[1].bindings[0].id;
  await server.post(`/api/projects/${demo.id}/edits`, {
    base: 1,
    who: 'Tomas',
    label: 'removed one',
    changes: [{ op: 'remove', list: 'bindings', asset: document.assets[1].id, id }],
  });
  await expect(page.getByText('edit by Tomas:')).toBeVisible();
  await page.getByRole('button', { name: 'Replace this project' }).click();
  await expect(page.getByText(/the project is at 2; look again/)).toBeVisible();
  const stored = await demo.document();
  expect(stored.assets[1].bindings).toHaveLength(demoDocument().assets[1].bindings.length - 1);
});

test('the folder form goes out as a zip and comes back the same; others are refused with the reason', async ({
  page,
  demo,
}) => {
  await openExchange(page, demo);
  const zip = await takeOut(page, 'Save .zip');
  await bring(page, 'veyra.zip', zip);
  await expect(page.getByText('Compared with this project: nothing differs')).toBeVisible();
  // As most programs pack it: below the folder's own name, with other files beside.
  const small = { format: 'oquel.project/1', name: 'Corner', assets: ['prefabs/Mast.json'] };
  await bring(
    page,
    'corner.zip',
    zipSync({
      'corner/project.json': strToU8(JSON.stringify(small)),
      'corner/prefabs/Mast.json': strToU8('{"id":"Mast","kind":"prefab"}'),
      'corner/notes.txt': strToU8('not ours'),
    }),
  );
  await expect(page.getByRole('region', { name: 'Report on corner.zip' })).toContainText('1 prefab');
  const alert = page.getByRole('alert');
  await bring(page, 'torn.zip', zip.subarray(0, 900));
  await expect(alert).toContainText('torn.zip was not imported; nothing is stored');
  await expect(alert).toContainText('cannot be unpacked');
  await bring(page, 'other.zip', zipSync({ 'readme.json': strToU8('{}') }));
  await expect(alert).toContainText('there is no project.json');
  await bring(page, 'lacking.zip', zipSync({ 'project.json': strToU8(JSON.stringify(small)) }));
  await expect(alert).toContainText('prefabs/Mast.json');
});

test('a table of bindings: columns are reported, ten kinds of bad rows named, the rest brought in', async ({
  page,
  demo,
}) => {
  await openExchange(page, demo);
  const rows = [
    'Szene,Sender,Ereignis,Empfaenger,Aktion,args,times,delay,on,id',
    'pylon-ridge,mast-2,onCalm,brake-1,release,,,,,calm-x1',
    'pylon-ridge,mast-2,onCalm,brake-2,release,,1,0.5,no,calm-x2',
    'pylon-rigde,mast-2,onCalm,brake-1,release,,,,,b1',
    'pylon-ridge,,onCalm,brake-1,release,,,,,b2',
    'pylon-ridge,mast-2,,brake-1,release,,,,,b3',
    'pylon-ridge,mast-2,onCalm,,release,,,,,b4',
    'pylon-ridge,mast-2,onCalm,brake-1,,,,,,b5',
    'pylon-ridge,mast-2,onGust,brake-1,engage,force == 1,,,,b6',
    'pylon-ridge,mast-2,onCalm,brake-1,release,,0,,,b7',
    'pylon-ridge,mast-2,onCalm,brake-1,release,,,soon,,b8',
    'pylon-ridge,mast-2,onCalm,brake-1,release,,,,perhaps,b9',
    'pylon-ridge,mast-2,onCalm,brake-1,release,,,,,b 10',
    'pylon-ridge,mast-2,onCalm,brake-1,release,,,,,calm-x1',
    'pylon-ridge,#tension,,#weather,,,,,,b12',
    'pylon-ridge,mast-2',
  ];
  await bring(page, 'wires.csv', rows.join('\n'));
  // Its columns are called otherwise here.
  await expect(page.getByText('15 rows have errors.')).toBeVisible();
  for (const [field, column] of [
    ['asset', 'Szene'],
    ['event', 'Ereignis'],
    ['receiver', 'Empfaenger'],
    ['action', 'Aktion'],
  ]) {
    await page.getByLabel(`Column of ${field}`).selectOption(String(rows[0].split(',').indexOf(column)));
  }
  await expect(page.getByText('13 rows have errors.')).toBeVisible();
  const list = page.getByRole('group', { name: 'Rows of the table' });
  for (const [line, text] of [
    [4, 'Szene: there is no scene, prefab or widget "pylon-rigde"'],
    [5, 'Sender: is empty'],
    [6, 'Ereignis: is empty'],
    [7, 'Empfaenger: is empty'],
    [8, 'Aktion: is empty'],
    [9, 'args: expected a value'],
    [10, 'times: "0" is not a whole number from 1'],
    [11, 'delay: "soon" is not a number of seconds'],
    [12, 'on: "perhaps" is not yes or no'],
    [13, 'id: "b 10" is not a valid name'],
    [14, 'id: "calm-x1" already appears in an earlier row'],
    [15, 'Empfaenger: what is heard on a channel cannot be published again'],
    [16, 'the row has 2 cells, but there are 10 columns'],
  ] as const) {
    await expect(
      list.locator('.csvrow').filter({ hasText: new RegExp(`line ${line}(?!\\d)`) }),
    ).toContainText(text);
  }
  await expectNoBarriers(page);
  const before = await demo.document();
  // The scene that looks misspelt is asked about first.
  await page.locator('[data-need="asset:pylon-rigde"]').getByRole('button', { name: 'pylon-ridge' }).click();
  await expect(page.getByText('12 rows have errors.')).toBeVisible();
  await page.getByRole('button', { name: 'Import 3 new' }).click();
  await saved(page);
  const ridge = (doc: typeof before): { id: string }[] =>
    doc.assets.find((a) => a.id === 'pylon-ridge')!.bindings!;
  expect(ridge(await demo.document()).slice(-3)).toEqual([
    { id: 'calm-x1', from: { at: 'mast-2', event: 'onCalm' }, to: { at: 'brake-1', action: 'release' } },
    {
      id: 'calm-x2',
      from: { at: 'mast-2', event: 'onCalm' },
      to: { at: 'brake-2', action: 'release' },
      limit: 1,
      delay: 0.5,
      enabled: false,
    },
    { id: 'b1', from: { at: 'mast-2', event: 'onCalm' }, to: { at: 'brake-1', action: 'release' } },
  ]);
  await page.getByRole('button', { name: 'Undo' }).click();
  await saved(page);
  expect(await demo.document()).toEqual(before);
  await bring(page, 'torn.csv', 'a,b\n"never closed,1');
  await expect(page.getByRole('alert')).toContainText('cannot be read as a table');
});

test('bindings go out as a table that comes back the same, and the graph as GraphML', async ({
  page,
  demo,
}) => {
  await openExchange(page, demo);
  const csv = (await takeOut(page, 'Save .csv')).toString();
  expect(csv.split('\r\n')[0]).toBe('asset,id,sender,event,receiver,action,arguments,if,options,note');
  await bring(page, 'same.csv', csv);
  await expect(page.getByText(/^\d+ unchanged\./)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Import 0 new' })).toBeDisabled();
  const xml = (await takeOut(page, 'Save GraphML')).toString();
  const counted = await page.evaluate((text) => {
    const document = new DOMParser().parseFromString(text, 'application/xml');
    return {
      broken: document.querySelector('parsererror') !== null,
      nodes: document.querySelectorAll('node').length,
      edges: document.querySelectorAll('edge').length,
    };
  }, xml);
  expect(counted.broken).toBe(false);
  expect(counted.nodes).toBeGreaterThan(400);
  expect(counted.edges).toBeGreaterThan(250);
});

test('reading a large file can be cancelled, and what is no UTF-8 is refused in words', async ({
  page,
  demo,
}) => {
  await openExchange(page, demo);
  const deep = Array.from({ length: 400_000 }, () => ({ a: [{}] }));
  const large = join(tmpdir(), `oquel-large-${process.pid}.json`);
  writeFileSync(large, JSON.stringify({ ...demoDocument(), deep }) + ' '.repeat(60_000_000));
  await page.getByLabel('File to import').setInputFiles(large);
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByText('Reading was cancelled')).toBeVisible();
  rmSync(large);
  await bring(page, 'latin.json', Buffer.from('{"name":"a\xff"}', 'latin1'));
  await expect(page.getByText('the file is not text in UTF-8')).toBeVisible();
  await bring(page, 'twice.json', '{"format":"oquel.project/1","name":"a","name":"b","assets":[]}');
  await expect(
    page.getByText('1 property found more than once; the last value is used: /name'),
  ).toBeVisible();
});

test('a manifest of the game is merged: shown first, one edit, the same again changes nothing', async ({
  page,
  demo,
}) => {
  await openExchange(page, demo);
  const before = await demo.document();
  const { assets } = demoDocument() as unknown as { assets: Record<string, unknown>[] };
  const mast = assets.find((a) => a.id === 'WindMast')!;
  const manifest = {
    format: 'oquel.declarations/1',
    origin: 'storm',
    assets: [
      {
        ...mast,
        source: { file: 'src/mast.ts', line: 12 },
        events: [
          ...(mast.events as object[]),
          { name: 'onThunder', payload: [{ name: 'far', type: 'float' }] },
        ],
      },
    ],
  };
  await bring(page, 'storm.json', JSON.stringify(manifest));
  const report = page.getByRole('region', { name: 'Report on storm.json' });
  await expect(lines(page).filter({ hasText: 'onThunder' })).toHaveCount(1);
  expect(await demo.document()).toEqual(before);
  await report.getByRole('button', { name: 'Merge' }).click();
  await saved(page);
  const after = (await demo.document()) as unknown as {
    assets: { id: string; origin?: string; bindings?: unknown }[];
  };
  expect(after.assets.filter((a) => a.origin === 'storm').map((a) => a.id)).toEqual(['WindMast']);
  expect(after.assets.map((a) => a.bindings)).toEqual(
    (before as unknown as typeof after).assets.map((a) => a.bindings),
  );
  await bring(page, 'storm.json', JSON.stringify(manifest));
  await expect(report).toContainText('nothing differs');
  await page.getByRole('button', { name: 'Undo' }).click();
  await saved(page);
  expect(await demo.document()).toEqual(before);
  await bring(page, 'broken.json', JSON.stringify({ ...manifest, origin: 7 }));
  await expect(page.getByRole('alert')).toContainText('/origin');
});

test('rows of a table make what they name, when somebody has said what was meant', async ({ page, demo }) => {
  await openExchange(page, demo);
  const before = await demo.document();
  await bring(
    page,
    'wishes.tsv',
    'asset\tsender\tevent\treceiver\taction\nvalley-station\tbell-1\tonRung\tlamp-1\tlight\npylon-ridge\tmast-2\tonGsut\tbrake-2\trelease\n',
  );
  await expect(page.getByText('Some names need a decision.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Import 2 new' })).toBeDisabled();
  await page.locator('[data-need="event:WindMast/onGsut"]').getByRole('button', { name: 'onGust' }).click();
  await page.getByRole('button', { name: 'Import 2 new' }).click();
  await saved(page);
  const ids = (await demo.document()).assets.map((a) => a.id);
  expect(ids.slice(-2)).toEqual(['Bell', 'Lamp']);
  await page.getByRole('button', { name: 'Undo' }).click();
  await saved(page);
  expect(await demo.document()).toEqual(before);
});
