import { textKind } from '@oquel/core';

/** Whether a pasted text is rows of a table. */
export function isTable(text: string): boolean {
  return textKind(text) === 'table';
}
