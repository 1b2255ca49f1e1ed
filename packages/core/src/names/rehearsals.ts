import type { Rehearsal, Step, Value } from '../project/types.js';
import type { ChannelKeyTypes } from './bindings.js';
import type { NameContext } from './context.js';
import { each, eachEntry, patched } from './patch.js';

/** Shows every name in a rehearsal. Cost: its steps, and the segments of their addresses. */
export function rehearsalNames(names: NameContext, r: Rehearsal, keyTypes: ChannelKeyTypes): Rehearsal {
  return patched(r, {
    name: names.visit('rehearsal', '', '', r.name),
    ...(r.loadSet !== undefined && { loadSet: names.visit('loadSet', '', '', r.loadSet) }),
    steps: each(r.steps, (step) => stepNames(names, step, keyTypes)),
  });
}

function stepNames(names: NameContext, step: Step, keyTypes: ChannelKeyTypes): Step {
  if ('publish' in step) {
    const { publish } = step;
    const source = { kind: 'channelField', asset: '', of: publish.channel } as const;
    const payload = eachEntry<Value, Record<string, Value>>(publish.payload, (name, value) => [
      names.field(source, name),
      names.value(names.typeOfChannelField(publish.channel, name), value),
    ]);
    return patched(step, {
      publish: patched(publish, {
        channel: names.visit('channel', '', '', publish.channel),
        ...(publish.key !== undefined && { key: names.value(keyTypes.get(publish.channel), publish.key) }),
        ...(payload && { payload }),
      }),
    });
  }
  if ('raise' in step) {
    const { raise } = step;
    const { at, asset } = names.path(null, raise.at);
    const source = asset && ({ kind: 'eventField', asset: asset.decl.id, of: raise.event } as const);
    const payload = eachEntry<Value, Record<string, Value>>(raise.payload, (name, value) => [
      names.field(source, name),
      names.value(names.typeOfEventField(asset, raise.event, name), value),
    ]);
    return patched(step, {
      raise: patched(raise, {
        at,
        event: names.inside(asset, 'event', raise.event),
        ...(payload && { payload }),
        ...(raise.activator !== undefined && { activator: names.asset(raise.activator) }),
        ...(raise.by !== undefined && { by: names.visit('peer', '', '', raise.by) }),
      }),
    });
  }
  if (!('expect' in step)) return step;
  const { expect } = step;
  const { at, asset } = names.path(null, expect.at);
  if ('property' in expect) {
    const property = names.inside(asset, 'property', expect.property);
    const is = names.value(names.typeOfProperty(asset, expect.property), expect.is);
    return patched(step, { expect: patched(expect, { at, property, is }) });
  }
  if ('action' in expect) {
    return patched(step, {
      expect: patched(expect, { at, action: names.inside(asset, 'action', expect.action) }),
    });
  }
  return patched(step, { expect: patched(expect, { at }) });
}
