import type { ProjectIndex } from '@oquel/core';

const known = new WeakMap<ProjectIndex, Map<string, number>>();

/** How many bindings hear a channel; counted once for each state of the project. */
export function hearersOf(index: ProjectIndex, channel: string): number {
  let counts = known.get(index);
  if (!counts) {
    counts = new Map();
    for (const { bindings } of index.assets) {
      for (const { from } of bindings) {
        if ('channel' in from) counts.set(from.channel, (counts.get(from.channel) ?? 0) + 1);
      }
    }
    known.set(index, counts);
  }
  return counts.get(channel) ?? 0;
}
