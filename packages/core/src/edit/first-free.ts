/** For each set of ids that are taken besides, the number that was found last: such a set only grows. */
const numbers = new WeakMap<ReadonlySet<string>, Map<string, number>>();

/**
 * The first of `base-1`, `base-2`, … that is free. `key` names what the numbers count in. Asked again with the same set it
 * goes on where it was, so that many ids cost no more than what they pass over together.
 */
export function firstFree(
  key: string,
  base: string,
  taken: ReadonlySet<string>,
  isTaken: (id: string) => boolean,
): string {
  let known = numbers.get(taken);
  if (!known) numbers.set(taken, (known = new Map<string, number>()));
  for (let n = known.get(key) ?? 1; ; n++) {
    const id = `${base}-${n}`;
    if (isTaken(id)) continue;
    known.set(key, n);
    return id;
  }
}
