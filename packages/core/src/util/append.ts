/** Puts many items at the end of a list. To spread them into `push` overflows the stack where they are very many. */
export function append<T>(list: T[], more: Iterable<T>): void {
  for (const item of more) list.push(item);
}
