import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { build } from './lib/build.mjs';
import { ensureDebianPackage, installNpmPackages } from './lib/packages.mjs';
import { freePort, startPostgres } from './lib/postgres.mjs';
import { ROOT } from './lib/root.mjs';
import { capture, sleep } from './lib/run.mjs';
import { runScript, say, since } from './lib/say.mjs';
import { Editor, newPerson } from './team/editor.mjs';
import { OquelProcess } from './team/oquel-process.mjs';
import { NGINX, Proxy } from './team/proxy.mjs';

const EDITORS = 8;
/** Restarts of each process while people edit, and how long they edit in between. Milliseconds. */
const ROUNDS = 2;
const BETWEEN = 1500;

/** What was looked at, and how much of it holds. */
class Checks {
  passed = 0;
  failed = 0;
  that(what, is, found = '') {
    if (is) this.passed++;
    else this.failed++;
    say(`  ${is ? 'yes' : 'NO '}  ${what}${is || found === '' ? '' : `: ${found}`}`);
  }
}

/**
 * The recipe of docs/team-server.md, done: two processes on one PostgreSQL behind nginx with TLS, and both started anew, one after
 * the other, while eight people edit. Its last line says how many checks passed.
 */
await runScript(async () => {
  await installNpmPackages();
  await build();
  await ensureDebianPackage('nginx-light', () => existsSync(NGINX), 'nginx');
  const folder = mkdtempSync(join(tmpdir(), 'oquel-team-'));
  const checks = new Checks();
  const db = await startPostgres(join(folder, 'postgres'));
  const ports = [await freePort(), await freePort()];
  const proxy = new Proxy(folder, await freePort(), ports);
  const processes = [];
  try {
    const { owner, server } = await db.served('team');
    await proxy.start();
    for (const port of ports) {
      processes.push(
        new OquelProcess(port, { server, owner, url: proxy.url, log: join(folder, `${port}.log`) }),
      );
    }
    for (const one of processes) await one.start();
    await tryIt(checks, proxy, processes);
  } finally {
    for (const one of processes) await one.stop();
    await proxy.stop();
    await db.remove();
    rmSync(folder, { recursive: true, force: true });
  }
  await checkUnits(checks);
  say(`${checks.passed} passed, ${checks.failed} failed`);
  return checks.failed === 0 ? 0 : 1;
});

async function tryIt(checks, proxy, processes) {
  const chief = newPerson(proxy, 'Ada Chief');
  await chief.join(processes[0].invitation());
  checks.that(
    'the administrator joins through the proxy, with a cookie for TLS alone',
    /Secure/.test(chief.setCookie),
  );
  const second = await chief.call('POST', '/api/join/offer', { secret: processes[1].invitation() });
  checks.that(
    'the link that the other process has printed holds no longer',
    second.status === 410,
    second.status,
  );
  const { body: made } = await chief.call('POST', '/api/projects', yard());
  const id = made.id;

  const forged = await chief.call(
    'POST',
    '/api/session',
    { login: 'x', password: 'y' },
    { 'X-Forwarded-For': '6.6.6.6' },
  );
  const log = await chief.call('GET', '/api/security-log');
  const from = log.body.find((e) => e.what === 'sign-in-refused')?.from;
  checks.that(
    'an address that a client makes up is not believed',
    forged.status === 401 && from === '127.0.0.1',
    from,
  );
  const host = await chief.call('GET', '/api/session', undefined, { Host: 'elsewhere.example' });
  checks.that('another host is refused', host.status === 421 || host.status === 404, host.status);

  const editors = [];
  for (let i = 0; i < EDITORS; i++) {
    const { body } = await chief.call('POST', `/api/projects/${id}/invitations`, {
      note: `Editor ${i}`,
      role: 'designer',
    });
    const person = newPerson(proxy, `Editor ${i}`);
    await person.join(body.secret);
    editors.push(new Editor(person, id, i));
  }
  for (const editor of editors) editor.start();
  const begun = performance.now();
  for (let round = 0; round < ROUNDS; round++) {
    for (const one of processes) {
      await sleep(BETWEEN);
      const { code, took } = await one.restart();
      checks.that(
        `the process on ${one.port} stopped well and is back after ${took.toFixed(0)} ms`,
        code === 0,
        code,
      );
    }
  }
  await sleep(BETWEEN);
  await Promise.all(editors.map((e) => e.finish()));
  const spent = since(begun);
  const { status, body: opened } = await chief.call('GET', `/api/projects/${id}`);
  checks.that('the project opens after it', status === 200, `${status} ${JSON.stringify(opened)}`);
  if (status !== 200) return;
  const there = opened.document.assets[0].bindings.map((b) => b.id);
  const confirmed = editors.flatMap((e) => e.confirmed);
  const lost = confirmed.filter((one) => !there.includes(one));
  const doubled = there.length - new Set(there).size;
  const again = editors.reduce((n, e) => n + e.again, 0);
  say(`  ${confirmed.length} edits of ${EDITORS} people in ${spent}, ${again} sent again with their key`);
  checks.that(
    'people have edited all the while',
    editors.every((e) => e.confirmed.length > 5),
    editors.map((e) => e.confirmed.length),
  );
  checks.that('no edit is lost', lost.length === 0, lost);
  checks.that(
    'no edit is doubled or made up',
    doubled === 0 && there.length === confirmed.length,
    `${there.length} there`,
  );
  checks.that(
    'nobody met an error that sending again does not cure',
    editors.every((e) => e.error === null),
    editors.map((e) => e.error).join(' '),
  );
  await sleep(1500);
  const behind = editors.filter((e) => e.heard !== opened.version);
  checks.that(
    'every stream heard of the last edit',
    behind.length === 0,
    behind.map((e) => `${e.heard} of ${opened.version}`),
  );
  for (const editor of editors) editor.close();
}

async function checkUnits(checks) {
  if (!existsSync('/usr/bin/systemd-analyze'))
    return say('  systemd-analyze is not here; the units are not verified');
  const { output } = await capture('systemd-analyze', ['verify', join(ROOT, 'docs/team/oquel@.service')], {});
  // The program and the user of the recipe are not on this machine.
  const faults = output
    .split('\n')
    .filter(
      (line) =>
        /oquel/.test(line) && !/not executable|does not exist|Unknown user|EnvironmentFile/.test(line),
    );
  checks.that('systemd finds no fault in the units', faults.length === 0, faults.join(' '));
}

function yard() {
  return {
    format: 'oquel.project/1',
    name: 'Yard',
    assets: [
      {
        id: 'yard',
        kind: 'scene',
        events: [{ name: 'onA', cause: { type: 'use' } }],
        actions: [{ name: 'a' }],
        bindings: [],
      },
    ],
  };
}
