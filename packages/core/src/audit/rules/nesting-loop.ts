import type { AuditContext } from '../context.js';
import { below } from '../names.js';
import { defineRule } from '../rule.js';

export const nestingLoop = defineRule<'loop'>({
  meta: {
    name: 'nesting-loop',
    severity: 'error',
    group: 'targets',
    ignoresBindings: true,
    what: 'An asset contains itself, directly or through others.',
    why: 'It can never be expanded fully; the placement that repeats it is left out.',
    cure: 'Remove one of the placements in the loop, or spawn it instead.',
  },
  messages: { loop: '{asset} contains itself: {way}' },
  check(ctx, report) {
    const { x, index } = ctx;
    const { of, cyclic } = containing(ctx);
    const where = new Map<number, string[]>();
    for (const s of x.stopped) {
      const placed = x.assetOf(s.parent).placed[s.placement];
      const list = where.get(of[placed]) ?? [];
      list.push(below(x, s.parent, x.assetOf(s.parent).placements[s.placement].id));
      where.set(of[placed], list);
    }
    for (const component of cyclic) {
      const members = index.assets.filter((a) => of[a.at] === component);
      const [first] = members;
      const names = members.map((a) => a.decl.id);
      report({
        subject: { asset: first.decl.id },
        occurrences: where.get(component) ?? [],
        message: 'loop',
        data: { asset: first.decl.id, way: [...names, first.decl.id].join(' > ') },
        evidence: () => ({ kind: 'names', wanted: first.decl.id, known: names }),
      });
    }
  },
});

/** Components of "contains" among assets, by mutual reach; those with a cycle. Explicit stack. */
function containing(ctx: AuditContext): { of: Int32Array; cyclic: Set<number> } {
  const { assets } = ctx.index;
  const of = new Int32Array(assets.length).fill(-1);
  const low = new Int32Array(assets.length);
  const order = new Int32Array(assets.length);
  const next = new Int32Array(assets.length);
  const open: number[] = [];
  const cyclic = new Set<number>();
  let time = 0;
  let count = 0;
  for (const root of assets) {
    if (order[root.at] !== 0) continue;
    const path = [root.at];
    order[root.at] = low[root.at] = ++time;
    open.push(root.at);
    while (path.length > 0) {
      const at = path[path.length - 1];
      const { placed } = assets[at];
      if (next[at] < placed.length) {
        const to = placed[next[at]++];
        if (to < 0) continue;
        if (order[to] === 0) {
          order[to] = low[to] = ++time;
          path.push(to);
          open.push(to);
        } else if (of[to] < 0) low[at] = Math.min(low[at], order[to]);
        continue;
      }
      path.pop();
      if (path.length > 0) low[path[path.length - 1]] = Math.min(low[path[path.length - 1]], low[at]);
      if (low[at] !== order[at]) continue;
      const members = open.splice(open.lastIndexOf(at));
      for (const m of members) of[m] = count;
      if (members.length > 1 || placed.includes(at)) cyclic.add(count);
      count++;
    }
  }
  return { of, cyclic };
}
