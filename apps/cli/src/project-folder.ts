import {
  closeSync,
  existsSync,
  fsyncSync,
  mkdirSync,
  openSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  writeSync,
} from 'node:fs';
import { dirname, join } from 'node:path';
import { PROJECT_FILE } from '@oquel/core';
import { inside, isFolder, realFolder, requireFile, UsageError } from './paths.js';

/** Names what is under way while a folder is written; it is there from the moment on that the new state is whole. */
const JOURNAL = '.oquel-writing.json';
const FRESH = '.oquel-new';
const ASSET_FOLDERS = ['scenes', 'prefabs', 'widgets'];
const OWN = new RegExp(`^(${ASSET_FOLDERS.join('|')})/[A-Za-z0-9_~-]+\\.json$`);

interface Journal {
  /** Files that have a new state beside them. */
  files: string[];
  /** Files of assets that the project no longer has. */
  gone: string[];
}

/** The text of a file of a project folder, as it is after whatever was being written; null if there is none. */
export function readFromFolder(folder: string, path: string, read: (file: string) => string): string | null {
  const root = realFolder(folder);
  const file = inside(root, path);
  const journal = readJournal(root);
  if (journal?.gone.includes(path)) return null;
  const fresh = `${file}${FRESH}`;
  if (journal?.files.includes(path) && existsSync(fresh)) return read(inside(root, `${path}${FRESH}`));
  return existsSync(file) ? read(file) : null;
}

/** Files where the project's assets lie that its `project.json` does not list: of no account, and perhaps forgotten. */
export function strayFiles(folder: string, listed: readonly string[]): string[] {
  const own = new Set(listed);
  return ASSET_FOLDERS.flatMap((name) => {
    const at = join(folder, name);
    return isFolder(at) ? readdirSync(at).map((file) => `${name}/${file}`) : [];
  })
    .filter((path) => OWN.test(path) && !own.has(path))
    .sort();
}

/**
 * Writes a project folder. All is written beside what is there, then put into its place; a crash leaves the old state
 * whole or the new one, which the next reading or writing takes up. Only files of the project are replaced or removed.
 * @throws UsageError where the folder is somebody else's, or cannot be written
 */
export function writeFolder(to: string, files: ReadonlyMap<string, string>): void {
  const before = ownFiles(to);
  makeFolder(to);
  const root = realFolder(to);
  const old = readJournal(root);
  if (old) finish(root, old);
  sweep(root);
  const paths = [...files.keys()];
  for (const path of [...paths, ...before]) inside(root, path);
  try {
    for (const [path, text] of files) {
      const file = inside(root, path);
      makeFolder(dirname(file));
      writeWhole(`${file}${FRESH}`, text);
    }
    const journal: Journal = { files: paths, gone: before.filter((path) => !files.has(path)) };
    writeWhole(join(root, `${JOURNAL}${FRESH}`), JSON.stringify(journal));
    renameSync(join(root, `${JOURNAL}${FRESH}`), join(root, JOURNAL));
    finish(root, journal);
  } catch (error) {
    if (!existsSync(join(root, JOURNAL))) sweep(root);
    if (error instanceof UsageError) throw error;
    throw new UsageError(
      `${to} cannot be written: ${(error as Error).message}; its contents have not changed`,
    );
  }
}
/** Writes one file, so that it is the old one or the new one whatever happens. @throws UsageError */
export function writeFile(to: string, text: string): void {
  try {
    makeFolder(dirname(to));
    writeWhole(`${to}${FRESH}`, text);
    renameSync(`${to}${FRESH}`, to);
  } catch (error) {
    drop(`${to}${FRESH}`);
    if (error instanceof UsageError) throw error;
    throw new UsageError(`${to} cannot be written: ${(error as Error).message}`);
  }
}
/** Why it was begun in vain is what counts, not that it cannot be dropped either. */
function drop(file: string): void {
  try {
    rmSync(file, { force: true });
  } catch {
    // It lies on the way of a file, say.
  }
}

/** Puts everything into its place; done again after a crash it comes to the same. */
function finish(root: string, { files, gone }: Journal): void {
  for (const path of files) {
    const file = inside(root, path);
    if (existsSync(`${file}${FRESH}`)) renameSync(`${file}${FRESH}`, file);
  }
  for (const path of gone) rmSync(inside(root, path), { force: true });
  rmSync(join(root, JOURNAL), { force: true });
}
/** Removes new states that never became whole. Only where no journal stands. */
function sweep(root: string): void {
  for (const folder of ['', ...ASSET_FOLDERS]) {
    if (folder && !existsSync(join(root, folder))) continue;
    const at = folder ? inside(root, folder) : root;
    for (const entry of readdirSync(at, { withFileTypes: true })) {
      if (!entry.isFile() || !entry.name.endsWith(FRESH)) continue;
      const whole = join(folder, entry.name.slice(0, -FRESH.length));
      if (whole === PROJECT_FILE || whole === JOURNAL || OWN.test(whole)) rmSync(join(at, entry.name));
    }
  }
}
function readJournal(root: string): Journal | null {
  const file = join(root, JOURNAL);
  if (!existsSync(file)) return null;
  requireFile(inside(root, JOURNAL));
  return JSON.parse(readFileSync(file, 'utf8')) as Journal;
}

/** The files of the project that is in a folder. @throws UsageError where there is something else */
function ownFiles(to: string): string[] {
  if (!existsSync(to)) return [];
  if (!isFolder(to)) throw new UsageError(`${to} is a file; give the name of the folder to write`);
  const root = realFolder(to);
  const names = readdirSync(root).filter((name) => !name.endsWith(FRESH) && name !== JOURNAL);
  if (names.length === 0) return [];
  const head = headOf(root);
  if (head?.format !== 'oquel.project/1' || !Array.isArray(head.assets)) {
    throw new UsageError(
      `${to} holds other things and no ${PROJECT_FILE} of a project; give an empty folder or a project folder`,
    );
  }
  const assets = head.assets.filter((path): path is string => typeof path === 'string' && OWN.test(path));
  return [PROJECT_FILE, ...assets];
}
function headOf(root: string): { format?: unknown; assets?: unknown } | null {
  try {
    const text = readFromFolder(root, PROJECT_FILE, (file) => {
      requireFile(file);
      return readFileSync(file, 'utf8');
    });
    return text === null ? null : (JSON.parse(text) as { format?: unknown; assets?: unknown });
  } catch (error) {
    if (error instanceof UsageError) throw error;
    return null;
  }
}

/** Makes a folder and those around it, one by one. @throws UsageError */
function makeFolder(path: string): void {
  if (existsSync(path)) return;
  const around = dirname(path);
  if (around !== path) makeFolder(around);
  try {
    mkdirSync(path);
  } catch (error) {
    throw new UsageError(`${path} cannot be made: ${(error as Error).message}`);
  }
}
/** On the disk when it returns. */
function writeWhole(file: string, text: string): void {
  const to = openSync(file, 'w');
  try {
    const bytes = Buffer.from(text);
    for (let at = 0; at < bytes.length;) at += writeSync(to, bytes, at);
    fsyncSync(to);
  } finally {
    closeSync(to);
  }
}
