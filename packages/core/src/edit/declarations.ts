import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import type {
  Action,
  Arg,
  Asset,
  Binding,
  Effect,
  EventDecl,
  KeyExpr,
  Placement,
  Property,
  Step,
} from '../project/types.js';
import { isLiteral } from '../project/value.js';
import type { Change } from './change.js';
import { addressOf, assetAtAddress, rehearsalsWith } from './rehearsal-steps.js';
import type { Naming } from './staging.js';
import { assetAtPath } from './wiring.js';
import { append } from '../util/append.js';

export type Declared = 'event' | 'action' | 'property';

/** Every binding that uses an event, action or property of an asset. Linear in the bindings of the project. */
export function usesOf(index: ProjectIndex, asset: AssetIndex, kind: Declared, name: string): Naming[] {
  const uses: Naming[] = [];
  for (const owner of index.assets) {
    for (const binding of owner.bindings) {
      const renamed = renameInBinding(index, owner, binding, asset, kind, name, '\0');
      if (renamed !== binding) uses.push({ owner, binding });
    }
  }
  return uses;
}

/**
 * Gives an event, action or property of an asset another name and carries it along everywhere: in the asset's own
 * effects and causes, in overrides where the asset is placed or spawned, in every binding that uses it, and in rehearsals.
 */
export function renameDeclared(
  index: ProjectIndex,
  asset: AssetIndex,
  kind: Declared,
  name: string,
  to: string,
): Change[] {
  const changes: Change[] = [];
  for (const owner of index.assets) {
    const own = renameInDeclarations(index, owner, asset, kind, name, to);
    append(changes, own);
    if (kind === 'property') append(changes, renameInPlacements(owner, asset, name, to));
    for (const binding of owner.bindings) {
      const item = renameInBinding(index, owner, binding, asset, kind, name, to);
      if (item !== binding) {
        changes.push({ op: 'replace', list: 'bindings', asset: owner.decl.id, id: binding.id, item });
      }
    }
  }
  return [...changes, ...rehearsalsWith(index, (step) => renameInStep(index, step, asset, kind, name, to))];
}

function renameInStep(
  index: ProjectIndex,
  step: Step,
  asset: AssetIndex,
  kind: Declared,
  name: string,
  to: string,
): Step {
  const at = addressOf(step);
  if (at === null || assetAtAddress(index, at) !== asset) return step;
  if ('raise' in step) {
    const used = kind === 'event' && step.raise.event === name;
    return used ? { ...step, raise: { ...step.raise, event: to } } : step;
  }
  if (!('expect' in step)) return step;
  const { expect } = step;
  if (kind === 'property' && 'property' in expect && expect.property === name) {
    return { ...step, expect: { ...expect, property: to } };
  }
  if (kind === 'action' && 'action' in expect && expect.action === name) {
    return { ...step, expect: { ...expect, action: to } };
  }
  return step;
}

/** The binding with the name replaced where it means that of the asset; the very same if it is not used. */
function renameInBinding(
  index: ProjectIndex,
  owner: AssetIndex,
  binding: Binding,
  asset: AssetIndex,
  kind: Declared,
  name: string,
  to: string,
): Binding {
  const { from, to: target } = binding;
  const hears = 'channel' in from;
  const sender = hears ? null : assetAtPath(index, owner, from.at);
  const receiver = (): AssetIndex | null =>
    'at' in target
      ? assetAtPath(index, owner, target.at)
      : 'every' in target
        ? (index.assets[index.assetAt.get(target.every) ?? -1] ?? null)
        : null;
  if (kind === 'event') {
    const used = !hears && from.event === name && sender === asset;
    return used ? { ...binding, from: { ...from, event: to } } : binding;
  }
  if (kind === 'action') {
    const used = !('channel' in target) && target.action === name && receiver() === asset;
    return used ? { ...binding, to: { ...target, action: to } } : binding;
  }
  let changed = false;
  const read = <T extends KeyExpr | Arg>(value: T, reader: AssetIndex | null): T => {
    const given: KeyExpr | Arg = value;
    const reads = !isLiteral(given) && 'property' in given && given.property === name && reader === asset;
    changed ||= reads;
    return reads ? ({ ...(given as object), property: to } as T) : value;
  };
  const reader = hears ? owner : sender;
  const next: Binding = { ...binding };
  if (hears && from.key !== undefined) next.from = { ...from, key: read(from.key, receiver()) };
  if ('channel' in target && target.key !== undefined) next.to = { ...target, key: read(target.key, reader) };
  if ('every' in target && target.match !== undefined && target.match !== 'all') {
    const { property, equals } = target.match;
    const matches = property === name && receiver() === asset;
    changed ||= matches;
    next.to = { ...target, match: { property: matches ? to : property, equals: read(equals, reader) } };
  }
  if (binding.args) {
    next.args = Object.fromEntries(Object.entries(binding.args).map(([k, arg]) => [k, read(arg, reader)]));
  }
  return changed ? next : binding;
}

function renameInPlacements(owner: AssetIndex, asset: AssetIndex, name: string, to: string): Change[] {
  return owner.placements.flatMap((p): Change[] => {
    if (p.asset !== asset.decl.id || !p.properties || !Object.hasOwn(p.properties, name)) return [];
    const item: Placement = { ...p, properties: renameKey(p.properties, name, to) };
    return [{ op: 'replace', list: 'placements', asset: owner.decl.id, id: p.id, item }];
  });
}

function renameInDeclarations(
  index: ProjectIndex,
  owner: AssetIndex,
  asset: AssetIndex,
  kind: Declared,
  name: string,
  to: string,
): Change[] {
  const own = owner === asset;
  const { properties = [], events = [], actions = [] } = owner.decl;
  const changes: Change[] = [];
  if (own && kind === 'property') {
    const value = properties.map((p): Property => (p.name === name ? { ...p, name: to } : p));
    changes.push({ op: 'set', asset: owner.decl.id, part: 'properties', value });
  }
  const event = (e: EventDecl): EventDecl => {
    if (!own) return e;
    if (kind === 'event' && e.name === name) return { ...e, name: to };
    const { cause } = e;
    const watches = kind === 'property' && cause.type === 'change' && cause.property === name;
    return watches ? { ...e, cause: { ...cause, property: to } } : e;
  };
  const action = (a: Action): Action => {
    const renamed = own && kind === 'action' && a.name === name ? { ...a, name: to } : a;
    if (!a.effects) return renamed;
    const effects = a.effects.map((effect) => renameInEffect(effect, own, asset.decl.id, kind, name, to));
    return effects.some((e, i) => e !== a.effects![i]) ? { ...renamed, effects } : renamed;
  };
  const nextEvents = events.map(event);
  const nextActions = actions.map(action);
  if (nextEvents.some((e, i) => e !== events[i])) {
    changes.push({ op: 'set', asset: owner.decl.id, part: 'events', value: nextEvents });
  }
  if (nextActions.some((a, i) => a !== actions[i])) {
    changes.push({ op: 'set', asset: owner.decl.id, part: 'actions', value: nextActions });
  }
  return changes;
}

function renameInEffect(
  effect: Effect,
  own: boolean,
  asset: Asset['id'],
  kind: Declared,
  name: string,
  to: string,
): Effect {
  let next = effect;
  if (own && kind === 'event' && 'raise' in next && next.raise === name) next = { ...next, raise: to };
  if (kind !== 'property') return next;
  if (own) {
    if (next.when?.property === name) next = { ...next, when: { ...next.when, property: to } };
    if ('set' in next && next.set === name) next = { ...next, set: to };
    if ('toggle' in next && next.toggle === name) next = { ...next, toggle: to };
    if ('add' in next && next.add === name) next = { ...next, add: to };
    if ('raise' in next && next.payload) {
      const reads = (arg: Arg): boolean => !isLiteral(arg) && 'property' in arg && arg.property === name;
      if (Object.values(next.payload).some(reads)) {
        const payload = Object.entries(next.payload).map(([k, arg]) => [
          k,
          reads(arg) ? { ...(arg as object), property: to } : arg,
        ]);
        next = { ...next, payload: Object.fromEntries(payload) as Record<string, Arg> };
      }
    }
  }
  if ('spawn' in next && next.spawn === asset && next.properties && Object.hasOwn(next.properties, name)) {
    next = { ...next, properties: renameKey(next.properties, name, to) };
  }
  return next;
}

/** The same record with one key renamed, in its place. */
function renameKey<T>(record: Record<string, T>, name: string, to: string): Record<string, T> {
  return Object.fromEntries(Object.entries(record).map(([k, v]) => [k === name ? to : k, v]));
}
