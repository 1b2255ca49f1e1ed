import { canonicalJson, isLiteral, type Value } from '../../src/index.js';
import { answers } from '../naive-rehearsal/world.js';
import type { NaiveEdge } from '../naive.js';
import type { NaiveReading, SecondReading, Way } from './reading.js';

/** Microseconds that an edge of a binding waits. */
function micros(e: NaiveEdge | null): number {
  return Math.round((e?.by!.binding.delay ?? 0) * 1e6);
}

function duplicates(r: NaiveReading): void {
  const how = ({ last, before }: Way): string =>
    canonicalJson([last.head, last.by!.binding.args ?? {}, micros(before) + micros(last)]);
  const pairUp = (node: string, list: Way[]): void => {
    const sorted = [...list].sort((a, b) => r.rank(a.last) - r.rank(b.last));
    for (const way of sorted) {
      const first = sorted.find(
        (e) => e === way || (how(e) === how(way) && r.canBothServe(node, e, way)),
      )!.last;
      const later = way.last;
      if (r.rank(first) === r.rank(later)) continue;
      r.report('duplicate-binding', '', { bindings: [r.bindingRef(first), r.bindingRef(later)] }, [
        later.by!.owner.address,
      ]);
    }
  };
  for (const { node } of r.events()) {
    pairUp(node, r.deliveriesOf(node));
    const published = (r.out.get(node) ?? []).filter((e) => e.kind === 'publish');
    pairUp(
      node,
      published.map((last) => ({ last, before: null })),
    );
  }
}

/** Events and channels of which every binding asks one field, and none acts for some value of it. */
function unhandled(r: NaiveReading): void {
  const left = (edges: NaiveEdge[], field: string): boolean => {
    const own = [...new Set(edges.map((e) => e.by!.binding))].map((b) =>
      (b.if ?? []).flatMap((c) => ('payload' in c && c.payload === field ? [c.is] : [])),
    );
    if (own.length === 0 || own.some((asked) => asked.length === 0)) return false;
    return [true, false].some((v) => !own.some((asked) => asked.every((is) => answers(is, v))));
  };
  for (const i of r.n.instances) {
    for (const e of i.asset.events ?? []) {
      const edges = r.out.get(`${i.address} ${e.name}`) ?? [];
      for (const f of (e.payload ?? []).filter((f) => f.type === 'bool')) {
        if (left(edges, f.name))
          r.report('unhandled-value', '', { asset: i.asset.id, event: e.name, name: f.name }, [i.address]);
      }
    }
  }
  for (const { name, payload = [] } of r.n.project.channels ?? []) {
    const edges = r.edges.filter(
      (e) => e.kind === 'hear' && 'channel' in e.by!.binding.from && e.by!.binding.from.channel === name,
    );
    for (const f of payload.filter((f) => f.type === 'bool')) {
      if (left(edges, f.name)) r.report('unhandled-value', '', { channel: name, name: f.name }, []);
    }
  }
}

/** For each property of the receiver what the action leaves in it for certain, as a text. */
function leaves(r: NaiveReading, e: NaiveEdge): [string, string][] {
  const { i, a } = r.action(e.head)!;
  const last = new Map<string, Value | undefined>();
  for (const effect of a.effects ?? []) {
    if (!('set' in effect) || effect.when || effect.everyNth !== undefined) continue;
    const { to } = effect;
    const given = typeof to === 'object' && 'param' in to ? (e.by!.binding.args ?? {})[to.param] : to;
    last.set(effect.set, given !== undefined && isLiteral(given) ? given : undefined);
  }
  return [...last].flatMap(([p, v]) => (v === undefined ? [] : [[`${i.address} ${p}`, canonicalJson(v)]]));
}
function opposing(r: NaiveReading): void {
  for (const { node } of r.events()) {
    const ways = r.deliveriesOf(node);
    for (const way of ways) {
      for (const other of ways) {
        if (r.rank(way.last) >= r.rank(other.last)) continue;
        if (micros(way.before) + micros(way.last) !== micros(other.before) + micros(other.last)) continue;
        const opposed = leaves(r, way.last).some(([what, value]) =>
          leaves(r, other.last).some(([w, v]) => w === what && v !== value),
        );
        if (!opposed || !r.canBothServe(node, way, other)) continue;
        const bindings = [r.bindingRef(way.last), r.bindingRef(other.last)];
        r.report('opposing-actions', '', { bindings }, [other.last.by!.owner.address]);
      }
    }
  }
}

export const ofMeetings: SecondReading = {
  rules: ['duplicate-binding', 'opposing-actions', 'unhandled-value'],
  read(r) {
    duplicates(r);
    opposing(r);
    unhandled(r);
  },
};
