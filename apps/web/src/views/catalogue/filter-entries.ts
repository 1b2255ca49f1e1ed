import type { CatalogueEntry, CatalogueKind, CatalogueMark, Finding } from '@oquel/core';
import { entryKey } from './catalogue-address.js';

export interface EntryFilter {
  kind: CatalogueKind | '';
  mark: CatalogueMark | '';
  asset: string;
  q: string;
}

/** Entries that fit; every word must be found in the name, its asset, what it carries or its note. */
export function filterEntries(entries: readonly CatalogueEntry[], filter: EntryFilter): CatalogueEntry[] {
  const words = filter.q.toLowerCase().split(/\s+/).filter(Boolean);
  return entries.filter((e) => {
    if (filter.kind !== '' && e.kind !== filter.kind) return false;
    if (filter.mark !== '' && !e.marks.includes(filter.mark)) return false;
    if (filter.asset !== '' && e.asset !== filter.asset) return false;
    if (words.length === 0) return true;
    const text = [e.name, e.asset, e.about, e.note, ...e.fields.map((f) => `${f.name} ${f.type}`)]
      .join(' ')
      .toLowerCase();
    return words.every((w) => text.includes(w));
  });
}

/** How many entries of each kind, and with each mark, there are. */
export function countsOf(entries: readonly CatalogueEntry[]): ReadonlyMap<string, number> {
  const counts = new Map<string, number>();
  for (const e of entries) {
    for (const key of [e.kind, ...e.marks]) counts.set(key, (counts.get(key) ?? 0) + 1);
  }
  return counts;
}

/** Findings that speak of an entry, by its key. */
export function findingsByEntry(findings: readonly Finding[]): ReadonlyMap<string, Finding[]> {
  const by = new Map<string, Finding[]>();
  for (const f of findings) {
    const s = f.subject;
    const key =
      'channel' in s
        ? entryKey({ kind: 'channel', asset: '', name: s.channel })
        : 'event' in s
          ? entryKey({ kind: 'event', asset: s.asset, name: s.event })
          : 'action' in s
            ? entryKey({ kind: 'action', asset: s.asset, name: s.action })
            : null;
    if (key === null) continue;
    const list = by.get(key);
    if (list) list.push(f);
    else by.set(key, [f]);
  }
  return by;
}
