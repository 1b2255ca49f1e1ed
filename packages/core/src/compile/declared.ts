import type {
  WiringAction,
  WiringAsset,
  WiringBinding,
  WiringEffect,
  WiringEvent,
  WiringFrom,
  WiringTo,
} from '@oquel/runtime';
import type { AssetIndex } from '../project/index-project.js';
import type { Action, Binding, BindingFrom, BindingTo, Effect, EventDecl, Field } from '../project/types.js';
import { hasConditions } from '../project/condition.js';
import { microseconds } from '../rehearse/rehearsal-model.js';

/** An asset as a game needs it: without notes, places and what is off. `bindings` are those that are on, in order. */
export function compiledAsset(asset: AssetIndex, bindings: readonly Binding[]): WiringAsset {
  const { decl } = asset;
  return {
    id: decl.id,
    kind: decl.kind,
    ...(decl.tags && decl.tags.length > 0 ? { tags: decl.tags } : {}),
    ...(decl.persistent ? { persistent: true as const } : {}),
    ...(decl.runsInPause ? { runsInPause: true as const } : {}),
    ...(decl.existsOn === 'authority' ? { onAuthority: true as const } : {}),
    properties: asset.properties.map(({ name, type, default: value }) => ({ name, type, default: value })),
    events: asset.events.map((e) => compiledEvent(asset, e)),
    actions: asset.actions.map(compiledAction),
    bindings: bindings.map(compiledBinding),
  };
}

function fieldsOf(fields: readonly Field[]): { name: string; type: string; optional?: true }[] {
  return fields.map(({ name, type, optional }) => ({
    name,
    type,
    ...(optional ? { optional: true as const } : {}),
  }));
}

function compiledEvent(asset: AssetIndex, { name, cause, payload, ...event }: EventDecl): WiringEvent {
  const out: WiringEvent = { name, cause: cause.type };
  if (payload && payload.length > 0) out.payload = fieldsOf(payload);
  if ('activators' in cause && cause.activators) out.activators = cause.activators;
  if (cause.type === 'timer') out.every = microseconds(cause.every);
  if (cause.type === 'change') out.property = asset.propertyAt.get(cause.property) ?? -1;
  if (event.limit !== undefined) out.limit = event.limit;
  if (event.raisedInPause) out.raisedInPause = true;
  const { send, to, reliable } = event.delivery ?? {};
  if (send !== undefined) out.send = send;
  if (to !== undefined) out.to = to;
  if (reliable !== undefined) out.reliable = reliable;
  return out;
}

function compiledAction({ name, params, whileAsleep, effects }: Action): WiringAction {
  const out: WiringAction = { name };
  if (params && params.length > 0) out.params = fieldsOf(params);
  if (whileAsleep) out.whileAsleep = true;
  if (effects && effects.length > 0) out.effects = effects.map(compiledEffect);
  return out;
}
function compiledEffect(effect: Effect): WiringEffect {
  if (!('raise' in effect) || effect.delay === undefined) return effect;
  const { delay, ...rest } = effect;
  const micros = microseconds(delay);
  return micros === 0 ? rest : { ...rest, delay: micros };
}

/** With its keys in canonical order: there may be a million, which need not be sorted when they are written then. */
function compiledBinding(b: Binding): WiringBinding {
  const delay = microseconds(b.delay ?? 0);
  const out: Partial<WiringBinding> = {};
  if (b.args && Object.keys(b.args).length > 0) out.args = b.args;
  if (b.origin === 'code' && b.bind === 'start') out.bind = 'start';
  if (delay > 0) out.delay = delay;
  out.from = compiledFrom(b.from);
  out.id = b.id;
  if (hasConditions(b.if)) out.if = b.if;
  if (b.limit !== undefined) out.limit = b.limit;
  if (b.origin === 'code' && (b.release === 'all' || b.release === 'never')) out.release = b.release;
  out.to = compiledTo(b.to);
  return out as WiringBinding;
}
function compiledFrom(from: BindingFrom): WiringFrom {
  return 'at' in from ? { at: from.at, event: from.event } : from;
}
function compiledTo(to: BindingTo): WiringTo {
  return 'at' in to ? { action: to.action, at: to.at } : to;
}
