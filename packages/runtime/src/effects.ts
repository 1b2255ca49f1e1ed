import type { Value, Values, WiringAction, WiringEffect, WiringProject } from './format.js';
import type { Instance } from './instance.js';
import { evaluate, holds, isLiteral, NONE, own, sameValue } from './value.js';
import type { Lifecycle } from './lifecycle.js';
import type { RecordBody } from './records.js';

/** The world that effects act upon. */
export interface EffectHost {
  readonly wiring: WiringProject;
  readonly assetAt: ReadonlyMap<string, number>;
  readonly life: Lifecycle;
  write(body: RecordBody, cause: number): number;
  /** Queues a raise. With `restart` it takes the place of the one that waits under that name. */
  queueRaise(
    instance: Instance,
    event: number,
    payload: Values,
    cause: number,
    delay: number,
    restart?: string,
  ): void;
  isOfType(value: Value, type: string): boolean;
}

type Lost = 'dangling' | 'misfit' | null;

/** Performs the effects of an action in order. `cause` is the number of its `performed` record. */
export function performEffects(
  world: EffectHost,
  instance: Instance,
  action: WiringAction,
  args: Values,
  times: number,
  cause: number,
): void {
  action.effects!.forEach((effect, i) => {
    const lost = perform(world, instance, action, effect, i, args, times, cause);
    if (lost)
      world.write({ kind: 'lost', at: instance.address, effect: nameOf(effect), reason: lost }, cause);
  });
}

function perform(
  world: EffectHost,
  instance: Instance,
  action: WiringAction,
  effect: WiringEffect,
  place: number,
  args: Values,
  times: number,
  cause: number,
): Lost {
  const { when } = effect;
  if (when) {
    let value: Value | undefined;
    if ('property' in when) {
      value = instance.get(when.property);
      if (value === undefined) return 'dangling';
    } else {
      if (!declares(action, when.param)) return 'dangling';
      value = own(args, when.param);
    }
    if (!holds(when.is, value)) return null;
  }
  if (effect.everyNth !== undefined && times % effect.everyNth !== 0) return null;
  if ('set' in effect || 'toggle' in effect || 'add' in effect) {
    return change(world, instance, action, effect, args, cause);
  }
  if ('raise' in effect) {
    const event = instance.table.eventAt.get(effect.raise);
    if (event === undefined) return 'dangling';
    const payload = evaluate(effect.payload, args, instance);
    const restart = effect.restart ? `${action.name}/${place}` : undefined;
    world.queueRaise(instance, event, payload, cause, effect.delay ?? 0, restart);
  } else if ('spawn' in effect) {
    const asset = world.assetAt.get(effect.spawn);
    if (asset === undefined || world.wiring.assets[asset].kind === 'scene') return 'dangling';
    if (!instance.gone) world.life.spawn(instance, effect.spawn, effect.properties ?? {}, cause);
  } else if ('destroy' in effect) world.life.destroy(instance, cause);
  else world.life.setAsleep(instance, 'sleep' in effect, cause);
  return null;
}

function declares(action: WiringAction, param: string): boolean {
  return action.params?.some((p) => p.name === param) === true;
}

type ValueEffect = Extract<WiringEffect, { set: string } | { toggle: string } | { add: string }>;

function change(
  world: EffectHost,
  instance: Instance,
  action: WiringAction,
  effect: ValueEffect,
  args: Values,
  cause: number,
): Lost {
  const property = 'set' in effect ? effect.set : 'toggle' in effect ? effect.toggle : effect.add;
  const { decl, propertyAt } = instance.table;
  const at = propertyAt.get(property);
  if (at === undefined) return 'dangling';
  const from = instance.get(property)!;
  const { type } = decl.properties[at];
  let to: Value;
  if ('toggle' in effect) {
    if (type !== 'bool' || typeof from !== 'boolean') return 'misfit';
    to = !from;
  } else {
    const operand = 'set' in effect ? effect.to : effect.by;
    let given: Value | undefined;
    if (isLiteral(operand)) given = operand;
    else if (!declares(action, operand.param)) return 'dangling';
    else given = own(args, operand.param);
    if (given === undefined || !world.isOfType(given, type)) return 'misfit';
    if ('set' in effect) to = given;
    else if (typeof from !== 'number' || typeof given !== 'number') return 'misfit';
    else to = from + given;
  }
  if (sameValue(from, to)) return null;
  instance.put(at, to);
  world.write({ kind: 'change', at: instance.address, property, from, to }, cause);
  decl.events.forEach((event, e) => {
    if (event.cause !== 'change' || event.property !== at) return;
    const carries = event.payload?.some((f) => f.name === property) === true;
    world.queueRaise(instance, e, carries ? { [property]: to } : NONE, cause, 0);
  });
  return null;
}

/** `raise:event`, `destroy`, `set:property`, … */
function nameOf(effect: WiringEffect): string {
  for (const verb of ['raise', 'set', 'toggle', 'add', 'spawn'] as const) {
    const name = own(effect as unknown as Record<string, string>, verb);
    if (name !== undefined) return `${verb}:${name}`;
  }
  return 'wake' in effect ? 'wake' : 'sleep' in effect ? 'sleep' : 'destroy';
}
