import {
  assetAtPath,
  hasConditions,
  printConditionName,
  printConditions,
  printBinding,
  type AssetIndex,
  type Binding,
  type Finding,
  type ProjectIndex,
} from '@oquel/core';

/** One binding as the sheet lists it. */
export interface SheetRow {
  /** `owner/binding`. */
  id: string;
  owner: AssetIndex;
  binding: Binding;
  /** What the filter looks at, in small letters. */
  text: string;
}
export const SWITCHES = ['muted', 'once', 'asking', 'code', 'findings'] as const;
export type Switch = (typeof SWITCHES)[number];
export const FACETS = ['asset', 'event', 'action', 'channel', 'question'] as const;
export type Facet = (typeof FACETS)[number];
export const GROUPS = [
  'none',
  'scope',
  'sender',
  'event',
  'receiver',
  'action',
  'channel',
  'question',
] as const;
export type Group = (typeof GROUPS)[number];
export const SORTS = ['order', 'sentence', 'delay', 'findings'] as const;
export type Sort = (typeof SORTS)[number];

export interface SheetFilter {
  q: string;
  facets: Readonly<Partial<Record<Facet, string>>>;
  switches: readonly Switch[];
}
export type FindingsOf = ReadonlyMap<string, readonly Finding[]>;

const known = new WeakMap<AssetIndex, readonly SheetRow[]>();
/** All bindings of an asset, or of all; those of an asset that has not changed are the same objects as before. */
export function sheetRows(index: ProjectIndex, scope: AssetIndex | null): readonly SheetRow[] {
  return (scope ? [scope] : index.assets).flatMap((owner) => {
    let rows = known.get(owner);
    if (!rows) {
      const { id } = owner.decl;
      rows = owner.bindings.map((binding) => ({
        id: `${id}/${binding.id}`,
        owner,
        binding,
        text: `${id} ${binding.id} ${printBinding(binding)} ${binding.note ?? ''}`.toLowerCase(),
      }));
      known.set(owner, rows);
    }
    return rows;
  });
}

/** Findings that are not waived, by the binding that they speak of. */
export function findingsByBinding(findings: readonly Finding[]): FindingsOf {
  const by = new Map<string, Finding[]>();
  const add = (asset: string, binding: string, f: Finding): void => {
    const id = `${asset}/${binding}`;
    const own = by.get(id);
    if (own) own.push(f);
    else by.set(id, [f]);
  };
  for (const f of findings) {
    const s = f.subject;
    if (f.waived) continue;
    if ('bindings' in s) for (const b of s.bindings) add(b.asset, b.binding, f);
    else if ('binding' in s && s.binding !== undefined) add(s.asset, s.binding, f);
  }
  return by;
}

/** The names of assets at the ends of bindings; each path of an owner is resolved once. */
export class EndAssets {
  private readonly byPath = new Map<string, string>();
  constructor(private readonly index: ProjectIndex) {}

  of({ owner, binding: { from, to } }: SheetRow): string[] {
    const names = 'at' in from ? [this.at(owner, from.at)] : [];
    if ('at' in to) names.push(this.at(owner, to.at));
    else if ('every' in to) names.push(to.every);
    return names;
  }
  private at(owner: AssetIndex, path: string): string {
    const key = `${owner.decl.id} ${path}`;
    let name = this.byPath.get(key);
    if (name === undefined) {
      name = assetAtPath(this.index, owner, path)?.decl.id ?? '';
      this.byPath.set(key, name);
    }
    return name;
  }
}

/** What a row has of each facet. */
function has(row: SheetRow, facet: Facet, ends: EndAssets): string[] {
  const { from, to, if: asked = [] } = row.binding;
  if (facet === 'asset') return ends.of(row);
  if (facet === 'event') return 'event' in from ? [from.event] : [];
  if (facet === 'action') return 'channel' in to ? [] : [to.action];
  if (facet === 'question') return asked.map(printConditionName);
  return [from, to].flatMap((end) => ('channel' in end ? [end.channel] : []));
}
function isOn(row: SheetRow, name: Switch, findings: FindingsOf): boolean {
  const { binding } = row;
  if (name === 'muted') return binding.enabled === false;
  if (name === 'once') return binding.limit === 1;
  if (name === 'asking') return hasConditions(binding.if);
  if (name === 'code') return binding.origin === 'code';
  return findings.has(row.id);
}

/** Rows that have every word, every facet and every switch that is asked for. */
export function filterRows(
  rows: readonly SheetRow[],
  { q, facets, switches }: SheetFilter,
  ends: EndAssets,
  findings: FindingsOf,
): readonly SheetRow[] {
  const words = q.toLowerCase().split(/\s+/).filter(Boolean);
  const wanted = FACETS.filter((f) => facets[f]);
  if (words.length + wanted.length + switches.length === 0) return rows;
  return rows.filter(
    (row) =>
      words.every((w) => row.text.includes(w)) &&
      switches.every((s) => isOn(row, s, findings)) &&
      wanted.every((f) => has(row, f, ends).includes(facets[f]!)),
  );
}

/** The values of a facet among rows with how many have each, most first. */
export function facetValues(rows: readonly SheetRow[], facet: Facet, ends: EndAssets): [string, number][] {
  const counts = new Map<string, number>();
  for (const row of rows) {
    for (const value of new Set(has(row, facet, ends)))
      if (value) counts.set(value, (counts.get(value) ?? 0) + 1);
  }
  return [...counts].sort(([a, m], [b, n]) => n - m || (a < b ? -1 : 1));
}

export function sortRows(rows: readonly SheetRow[], sort: Sort, findings: FindingsOf): readonly SheetRow[] {
  if (sort === 'order') return rows;
  const sorted = [...rows];
  if (sort === 'sentence') return sorted.sort((a, b) => (a.text < b.text ? -1 : a.text > b.text ? 1 : 0));
  if (sort === 'delay') return sorted.sort((a, b) => (b.binding.delay ?? 0) - (a.binding.delay ?? 0));
  const count = (row: SheetRow): number => findings.get(row.id)?.length ?? 0;
  return sorted.sort((a, b) => count(b) - count(a));
}

export type SheetItem = { group: string; count: number } | { row: SheetRow };

/** Rows under headings; without grouping only the rows. Groups come in the order in which they are met. */
export function groupRows(rows: readonly SheetRow[], group: Group): readonly SheetItem[] {
  if (group === 'none') return rows.map((row) => ({ row }));
  const groups = new Map<string, SheetRow[]>();
  for (const row of rows) {
    const name = groupOf(row, group);
    const own = groups.get(name);
    if (own) own.push(row);
    else groups.set(name, [row]);
  }
  return [...groups].flatMap(([name, own]): SheetItem[] => [
    { group: name, count: own.length },
    ...own.map((row) => ({ row })),
  ]);
}
function groupOf({ owner, binding: { from, to, if: asked } }: SheetRow, group: Group): string {
  switch (group) {
    case 'scope':
      return owner.decl.id;
    case 'sender':
      return 'at' in from ? from.at : `#${from.channel}`;
    case 'event':
      return 'event' in from ? from.event : `#${from.channel}`;
    case 'receiver':
      return 'at' in to ? to.at : 'every' in to ? `every ${to.every}` : `#${to.channel}`;
    case 'action':
      return 'channel' in to ? `#${to.channel}` : to.action;
    case 'channel':
      return 'channel' in from ? `#${from.channel}` : 'channel' in to ? `#${to.channel}` : 'no channel';
    case 'question':
      return printConditions(asked) || 'no condition';
    case 'none':
      return '';
  }
}
