import { bindingEnds } from '../edit/binding-ends.js';
import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import type { Binding, Cause, Effect, Type } from '../project/types.js';
import { append } from '../util/append.js';
import type { CatalogueEntry, CatalogueKind, CatalogueUse } from './entry.js';

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
export function endsOf(index: ProjectIndex, owner: AssetIndex, binding: Binding): End[] {
  const { from, to } = binding;
  const { sender, receiver } = bindingEnds(index, owner, binding);
  const ends: End[] = [];
  if ('channel' in from) {
    ends.push({ key: keyOf('channel', '', from.channel), side: 'hears', keyed: from.key !== undefined });
  } else if (sender) {
    ends.push({ key: keyOf('event', sender.decl.id, from.event), side: 'hears', keyed: true });
  }
  if ('channel' in to) {
    ends.push({ key: keyOf('channel', '', to.channel), side: 'brings', keyed: to.key !== undefined });
  } else if (receiver) {
    ends.push({ key: keyOf('action', receiver.decl.id, to.action), side: 'brings', keyed: true });
  }
  return ends;
}

/** Effects of an asset's own actions that raise one of its events, in words. Cost: those, once its effects are sorted. */
export function effectsRaising(asset: AssetIndex, name: string, cause: Cause): string[] {
  let sorted = sortedEffects.get(asset);
  if (!sorted) sortedEffects.set(asset, (sorted = sortEffects(asset)));
  const raising = [...(sorted.get(`raise ${name}`) ?? [])];
  if (cause.type === 'destroyed') append(raising, sorted.get('destroy') ?? []);
  if (cause.type === 'change') append(raising, sorted.get(`change ${cause.property}`) ?? []);
  raising.sort((a, b) => a - b);
  return raising.map((at) => `${asset.decl.id} does ${asset.actions[asset.effects[at].action].name}`);
}
const sortedEffects = new WeakMap<AssetIndex, ReadonlyMap<string, readonly number[]>>();
/** The numbers of an asset's effects by what they raise. */
function sortEffects({ effects }: AssetIndex): Map<string, number[]> {
  const sorted = new Map<string, number[]>();
  for (const [at, { effect }] of effects.entries()) {
    const what = raisedBy(effect);
    const list = what === null ? undefined : sorted.get(what);
    if (list) list.push(at);
    else if (what !== null) sorted.set(what, [at]);
  }
  return sorted;
}
function raisedBy(effect: Effect): string | null {
  if ('raise' in effect) return `raise ${effect.raise}`;
  if ('destroy' in effect) return 'destroy';
  if ('set' in effect) return `change ${effect.set}`;
  if ('toggle' in effect) return `change ${effect.toggle}`;
  return 'add' in effect ? `change ${effect.add}` : null;
}

/** Everything that is declared with a type of an enum or table, by type. */
export function typeUses(index: ProjectIndex): Map<string, { owner: AssetIndex; text: string }[]> {
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
