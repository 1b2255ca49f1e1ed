import { oneLine, type ReadResult } from '@oquel/core';
import type { Streams } from './streams.js';

/** What a document says that the format does not know, or says twice. */
export function noteReading({ unknown, repeated }: ReadResult, streams: Streams): void {
  for (const pointer of unknown) streams.err(`note: unknown property at ${oneLine(pointer)} (kept)\n`);
  for (const pointer of repeated) {
    streams.err(`note: ${oneLine(pointer)} stands more than once; the last one counts\n`);
  }
}
