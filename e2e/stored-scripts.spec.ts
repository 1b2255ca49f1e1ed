import type { Page } from '@playwright/test';
import { newDatabase } from '../apps/server/test/harness.js';
import { expect, startServer, test } from './fixtures.js';

/** What would run if it were taken for a part of the page, in a text, an attribute, an address or a template. */
const SCRIPT = `"'><img src=x onerror="window.hit=1"><svg onload="window.hit=1"></svg>{{hit}}\${hit}`;
const VIEWS = [
  'plan?scope=quay',
  'wire?scope=quay&at=bell-1',
  'wire/sheet?scope=quay',
  'ripple?from=quay:bell-1&event=onRung',
  'crossings',
  'catalogue',
  'rehearse',
  'rehearse/plays',
  'rehearse/walk?scope=quay',
  'audit',
  'builds',
  'exchange',
  'team',
];

/** A project of which every text that may be anything is such a script. */
function project(): object {
  const note = SCRIPT;
  return {
    format: 'oquel.project/1',
    name: SCRIPT,
    note,
    enums: [{ name: 'Tide', values: ['low', 'high'], note }],
    channels: [{ name: 'fog', note }],
    tables: [{ name: 'Texts', keys: ['hello'], note }],
    waivers: [
      {
        rule: 'orphan-listener',
        fingerprint: '0123456789abcdef',
        reason: SCRIPT,
        by: SCRIPT,
        date: '2026-01-02',
      },
    ],
    rehearsals: [{ name: 'by hand', note, steps: [] }],
    assets: [
      {
        id: 'quay',
        kind: 'scene',
        note,
        tags: ['dock'],
        size: [40, 20],
        placements: [
          { id: 'bell-1', asset: 'Bell', at: [4, 5], note },
          { id: 'gate-1', asset: 'Gate', at: [30, 5], properties: { text: SCRIPT } },
        ],
        bindings: [
          {
            id: 'opens',
            from: { at: 'bell-1', event: 'onRung' },
            to: { at: 'gate-1', action: 'open' },
            note,
          },
          {
            id: 'says',
            from: { at: 'bell-1', event: 'onRung' },
            to: { at: 'gate-1', action: 'say' },
            args: { text: SCRIPT },
          },
        ],
      },
      { id: 'Bell', kind: 'prefab', note, events: [{ name: 'onRung', cause: { type: 'code' }, note }] },
      {
        id: 'Gate',
        kind: 'prefab',
        note,
        properties: [{ name: 'text', type: 'string', default: SCRIPT, note }],
        actions: [
          { name: 'open', note },
          { name: 'say', params: [{ name: 'text', type: 'string' }], note },
        ],
      },
    ],
  };
}

test('scripts that are stored in every text of a team and its project run in no view', async ({ page }) => {
  test.setTimeout(360_000);
  const server = await startServer(await newDatabase(), { OQUEL_TEAM: '1' });
  try {
    await page.goto(`${server.url}/join#${await server.printed(/\/join#(\S+)/)}`);
    await page.getByLabel('Your name').fill(SCRIPT.slice(0, 80));
    await page.getByLabel('Sign-in name').fill('ada');
    await page.getByRole('textbox', { name: 'Password' }).fill('the gorge of Ada is deep');
    await page.getByRole('button', { name: 'Join' }).click();
    await page.getByRole('button', { name: 'New project' }).waitFor();
    const send = async (path: string, body: object): Promise<{ id: string }> => {
      const answer = await page.request.post(server.url + path, { data: body });
      expect(answer.ok(), `${path}: ${await answer.text()}`).toBe(true);
      return (await answer.json()) as { id: string };
    };
    const { id } = await send('/api/projects', project());
    const at = `/api/projects/${id}`;
    const who = SCRIPT;
    const changes = [{ op: 'set', part: 'note', value: SCRIPT }];
    await send(`${at}/edits`, { base: 1, label: SCRIPT, who, changes });
    const build = await send(`${at}/builds`, { base: 2, name: SCRIPT, note: SCRIPT, who });
    await send(`${at}/builds/${build.id}/verdicts`, { verdict: 'back', reason: SCRIPT, who });
    await send(`${at}/tokens`, { name: SCRIPT.slice(0, 80), scopes: ['audit'], days: 1 });
    await send(`${at}/invitations`, { note: SCRIPT, role: 'reader' });
    await send('/api/invitations', { note: SCRIPT });

    for (const path of ['/', '/people', '/account', '/retention', ...VIEWS.map((v) => `/p/${id}/${v}`)]) {
      await page.goto(server.url + path);
      await expect(page.getByText('onerror').first(), path).toBeVisible();
      await page.waitForLoadState('networkidle');
      expect(await isHit(page), path).toBe(false);
    }
    await page.goto(`${server.url}/p/${id}/wire`);
    await page.getByRole('button', { name: 'History' }).click();
    await expect(page.getByRole('dialog').getByText('onerror').first()).toBeVisible();
    expect(await isHit(page)).toBe(false);
    // What is exported to be opened by itself has none either.
    const text = await (await page.request.get(`${server.url}${at}/document`)).text();
    expect(text).toContain('onerror');
  } finally {
    await server.stop();
  }
});

/** Whether a script has run, or become a part of the page. */
function isHit(page: Page): Promise<boolean> {
  return page.evaluate(
    () => 'hit' in window || document.querySelector('[onerror],[onload],img[src="x"]') !== null,
  );
}
