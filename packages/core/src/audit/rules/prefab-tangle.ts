import { BIND } from '../../graph/graph.js';
import type { BindingRef } from '../finding.js';
import { bindingRef } from '../names.js';
import { defineRule } from '../rule.js';

interface Ways {
  /** Authored bindings each way, by name; the way is told by whether it goes from the first of the pair. */
  forth: Map<string, BindingRef>;
  back: Map<string, BindingRef>;
  owners: Set<number>;
}

export const prefabTangle = defineRule<'tangle'>({
  meta: {
    name: 'prefab-tangle',
    severity: 'info',
    group: 'shape',
    what: 'Two assets are bound to each other in both directions by many bindings.',
    why: 'Neither can be changed or used without the other.',
    cure: 'Let one of them only raise events, or put a hub or a channel between.',
  },
  messages: { tangle: '{a} and {b} are tied by {count} bindings in both directions; the limit is {limit}' },
  check(ctx, report) {
    const { g, x, limits } = ctx;
    const pairs = new Map<string, Ways>();
    for (let n = 0; n < g.channelBase; n++) {
      const sender = x.assetOf(g.instanceOf[n]);
      if (sender.decl.kind === 'scene') continue;
      for (let e = g.first[n]; e < g.first[n + 1]; e++) {
        if (g.meta[e] >> 2 !== BIND) continue;
        const receiver = x.assetOf(g.instanceOf[g.head[e]]);
        if (receiver === sender || receiver.decl.kind === 'scene') continue;
        const [a, b] = [sender.decl.id, receiver.decl.id].sort();
        const id = `${a}/${b}`;
        let ways = pairs.get(id);
        if (!ways) pairs.set(id, (ways = { forth: new Map(), back: new Map(), owners: new Set() }));
        const ref = bindingRef(x, g.ref[e]);
        (a === sender.decl.id ? ways.forth : ways.back).set(`${ref.asset}/${ref.binding}`, ref);
        ways.owners.add(x.ownerOf(g.ref[e]));
      }
    }
    for (const [id, { forth, back, owners }] of pairs) {
      const count = forth.size + back.size;
      if (forth.size === 0 || back.size === 0 || count <= limits.maxTangle) continue;
      const [a, b] = id.split('/');
      report({
        subject: { assets: [a, b] },
        occurrences: owners,
        message: 'tangle',
        data: { a, b, count, limit: limits.maxTangle },
        evidence: () => ({ kind: 'bindings', bindings: [...forth.values(), ...back.values()].slice(0, 100) }),
      });
    }
  },
});
