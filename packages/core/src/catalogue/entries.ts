import { causeText } from '../project/cause-text.js';
import { compilePattern } from '../project/name-pattern.js';
import type { ProjectIndex } from '../project/index-project.js';
import { append } from '../util/append.js';
import type { CatalogueEntry, CatalogueKind, CatalogueMark } from './entry.js';
import { keyOf, typeOf, endsOf, effectsRaising, typeUses } from './uses.js';

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

function common(c: Counts | undefined, note: string | undefined, odd: boolean): CatalogueMark[] {
  const marks: CatalogueMark[] = [];
  if (c?.code) marks.push('in code');
  if (!note) marks.push('no note');
  if (odd) marks.push('odd name');
  return marks;
}
