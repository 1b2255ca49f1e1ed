import { readdirSync, readFileSync, readlinkSync } from 'node:fs';

/** The command line of a process; null where it has ended (a zombie has, too). */
export function commandOf(pid) {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
    if (stat[stat.lastIndexOf(')') + 2] === 'Z') return null;
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').split('\0').filter(Boolean);
  } catch {
    return null;
  }
}
export function isPostgres(pid) {
  const command = commandOf(pid);
  return command !== null && /postgres/.test(command[0] ?? '');
}
/** How many processes of PostgreSQL work in a folder. */
export function postgresIn(dir) {
  let count = 0;
  for (const pid of readdirSync('/proc')) {
    if (!/^\d+$/.test(pid)) continue;
    try {
      if (readlinkSync(`/proc/${pid}/cwd`) === dir && isPostgres(Number(pid))) count++;
    } catch {
      // It ended meanwhile, or belongs to somebody else.
    }
  }
  return count;
}
