import type { AssetIndex } from '../project/index-project.js';
import type { Action, Arg, Asset, Effect, EventDecl, Placement, Property, Value } from '../project/types.js';
import { isLiteral } from '../project/value.js';
import { bindingNames, type ChannelKeyTypes } from './bindings.js';
import type { NameContext } from './context.js';
import { each, eachEntry, patched } from './patch.js';

/** Is called before and after the names of each binding. */
export interface BindingWatch {
  enter: () => void;
  binding: () => void;
}

/** Shows every name in an asset. Linear in the asset, but for the paths of its bindings. */
export function assetNames(
  names: NameContext,
  owner: AssetIndex,
  keyTypes: ChannelKeyTypes,
  watch: BindingWatch | null,
): Asset {
  const { decl } = owner;
  return patched(decl, {
    id: names.asset(decl.id),
    ...(decl.tags && { tags: each(decl.tags, (t) => names.visit('tag', '', '', t)) }),
    ...(decl.properties && { properties: each(decl.properties, (p) => propertyNames(names, owner, p)) }),
    ...(decl.events && { events: each(decl.events, (e) => eventNames(names, owner, e)) }),
    ...(decl.actions && { actions: each(decl.actions, (a) => actionNames(names, owner, a)) }),
    ...(decl.placements && { placements: each(decl.placements, (p) => placementNames(names, owner, p)) }),
    ...(decl.bindings && {
      bindings: each(decl.bindings, (b) => {
        watch?.enter();
        const next = bindingNames(names, owner, b, keyTypes);
        watch?.binding();
        return next;
      }),
    }),
  });
}

function propertyNames(names: NameContext, owner: AssetIndex, p: Property): Property {
  return patched(p, {
    name: names.inside(owner, 'property', p.name),
    type: names.type(p.type),
    default: names.value(p.type, p.default),
  });
}

function eventNames(names: NameContext, owner: AssetIndex, e: EventDecl): EventDecl {
  const source = { kind: 'eventField', asset: owner.decl.id, of: e.name } as const;
  const { cause } = e;
  let next = cause;
  if (cause.type === 'change') {
    next = patched(cause, { property: names.inside(owner, 'property', cause.property) });
  } else if ('activators' in cause && cause.activators) {
    const activators = each(cause.activators, (a) =>
      a.startsWith('#') ? `#${names.visit('tag', '', '', a.slice(1))}` : names.asset(a),
    );
    next = patched(cause, { activators });
  }
  return patched(e, {
    name: names.inside(owner, 'event', e.name),
    cause: next,
    ...(e.payload && { payload: names.fields(source, e.payload) }),
  });
}

function actionNames(names: NameContext, owner: AssetIndex, a: Action): Action {
  const source = { kind: 'param', asset: owner.decl.id, of: a.name } as const;
  return patched(a, {
    name: names.inside(owner, 'action', a.name),
    ...(a.params && { params: names.fields(source, a.params) }),
    ...(a.effects && { effects: each(a.effects, (e) => effectNames(names, owner, a.name, e)) }),
  });
}

/** One effect of an action of an asset. */
export function effectNames(names: NameContext, owner: AssetIndex, action: string, effect: Effect): Effect {
  const params = { kind: 'param', asset: owner.decl.id, of: action } as const;
  const property = (name: string): string => names.inside(owner, 'property', name);
  const { when } = effect;
  const guarded = !when
    ? effect
    : patched(effect, {
        when:
          'property' in when
            ? patched(when, {
                property: property(when.property),
                is: names.asked(names.typeOfProperty(owner, when.property), when.is),
              })
            : patched(when, {
                param: names.field(params, when.param),
                is: names.asked(names.typeOfParam(owner, action, when.param), when.is),
              }),
      });
  if ('set' in guarded) {
    const { to } = guarded;
    return patched(guarded, {
      set: property(guarded.set),
      to: isLiteral(to)
        ? names.value(names.typeOfProperty(owner, guarded.set), to)
        : patched(to, { param: names.field(params, to.param) }),
    });
  }
  if ('toggle' in guarded) return patched(guarded, { toggle: property(guarded.toggle) });
  if ('add' in guarded) {
    const { by } = guarded;
    return patched(guarded, {
      add: property(guarded.add),
      by: isLiteral(by) ? by : patched(by, { param: names.field(params, by.param) }),
    });
  }
  if ('raise' in guarded) {
    const source = { kind: 'eventField', asset: owner.decl.id, of: guarded.raise } as const;
    const payload = eachEntry<Arg, Record<string, Arg>>(guarded.payload, (name, arg) => [
      names.field(source, name),
      names.arg(arg, names.typeOfEventField(owner, guarded.raise, name), owner, params),
    ]);
    return patched(guarded, {
      raise: names.inside(owner, 'event', guarded.raise),
      ...(payload && { payload }),
    });
  }
  if (!('spawn' in guarded)) return guarded;
  const spawned = names.assetOf(guarded.spawn);
  const properties = valuesNames(names, spawned, guarded.properties);
  return patched(guarded, { spawn: names.asset(guarded.spawn), ...(properties && { properties }) });
}

function placementNames(names: NameContext, owner: AssetIndex, p: Placement): Placement {
  const placed = names.assetOf(p.asset);
  const peer = (name: string): string => names.visit('peer', '', '', name);
  return patched(p, {
    id: names.inside(owner, 'placement', p.id),
    asset: names.asset(p.asset),
    ...(p.properties && { properties: valuesNames(names, placed, p.properties) }),
    ...(p.inside && { inside: insideNames(names, placed, p.inside) }),
    ...(p.muted && { muted: each(p.muted, (id) => names.inside(placed, 'binding', id)) }),
    ...(p.authority !== undefined && { authority: peer(p.authority) }),
    ...(p.operator !== undefined && { operator: peer(p.operator) }),
  });
}

/** Values of what stands inside a placed asset, by path. */
function insideNames(
  names: NameContext,
  placed: AssetIndex | null,
  inside: NonNullable<Placement['inside']>,
): Placement['inside'] {
  type Values = Record<string, Value>;
  return eachEntry<Values, Record<string, Values>>(inside, (path, values) => {
    const { at, asset } = names.path(placed, path);
    return [at, valuesNames(names, asset, values)!];
  });
}
/** Values of an asset's properties, by their names. */
function valuesNames(
  names: NameContext,
  asset: AssetIndex | null,
  values: Placement['properties'],
): Placement['properties'] {
  return eachEntry<Value, Record<string, Value>>(values, (name, value) => [
    names.inside(asset, 'property', name),
    names.value(names.typeOfProperty(asset, name), value),
  ]);
}
