import { oneLine, PROJECT_FILE } from '@oquel/core';
import type { ProjectRead } from './input.js';
import type { Streams } from './streams.js';

/** What a document says that the format does not know, or says twice; and what lies in a folder and is no part of it. */
export function noteReading({ unknown, repeated, stray }: ProjectRead, streams: Streams): void {
  for (const pointer of unknown) streams.err(`note: unknown property at ${oneLine(pointer)} (kept)\n`);
  for (const pointer of repeated) {
    streams.err(`note: ${oneLine(pointer)} stands more than once; the last one counts\n`);
  }
  for (const file of stray)
    streams.err(`note: ${oneLine(file)} is no part of the project; ${PROJECT_FILE} does not list it\n`);
}
