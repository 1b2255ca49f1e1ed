import { printBinding, type ProjectIndex } from '@oquel/core';

/** Something with a name, and the address (below the project's) where it is shown. */
export interface Named {
  name: string;
  /** What it is and where. */
  about: string;
  kind:
    | 'view'
    | 'scene'
    | 'prefab'
    | 'widget'
    | 'thing'
    | 'event'
    | 'action'
    | 'channel'
    | 'enum'
    | 'key table'
    | 'rehearsal'
    | 'binding';
  to: string;
}

/** Every named thing of a project, views first, bindings last. Linear in the document; texts are made on demand. */
export function namedThings(index: ProjectIndex): Named[] {
  const query = (path: string, params: Record<string, string>): string =>
    `${path}?${new URLSearchParams(params)}`;
  const list: Named[] = [
    { name: 'Plan', about: 'view', kind: 'view', to: 'plan' },
    { name: 'Wire', about: 'view', kind: 'view', to: 'wire' },
    { name: 'Sheet of all bindings', about: 'view', kind: 'view', to: 'wire/sheet' },
    { name: 'Ripple', about: 'view', kind: 'view', to: 'ripple' },
    { name: 'Crossings', about: 'view', kind: 'view', to: 'crossings' },
    { name: 'Catalogue', about: 'view', kind: 'view', to: 'catalogue' },
    { name: 'Rehearse', about: 'view', kind: 'view', to: 'rehearse' },
    { name: 'Audit', about: 'view', kind: 'view', to: 'audit' },
    { name: 'Builds', about: 'view', kind: 'view', to: 'builds' },
    { name: 'Exchange', about: 'view', kind: 'view', to: 'exchange' },
  ];
  for (const { decl } of index.assets) {
    list.push({ name: decl.id, about: decl.kind, kind: decl.kind, to: query('plan', { scope: decl.id }) });
  }
  for (const { name } of index.project.channels ?? []) {
    list.push({
      name: `#${name}`,
      about: 'channel',
      kind: 'channel',
      to: query('wire/sheet', { channel: name }),
    });
  }
  const { enums = [], tables = [], rehearsals = [] } = index.project;
  for (const { name } of enums) {
    list.push({ name, about: 'enum', kind: 'enum', to: query('catalogue', { entry: `enum:${name}` }) });
  }
  for (const { name } of tables) {
    list.push({
      name,
      about: 'key table',
      kind: 'key table',
      to: query('catalogue', { entry: `table:${name}` }),
    });
  }
  for (const { name } of rehearsals) {
    list.push({ name, about: 'rehearsal', kind: 'rehearsal', to: query('rehearse', { name }) });
  }
  for (const { decl, events, actions } of index.assets) {
    const asset = decl.id;
    for (const { name } of events) {
      list.push({
        name,
        about: `event of ${asset}`,
        kind: 'event',
        to: query('wire/sheet', { asset, event: name }),
      });
    }
    for (const { name } of actions) {
      const to = query('wire/sheet', { asset, action: name });
      list.push({ name, about: `action of ${asset}`, kind: 'action', to });
    }
  }
  for (const { decl, placements } of index.assets) {
    for (const { id, asset } of placements) {
      const to = query('wire', { scope: decl.id, at: id });
      list.push({ name: id, about: `${asset} in ${decl.id}`, kind: 'thing', to });
    }
  }
  for (const { decl, bindings } of index.assets) {
    for (const binding of bindings) {
      const { from, id } = binding;
      const [at, event] = 'at' in from ? [from.at, from.event] : [`#${from.channel}`, from.channel];
      list.push({
        name: id,
        get about() {
          return `${decl.id}: ${printBinding(binding)}`;
        },
        kind: 'binding',
        to: query('wire', { scope: decl.id, at, event, binding: id }),
      });
    }
  }
  return list;
}

/**
 * Those whose name has every word (and where it is, from the second word on), the best first: a name that is the text,
 * then one that begins with it, then one in which it stands.
 */
export function findNamed(list: readonly Named[], text: string, most: number): Named[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  if (words.length === 0) return list.filter((n) => n.kind !== 'binding').slice(0, most);
  const [first, ...rest] = words;
  const ranked: Named[][] = [[], [], []];
  for (const named of list) {
    const name = named.name.toLowerCase();
    const at = name.indexOf(first);
    if (at < 0) continue;
    if (rest.length > 0) {
      const all = `${name} ${named.about.toLowerCase()}`;
      if (!rest.every((w) => all.includes(w))) continue;
    }
    ranked[name === first ? 0 : at === 0 ? 1 : 2].push(named);
  }
  return ranked.flat().slice(0, most);
}
