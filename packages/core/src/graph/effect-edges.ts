import { ASLEEP_AT_START, type Expansion } from '../expand/expansion.js';
import type { AssetIndex } from '../project/index-project.js';
import type { Effect, EventDecl } from '../project/types.js';
import { isLiteral } from '../project/value.js';
import { CONDITIONAL, DELAYED, eventNode, INSTANT, LIMITED, RAISE, SPAWN } from './graph.js';

export type AddEdge = (tail: number, head: number, kind: number, cls: number, ref: number) => void;

/** What one effect leads to, worked out once for its asset. */
export interface CompiledEffect {
  /** Node offset of its action within the instance. */
  tail: number;
  ref: number;
  effect: Effect;
  /** Class when no limit applies. */
  cls: number;
  /** Events of the same instance that it raises. */
  events: number[];
}

/** Adds the edges that the effects of each instance make. Linear in instances and edges. */
export function addEffectEdges(x: Expansion, add: AddEdge): void {
  const compiled = x.index.assets.map(compileEffects);
  for (let i = 0; i < x.count; i++) if (!x.isFree(i)) addEffectEdgesOf(x, i, compiled[x.asset[i]], add);
}

/** Adds those of one instance, by its asset's compiled effects. */
export function addEffectEdgesOf(
  x: Expansion,
  i: number,
  compiled: readonly CompiledEffect[],
  add: AddEdge,
): void {
  const base = x.nodeBase[i];
  const spawned = x.isSpawned(i);
  for (const { tail: offset, effect, events, cls, ref } of compiled) {
    const tail = base + offset;
    for (const e of events) add(tail, base + e, RAISE, eventClass(x, i, e, spawned, cls), ref);
    if ('destroy' in effect) {
      eachInside(x, i, (inside) =>
        eachEvent(x, inside, 'destroyed', (e) =>
          add(tail, eventNode(x, inside, e), RAISE, spawned ? cls : LIMITED, ref),
        ),
      );
    } else if ('wake' in effect) {
      eachInside(x, i, (inside) => {
        if ((x.flags[inside] & ASLEEP_AT_START) === 0) return;
        eachEvent(x, inside, 'start', (e) => add(tail, eventNode(x, inside, e), RAISE, LIMITED, ref));
      });
    } else if ('spawn' in effect) {
      const asset = x.index.assetAt.get(effect.spawn);
      const standIn = asset === undefined ? -1 : x.standInOf(i, asset);
      if (standIn < 0) continue;
      for (let s = standIn; s < x.end[standIn]; s++) {
        eachEvent(x, s, 'start', (e) => add(tail, eventNode(x, s, e), SPAWN, cls, ref));
      }
    }
  }
}

/** The effects of an asset, made ready for each of its instances. */
export function compileEffects(asset: AssetIndex): CompiledEffect[] {
  return asset.effects.map(({ action, effect }, number) => {
    const guarded = effect.when !== undefined || effect.everyNth !== undefined;
    const delayed = 'raise' in effect && (effect.delay ?? 0) > 0;
    // Setting the literal that is already held changes nothing, so such an edge depends on the state.
    const literalSet = 'set' in effect && isLiteral(effect.to);
    return {
      tail: asset.events.length + action,
      ref: -1 - number,
      effect,
      cls: guarded || literalSet ? CONDITIONAL : delayed ? DELAYED : INSTANT,
      events: eventsRaised(asset, effect),
    };
  });
}

function eventsRaised(asset: AssetIndex, effect: Effect): number[] {
  if ('raise' in effect) {
    const at = asset.eventAt.get(effect.raise);
    return at === undefined ? [] : [at];
  }
  const property = changedProperty(effect);
  if (property === undefined || !asset.propertyAt.has(property)) return [];
  return asset.events.flatMap((e, i) =>
    e.cause.type === 'change' && e.cause.property === property ? [i] : [],
  );
}
/** The property that an effect may change. */
export function changedProperty(effect: Effect): string | undefined {
  if ('set' in effect) return effect.set;
  if ('toggle' in effect) return effect.toggle;
  return 'add' in effect ? effect.add : undefined;
}

function eventClass(x: Expansion, instance: number, event: number, spawned: boolean, cls: number): number {
  return !spawned && hasLimit(x.assetOf(instance).events[event]) ? LIMITED : cls;
}
/** Whether an event of an instance that is not spawned can be raised only so many times. */
export function hasLimit(event: EventDecl): boolean {
  return event.limit !== undefined || event.cause.type === 'destroyed';
}

/** The instance and all that it contains (what it spawns is not contained), in expansion order. */
export function eachInside(x: Expansion, instance: number, take: (inside: number) => void): void {
  const spawned = x.isSpawned(instance);
  for (let i = instance; i < x.end[instance]; i++) if (x.isSpawned(i) === spawned && !x.isFree(i)) take(i);
}
function eachEvent(
  x: Expansion,
  instance: number,
  cause: EventDecl['cause']['type'],
  take: (event: number) => void,
): void {
  const { events } = x.assetOf(instance);
  for (let e = 0; e < events.length; e++) if (events[e].cause.type === cause) take(e);
}
