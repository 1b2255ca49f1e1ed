import { mkdirSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { withServer } from './lib/app.mjs';
import { newestPrograms } from './lib/postgres-programs.mjs';
import { ROOT } from './lib/root.mjs';
import { capture } from './lib/run.mjs';
import { runScript, say, Trouble } from './lib/say.mjs';

/** A dot of one pixel, as PNG. */
const DOT =
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==';

/**
 * Keeps the data of this version for the tests of later ones: a server of this build is used for a while, and its database
 * is dumped beside what its own API says of it. Run it when a version is released.
 */
await runScript(() => withServer(keep));

async function keep({ base, databaseUrl }) {
  const call = async (method, path, body, headers = { 'content-type': 'application/json' }) => {
    const raw = Buffer.isBuffer(body) || typeof body === 'string';
    const sent = body === undefined || raw ? body : JSON.stringify(body);
    const answer = await fetch(base + path, { method, headers, body: sent });
    const text = await answer.text();
    if (!answer.ok) throw new Trouble(`${method} ${path}: ${text}`, 'Look at what has changed in the API.');
    return text === '' ? null : JSON.parse(text);
  };
  const { id } = await call('POST', '/api/projects', quay());
  const at = `/api/projects/${id}`;
  const picture = await call('POST', `${at}/pictures`, Buffer.from(DOT, 'base64'), {
    'content-type': 'image/png',
  });
  let version = 1;
  const own = { who: 'mira', author: '6b1f0f4e-2a43-4a55-9d7c-1f6f8d5c7b10' };
  const edit = async (label, ...changes) =>
    ({ version } = await call('POST', `${at}/edits`, { base: version, label, changes, ...own }));
  const step = async (way) => ({ version } = await call('POST', `${at}/${way}`, { base: version, ...own }));
  await edit('quay: the lamp follows the bell', wire('lights', 'bell-1', 'lamp-1', 'light'));
  await edit('quay: the gate follows the bell', wire('opens', 'bell-1', 'gate-1', 'open'));
  await edit('Bell: a note — “rung by hand” \\ with \u2028 in it', {
    op: 'set',
    asset: 'Bell',
    part: 'note',
    value: 'rung by hand \\ \u2028 ✓',
  });
  await edit('quay: a picture under it', {
    op: 'set',
    asset: 'quay',
    part: 'backdrop',
    value: { picture: picture.name, at: [0, 0], size: [40, 20], dim: 0.25 },
  });
  await step('undo');
  await step('redo');
  await step('undo');
  const frozen = await call('POST', `${at}/builds`, {
    base: version,
    name: 'week 1',
    note: 'first',
    who: 'mira',
  });
  await call('POST', `${at}/builds/${frozen.id}/verdicts`, {
    verdict: frozen.gate === 'pass' ? 'through' : 'back',
    reason: 'as it is',
    who: 'jon',
  });
  const { token } = await call('POST', `${at}/plays/token`, {});
  const line = (at, record) => `${JSON.stringify({ t: at, ...record })}\n`;
  await call(
    'POST',
    `${at}/plays?session=one`,
    line(0, { kind: 'raise', at: 'quay:bell-1', event: 'onRung' }) +
      line(1_000_000, { kind: 'what is this' }),
    { 'content-type': 'application/x-ndjson', authorization: `Bearer ${token}` },
  );
  await edit('quay: gate-1 moved', {
    op: 'replace',
    list: 'placements',
    asset: 'quay',
    id: 'gate-1',
    item: { id: 'gate-1', asset: 'Gate', at: [31, 7] },
  });
  const gone = await call('POST', '/api/projects', { ...quay(), name: 'A quay in the bin' });
  await call('PATCH', `/api/projects/${gone.id}`, { state: 'deleted' });

  const projects = await call('GET', '/api/projects');
  const said = {};
  for (const { id: project } of projects.filter((p) => p.state === 'open')) {
    const path = `/api/projects/${project}`;
    const builds = await call('GET', `${path}/builds`);
    said[project] = {
      document: await call('GET', `${path}/document`),
      edits: (await call('GET', `${path}/edits?after=0`)).edits,
      builds,
      audits: Object.fromEntries(
        await Promise.all(builds.map(async (b) => [b.id, await call('GET', `${path}/builds/${b.id}/audit`)])),
      ),
    };
  }
  const names = readdirSync(join(ROOT, 'apps/server/dist/database/migrations'));
  const newest = names
    .filter((n) => /^\d{3}-.*\.js$/.test(n))
    .sort()
    .at(-1)
    .replace('.js', '');
  const folder = process.argv[2] ?? join(ROOT, 'apps/server/test/releases');
  mkdirSync(folder, { recursive: true });
  const dump = await capture(join(newestPrograms() ?? '', 'pg_dump'), [
    '--no-owner',
    '--no-privileges',
    '--inserts',
    databaseUrl,
  ]);
  if (dump.code !== 0) throw new Trouble(dump.output, 'See the message of pg_dump.');
  // Commands of psql are not for the server.
  const sql = dump.output
    .split('\n')
    .filter((text) => !text.startsWith('\\') && !text.startsWith('--') && text !== '')
    .join('\n');
  writeFileSync(join(folder, `${newest}.sql.gz`), gzipSync(`${sql}\n`));
  const known = { id, picture: picture.name, token, said };
  writeFileSync(join(folder, `${newest}.json.gz`), gzipSync(JSON.stringify(known)));
  say(`The data of ${newest} are kept in ${folder}.`);
}

function quay() {
  const rung = { name: 'onRung', cause: { type: 'code' } };
  return {
    format: 'oquel.project/1',
    name: 'A quay at dusk',
    assets: [
      {
        id: 'quay',
        kind: 'scene',
        size: [40, 20],
        placements: [
          { id: 'bell-1', asset: 'Bell', at: [4, 5] },
          { id: 'lamp-1', asset: 'Lamp', at: [20, 5] },
          { id: 'gate-1', asset: 'Gate', at: [30, 5] },
        ],
      },
      { id: 'Bell', kind: 'prefab', events: [rung] },
      { id: 'Lamp', kind: 'prefab', actions: [{ name: 'light' }] },
      { id: 'Gate', kind: 'prefab', actions: [{ name: 'open' }] },
    ],
  };
}
function wire(id, from, to, action) {
  const item = { id, from: { at: from, event: 'onRung' }, to: { at: to, action } };
  return { op: 'insert', list: 'bindings', asset: 'quay', index: 0, item };
}
