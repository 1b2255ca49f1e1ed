import { once } from 'node:events';
import { join } from 'node:path';
import pg from 'pg';
import { from as copyFrom, to as copyTo } from 'pg-copy-streams';
import { ROOT } from '../scripts/lib/root.mjs';
import { say } from '../scripts/lib/say.mjs';
import { withServer } from '../scripts/lib/app.mjs';

const TIMES = 3;
const TABLES = ['assets', 'placements', 'bindings'];

/**
 * Storing: the import of a document over HTTP, from the first byte sent to the answer, beside COPY of the very rows that
 * it made into the same tables, in turn; then freezing and comparing builds. Goals: twice the time of COPY; 3 s each.
 */
export default async function storeBench([many = '1000000', some = '100000']) {
  return withServer(async ({ base, databaseUrl }) => {
    const db = new pg.Client({ connectionString: databaseUrl });
    // The database goes away before this client does.
    db.on('error', () => undefined);
    await db.connect();
    await importing(base, db, Number(many));
    await builds(base, Number(some));
    await db.end();
    return 0;
  });
}

async function importing(base, db, count) {
  const text = JSON.stringify(valley(count));
  say(`${count} bindings, a document of ${(text.length / 1e6).toFixed(0)} MB`);
  const [ours, raw] = [[], []];
  for (let i = 0; i < TIMES; i++) {
    await settle(db);
    let begun = performance.now();
    const { id } = await send(base, '/api/projects', text);
    ours.push(performance.now() - begun);
    const rows = await rowsOf(db, id);
    await settle(db);
    begun = performance.now();
    await copyIn(db, id, rows);
    raw.push(performance.now() - begun);
    say(`  import ${seconds(ours.at(-1))}, COPY ${seconds(raw.at(-1))}`);
    await db.query('truncate projects, placements, bindings cascade');
  }
  const ratio = median(ours) / median(raw);
  say(
    `import: median ${seconds(median(ours))}; raw COPY of the same rows: ${seconds(median(raw))}; ` +
      `${ratio.toFixed(2)} times (goal: at most 2)`,
  );
}

/** Writes out what was done before, so that neither pays for the other. */
async function settle(db) {
  await db.query('checkpoint');
}

/** Every row of a project as COPY writes it, by table. */
async function rowsOf(db, id) {
  const rows = {};
  for (const table of TABLES) {
    const chunks = [];
    const stream = db.query(copyTo(`copy (select * from ${table} where project_id = '${id}') to stdout`));
    for await (const chunk of stream) chunks.push(chunk);
    rows[table] = Buffer.from(Buffer.concat(chunks).toString('latin1').replaceAll(id, other(id)), 'latin1');
  }
  return rows;
}
/** The same rows as another project, by COPY alone, in one transaction. */
async function copyIn(db, id, rows) {
  await db.query('begin');
  await db.query(
    'insert into projects (id, name, version, body) select $1, name, version, body from projects where id = $2',
    [other(id), id],
  );
  for (const table of TABLES) {
    const stream = db.query(copyFrom(`copy ${table} from stdin`));
    const done = once(stream, 'finish');
    const all = rows[table];
    for (let at = 0; at < all.length; at += 262_144) {
      if (!stream.write(all.subarray(at, at + 262_144))) await once(stream, 'drain');
    }
    stream.end();
    await done;
  }
  await db.query('commit');
}
function other(id) {
  return `${id.slice(0, -4)}ffff`;
}

async function builds(base, count) {
  const core = await import(join(ROOT, 'packages/core/dist/index.js'));
  const before = valley(count);
  const { id } = await send(base, '/api/projects', JSON.stringify(before));
  const after = changed(core, before);
  let version = 1;
  const [freezing, comparing, fetching] = [[], [], []];
  const frozen = [];
  for (let i = 0; i < TIMES; i++) {
    let begun = performance.now();
    const name = `build ${i}`;
    frozen.push(
      await send(base, `/api/projects/${id}/builds`, JSON.stringify({ name, who: 'bench', base: version })),
    );
    freezing.push(performance.now() - begun);
    const query = `base=${version}&who=bench&label=changed`;
    const text = JSON.stringify(i % 2 === 0 ? after : before);
    ({ version } = await send(base, `/api/projects/${id}/replace?${query}`, text));
    begun = performance.now();
    const documents = [];
    for (const build of [frozen[0], frozen.at(-1)]) {
      const answer = await fetch(`${base}/api/projects/${id}/builds/${build.id}/document`);
      documents.push(await answer.text());
    }
    fetching.push(performance.now() - begun);
    begun = performance.now();
    const [a, b] = documents.map((text) => core.readProjectText(text).project);
    const { counts } = core.compareProjects(a, i === 0 ? after : b);
    comparing.push(performance.now() - begun);
    if (i < 2)
      say(
        `  compared: ${JSON.stringify(counts.binding)}, ${counts.declaration.renamed} declarations renamed`,
      );
  }
  say(
    `freezing a build of ${count} bindings, its audit included: median ${seconds(median(freezing))} (goal: 3 s)`,
  );
  say(
    `comparing two: median ${seconds(median(comparing))}, and ${seconds(median(fetching))} to fetch them ` +
      `(goal for both: 3 s)`,
  );
}

/** A hundredth of the bindings otherwise, some gone and new, an event and a placement under another name. */
function changed(core, project) {
  const index = core.indexProject(project);
  const mast = index.assets[index.assetAt.get('WindMast')];
  const renamed = core.renameName(
    index,
    { kind: 'event', asset: mast.decl.id, of: '', name: 'onCalm' },
    'onStill',
  );
  const next = structuredClone(core.applyChanges(project, renamed).project);
  for (const asset of next.assets) {
    asset.bindings = asset.bindings?.flatMap((b, i) =>
      i % 300 === 0
        ? []
        : i % 100 === 1
          ? [{ ...b, delay: 1 }]
          : i % 300 === 2
            ? [b, { ...b, id: `${b.id}-more` }]
            : [b],
    );
  }
  return next;
}

async function send(base, path, body) {
  const answer = await fetch(base + path, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body,
  });
  const text = await answer.text();
  if (!answer.ok) throw new Error(text.slice(0, 500));
  return JSON.parse(text);
}

/** Ridges with their masts and brakes, wired by hand: so many bindings, a few thousand in each scene. */
function valley(count) {
  const each = Math.min(count, 5000);
  const scenes = Array.from({ length: Math.ceil(count / each) }, (_, s) => {
    const placements = [];
    const bindings = [];
    for (let b = 0; b < each; b++) {
      const mast = `mast-${b >> 3}`;
      if (b % 8 === 0) placements.push({ id: mast, asset: 'WindMast', at: [b >> 3, 3] });
      const brake = `brake-${b >> 1}`;
      if (b % 2 === 0) placements.push({ id: brake, asset: 'TrackBrake', at: [b >> 1, 9] });
      bindings.push(
        b % 2 === 0
          ? {
              id: `gust-${b}`,
              from: { at: mast, event: 'onGust' },
              to: { at: brake, action: 'engage' },
              args: { force: { payload: 'speed' } },
              delay: 0.5,
            }
          : { id: `calm-${b}`, from: { at: mast, event: 'onCalm' }, to: { at: brake, action: 'release' } },
      );
    }
    return { id: `ridge-${s}`, kind: 'scene', size: [each, 20], placements, bindings };
  });
  return {
    format: 'oquel.project/1',
    name: 'A long valley',
    assets: [
      ...scenes,
      {
        id: 'WindMast',
        kind: 'prefab',
        events: [
          { name: 'onGust', cause: { type: 'code' }, payload: [{ name: 'speed', type: 'float' }] },
          { name: 'onCalm', cause: { type: 'code' } },
        ],
      },
      {
        id: 'TrackBrake',
        kind: 'prefab',
        actions: [{ name: 'engage', params: [{ name: 'force', type: 'float' }] }, { name: 'release' }],
      },
    ],
  };
}

function median(times) {
  return [...times].sort((a, b) => a - b)[times.length >> 1];
}
function seconds(ms) {
  return `${(ms / 1000).toFixed(2)} s`;
}
