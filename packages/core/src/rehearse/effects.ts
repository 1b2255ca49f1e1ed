import { fieldNamed } from '../project/fields.js';
import type { Expansion } from '../expand/expansion.js';
import { holds } from '../project/condition.js';
import { effectName } from '../project/effect-name.js';
import { literalFault } from '../project/arg-types.js';
import type { Action, Effect, Type, Value } from '../project/types.js';
import { isLiteral, sameValue } from '../project/value.js';
import { evaluate, NONE } from './args.js';
import { namedArgs } from './named-args.js';
import { microseconds, type RehearsalModel } from './rehearsal-model.js';
import type { InstanceState } from './instance-state.js';
import type { Population } from './population.js';
import type { RecordBody, Values } from './records.js';
import { own } from '../util/own.js';

/** What effects act upon: the run that they belong to. */
export interface EffectHost {
  readonly x: Expansion;
  readonly model: RehearsalModel;
  readonly population: Population;
  /** Whether anybody reads the records. */
  readonly isWritten: boolean;
  write(body: RecordBody, cause: number): number;
  /** Counts a record that nobody reads. */
  count(cause: number): number;
  queueRaise(
    live: InstanceState,
    event: number,
    payload: Values,
    cause: number,
    delay: number,
    /** It takes the place of what still waits under the same name. */
    restart?: string,
  ): void;
  spawn(by: InstanceState, asset: number, overrides: Readonly<Record<string, Value>>, cause: number): void;
  destroy(live: InstanceState, cause: number): void;
  setAsleep(live: InstanceState, asleep: boolean, cause: number): void;
}

/** Performs the effects of an action in order. `cause` is the number of its `performed` record. */
export function performEffects(
  run: EffectHost,
  live: InstanceState,
  action: Action,
  args: Values,
  times: number,
  cause: number,
): void {
  const { effects = [] } = action;
  for (let i = 0; i < effects.length; i++) {
    const effect = effects[i];
    const lost = perform(run, live, action, i, args, times, cause);
    if (lost) {
      run.write(
        { kind: 'lost', at: run.population.address(live), effect: effectName(effect), reason: lost },
        cause,
      );
    }
  }
}

type Lost = 'dangling' | 'misfit' | null;

function perform(
  run: EffectHost,
  live: InstanceState,
  action: Action,
  at: number,
  args: Values,
  times: number,
  cause: number,
): Lost {
  const { population } = run;
  const effect = action.effects![at];
  if (effect.when) {
    const lets = guardLets(run, live, action, effect.when, args);
    if (lets !== true) return lets === null ? 'dangling' : null;
  }
  if (effect.everyNth !== undefined && times % effect.everyNth !== 0) return null;
  if ('set' in effect || 'toggle' in effect || 'add' in effect) {
    return changeValue(run, live, action, effect, args, cause);
  }
  if ('raise' in effect) {
    const event = run.x.assetOf(live.base).eventAt.get(effect.raise);
    if (event === undefined) return 'dangling';
    const payload = effect.payload ? evaluate(namedArgs(effect.payload), args, live, population) : NONE;
    const restart = effect.restart ? `${action.name}/${at}` : undefined;
    run.queueRaise(live, event, payload, cause, microseconds(effect.delay ?? 0), restart);
    return null;
  }
  if ('spawn' in effect) {
    const asset = run.x.index.assetAt.get(effect.spawn);
    if (asset === undefined || run.x.index.assets[asset].decl.kind === 'scene') return 'dangling';
    if (!live.gone) run.spawn(live, asset, effect.properties ?? {}, cause);
    return null;
  }
  if ('destroy' in effect) run.destroy(live, cause);
  else run.setAsleep(live, 'sleep' in effect, cause);
  return null;
}

/** Whether a `when` holds; null where what it asks is not declared. */
function guardLets(
  run: EffectHost,
  live: InstanceState,
  action: Action,
  when: NonNullable<Effect['when']>,
  args: Values,
): boolean | null {
  if ('property' in when) {
    const value = run.population.current(live, when.property);
    return value === undefined ? null : holds(when.is, value);
  }
  if (!fieldNamed(action.params, when.param)) return null;
  return holds(when.is, own(args, when.param));
}

type ValueEffect = Extract<Effect, { set: string } | { toggle: string } | { add: string }>;

function changeValue(
  run: EffectHost,
  live: InstanceState,
  action: Action,
  effect: ValueEffect,
  args: Values,
  cause: number,
): Lost {
  const name = 'set' in effect ? effect.set : 'toggle' in effect ? effect.toggle : effect.add;
  const asset = run.x.assetOf(live.base);
  const at = asset.propertyAt.get(name);
  if (at === undefined) return 'dangling';
  const given =
    'set' in effect
      ? operand(effect.to, action, args)
      : 'add' in effect
        ? operand(effect.by, action, args)
        : TOGGLED;
  if (typeof given === 'string') return given;
  const from = run.population.currentAt(live, at);
  const to = changed(run, effect, from, given.value, asset.properties[at].type);
  if (to === null) return 'misfit';
  if (sameValue(from, to)) return null;
  run.population.putAt(live, at, to);
  if (!run.isWritten) run.count(cause);
  else run.write({ kind: 'change', at: run.population.address(live), property: name, from, to }, cause);
  const events = run.model.changes[asset.at]?.[at];
  if (!events) return null;
  for (const { event, carries } of events) {
    run.queueRaise(live, event, carries ? { [name]: to } : NONE, cause, 0);
  }
  return null;
}

const TOGGLED = { value: true };
function operand(
  value: Value | { param: string },
  action: Action,
  args: Values,
): { value: Value } | 'dangling' | 'misfit' {
  if (isLiteral(value)) return { value };
  if (!fieldNamed(action.params, value.param)) return 'dangling';
  return Object.hasOwn(args, value.param) ? { value: own(args, value.param)! } : 'misfit';
}

/** The new value; null where the types do not allow it. */
function changed(run: EffectHost, effect: ValueEffect, from: Value, given: Value, type: Type): Value | null {
  if ('toggle' in effect) return type === 'bool' && typeof from === 'boolean' ? !from : null;
  if (!isOfType(run, given, type)) return null;
  if ('set' in effect) return given;
  return typeof from === 'number' && typeof given === 'number' ? from + given : null;
}
/** A name that is not in its key table is still a key by its type; the audit reports it. */
function isOfType(run: EffectHost, value: Value, type: Type): boolean {
  const fault = literalFault(run.x.index, value, type);
  return fault === null || fault.kind === 'table';
}
