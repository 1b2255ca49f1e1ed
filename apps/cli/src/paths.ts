import { lstatSync, realpathSync, statSync, type Stats } from 'node:fs';
import { extname, join, sep } from 'node:path';

/** Wrong use or unreadable input, in words for the person at the terminal. */
export class UsageError extends Error {
  override readonly name = 'UsageError';
}

/** @throws UsageError on an empty path, such as an unset variable leaves behind */
export function requirePath(path: string, what: string): void {
  if (path.trim() === '') throw new UsageError(`the name of ${what} is empty; is a variable not set?`);
}
export function isFolder(path: string): boolean {
  return statOf(path)?.isDirectory() === true;
}
/** Only ordinary files are read: from a pipe or a device there may never come an end. @throws UsageError */
export function requireFile(path: string): Stats {
  const stat = statOf(path);
  if (!stat) throw new UsageError(`${path} cannot be read: it does not exist`);
  if (!stat.isFile()) throw new UsageError(`${path} is no ordinary file`);
  return stat;
}
function statOf(path: string): Stats | undefined {
  try {
    return statSync(path, { throwIfNoEntry: false });
  } catch (error) {
    throw new UsageError(`${path} cannot be read: ${(error as Error).message}`);
  }
}

/**
 * The place of a file in a folder. Nothing on the way may be a link: it could lead to what is no part of the project.
 * @throws UsageError
 */
export function inside(folder: string, path: string): string {
  let at = folder;
  for (const part of path.split('/')) {
    at = join(at, part);
    if (lstatSync(at, { throwIfNoEntry: false })?.isSymbolicLink()) {
      throw new UsageError(`${at} is a link; a project folder holds files alone`);
    }
  }
  if (!at.startsWith(`${folder.replace(/\/+$/, '')}${sep}`))
    throw new UsageError(`${at} is not in ${folder}`);
  return at;
}
/** The folder itself, where the path is a link to one. */
export function realFolder(path: string): string {
  return realpathSync(path);
}
/** Whether a document or a folder is to be written, by its name. @throws UsageError */
export function kindOf(to: string): 'document' | 'folder' {
  const ending = extname(to.replace(/[/\\]+$/, ''));
  if (ending === '.json') return 'document';
  if (ending === '') return 'folder';
  throw new UsageError(`${to} ends in ${ending}: a document ends in .json, a folder has no ending`);
}
