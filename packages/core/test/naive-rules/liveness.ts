import type { NaiveInstance } from '../naive.js';
import type { NaiveReading, SecondReading } from './reading.js';

function neverRaisedNodes(r: NaiveReading): Set<string> {
  const never = new Set<string>();
  for (const { i, e, node } of r.bound) {
    const raised = (i.asset.actions ?? []).some((a) =>
      (a.effects ?? []).some((x) => 'raise' in x && x.raise === e.name),
    );
    if (e.cause.type === 'raised' && !raised) never.add(node);
  }
  return never;
}

function neverRaised(r: NaiveReading): void {
  const never = neverRaisedNodes(r);
  for (const { i, e, node } of r.events()) {
    if (never.has(node)) r.report('never-raised', '', { asset: i.asset.id, event: e.name }, [i.address]);
  }
}

function spawnGap(r: NaiveReading): void {
  for (const holder of r.n.instances) {
    for (const s of holder.standIns.values()) {
      for (const inner of r.n.inside(s)) {
        const rest = inner.address.slice(s.address.length);
        for (const e of inner.asset.events ?? []) {
          if (r.isBound(`${inner.address} ${e.name}`)) continue;
          const placed = r.n.instances.some(
            (p) => p.asset === s.asset && !p.spawned && r.isBound(`${p.address}${rest} ${e.name}`),
          );
          if (placed) r.report('spawn-gap', '', { asset: inner.asset.id, event: e.name }, [inner.address]);
        }
      }
    }
  }
}

/** The smallest set, by going round until nothing more is added. */
function liveness(
  r: NaiveReading,
  sleep: boolean,
  extra: Set<string>,
): { live: Set<string>; canBeAwake: (i: NaiveInstance) => boolean } {
  const live = new Set<string>();
  const wakes = (i: NaiveInstance): boolean =>
    (i.asset.actions ?? []).some(
      (a) =>
        a.whileAsleep && (a.effects ?? []).some((x) => 'wake' in x) && live.has(`${i.address} ${a.name}`),
    );
  const around = (i: NaiveInstance): NaiveInstance[] => {
    const standIn = i.parent && [...i.parent.standIns.values()].includes(i);
    return i.parent && !standIn ? [i, ...around(i.parent)] : [i];
  };
  const beginsAsleep = (i: NaiveInstance): boolean => {
    const name = i.address.split(/[/:]/).at(-1);
    return i.parent?.asset.placements?.find((p) => p.id === name)?.asleep === true;
  };
  const canBeAwake = (i: NaiveInstance): boolean => around(i).every((j) => !beginsAsleep(j) || wakes(j));
  const counts = (node: string): boolean => {
    if (!sleep || node.startsWith('#')) return true;
    const i = r.at.get(node.split(' ')[0])!;
    return r.action(node)?.a.whileAsleep === true || canBeAwake(i);
  };
  const spawnedLive = (i: NaiveInstance): boolean => {
    let s = i;
    while (![...(s.parent?.standIns.values() ?? [])].includes(s)) s = s.parent!;
    return r.n.instances.some(
      (j) =>
        r.n.holderOf(j) === s.parent &&
        (j.asset.actions ?? []).some(
          (a) =>
            live.has(`${j.address} ${a.name}`) &&
            (a.effects ?? []).some((x) => 'spawn' in x && x.spawn === s.asset.id),
        ),
    );
  };
  for (let size = -1; size !== live.size;) {
    size = live.size;
    for (const { i, e, node } of r.events()) {
      const outside = e.cause.type !== 'raised' && (!i.spawned || spawnedLive(i));
      if ((outside || extra.has(node)) && counts(node)) live.add(node);
    }
    for (const edge of r.edges) if (live.has(edge.tail) && counts(edge.head)) live.add(edge.head);
  }
  return { live, canBeAwake };
}

function deadWiring(r: NaiveReading): void {
  const { live } = liveness(r, false, neverRaisedNodes(r));
  for (const e of r.edges) {
    const published = (r.into.get(e.tail) ?? []).some((p) => p.kind === 'publish');
    if (!(e.kind === 'bind' || (e.kind === 'hear' && published)) || live.has(e.head)) continue;
    const { i, a } = r.action(e.head)!;
    r.report('dead-wiring', '', { asset: i.asset.id, action: a.name }, [i.address]);
  }
}

function asleep(r: NaiveReading): void {
  const { canBeAwake } = liveness(r, true, new Set());
  const sleeper = (i: NaiveInstance): NaiveInstance => {
    const standIn = i.parent && [...i.parent.standIns.values()].includes(i);
    return i.parent && !standIn && !canBeAwake(i.parent) ? sleeper(i.parent) : i;
  };
  for (const e of r.edges) {
    if (e.kind !== 'bind' && e.kind !== 'hear') continue;
    const { i, a } = r.action(e.head)!;
    if (a.whileAsleep || canBeAwake(i)) continue;
    r.report('asleep-receiver', '', r.placementRef(sleeper(i)), [sleeper(i).address]);
  }
  for (const { i, e } of r.bound) {
    if (e.cause.type === 'raised' || canBeAwake(i)) continue;
    r.report('asleep-sender', '', r.placementRef(sleeper(i)), [sleeper(i).address]);
  }
}

export const ofLiveness: SecondReading = {
  rules: ['never-raised', 'spawn-gap', 'dead-wiring', 'asleep-receiver', 'asleep-sender'],
  read(r) {
    neverRaised(r);
    spawnGap(r);
    deadWiring(r);
    asleep(r);
  },
};
