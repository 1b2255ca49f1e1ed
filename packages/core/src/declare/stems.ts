import type { Placement } from '../project/types.js';
import type { LineBinding } from '../wireline/parse.js';

/** How often lines name things by each stem. */
export function countStems(lines: readonly LineBinding[]): Map<string, number> {
  const counts = new Map<string, number>();
  for (const { from, to } of lines) {
    for (const end of [from, to]) {
      if (!('at' in end)) continue;
      const stem = stemOf(end.at);
      counts.set(stem, (counts.get(stem) ?? 0) + 1);
    }
  }
  return counts;
}

/** `rope-gauge-3` is a `rope-gauge`. */
export function stemOf(id: Placement['id']): string {
  return id.replace(/-?\d+$/, '') || id;
}
