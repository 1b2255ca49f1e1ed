import { existsSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import {
  BrokenDocument,
  fromFolder,
  problemText,
  PROJECT_FILE,
  readProjectText,
  type ReadResult,
} from '@oquel/core';

/** Wrong use or unreadable input, in words for the person at the terminal. */
export class UsageError extends Error {
  override readonly name = 'UsageError';
}

/** Longer texts do not fit into one JavaScript string. */
const MAX_BYTES = 512 * 1024 * 1024;

/** Reads a project from a document or a folder. @throws UsageError that names the file and each broken place */
export function readProjectFrom(path: string): ReadResult {
  try {
    if (!isFolder(path)) return readProjectText(readText(path));
    if (!existsSync(join(path, PROJECT_FILE))) {
      throw new UsageError(`${path} is a folder without ${PROJECT_FILE}, so it is no project folder`);
    }
    return fromFolder((file) => (existsSync(join(path, file)) ? readText(join(path, file)) : null));
  } catch (error) {
    if (!(error instanceof BrokenDocument)) throw error;
    const lines = error.problems.map((p) => `  ${problemText(p)}`);
    throw new UsageError(`${path} is not a sound project:\n${lines.join('\n')}`);
  }
}

export function isFolder(path: string): boolean {
  return statSync(path, { throwIfNoEntry: false })?.isDirectory() === true;
}

/** @throws UsageError */
export function readText(file: string): string {
  try {
    const { size } = statSync(file);
    if (size > MAX_BYTES) throw new UsageError(`${file} has ${size} bytes; at most ${MAX_BYTES} can be read`);
    return readFileSync(file, 'utf8');
  } catch (error) {
    if (error instanceof UsageError) throw error;
    const { code, message } = error as NodeJS.ErrnoException;
    throw new UsageError(`${file} cannot be read: ${code === 'ENOENT' ? 'it does not exist' : message}`);
  }
}
