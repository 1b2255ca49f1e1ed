import { createHash } from 'node:crypto';
import {
  chownSync,
  existsSync,
  lstatSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { isRoot, postgresUser } from './postgres-programs.mjs';

/**
 * The folder for PostgreSQL's socket. A socket's path may have some hundred characters only, so it does not lie in the data
 * folder but in /tmp, where anybody may make a folder first: one that is not ours, or is a link, is left alone and another
 * is made, whose name the data folder keeps.
 */
export function socketFolder(dir) {
  const note = join(dir, 'sockets');
  const hash = createHash('sha256').update(dir).digest('hex').slice(0, 10);
  const known = existsSync(note) ? readFileSync(note, 'utf8').trim() : `/tmp/oquel-${hash}`;
  const folder = makeOurs(known) ? known : mkdtempSync('/tmp/oquel-');
  if (folder !== known) {
    give(folder);
    writeFileSync(note, folder);
  }
  return folder;
}

function makeOurs(folder) {
  try {
    mkdirSync(folder, { mode: 0o700 });
    give(folder);
    return true;
  } catch (error) {
    if (error.code !== 'EEXIST') throw error;
  }
  const stat = lstatSync(folder);
  const owner = isRoot() ? postgresUser().uid : process.getuid();
  return stat.isDirectory() && stat.uid === owner && (stat.mode & 0o077) === 0;
}
function give(folder) {
  if (isRoot()) chownSync(folder, postgresUser().uid, postgresUser().gid);
}
