import { setImmediate } from 'node:timers/promises';

/** Items between two pauses. */
const PIECE = 2000;

/** JSON text of a list, put together in pieces, between which others get their turn. Cost: its length. */
export async function jsonArray(items: readonly unknown[]): Promise<string> {
  const pieces: string[] = [];
  for (let i = 0; i < items.length; i += PIECE) {
    if (i > 0) await setImmediate();
    pieces.push(JSON.stringify(items.slice(i, i + PIECE)).slice(1, -1));
  }
  return `[${pieces.join(',')}]`;
}
