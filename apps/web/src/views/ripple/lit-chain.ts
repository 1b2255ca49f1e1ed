import type { Heaviest } from '@oquel/core';

/** What a drawing lights: entries, the ways between them, and the hops that stand at each. */
export interface LitChain {
  keys: ReadonlySet<string>;
  /** `from|to` */
  pairs: ReadonlySet<string>;
  /** `3`, or `3 to 5` where the chain stays in a fold. */
  hops: ReadonlyMap<string, string>;
}

export function litChain({ steps }: Heaviest): LitChain {
  const hops = new Map<string, string>();
  const pairs = new Set<string>();
  steps.forEach(({ key, hops: [first, last] }, i) => {
    if (i > 0) pairs.add(`${steps[i - 1].key}|${key}`);
    if (last === 0) return;
    const own = first === last || first === 0 ? String(last) : `${first} to ${last}`;
    hops.set(key, hops.has(key) ? `${hops.get(key)!}, ${own}` : own);
  });
  return { keys: new Set(steps.map((s) => s.key)), pairs, hops };
}
