import type { Change } from '../edit/change.js';
import { changesOfWalk } from '../edit/walk-changes.js';
import { nameKey, type NameRef } from '../names/name.js';
import { replacing, replacingAll } from '../names/uses.js';
import { walkNames } from '../names/walk.js';
import type { ProjectIndex } from '../project/index-project.js';
import type { Asset, Field } from '../project/types.js';
import type { CatalogueEntry } from './entry.js';
import { usesOfEntry } from './uses.js';

/** Names an entry of the catalogue, or a property, which belongs to its asset alone. */
export type EntryRef = Pick<CatalogueEntry, 'asset' | 'name'> & { kind: CatalogueEntry['kind'] | 'property' };

/** What an entry of the catalogue is, among all names. */
export function nameOfEntry({ kind, asset, name }: EntryRef): NameRef {
  return { kind, asset, of: '', name };
}

/**
 * Takes an entry away: its declaration, the bindings that use it and the effects that raise it. What else names it is
 * left for the audit to report.
 */
export function retireEntry(
  index: ProjectIndex,
  entry: Pick<CatalogueEntry, 'kind' | 'asset' | 'name'>,
): Change[] {
  const removed = usesOfEntry(index, entry).flatMap(({ owner, binding }): Change[] =>
    binding ? [{ op: 'remove', list: 'bindings', asset: owner.decl.id, id: binding.id }] : [],
  );
  return [...unique(removed), ...withoutDeclaration(index, entry)];
}

/** Lets everything that uses one entry use another of the same kind, and takes the first away. Linear in the document. */
export function mergeEntries(index: ProjectIndex, from: EntryRef, into: EntryRef): Change[] {
  const { kind, asset, name } = from;
  const after = walkNames(index, replacing(nameOfEntry(from), into.name));
  // The declaration is renamed with the rest, and then stands twice: the first of them goes.
  const without = <T extends { name: string }>(old: readonly T[] | undefined, now: readonly T[]): T[] =>
    now.filter((_, i) => old![i].name !== name);
  const { project } = index;
  const next = { ...after };
  if (kind === 'channel') next.channels = without(project.channels, after.channels!);
  else if (kind === 'peer') next.peers = without(project.peers, after.peers!);
  else if (kind === 'loadSet') {
    const scenes = merged(itemsOf(index, into), itemsOf(index, from));
    next.loadSets = without(project.loadSets, after.loadSets!).map((s) =>
      s.name === into.name ? { ...s, scenes } : s,
    );
  } else if (kind === 'tag') {
    next.assets = after.assets.map((a) => (a.tags ? { ...a, tags: [...new Set(a.tags)] } : a));
  } else if (kind === 'enum') {
    const more = merged(itemsOf(index, into), itemsOf(index, from));
    next.enums = without(project.enums, after.enums!).map((e) =>
      e.name === into.name ? { ...e, values: more } : e,
    );
  } else if (kind === 'table') {
    const more = merged(itemsOf(index, into), itemsOf(index, from));
    next.tables = without(project.tables, after.tables!).map((t) =>
      t.name === into.name ? { ...t, keys: more } : t,
    );
  } else {
    next.assets = after.assets.map((a, i) => {
      if (a.id !== asset) return a;
      const { events, actions, properties } = project.assets[i];
      if (kind === 'event') return { ...a, events: without(events, a.events!) };
      if (kind === 'action') return { ...a, actions: without(actions, a.actions!) };
      return { ...a, properties: without(properties, a.properties!) };
    });
  }
  return changesOfWalk(project, next);
}
function merged(into: readonly string[], from: readonly string[]): string[] {
  return [...new Set([...into, ...from])];
}

/**
 * Gives an entry other fields. Where a field stands in the same place with another name, whatever fills or reads it is
 * carried along; the audit reports what does not fit the new ones. Linear in the document.
 */
export function changeFields(index: ProjectIndex, entry: EntryRef, fields: readonly Field[]): Change[] {
  const { kind, asset, name } = entry;
  if (kind !== 'event' && kind !== 'action' && kind !== 'channel') return [];
  const old = fieldsOf(index, entry);
  const of = kind === 'event' ? 'eventField' : kind === 'action' ? 'param' : 'channelField';
  const names = new Map<string, string>();
  old.forEach((f, i) => {
    const next = fields[i] as Field | undefined;
    const moved = next && next.name !== f.name && !fields.some((g) => g.name === f.name);
    if (moved && !old.some((g) => g.name === next.name)) {
      names.set(nameKey({ kind: of, asset, of: name, name: f.name }), next.name);
    }
  });
  const after = walkNames(index, replacingAll(names));
  const withFields = <T extends { name: string }, P extends keyof T>(
    list: readonly T[] | undefined,
    part: P,
  ): T[] =>
    (list ?? []).map((d) => {
      if (d.name !== name) return d;
      const { [part]: _old, ...rest } = d;
      return (fields.length > 0 ? { ...d, [part]: [...fields] } : rest) as T;
    });
  const next = { ...after };
  if (kind === 'channel') next.channels = withFields(after.channels, 'payload');
  else {
    next.assets = after.assets.map((a) => {
      if (a.id !== asset) return a;
      return kind === 'event'
        ? { ...a, events: withFields(a.events, 'payload') }
        : { ...a, actions: withFields(a.actions, 'params') };
    });
  }
  return changesOfWalk(index.project, next);
}

/**
 * Gives an enum other values, a key table other keys, a load set other scenes, or a tag to other assets. A value or key that stands in the same
 * place under another name is carried along wherever it is used. Linear in the document.
 */
export function changeItems(index: ProjectIndex, entry: EntryRef, items: readonly string[]): Change[] {
  const { kind, name } = entry;
  if (kind === 'tag') return tagging(index, name, new Set(items));
  if (kind !== 'enum' && kind !== 'table' && kind !== 'loadSet') return [];
  const old = itemsOf(index, entry);
  const names = new Map<string, string>();
  if (kind !== 'loadSet') {
    const [was, is] = [new Set(old), new Set(items)];
    old.forEach((item, i) => {
      const next = items[i] as string | undefined;
      if (next === undefined || next === item || is.has(item) || was.has(next)) return;
      names.set(
        nameKey({ kind: kind === 'enum' ? 'enumValue' : 'tableKey', asset: '', of: name, name: item }),
        next,
      );
    });
  }
  const after = walkNames(index, replacingAll(names));
  const next = { ...after };
  const list = [...items];
  if (kind === 'enum') {
    next.enums = after.enums?.map((e) => (e.name === name ? { ...e, values: list } : e));
  } else if (kind === 'table') {
    next.tables = after.tables?.map((t) => (t.name === name ? { ...t, keys: list } : t));
  } else next.loadSets = after.loadSets?.map((s) => (s.name === name ? { ...s, scenes: list } : s));
  return changesOfWalk(index.project, next);
}

/** Declares an event, action or property in another asset and takes it out of its own; what used it is left for the audit. */
export function moveEntry(index: ProjectIndex, { kind, asset, name }: EntryRef, to: string): Change[] {
  if (kind !== 'event' && kind !== 'action' && kind !== 'property') return [];
  const part = PART_OF[kind];
  const [from, target] = [asset, to].map((id) => index.project.assets.find((a) => a.id === id));
  const decl = from?.[part]?.find((d) => d.name === name);
  if (!from || !target || !decl || target[part]?.some((d) => d.name === name)) return [];
  const set = (a: Asset, value: object[]): Change => ({ op: 'set', asset: a.id, part, value }) as Change;
  return [
    set(target, [...(target[part] ?? []), decl]),
    set(
      from,
      from[part]!.filter((d) => d.name !== name),
    ),
  ];
}

const PART_OF = { event: 'events', action: 'actions', property: 'properties' } as const;

/** Puts a declaration at another place among those of its kind, or a copy of it under another name right behind it. */
export function arrangeDeclaration(
  index: ProjectIndex,
  { kind, asset, name }: EntryRef & { kind: keyof typeof PART_OF },
  how: { by: -1 | 1 } | { copyAs: string },
): Change[] {
  const part = PART_OF[kind];
  const list: { name: string }[] = [...(index.project.assets.find((a) => a.id === asset)?.[part] ?? [])];
  const at = list.findIndex((d) => d.name === name);
  if (at < 0) return [];
  if ('copyAs' in how) list.splice(at + 1, 0, { ...list[at], name: how.copyAs });
  else {
    const to = at + how.by;
    if (to < 0 || to >= list.length) return [];
    [list[at], list[to]] = [list[to], list[at]];
  }
  return [{ op: 'set', asset, part, value: list } as Change];
}

/** The note of an event, action or channel. */
export function noteEntry(index: ProjectIndex, { kind, asset, name }: EntryRef, note: string): Change[] {
  const noted = <T extends { name: string }>(list: readonly T[]): T[] =>
    list.map((d) => (d.name === name ? { ...d, note } : d));
  if (kind === 'channel')
    return [{ op: 'set', part: 'channels', value: noted(index.project.channels ?? []) }];
  const decl = index.project.assets.find((a) => a.id === asset);
  if (!decl || (kind !== 'event' && kind !== 'action')) return [];
  return kind === 'event'
    ? [{ op: 'set', asset, part: 'events', value: noted(decl.events ?? []) }]
    : [{ op: 'set', asset, part: 'actions', value: noted(decl.actions ?? []) }];
}

// --- what the edits above share

/** A tag on exactly these assets. */
function tagging({ project }: ProjectIndex, tag: string, on: ReadonlySet<string>): Change[] {
  return project.assets.flatMap(({ id, tags = [] }): Change[] => {
    if (tags.includes(tag) === on.has(id)) return [];
    const value = on.has(id) ? [...tags, tag] : tags.filter((t) => t !== tag);
    return [{ op: 'set', asset: id, part: 'tags', ...(value.length > 0 ? { value } : {}) }];
  });
}

function itemsOf({ project }: ProjectIndex, { kind, name }: EntryRef): readonly string[] {
  if (kind === 'enum') return project.enums?.find((e) => e.name === name)?.values ?? [];
  if (kind === 'table') return project.tables?.find((t) => t.name === name)?.keys ?? [];
  return kind === 'loadSet' ? (project.loadSets?.find((s) => s.name === name)?.scenes ?? []) : [];
}
function fieldsOf({ project }: ProjectIndex, { kind, asset, name }: EntryRef): readonly Field[] {
  if (kind === 'channel') return project.channels?.find((c) => c.name === name)?.payload ?? [];
  const decl = project.assets.find((a) => a.id === asset);
  if (kind === 'event') return decl?.events?.find((e) => e.name === name)?.payload ?? [];
  return decl?.actions?.find((a) => a.name === name)?.params ?? [];
}

/** The declarations without that entry, and without the effects that raise it. */
function withoutDeclaration(index: ProjectIndex, { kind, asset, name }: EntryRef): Change[] {
  const { channels = [], enums = [], tables = [], loadSets = [], peers = [] } = index.project;
  const others = <T extends { name: string }>(list: readonly T[]): T[] => list.filter((d) => d.name !== name);
  if (kind === 'loadSet') return [{ op: 'set', part: 'loadSets', value: others(loadSets) }];
  if (kind === 'peer') return [{ op: 'set', part: 'peers', value: others(peers) }];
  if (kind === 'tag') return tagging(index, name, new Set());
  if (kind === 'channel') return [{ op: 'set', part: 'channels', value: others(channels) }];
  if (kind === 'enum') return [{ op: 'set', part: 'enums', value: others(enums) }];
  if (kind === 'table') return [{ op: 'set', part: 'tables', value: others(tables) }];
  const decl = index.project.assets.find((a) => a.id === asset);
  if (!decl) return [];
  const { events = [], actions = [] } = decl;
  if (kind === 'action') return [{ op: 'set', asset, part: 'actions', value: others(actions) }];
  const changes: Change[] = [{ op: 'set', asset, part: 'events', value: others(events) }];
  const value = actions.map((a) => {
    const effects = a.effects?.filter((e) => !('raise' in e && e.raise === name));
    return effects && effects.length < a.effects!.length ? { ...a, effects } : a;
  });
  if (value.some((a, i) => a !== actions[i])) changes.push({ op: 'set', asset, part: 'actions', value });
  return changes;
}

/** A binding that uses an entry twice is removed once. */
function unique(changes: readonly Change[]): Change[] {
  return [...new Map(changes.map((c) => [JSON.stringify(c), c])).values()];
}
