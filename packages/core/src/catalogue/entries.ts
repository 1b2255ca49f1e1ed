import { assetAtPath } from '../edit/wiring.js';
import { causeText } from '../project/cause-text.js';
import { compilePattern } from '../project/name-pattern.js';
import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import { append } from '../util/append.js';
import type { Binding, Cause, Field, Type } from '../project/types.js';

export type CatalogueKind = 'event' | 'action' | 'channel' | 'enum' | 'table' | 'loadSet' | 'peer' | 'tag';
export const CATALOGUE_KINDS: readonly CatalogueKind[] = [
  'event',
  'action',
  'channel',
  'enum',
  'table',
  'loadSet',
  'peer',
  'tag',
];

/** What stands out about an entry. */
export type CatalogueMark =
  /** Nobody listens to it. */
  | 'unheard'
  /** Nothing brings it about: no cause, no effect, no publisher, no binding that does it. */
  | 'never raised'
  /** A channel on which somebody tells or hears without a key. */
  | 'unkeyed'
  /** Some of its bindings are made in code. */
  | 'in code'
  | 'no note'
  /** The policy asks for other names. */
  | 'odd name'
  /** An enum or key table that nothing is declared with. */
  | 'unused';
export const CATALOGUE_MARKS: readonly CatalogueMark[] = [
  'unheard',
  'never raised',
  'unkeyed',
  'in code',
  'no note',
  'odd name',
  'unused',
];

/** One thing that has a name and is used by others. */
export interface CatalogueEntry {
  kind: CatalogueKind;
  /** Of an event or action; empty for what belongs to the project. */
  asset: string;
  name: string;
  /** How it comes about, in words; the role of a peer. */
  about: string;
  /** The values of an enum, the keys of a table, the scenes of a load set, the assets with a tag. */
  items: readonly string[];
  fields: readonly Field[];
  note: string;
  /** Bindings and effects that bring it about; for an enum or a table what is declared with it; for a tag what has it. */
  brings: number;
  /** Bindings that follow from it. */
  hears: number;
  marks: readonly CatalogueMark[];
}

/** A binding that uses an entry, or an effect that does. */
export interface CatalogueUse {
  owner: AssetIndex;
  binding?: Binding;
  /** An action of the owner, or a declaration, in words. */
  text?: string;
  side: 'brings' | 'hears';
}

interface Counts {
  brings: number;
  hears: number;
  code: boolean;
  unkeyed: boolean;
}

/** Everything that a project declares by name for others to use. Linear in the document. */
export function catalogueOf(index: ProjectIndex): CatalogueEntry[] {
  const counts = new Map<string, Counts>();
  for (const owner of index.assets) {
    for (const binding of owner.bindings) {
      for (const { key, side, keyed } of endsOf(index, owner, binding)) {
        let c = counts.get(key);
        if (!c) counts.set(key, (c = { brings: 0, hears: 0, code: false, unkeyed: false }));
        c[side]++;
        if (binding.origin === 'code') c.code = true;
        if (!keyed) c.unkeyed = true;
      }
    }
  }
  const { channels = [], enums = [], tables = [], policy } = index.project;
  const patterns = { event: '^on[A-Z]', ...policy?.names };
  const searches = new Map(Object.entries(patterns).map(([kind, text]) => [kind, compilePattern(text)]));
  const odd = (kind: 'event' | 'action' | 'channel', name: string): boolean =>
    searches.get(kind)?.(name) === false;
  const entries: CatalogueEntry[] = [];
  for (const asset of index.assets) {
    for (const e of asset.events) {
      const c = counts.get(keyOf('event', asset.decl.id, e.name));
      const raisers = effectsRaising(asset, e.name, e.cause);
      const marks: CatalogueMark[] = [];
      if (!c || c.hears === 0) marks.push('unheard');
      if (e.cause.type === 'raised' && raisers.length === 0) marks.push('never raised');
      entries.push({
        kind: 'event',
        asset: asset.decl.id,
        name: e.name,
        about: causeText(e.cause),
        items: [],
        fields: e.payload ?? [],
        note: e.note ?? '',
        brings: raisers.length,
        hears: c?.hears ?? 0,
        marks: [...marks, ...common(c, e.note, odd('event', e.name))],
      });
    }
    for (const a of asset.actions) {
      const c = counts.get(keyOf('action', asset.decl.id, a.name));
      entries.push({
        kind: 'action',
        asset: asset.decl.id,
        name: a.name,
        about: a.whileAsleep ? 'also while asleep' : '',
        items: [],
        fields: a.params ?? [],
        note: a.note ?? '',
        brings: c?.brings ?? 0,
        hears: 0,
        marks: [
          ...(c && c.brings > 0 ? [] : (['never raised'] as const)),
          ...common(c, a.note, odd('action', a.name)),
        ],
      });
    }
  }
  for (const channel of channels) {
    const c = counts.get(keyOf('channel', '', channel.name));
    const marks: CatalogueMark[] = [];
    if (!c || c.hears === 0) marks.push('unheard');
    if (!c || c.brings === 0) marks.push('never raised');
    if (c?.unkeyed) marks.push('unkeyed');
    entries.push({
      kind: 'channel',
      asset: '',
      name: channel.name,
      about: '',
      items: [],
      fields: channel.payload ?? [],
      note: channel.note ?? '',
      brings: c?.brings ?? 0,
      hears: c?.hears ?? 0,
      marks: [...marks, ...common(c, channel.note, odd('channel', channel.name))],
    });
  }
  const typed = typeUses(index);
  for (const [kind, list] of [
    ['enum', enums.map((e) => ({ name: e.name, values: e.values }))],
    ['table', tables.map((t) => ({ name: t.name, values: t.keys }))],
  ] as const) {
    for (const { name, values } of list) {
      const brings = typed.get(typeOf(kind, name))?.length ?? 0;
      entries.push({
        kind,
        asset: '',
        name,
        about: values.join(', '),
        items: values,
        fields: [],
        note: '',
        brings,
        hears: 0,
        marks: brings === 0 ? ['unused'] : [],
      });
    }
  }
  append(entries, ofProject(index));
  return entries;
}

/** Load sets, peers and tags. */
function ofProject({ project }: ProjectIndex): CatalogueEntry[] {
  const plain = (
    kind: CatalogueKind,
    name: string,
    about: string,
    items: readonly string[],
  ): CatalogueEntry => ({
    kind,
    asset: '',
    name,
    about,
    items,
    fields: [],
    note: '',
    brings: kind === 'tag' ? items.length : 0,
    hears: 0,
    marks: [],
  });
  const tags = new Map<string, string[]>();
  for (const { id, tags: own = [] } of project.assets) {
    for (const tag of own) {
      const list = tags.get(tag);
      if (list) list.push(id);
      else tags.set(tag, [id]);
    }
  }
  return [
    ...(project.loadSets ?? []).map((s) => plain('loadSet', s.name, s.scenes.join(', '), s.scenes)),
    ...(project.peers ?? []).map((p) => plain('peer', p.name, p.role, [])),
    ...[...tags].map(([tag, assets]) => plain('tag', tag, assets.join(', '), assets)),
  ];
}

/** Everything that uses an entry, in order of the document. Linear in the document. */
export function usesOfEntry(
  index: ProjectIndex,
  { kind, asset, name }: Pick<CatalogueEntry, 'kind' | 'asset' | 'name'>,
): CatalogueUse[] {
  const uses: CatalogueUse[] = [];
  if (kind === 'tag') {
    for (const owner of index.assets) {
      if (owner.decl.tags?.includes(name))
        uses.push({ owner, text: `${owner.decl.id}: tag`, side: 'brings' });
    }
    return uses;
  }
  if (kind === 'loadSet' || kind === 'peer') return uses;
  if (kind === 'enum' || kind === 'table') {
    for (const { owner, text } of typeUses(index).get(typeOf(kind, name)) ?? []) {
      uses.push({ owner, text, side: 'brings' });
    }
    return uses;
  }
  const wanted = keyOf(kind, asset, name);
  for (const owner of index.assets) {
    if (kind === 'event' && owner.decl.id === asset) {
      const event = owner.events[owner.eventAt.get(name) ?? -1];
      if (event) {
        for (const text of effectsRaising(owner, name, event.cause))
          uses.push({ owner, text, side: 'brings' });
      }
    }
    for (const binding of owner.bindings) {
      for (const { key, side } of endsOf(index, owner, binding)) {
        if (key === wanted) uses.push({ owner, binding, side });
      }
    }
  }
  return uses;
}

export function keyOf(kind: CatalogueKind, asset: string, name: string): string {
  return asset === '' ? `${kind}:${name}` : `${kind}:${asset}/${name}`;
}
export function typeOf(kind: 'enum' | 'table', name: string): Type {
  return kind === 'enum' ? `enum:${name}` : `key:${name}`;
}

interface End {
  key: string;
  side: 'brings' | 'hears';
  keyed: boolean;
}
/** What a binding uses: the event or channel that it follows from, and the action or channel that it brings about. */
function endsOf(index: ProjectIndex, owner: AssetIndex, { from, to }: Binding): End[] {
  const ends: End[] = [];
  if ('channel' in from) {
    ends.push({ key: keyOf('channel', '', from.channel), side: 'hears', keyed: from.key !== undefined });
  } else {
    const sender = assetAtPath(index, owner, from.at);
    if (sender) ends.push({ key: keyOf('event', sender.decl.id, from.event), side: 'hears', keyed: true });
  }
  if ('channel' in to) {
    ends.push({ key: keyOf('channel', '', to.channel), side: 'brings', keyed: to.key !== undefined });
  } else {
    const receiver =
      'every' in to ? index.assets[index.assetAt.get(to.every) ?? -1] : assetAtPath(index, owner, to.at);
    if (receiver)
      ends.push({ key: keyOf('action', receiver.decl.id, to.action), side: 'brings', keyed: true });
  }
  return ends;
}

function common(c: Counts | undefined, note: string | undefined, odd: boolean): CatalogueMark[] {
  const marks: CatalogueMark[] = [];
  if (c?.code) marks.push('in code');
  if (!note) marks.push('no note');
  if (odd) marks.push('odd name');
  return marks;
}

/** Effects of an asset's own actions that raise one of its events, in words. */
function effectsRaising(asset: AssetIndex, name: string, cause: Cause): string[] {
  return asset.effects.flatMap(({ action, effect }) => {
    const raises =
      ('raise' in effect && effect.raise === name) ||
      (cause.type === 'destroyed' && 'destroy' in effect) ||
      (cause.type === 'change' &&
        (('set' in effect && effect.set === cause.property) ||
          ('toggle' in effect && effect.toggle === cause.property) ||
          ('add' in effect && effect.add === cause.property)));
    return raises ? [`${asset.decl.id} does ${asset.actions[action].name}`] : [];
  });
}

/** Everything that is declared with a type of an enum or table, by type. */
function typeUses(index: ProjectIndex): Map<string, { owner: AssetIndex; text: string }[]> {
  const uses = new Map<string, { owner: AssetIndex; text: string }[]>();
  const add = (type: Type, owner: AssetIndex, text: string): void => {
    if (!type.includes(':')) return;
    const list = uses.get(type);
    if (list) list.push({ owner, text });
    else uses.set(type, [{ owner, text }]);
  };
  for (const owner of index.assets) {
    const { id } = owner.decl;
    for (const p of owner.properties) add(p.type, owner, `${id}: property ${p.name}`);
    for (const e of owner.events) {
      for (const f of e.payload ?? []) add(f.type, owner, `${id}: ${e.name} carries ${f.name}`);
    }
    for (const a of owner.actions) {
      for (const f of a.params ?? []) add(f.type, owner, `${id}: ${a.name} takes ${f.name}`);
    }
  }
  const [first] = index.assets;
  for (const c of index.project.channels ?? []) {
    for (const f of c.payload ?? []) if (first) add(f.type, first, `channel ${c.name} carries ${f.name}`);
  }
  return uses;
}
