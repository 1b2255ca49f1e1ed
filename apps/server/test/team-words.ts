import { randomUUID } from 'node:crypto';

export const set = (part: string, value: unknown): object => ({ op: 'set', part, value });
export function edit(base: number, changes: object[], more: object = {}): object {
  return { base, label: 'an edit', who: 'Somebody Else', key: randomUUID(), changes, ...more };
}
