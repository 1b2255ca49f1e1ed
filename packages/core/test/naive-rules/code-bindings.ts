import type { NaiveEdge, NaiveInstance } from '../naive.js';
import { push, type NaiveReading, type SecondReading } from './reading.js';

function release(r: NaiveReading): void {
  const users = new Map<string, NaiveEdge[]>();
  for (const e of r.edges) {
    if (!e.by) continue;
    push(users, e.kind === 'hear' ? e.tail.slice(0, e.tail.indexOf('[')) : e.tail, e);
  }
  for (const list of users.values()) {
    for (const e of list) {
      const { binding, owner } = e.by!;
      if (binding.origin !== 'code' || binding.release !== 'all') continue;
      if (list.every((o) => r.rank(o) === r.rank(e))) continue;
      r.report('over-release', '', { asset: owner.asset.id, binding: binding.id }, [owner.address]);
    }
  }
}

/** The thing and what stands around it, up to a stand-in or the scene. */
function around(i: NaiveInstance): NaiveInstance[] {
  const isStandIn = i.parent && [...i.parent.standIns.values()].includes(i);
  return i.parent && !isStandIn ? [i, ...around(i.parent)] : [i];
}

function leaky(r: NaiveReading): void {
  for (const { owner, binding, ends } of r.copies()) {
    if (!ends || binding.origin !== 'code' || binding.release !== 'never') continue;
    const subject = { asset: owner.asset.id, binding: binding.id };
    const sender = ends.event ? ends.reader : null;
    const stays = (i: NaiveInstance): boolean => r.sceneOf(i).asset.persistent === true;
    if (!stays(owner) && (!sender || stays(sender)))
      r.report('leaky-binding', 'outlives', subject, [owner.address]);
    const ended = around(owner).filter((i) =>
      (i.asset.actions ?? []).some((a) => (a.effects ?? []).some((e) => 'destroy' in e)),
    );
    if (ended.some((i) => !sender || !around(sender).includes(i)))
      r.report('leaky-binding', 'destroyed', subject, [owner.address]);
  }
}

function startRace(r: NaiveReading): void {
  const starts = [...r.events()].filter(({ i, e }) => e.cause.type === 'start' && !i.spawned);
  const atOnce = (e: NaiveEdge): boolean =>
    !((e.by?.binding.delay ?? 0) > 0) && !(e.effect && 'delay' in e.effect && (e.effect.delay ?? 0) > 0);
  /** What one start leads to, by one edge or more. */
  const led = (node: string): Set<string> => {
    const seen = new Set<string>();
    const next = [node];
    for (let at = next.pop(); at !== undefined; at = next.pop()) {
      for (const e of r.out.get(at) ?? []) {
        if (!atOnce(e) || seen.has(e.head)) continue;
        seen.add(e.head);
        next.push(e.head);
      }
    }
    return seen;
  };
  const reached = new Set(starts.flatMap(({ node }) => [...led(node)]));
  for (const e of r.edges) {
    if (e.by?.binding.origin !== 'code' || e.by.binding.bind !== 'start') continue;
    const { owner } = e.by;
    const races = (node: string): boolean =>
      reached.has(node) || starts.some((s) => s.node === node && !around(s.i).includes(owner));
    const tails = e.kind === 'hear' ? (r.into.get(e.tail) ?? []).filter(atOnce).map((p) => p.tail) : [e.tail];
    if (tails.some(races)) r.report('start-race', '', r.bindingRef(e), [owner.address]);
  }
}

export const ofCodeBindings: SecondReading = {
  rules: ['over-release', 'leaky-binding', 'start-race'],
  read(r) {
    release(r);
    leaky(r);
    startRace(r);
  },
};
