import type { SelectedNow } from '@oquel/core';

/** "takes 4 now", "takes 1 to 3 now in each of 40 copies", "takes nobody now". */
export function selectedText({ copies, total, least, most }: SelectedNow): string {
  if (copies === 0) return 'it is not placed anywhere';
  const count = (n: number): string => (n === 0 ? 'nobody' : String(n));
  if (copies === 1) return `takes ${count(total)} now`;
  const each = least === most ? count(most) : `${least} to ${most}`;
  return `takes ${each} now in each of ${copies} copies`;
}
