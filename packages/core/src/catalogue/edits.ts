import type { Change } from '../edit/change.js';
import { renameDeclared } from '../edit/declarations.js';
import { rehearsalsWith } from '../edit/rehearsal-steps.js';
import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import type { Arg, Asset, Binding, Channel, Field, Type } from '../project/types.js';
import { isLiteral } from '../project/value.js';
import { typeOf, usesOfEntry, type CatalogueEntry } from './entries.js';

/** Names an entry of the catalogue. */
export type EntryRef = Pick<CatalogueEntry, 'kind' | 'asset' | 'name'>;

/**
 * Gives an entry another name, with all that uses it: bindings, effects, types of fields and properties, rehearsals.
 * Linear in the document.
 */
export function renameEntry(index: ProjectIndex, { kind, asset, name }: EntryRef, to: string): Change[] {
  if (kind === 'event' || kind === 'action') {
    const at = index.assetAt.get(asset);
    return at === undefined ? [] : renameDeclared(index, index.assets[at], kind, name, to);
  }
  if (kind === 'channel') {
    const value = (index.project.channels ?? []).map((c) => (c.name === name ? { ...c, name: to } : c));
    return [{ op: 'set', part: 'channels', value }, ...rechannel(index, name, to)];
  }
  const { enums = [], tables = [] } = index.project;
  const declared: Change =
    kind === 'enum'
      ? { op: 'set', part: 'enums', value: enums.map((e) => (e.name === name ? { ...e, name: to } : e)) }
      : { op: 'set', part: 'tables', value: tables.map((t) => (t.name === name ? { ...t, name: to } : t)) };
  return [declared, ...retype(index, typeOf(kind, name), typeOf(kind, to))];
}

/**
 * Takes an entry away: its declaration, the bindings that use it and the effects that raise it. What else names it is
 * left for the audit to report.
 */
export function retireEntry(index: ProjectIndex, entry: EntryRef): Change[] {
  const removed = usesOfEntry(index, entry).flatMap(({ owner, binding }): Change[] =>
    binding ? [{ op: 'remove', list: 'bindings', asset: owner.decl.id, id: binding.id }] : [],
  );
  return [...unique(removed), ...withoutDeclaration(index, entry)];
}

/** Lets everything that uses one entry use another of the same kind, and takes the first away. */
export function mergeEntries(index: ProjectIndex, from: EntryRef, into: EntryRef): Change[] {
  if (from.kind === 'channel') {
    return [...rechannel(index, from.name, into.name), ...withoutDeclaration(index, from)];
  }
  if (from.kind === 'enum' || from.kind === 'table') {
    const values = valuesOf(index, into);
    const more = valuesOf(index, from).filter((v) => !values.includes(v));
    return [
      ...retype(index, typeOf(from.kind, from.name), typeOf(from.kind, into.name)),
      ...withoutDeclaration(index, from, { name: into.name, more }),
    ];
  }
  const at = index.assetAt.get(from.asset);
  if (at === undefined) return [];
  const asset = index.assets[at];
  const part = from.kind === 'event' ? 'events' : 'actions';
  // The declaration is renamed with the rest, and then stands twice: the first of them goes.
  return renameDeclared(index, asset, from.kind, from.name, into.name).map((change): Change => {
    if (change.op !== 'set' || change.asset !== from.asset || change.part !== part) return change;
    const own = asset.decl[part]!.findIndex((d) => d.name === from.name);
    const value = (change.value as { name: string }[]).filter((_, i) => i !== own);
    return { ...change, value } as Change;
  });
}

/**
 * Gives an entry other fields. Where a field stands in the same place with another name, whatever fills or reads it is
 * carried along; the audit reports what does not fit the new ones.
 */
export function changeFields(index: ProjectIndex, entry: EntryRef, fields: readonly Field[]): Change[] {
  const old = fieldsOf(index, entry);
  const names = new Map<string, string>();
  old.forEach((f, i) => {
    const next = fields[i] as Field | undefined;
    const moved = next && next.name !== f.name && !fields.some((g) => g.name === f.name);
    if (moved && !old.some((g) => g.name === next.name)) names.set(f.name, next.name);
  });
  const changes = withFields(index, entry, fields, names);
  if (names.size === 0) return changes;
  const bindings = new Map<string, Change>();
  for (const { owner, binding, side } of usesOfEntry(index, entry)) {
    if (!binding) continue;
    const key = `${owner.decl.id}/${binding.id}`;
    const before = bindings.get(key);
    const from = before && before.op === 'replace' && before.list === 'bindings' ? before.item : binding;
    const item = side === 'brings' ? withArgNames(from, names) : withPayloadNames(from, names);
    if (item !== from)
      bindings.set(key, { op: 'replace', list: 'bindings', asset: owner.decl.id, id: binding.id, item });
  }
  return [...changes, ...bindings.values()];
}

/** Declares an event or action in another asset and takes it out of its own; what used it is left for the audit. */
export function moveEntry(index: ProjectIndex, { kind, asset, name }: EntryRef, to: string): Change[] {
  if (kind !== 'event' && kind !== 'action') return [];
  const part = kind === 'event' ? 'events' : 'actions';
  const [from, target] = [asset, to].map((id) => index.project.assets.find((a) => a.id === id));
  const decl = from?.[part]?.find((d) => d.name === name);
  if (!from || !target || !decl) return [];
  const set = (a: Asset, value: object[]): Change => ({ op: 'set', asset: a.id, part, value }) as Change;
  return [
    set(target, [...(target[part] ?? []), decl]),
    set(
      from,
      from[part]!.filter((d) => d.name !== name),
    ),
  ];
}

/** The note of an event, action or channel. */
export function noteEntry(index: ProjectIndex, { kind, asset, name }: EntryRef, note: string): Change[] {
  const noted = <T extends { name: string }>(list: readonly T[]): T[] =>
    list.map((d) => (d.name === name ? { ...d, note } : d));
  if (kind === 'channel')
    return [{ op: 'set', part: 'channels', value: noted(index.project.channels ?? []) }];
  const decl = index.project.assets.find((a) => a.id === asset);
  if (!decl || kind === 'enum' || kind === 'table') return [];
  return kind === 'event'
    ? [{ op: 'set', asset, part: 'events', value: noted(decl.events ?? []) }]
    : [{ op: 'set', asset, part: 'actions', value: noted(decl.actions ?? []) }];
}

// --- what the edits above share

function valuesOf({ project }: ProjectIndex, { kind, name }: EntryRef): string[] {
  return kind === 'enum'
    ? (project.enums?.find((e) => e.name === name)?.values ?? [])
    : (project.tables?.find((t) => t.name === name)?.keys ?? []);
}
function fieldsOf({ project }: ProjectIndex, { kind, asset, name }: EntryRef): readonly Field[] {
  if (kind === 'channel') return project.channels?.find((c) => c.name === name)?.payload ?? [];
  const decl = project.assets.find((a) => a.id === asset);
  if (kind === 'event') return decl?.events?.find((e) => e.name === name)?.payload ?? [];
  return decl?.actions?.find((a) => a.name === name)?.params ?? [];
}

/** The declarations without that entry; `into` gets values more, where values are merged. */
function withoutDeclaration(
  index: ProjectIndex,
  { kind, asset, name }: EntryRef,
  into: { name: string; more: readonly string[] } | null = null,
): Change[] {
  const { channels = [], enums = [], tables = [] } = index.project;
  const others = <T extends { name: string }>(list: readonly T[]): T[] => list.filter((d) => d.name !== name);
  if (kind === 'channel') return [{ op: 'set', part: 'channels', value: others(channels) }];
  if (kind === 'enum') {
    const value = others(enums).map((e) =>
      e.name === into?.name ? { ...e, values: [...e.values, ...into.more] } : e,
    );
    return [{ op: 'set', part: 'enums', value }];
  }
  if (kind === 'table') {
    const value = others(tables).map((t) =>
      t.name === into?.name ? { ...t, keys: [...t.keys, ...into.more] } : t,
    );
    return [{ op: 'set', part: 'tables', value }];
  }
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

/** Every binding and step on one channel, put on another. */
function rechannel(index: ProjectIndex, name: string, to: string): Change[] {
  const changes: Change[] = [];
  for (const owner of index.assets) {
    for (const binding of owner.bindings) {
      const { from, to: target } = binding;
      const hears = 'channel' in from && from.channel === name;
      const tells = 'channel' in target && target.channel === name;
      if (!hears && !tells) continue;
      const item: Binding = {
        ...binding,
        ...(hears ? { from: { ...from, channel: to } } : {}),
        ...(tells ? { to: { ...target, channel: to } } : {}),
      };
      changes.push({ op: 'replace', list: 'bindings', asset: owner.decl.id, id: binding.id, item });
    }
  }
  const steps = rehearsalsWith(index, (step) =>
    'publish' in step && step.publish.channel === name
      ? { ...step, publish: { ...step.publish, channel: to } }
      : step,
  );
  return [...changes, ...steps];
}

/** Every declaration of one type, given another. */
function retype(index: ProjectIndex, type: Type, to: Type): Change[] {
  const changes: Change[] = [];
  const swap = <T extends { type: Type }>(list: readonly T[] | undefined): T[] | undefined =>
    list?.some((f) => f.type === type)
      ? list.map((f) => (f.type === type ? { ...f, type: to } : f))
      : undefined;
  for (const { decl } of index.assets) {
    const asset = decl.id;
    const properties = swap(decl.properties);
    if (properties) changes.push({ op: 'set', asset, part: 'properties', value: properties });
    const events = decl.events?.map((e) => {
      const payload = swap(e.payload);
      return payload ? { ...e, payload } : e;
    });
    if (events?.some((e, i) => e !== decl.events![i]))
      changes.push({ op: 'set', asset, part: 'events', value: events });
    const actions = decl.actions?.map((a) => {
      const params = swap(a.params);
      return params ? { ...a, params } : a;
    });
    if (actions?.some((a, i) => a !== decl.actions![i])) {
      changes.push({ op: 'set', asset, part: 'actions', value: actions });
    }
  }
  const { channels } = index.project;
  const next = channels?.map((c): Channel => {
    const payload = swap(c.payload);
    return payload ? { ...c, payload } : c;
  });
  if (next?.some((c, i) => c !== channels![i])) changes.push({ op: 'set', part: 'channels', value: next });
  return changes;
}

function withFields(
  index: ProjectIndex,
  { kind, asset, name }: EntryRef,
  fields: readonly Field[],
  names: ReadonlyMap<string, string>,
): Change[] {
  const list = fields.length > 0 ? { list: [...fields] } : {};
  if (kind === 'channel') {
    const value = (index.project.channels ?? []).map((c) => {
      if (c.name !== name) return c;
      const { payload: _old, ...rest } = c;
      return list.list ? { ...rest, payload: list.list } : rest;
    });
    return [{ op: 'set', part: 'channels', value }];
  }
  const owner = index.assets[index.assetAt.get(asset) ?? -1] as AssetIndex | undefined;
  if (!owner || kind === 'enum' || kind === 'table') return [];
  const { events = [], actions = [] } = owner.decl;
  const changes: Change[] = [];
  if (kind === 'event') {
    const value = events.map((e) => {
      if (e.name !== name) return e;
      const { payload: _old, ...rest } = e;
      return list.list ? { ...rest, payload: list.list } : rest;
    });
    changes.push({ op: 'set', asset, part: 'events', value });
  }
  // Effects that raise it fill its fields; those of an action read its parameters.
  const next = actions.map((a) => {
    const own = kind === 'action' && a.name === name;
    const effects = a.effects?.map((e) => {
      if ('raise' in e && e.payload) {
        if (kind === 'event' && e.raise === name) return { ...e, payload: renameKeys(e.payload, names) };
        if (own) return { ...e, payload: mapArgs(e.payload, names) };
      }
      if (own && 'set' in e && !isLiteral(e.to) && names.has(e.to.param)) {
        return { ...e, to: { param: names.get(e.to.param)! } };
      }
      if (own && 'add' in e && !isLiteral(e.by) && names.has(e.by.param)) {
        return { ...e, by: { param: names.get(e.by.param)! } };
      }
      return e;
    });
    const { params: _old, ...rest } = a;
    const base = own ? (list.list ? { ...rest, params: list.list } : rest) : a;
    return effects ? { ...base, effects } : base;
  });
  if (kind === 'action' || names.size > 0) changes.push({ op: 'set', asset, part: 'actions', value: next });
  return changes;
}

function renameKeys<T>(args: Record<string, T>, names: ReadonlyMap<string, string>): Record<string, T> {
  return Object.fromEntries(Object.entries(args).map(([k, v]) => [names.get(k) ?? k, v]));
}
function mapArgs(args: Record<string, Arg>, names: ReadonlyMap<string, string>): Record<string, Arg> {
  return Object.fromEntries(
    Object.entries(args).map(([k, arg]): [string, Arg] => {
      if (isLiteral(arg) || !('payload' in arg)) return [k, arg];
      return [k, { ...arg, payload: names.get(arg.payload) ?? arg.payload }];
    }),
  );
}
function withArgNames(binding: Binding, names: ReadonlyMap<string, string>): Binding {
  if (!binding.args || Object.keys(binding.args).every((k) => !names.has(k))) return binding;
  return { ...binding, args: renameKeys(binding.args, names) };
}
function withPayloadNames(binding: Binding, names: ReadonlyMap<string, string>): Binding {
  const reads = (arg: Arg): boolean => !isLiteral(arg) && 'payload' in arg && names.has(arg.payload);
  if (!binding.args || !Object.values(binding.args).some(reads)) return binding;
  return { ...binding, args: mapArgs(binding.args, names) };
}
/** A binding that uses an entry twice is removed once. */
function unique(changes: readonly Change[]): Change[] {
  return [...new Map(changes.map((c) => [JSON.stringify(c), c])).values()];
}
