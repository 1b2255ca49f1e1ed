import type { Change } from './change.js';

/**
 * What a change set reads or writes, as names: `bindings/pylon-ridge/gust-1`. Two change sets whose names do not meet
 * can be applied in either order.
 */
export function touches(changes: readonly Change[]): Set<string> {
  const names = new Set<string>();
  for (const change of changes) {
    const base = `${change.list}/${change.asset}/`;
    if (change.op !== 'insert') names.add(base + change.id);
    if (change.op === 'insert' || change.op === 'replace') names.add(base + change.item.id);
  }
  return names;
}

/** Names that both change sets touch, sorted. Empty if the later one can be carried over. */
export function overlap(a: readonly Change[], b: readonly Change[]): string[] {
  const names = touches(a);
  return [...touches(b)].filter((name) => names.has(name)).sort();
}
