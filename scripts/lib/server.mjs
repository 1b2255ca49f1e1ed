import { spawn } from 'node:child_process';
import { readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { SERVER } from './bundle-server.mjs';
import { isRoot, userOf } from './postgres-programs.mjs';
import { commandOf } from './process.mjs';
import { ROOT } from './root.mjs';
import { capture, sleep } from './run.mjs';
import { say } from './say.mjs';

const MAIN = join(ROOT, SERVER);
/** Where it was in earlier builds: what one of them has left behind is ended, too. */
const PROGRAMS = [MAIN, join(ROOT, 'apps/server/dist/main.js')];
/** Where the server of a start is noted, by port, so that it is found if that start is killed. */
const note = (data, port) => join(data, `server-${port}.json`);

/** Starts the server, as an unprivileged user when the caller is root. `said` gets what it prints. */
export async function startServer(data, port, env, said) {
  const user = await serverUser();
  const node = [process.execPath, MAIN];
  const drop = [
    '--reuid',
    String(user?.uid),
    '--regid',
    String(user?.gid),
    '--clear-groups',
    '--no-new-privs',
  ];
  const [command, ...args] = user ? ['setpriv', ...drop, ...node] : node;
  const server = spawn(command, args, {
    cwd: user ? '/' : ROOT,
    // A group of its own: Ctrl+C in the terminal reaches only this script, which stops things in order.
    detached: true,
    stdio: ['ignore', 'pipe', 'inherit'],
    env: { ...process.env, ...env, ...(user ? { HOME: '/nonexistent' } : {}) },
  });
  writeFileSync(note(data, port), JSON.stringify({ pid: server.pid, starter: process.pid }));
  server.stdout.on('data', (chunk) => said(String(chunk)));
  return server;
}
/** `nobody`, where the caller is root and nobody can read the program. */
async function serverUser() {
  const nobody = isRoot() ? userOf('nobody') : null;
  if (!nobody) return null;
  const drop = ['--reuid', String(nobody.uid), '--regid', String(nobody.gid), '--clear-groups'];
  const { code } = await capture('setpriv', [...drop, 'test', '-r', MAIN], { cwd: '/' }).catch(() => ({
    code: 1,
  }));
  if (code === 0) return nobody;
  say(
    `The server runs as root: user "nobody" cannot read ${ROOT}. A checkout that everybody may read is safer.`,
  );
  return null;
}

/**
 * Ends servers whose start was killed: they are of nobody any more, and may be of an older build. Answers whether another
 * start still runs on the same data.
 */
export async function endOrphans(data) {
  let others = false;
  for (const name of readdirSync(data).filter((file) => /^server-\d+\.json$/.test(file))) {
    const { pid, starter } = JSON.parse(readFileSync(join(data, name), 'utf8'));
    if (!commandOf(pid)?.some((part) => PROGRAMS.includes(part))) {
      rmSync(join(data, name), { force: true });
      continue;
    }
    if (commandOf(starter)?.some((part) => part.endsWith('start.mjs'))) {
      others = true;
      continue;
    }
    say(`A server of an earlier start (process ${pid}) was left running; it is ended.`);
    await end(pid);
    rmSync(join(data, name), { force: true });
  }
  return others;
}
async function end(pid) {
  for (const [signal, tries] of [
    ['SIGTERM', 100],
    ['SIGKILL', 50],
  ]) {
    try {
      process.kill(pid, signal);
    } catch {
      return;
    }
    for (let i = 0; i < tries && commandOf(pid) !== null; i++) await sleep(100);
  }
}
export function forget(data, port) {
  rmSync(note(data, port), { force: true });
}
