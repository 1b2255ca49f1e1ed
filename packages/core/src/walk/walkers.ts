import { assetsWithTag } from '../project/tags.js';
import type { ProjectIndex } from '../project/index-project.js';

/** Assets that areas and uses answer to, those that stand at an entry first. Linear in placements, events and tags. */
export function walkersOf(index: ProjectIndex): string[] {
  const entries = new Set<string>();
  const named = new Set<string>();
  const looked = new Set<string>();
  for (const { placements, events } of index.assets) {
    for (const p of placements) if (p.entry) entries.add(p.asset);
    for (const { cause } of events) {
      if (!('activators' in cause)) continue;
      for (const a of cause.activators ?? []) {
        if (looked.has(a)) continue;
        looked.add(a);
        if (!a.startsWith('#')) named.add(a);
        else for (const { decl } of assetsWithTag(index, a.slice(1))) named.add(decl.id);
      }
    }
  }
  return [...new Set([...entries, ...named])].filter((id) => index.assetAt.has(id));
}
