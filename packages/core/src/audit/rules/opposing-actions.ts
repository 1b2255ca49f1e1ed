import { BIND, bindingOfEdge } from '../../graph/graph.js';
import type { Action, Binding, Value } from '../../project/types.js';
import { isLiteral, valueKey } from '../../project/value.js';
import type { EventQuestion } from '../blocks.js';
import type { AuditContext } from '../context.js';
import { eachDelivery } from '../deliveries.js';
import { bindingRef } from '../names.js';
import { defineRule } from '../rule.js';

interface Setting {
  binding: number;
  value: string;
}

export const opposingActions = defineRule<'opposing'>({
  meta: {
    name: 'opposing-actions',
    severity: 'warning',
    group: 'correctness',
    what: 'One event sets the same property to two different values at the same time.',
    why: 'Which one stays is a matter of running order.',
    cure: 'Remove one of the bindings, or delay the one that should win.',
  },
  messages: { opposing: '{event} sets {property} of {at} to {a} and to {b} at once' },
  check(ctx, report) {
    const { x } = ctx;
    const question: EventQuestion = { name: 'opposing-actions', test: opponents(ctx) };
    ctx.eachSuspect(question, (node, instance, e) => {
      for (const [place, settings] of settingsOf(ctx, node)) {
        if (settings.length < 2) continue;
        settings.sort((a, b) => a.binding - b.binding);
        for (let i = 0; i < settings.length; i++) {
          for (let j = i + 1; j < settings.length; j++) {
            const [first, later] = [settings[i], settings[j]];
            if (first.binding === later.binding || first.value === later.value) continue;
            const [a, b] = [bindingRef(x, first.binding), bindingRef(x, later.binding)];
            const [at, property] = place.split('/');
            report({
              subject: { bindings: [a, b] },
              occurrences: [x.ownerOf(later.binding)],
              message: 'opposing',
              data: {
                event: x.assetOf(instance).events[e].name,
                property,
                at: x.address(Number(at)),
                a: first.value,
                b: later.value,
              },
              evidence: () => ({ kind: 'bindings', bindings: [a, b] }),
            });
          }
        }
      }
    });
  },
});

/** Whether an event delivers to two or more actions of one instance that set something; only then it is looked into. */
function opponents({ g, x }: AuditContext): (event: number) => boolean {
  const sets = x.index.assets.map((a) => a.actions.map((act) => (act.effects ?? []).some((e) => 'set' in e)));
  const mark = new Int32Array(x.count);
  let stamp = 0;
  return (event) => {
    stamp++;
    let found = false;
    if (g.first[event + 1] - g.first[event] === 1 && g.meta[g.first[event]] >> 2 === BIND) return false;
    eachDelivery(g, event, ({ action }) => {
      const i = g.instanceOf[action];
      if (found || !sets[x.asset[i]][action - x.nodeBase[i] - x.assetOf(i).events.length]) return;
      if (mark[i] === stamp) found = true;
      mark[i] = stamp;
    });
    return found;
  };
}

/** What an event sets, by instance, property and time; each binding with each value once. */
function settingsOf(ctx: AuditContext, event: number): Map<string, Setting[]> {
  const { g, x } = ctx;
  const places = new Map<string, Setting[]>();
  eachDelivery(g, event, ({ action, edge, published }) => {
    const instance = g.instanceOf[action];
    const asset = x.assetOf(instance);
    const decl = asset.actions[action - x.nodeBase[instance] - asset.events.length];
    if (!(decl.effects ?? []).some((e) => 'set' in e)) return;
    const { binding } = bindingOfEdge(g, edge)!;
    const before = published < 0 ? 0 : micros(bindingOfEdge(g, published)!.binding);
    const delay = before + micros(binding);
    for (const [property, value] of lastSets(decl, binding)) {
      const place = `${instance}/${property}/${delay}`;
      let list = places.get(place);
      if (!list) places.set(place, (list = []));
      const setting = { binding: g.ref[edge], value: valueKey(value) };
      if (!list.some((s) => s.binding === setting.binding && s.value === setting.value)) list.push(setting);
    }
  });
  return places;
}
function micros(binding: Binding): number {
  return Math.round((binding.delay ?? 0) * 1e6);
}

/** For each property the value of the last unconditional set, where it is a literal or a parameter with one. */
function lastSets(action: Action, binding: Binding): Map<string, Value> {
  const sets = new Map<string, Value>();
  for (const effect of action.effects ?? []) {
    if (!('set' in effect) || effect.when !== undefined || effect.everyNth !== undefined) continue;
    const value = isLiteral(effect.to) ? effect.to : binding.args?.[effect.to.param];
    if (value !== undefined && isLiteral(value)) sets.set(effect.set, value);
    else sets.delete(effect.set);
  }
  return sets;
}
