import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { capture } from './run.mjs';
import { Trouble } from './say.mjs';

const BASE = '/usr/lib/postgresql';

/** Folder of the newest PostgreSQL of Debian's; null where there is none. */
export function newestPrograms() {
  const newest = versions()[0];
  return newest === undefined ? null : join(BASE, newest, 'bin');
}
function versions() {
  if (!existsSync(BASE)) return [];
  const there = readdirSync(BASE).filter((v) => existsSync(join(BASE, v, 'bin', 'initdb')));
  return there.sort((a, b) => Number(b) - Number(a));
}

/** The programs that can run a data folder: of the very version that made it; the newest for a new one. */
export function programsFor(data, dir) {
  const mark = join(data, 'PG_VERSION');
  if (!existsSync(mark)) return newestPrograms();
  const made = readFileSync(mark, 'utf8').trim();
  if (versions().includes(made)) return join(BASE, made, 'bin');
  throw new Trouble(
    `The data in ${dir} were made by PostgreSQL ${made}; here there is ${versions().join(' and ') || 'none'}.`,
    `Run: apt-get install postgresql-${made}; or bring the data over with pg_upgrade; or move ${dir} away to begin anew.`,
  );
}

export const isRoot = () => process.getuid?.() === 0;

/** Numbers of a user of this machine; null where there is no such user. */
export function userOf(name) {
  const line = readFileSync('/etc/passwd', 'utf8')
    .split('\n')
    .find((l) => l.startsWith(`${name}:`));
  if (!line) return null;
  const [, , uid, gid] = line.split(':');
  return { uid: Number(uid), gid: Number(gid) };
}
export function postgresUser() {
  const user = userOf('postgres');
  if (!user) throw new Trouble('There is no user "postgres".', 'Reinstall the package postgresql.');
  return user;
}

/** Runs a program as the unprivileged `postgres` when the caller is root. */
export function asPostgres([command, ...args]) {
  const options = { cwd: '/', env: { ...process.env, LC_ALL: 'C.UTF-8' } };
  if (!isRoot()) return captureDetached(command, args, options);
  const drop = ['--reuid=postgres', '--regid=postgres', '--init-groups', command, ...args];
  return captureDetached('setpriv', drop, options);
}
/** In a session of its own, so that Ctrl+C does not reach the database before its clients have left. */
function captureDetached(command, args, options) {
  return capture(command, args, { ...options, detached: true });
}
