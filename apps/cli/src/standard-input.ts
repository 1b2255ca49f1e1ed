import { readSync } from 'node:fs';
import { UsageError } from './paths.js';

/** In the place of a file's name. */
const STANDARD_INPUT = '-';
const CHUNK = 1024 * 1024;
/** Milliseconds until a pipe that has nothing yet is asked again. */
const PAUSE = 20;

/** It can be read only once, and is looked into again for the places of findings. */
let read: Buffer | null = null;

export function isStandardInput(path: string): boolean {
  return path === STANDARD_INPUT;
}
/** What a message calls a file. */
export function inputName(path: string): string {
  return isStandardInput(path) ? 'standard input' : path;
}
/** All that comes, to its end. @throws UsageError beyond so many bytes, or when it cannot be read */
export function readStandardInput(most: number): Buffer {
  if (read) return read;
  const parts: Buffer[] = [];
  let size = 0;
  for (;;) {
    const part = Buffer.alloc(CHUNK);
    const length = next(part);
    if (length === 0) break;
    size += length;
    if (size > most) throw new UsageError(`standard input has more than the ${most} bytes that can be read`);
    parts.push(part.subarray(0, length));
  }
  return (read = Buffer.concat(parts));
}

function next(part: Buffer): number {
  for (;;) {
    try {
      return readSync(0, part);
    } catch (error) {
      const { code, message } = error as NodeJS.ErrnoException;
      // That is how Windows says that a pipe has ended.
      if (code === 'EOF') return 0;
      if (code !== 'EAGAIN') throw new UsageError(`standard input cannot be read: ${message}`);
      Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, PAUSE);
    }
  }
}
