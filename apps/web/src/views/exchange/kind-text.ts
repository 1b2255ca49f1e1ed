import { TABLE_KINDS, TABLES, type AnyKind } from '@oquel/core';

export const ALL_KINDS: readonly AnyKind[] = ['bindings', ...TABLE_KINDS];

/** What a table is of, in words. */
export function kindText(kind: AnyKind, count = 2): string {
  if (kind === 'bindings') return count === 1 ? 'binding' : 'bindings';
  return count === 1 ? TABLES[kind].one : TABLES[kind].many;
}
