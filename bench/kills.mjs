import { spawn } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { build } from '../scripts/lib/build.mjs';
import { SERVER } from '../scripts/lib/bundle-server.mjs';
import { freePort, startPostgres } from '../scripts/lib/postgres.mjs';
import { ROOT } from '../scripts/lib/root.mjs';
import { sleep } from '../scripts/lib/run.mjs';
import { say } from '../scripts/lib/say.mjs';

const CLIENTS = 4;
const SCENE = 'yard';

/**
 * Kills the server and the database (kill -9) again and again under clients that edit, and looks after each kill: every
 * edit that was confirmed is there, none is there twice, and the rows are what the log gives when it is replayed. An edit
 * whose answer is lost is sent again with its key. Arguments: kills of the server, kills of the database, a seed.
 */
export default async function kills([server = '100', database = '100', seed = '1']) {
  await build();
  const core = await import(join(ROOT, 'packages/core/dist/index.js'));
  const folder = mkdtempSync(join(tmpdir(), 'oquel-kills-'));
  const random = randomOf(Number(seed));
  const plan = shuffled(
    [...Array(Number(server)).fill('server'), ...Array(Number(database)).fill('database')],
    random,
  );
  const world = new World(core, folder, random);
  const begun = performance.now();
  await world.start();
  let failed = 0;
  const clients = Array.from({ length: CLIENTS }, (_, i) => world.client(i));
  for (const [i, what] of plan.entries()) {
    await sleep(50 + random() * 250);
    await world.kill(what);
    const faults = await world.check();
    failed += faults.length;
    for (const fault of faults) say(`  after kill ${i + 1} (${what}): ${fault}`);
    if ((i + 1) % 20 === 0)
      say(`  ${i + 1} kills, ${world.confirmed.size} edits confirmed, ${world.again} sent again`);
  }
  world.over = true;
  await Promise.all(clients);
  const last = await world.check();
  failed += last.length;
  for (const fault of last) say(`  at the end: ${fault}`);
  const ended = world.ended;
  await world.stop();
  rmSync(folder, { recursive: true, force: true });
  say(
    `${server} kills of the server and ${database} of the database in ${((performance.now() - begun) / 1000).toFixed(0)} s: ` +
      `${world.confirmed.size} edits confirmed by ${CLIENTS} clients, ${world.again} sent again with their keys, ` +
      `${failed} faults; the server ended by itself ${ended} times`,
  );
  return failed + ended === 0 ? 0 : 1;
}

class World {
  confirmed = new Set();
  again = 0;
  ended = 0;
  over = false;

  constructor(core, folder, random) {
    Object.assign(this, { core, folder, random });
  }
  async start() {
    this.db = await startPostgres(join(this.folder, 'postgres'));
    this.port = await freePort();
    this.url = await this.db.database('kills');
    await this.serve();
    const document = {
      format: 'oquel.project/1',
      name: 'Yard',
      assets: [
        {
          id: SCENE,
          kind: 'scene',
          events: [{ name: 'onA', cause: { type: 'use' } }],
          actions: [{ name: 'a' }],
          bindings: [],
        },
      ],
    };
    this.first = document;
    const answer = await this.send('/api/projects', document);
    this.id = (await answer.json()).id;
  }
  async serve() {
    const env = { ...process.env, PORT: String(this.port), DATABASE_URL: this.url, LOG_LEVEL: 'fatal' };
    const server = spawn(process.execPath, [join(ROOT, SERVER)], {
      env,
      stdio: ['ignore', 'pipe', 'ignore'],
    });
    this.server = server;
    server.once('exit', () => {
      if (!server.meant) this.ended++;
    });
    await new Promise((resolve) => {
      server.stdout.once('data', resolve);
      server.once('exit', resolve);
    });
  }
  async kill(what) {
    if (what === 'server' || this.server.exitCode !== null) {
      this.server.meant = true;
      this.server.kill('SIGKILL');
      await sleep(20);
      return this.serve();
    }
    const pid = Number(readFileSync(join(this.db.data, 'postmaster.pid'), 'utf8').split('\n')[0]);
    process.kill(pid, 'SIGKILL');
    await sleep(20);
    await this.db.startAgain();
  }
  async stop() {
    this.server.meant = true;
    this.server.kill('SIGTERM');
    await new Promise((resolve) => this.server.once('exit', resolve));
    await this.db.remove();
  }

  send(path, body) {
    return fetch(`http://127.0.0.1:${this.port}${path}`, {
      method: 'POST',
      body: JSON.stringify(body),
      headers: { 'Content-Type': 'application/json' },
      signal: AbortSignal.timeout(15_000),
    });
  }
  /** Makes one edit after the other, each until it is confirmed. */
  async client(c) {
    for (let i = 0; !this.over; i++) {
      const id = `c${c}n${i}`;
      const item = { id, from: { at: '.', event: 'onA' }, to: { at: '.', action: 'a' } };
      const index = Math.floor(this.random() * 10);
      const edit = {
        base: 1,
        label: id,
        who: `client ${c}`,
        key: randomUUID(),
        changes: [{ op: 'insert', list: 'bindings', asset: SCENE, index, item }],
        have: 2 ** 31 - 1,
      };
      for (let tries = 0; ; tries++) {
        const answer = await this.send(`/api/projects/${this.id}/edits`, edit).catch(() => null);
        if (answer?.status === 201) break;
        if (answer && answer.status < 500) throw new Error(await answer.text());
        this.again++;
        await sleep(20 + this.random() * 60);
      }
      this.confirmed.add(id);
      await sleep(this.random() * 20);
    }
  }

  /** What is wrong with what is stored, in words. */
  async check() {
    const confirmed = new Set(this.confirmed);
    const db = await this.connect();
    try {
      // One moment for all of it.
      await db.query('begin isolation level repeatable read');
      const ids = (
        await db.query('select id from bindings where project_id = $1 order by pos', [this.id])
      ).rows.map((r) => r.id);
      const log = (
        await db.query(
          'select version, key, changes::text as changes from edits where project_id = $1 order by version',
          [this.id],
        )
      ).rows;
      const { version } = (await db.query('select version from projects where id = $1', [this.id])).rows[0];
      await db.query('rollback');
      const faults = [];
      const there = new Set(ids);
      const lost = [...confirmed].filter((id) => !there.has(id));
      if (lost.length > 0) faults.push(`confirmed and lost: ${lost.slice(0, 5).join(', ')}`);
      if (there.size !== ids.length) faults.push('an edit is there twice');
      if (new Set(log.map((e) => e.key)).size !== log.length) faults.push('a key is in the log twice');
      if (log.some((e, i) => e.version !== i + 2) || version !== log.length + 1)
        faults.push('versions have gaps');
      const changes = log.flatMap((e) => JSON.parse(e.changes));
      const replayed = this.core
        .applyChanges(this.first, changes)
        .project.assets[0].bindings.map((b) => b.id);
      if (replayed.join() !== ids.join()) faults.push('the rows are not what the log gives');
      return faults;
    } finally {
      await db.end().catch(() => undefined);
    }
  }
  async connect() {
    for (let i = 0; ; i++) {
      const client = new pg.Client({ connectionString: this.url });
      client.on('error', () => undefined);
      try {
        await client.connect();
        return client;
      } catch (error) {
        if (i > 200) throw error;
        await sleep(100);
      }
    }
  }
}

/** Numbers from 0 to 1, the same for the same seed (mulberry32). */
function randomOf(seed) {
  let a = seed;
  return () => {
    a = (a + 0x6d2b79f5) | 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}
function shuffled(list, random) {
  for (let i = list.length - 1; i > 0; i--) {
    const k = Math.floor(random() * (i + 1));
    [list[i], list[k]] = [list[k], list[i]];
  }
  return list;
}
