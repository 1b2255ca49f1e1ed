import { expect, saved, test } from './fixtures.js';
import { harbour } from './harbour.js';
import { expectNoBarriers } from './barriers.js';

const line = (record: object): string => `${JSON.stringify(record)}\n`;
const ring = (t: number): string => line({ kind: 'raise', at: 'quay:bell-1', event: 'onRung', t });
const does = (action: string, t: number): string => line({ kind: 'performed', at: 'quay:gate-1', action, t });

/** A game that sends a play while it goes on. */
function sending(url: string, token: string): { more: (text: string) => void; end: () => Promise<number> } {
  let more: (text: string) => void = () => undefined;
  let close = (): void => undefined;
  const body = new ReadableStream<Uint8Array>({
    start(controller) {
      more = (text) => controller.enqueue(new TextEncoder().encode(text));
      close = () => controller.close();
    },
  });
  const answer = fetch(url, {
    method: 'POST',
    headers: { authorization: `Bearer ${token}` },
    body,
    duplex: 'half',
  } as RequestInit);
  return {
    more,
    end: async () => {
      close();
      return (await answer).status;
    },
  };
}

test('a game sends its play from nothing: what did not follow, what other code does, and it becomes a rehearsal', async ({
  page,
  server,
}) => {
  const { id, base } = await harbour(page, server, 'Plays');
  await page.goto(`${base}/rehearse`);
  await page.getByRole('link', { name: 'Plays', exact: true }).click();
  await expect(page.getByText('No game has sent a play yet.')).toBeVisible();
  await page.getByRole('button', { name: 'Make a token' }).click();
  const token = await page.locator('.token').innerText();

  // The first ring opens and shuts; the second one only shuts, as the wiring says; the third does not shut.
  const trace =
    ring(0) +
    does('open', 0) +
    does('shut', 0) +
    ring(5_000_000) +
    does('shut', 5_000_000) +
    ring(9_000_000) +
    does('open', 9_300_000) +
    '{"kind":\n' +
    line({ kind: 'raise', at: 'quay:buoy-1', event: 'onRung', t: 12_000_000 });
  const url = `${server.url}/api/projects/${id}/plays?session=evening`;
  const send = (authorization: string): Promise<Response> =>
    fetch(url, { method: 'POST', headers: { authorization }, body: trace });
  expect((await send('Bearer wrong')).status).toBe(401);
  expect((await send(`Bearer ${token}`)).status).toBe(201);

  // The open window hears of it.
  const says = page.getByRole('article', { name: 'What evening says' });
  await expect(says).toContainText('8 records of 1 session, 12 s of play.');
  await expect(says.getByRole('region', { name: 'Should have followed, and did not' })).toContainText(
    'does not reach quay:gate-1 shut',
  );
  await expect(says.getByRole('region', { name: 'Not known to the project' })).toContainText(
    'quay:buoy-1 onRung',
  );
  await expect(says.getByRole('region', { name: 'Broken lines' })).toContainText(
    'evening, line 8 is not JSON',
  );
  const code = says.getByRole('region', { name: 'Done by other code' });
  await expect(code).toContainText('quay:gate-1 open, after quay:bell-1 onRung');
  await expect(says.getByRole('region', { name: 'Served in play' })).toContainText('all were');
  const heat = says.getByRole('region', { name: 'Raised most' });
  await expect(heat).toContainText('quay:bell-1 onRung');
  await expect(heat.locator('circle.heat')).toHaveCount(1);

  // What was played stands on the wiring until what is rehearsed is asked for again.
  await says.getByRole('button', { name: 'Show it on the wiring' }).click();
  await page.getByRole('link', { name: 'Wire', exact: true }).click();
  await page.locator('.wire .thing[data-path="bell-1"] .hit').click();
  const sentences = page.locator('[data-event="onRung"]');
  await expect(sentences.getByRole('img', { name: 'played', exact: true })).toHaveCount(2);
  // On Crossings too: none is left that the play has not used.
  await page.getByRole('link', { name: 'Crossings', exact: true }).click();
  await page.getByRole('button', { name: 'list', exact: true }).click();
  await expect(page.locator('.celltable').getByRole('img', { name: 'played', exact: true })).toHaveCount(1);
  await page.getByRole('button', { name: 'Bell to Gate: 2 deliveries, 2 bindings, played' }).click();
  await expect(page.getByRole('article', { name: 'Bell to Gate' })).toContainText('played');
  await page.getByRole('button', { name: 'never used' }).click();
  await expect(page.getByText('0 of 1 pairs')).toBeVisible();
  await page.getByRole('link', { name: 'Wire', exact: true }).click();
  await page.locator('.wire .thing[data-path="bell-1"] .hit').click();
  await page.getByRole('button', { name: 'Show what is rehearsed' }).click();
  await expect(sentences.getByRole('img', { name: 'played', exact: true })).toHaveCount(0);
  await page.goto(`${base}/rehearse/plays`);

  // Another one is taken together with it.
  expect((await send(`Bearer ${token}`)).status).toBe(201);
  await page.goto(`${base}/rehearse/plays`);
  await page.getByRole('button', { name: 'All together' }).click();
  const all = page.getByRole('article', { name: 'What Plays of the newest wiring: 2 says' });
  await expect(all).toContainText('16 records of 2 sessions, 24 s of play.');
  await page.getByRole('button', { name: 'Remove the play evening' }).first().click();
  await expect(page.getByRole('button', { name: 'All together' })).toHaveCount(0);

  // What other code does is noted as a binding of the code, and undone.
  await code.getByRole('button', { name: 'Note it as a binding of the code' }).click();
  await saved(page);
  await page.goto(`${base}/wire?scope=quay&at=bell-1`);
  await expect(page.locator('[data-event="onRung"] [data-binding]')).toHaveCount(3);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.locator('[data-event="onRung"] [data-binding]')).toHaveCount(2);

  // The session becomes a rehearsal.
  await page.goto(`${base}/rehearse/plays`);
  await says.getByRole('region', { name: 'As rehearsals' }).getByRole('button', { name: 'Keep it' }).click();
  await says.getByRole('link', { name: 'Open “Play evening”' }).click();
  await expect(page.locator('[data-step]')).toHaveCount(3);

  // It is removed.
  await page.goto(`${base}/rehearse/plays`);
  await page.getByRole('button', { name: 'Remove the play evening' }).click();
  await expect(page.getByText('No game has sent a play yet.')).toBeVisible();
});

test('a play from nothing is seen on the plan while it goes on', async ({ page, server }) => {
  const { id, base } = await harbour(page, server, 'Live play');
  await page.goto(`${base}/rehearse/plays`);
  await page.getByRole('button', { name: 'Make a token' }).click();
  const token = await page.locator('.token').innerText();
  const { more, end } = sending(`${server.url}/api/projects/${id}/plays?session=evening`, token);
  const live = page.getByRole('region', { name: 'A game is sending' });
  let t = 0;
  await expect(async () => {
    more(ring((t += 1_000_000)));
    await expect(live).toBeVisible({ timeout: 500 });
  }).toPass();
  await expect(live.getByLabel('Scene that is seen')).toHaveValue('quay');
  await expect(async () => {
    more(ring((t += 1_000_000)) + does('shut', t));
    await expect(live.locator('.walklayer')).toContainText('onRung', { timeout: 500 });
  }).toPass();
  expect(await end()).toBe(201);
  await expect(page.getByRole('article', { name: 'What evening says' })).toBeVisible();
});

test('while a game sends, what happens in it is seen on the plan', async ({ page, demo, server }) => {
  const answer = await server.post(`/api/projects/${demo.id}/plays/token`, {});
  const { token } = answer.body as { token: string };
  await page.goto(demo.url('rehearse/plays'));
  await page.getByText('No game has sent a play yet.').waitFor();
  const url = `${server.url}/api/projects/${demo.id}/plays?session=evening&loadSet=ascent`;
  const { more, end } = sending(url, token);
  const mat = { kind: 'raise', at: 'valley-station:mat-6', event: 'onStepped' };
  const live = page.getByRole('region', { name: 'A game is sending' });
  // The window listens before long; the game goes on sending meanwhile.
  await expect(async () => {
    more(line({ ...mat, t: Date.now() * 1000 }));
    await expect(live).toBeVisible({ timeout: 500 });
  }).toPass();
  await expect(live.getByRole('heading')).toHaveText('evening is sending');
  await expect(live.getByLabel('Scene that is seen')).toHaveValue('valley-station');
  more(line({ ...mat, t: Date.now() * 1000 }));
  await expect(live.locator('.walklayer')).toContainText('onStepped');
  expect(await end()).toBe(201);
  await expect(page.getByRole('article', { name: 'What evening says' })).toBeVisible();
});

test('a file is judged without being sent, also a broken one', async ({ page, demo }) => {
  await page.goto(demo.url('rehearse/plays'));
  await page.getByText(/Gate:/).waitFor();
  const choose = (name: string, text: string): Promise<void> =>
    page
      .getByLabel('A trace of a game')
      .setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) });
  await page.getByLabel('What the game had loaded').selectOption('ascent');
  await choose(
    'boarding.jsonl',
    line({ kind: 'raise', at: 'valley-station:mat-6', event: 'onStepped', t: 1_000_000 }) +
      line({ kind: 'performed', at: 'valley-station:beacon-7', action: 'light', t: 1_000_000 }) +
      line({ kind: 'raise', at: 'valley-station:mat-6', event: 'onLeft', t: 9_000_000 }),
  );
  const says = page.getByRole('article');
  await expect(says).toContainText('boarding.jsonl, which is not kept');
  await expect(says.getByRole('region', { name: 'Should have followed, and did not' })).toContainText(
    'cabin-6 closeDoors',
  );
  await expect(says.getByRole('region', { name: 'Raised most' })).toContainText(
    'valley-station:mat-6 onStepped',
  );
  await expect(page.locator('circle.heat')).toHaveCount(1);
  await choose('broken.jsonl', 'no\nno\n');
  await expect(says).toContainText('2 lines could not be read');
  await expectNoBarriers(page);
});

test('the demo game sends what was played in it', async ({ page, demo, server }) => {
  const answer = await server.post(`/api/projects/${demo.id}/plays/token`, {});
  const { token } = answer.body as { token: string };
  await page.goto(`${server.url}/play/?project=${demo.id}#token=${token}`);
  await expect(page.getByRole('list', { name: 'What happened' })).toContainText('beacon-1: lit is true');
  await page.getByRole('button', { name: 'Send it to Oquel' }).click();
  await expect(page.getByText('It is in Oquel, in Plays.')).toBeVisible();
  await page.goto(demo.url('rehearse/plays'));
  const says = page.getByRole('article');
  await expect(says).toContainText('Everything that should have followed did.');
  await expect(says).not.toContainText('ran other wiring');
});
