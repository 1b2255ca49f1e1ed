import { readFile, stat } from 'node:fs/promises';
import { BrokenDocument, problemText, readProjectText, type ReadResult } from '@oquel/core';

/** Wrong use or unreadable input, in words for the person at the terminal. */
export class UsageError extends Error {
  override readonly name = 'UsageError';
}

/** Longer texts do not fit into one JavaScript string. */
const MAX_BYTES = 512 * 1024 * 1024;

/** Reads a project document from a file. @throws UsageError that names the file and each broken place */
export async function readProjectFile(file: string): Promise<ReadResult> {
  const text = await readText(file);
  try {
    return readProjectText(text);
  } catch (error) {
    if (!(error instanceof BrokenDocument)) throw error;
    const lines = error.problems.map((p) => `  ${problemText(p)}`);
    throw new UsageError(`${file} is not a sound project document:\n${lines.join('\n')}`);
  }
}

async function readText(file: string): Promise<string> {
  try {
    const { size } = await stat(file);
    if (size > MAX_BYTES) throw new UsageError(`${file} has ${size} bytes; at most ${MAX_BYTES} can be read`);
    return await readFile(file, 'utf8');
  } catch (error) {
    if (error instanceof UsageError) throw error;
    const { code, message } = error as NodeJS.ErrnoException;
    const why =
      code === 'ENOENT' ? 'it does not exist' : code === 'EISDIR' ? 'it is a folder, not a file' : message;
    throw new UsageError(`${file} cannot be read: ${why}`);
  }
}
