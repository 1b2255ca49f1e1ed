import type { Roles } from '../../src/index.js';
import type { NaiveInstance } from '../naive.js';
import type { NaiveReading, SecondReading } from './reading.js';

function peerOf(r: NaiveReading, i: NaiveInstance, role: 'authority' | 'operator'): string | undefined {
  const peers = r.n.project.peers ?? [];
  if (!i.parent) return role === 'authority' ? peers[0]?.name : undefined;
  const placement = i.parent.asset.placements?.find((p) => p.id === i.address.split(/[/:]/).at(-1));
  const named = placement?.[role];
  if (named !== undefined) return peers.some((p) => p.name === named) ? named : undefined;
  return peerOf(r, i.spawner ?? i.parent, role);
}

function admits(r: NaiveReading, roles: Roles, peer: string, i: NaiveInstance): boolean {
  if (roles === 'everyone') return true;
  const [authority, operator] = [peerOf(r, i, 'authority'), peerOf(r, i, 'operator')];
  const own = [
    ...(peer === authority ? ['authority'] : []),
    ...(peer === operator ? ['operator'] : []),
    ...(peer !== authority && peer !== operator ? ['others'] : []),
  ];
  return 'only' in roles
    ? own.some((r) => roles.only.includes(r as never))
    : !own.some((r) => roles.except.includes(r as never));
}

function deliveries(r: NaiveReading): void {
  const peers = (r.n.project.peers ?? []).map((p) => p.name);
  for (const { i, e, node } of r.bound) {
    const { send = 'everyone', to = 'everyone', reliable = true } = e.delivery ?? {};
    const may = send === 'nobody' ? [] : peers.filter((p) => admits(r, send, p, i));
    const audience = (p: string): string[] =>
      to === 'raiser' ? [p] : peers.filter((q) => admits(r, to, q, i));
    const subject = { asset: i.asset.id, event: e.name };
    if (peers.length > 0 && may.length === 0) r.report('barred-raise', '', subject, [i.address]);
    if (may.length > 0 && may.every((p) => audience(p).length === 0))
      r.report('empty-audience', '', subject, [i.address]);
    for (const { last } of r.deliveriesOf(node)) {
      const { i: receiver, a } = r.action(last.head)!;
      const tell = (rule: string): void =>
        r.report(rule, '', { asset: last.by!.owner.asset.id, binding: last.by!.binding.id }, [
          last.by!.owner.address,
        ]);
      if (e.raisedInPause && !receiver.asset.runsInPause) tell('pause-deaf');
      if (peers.length === 0) continue;
      const changes = (a.effects ?? []).some((x) => !('raise' in x));
      if (!reliable && changes) tell('unreliable-state');
      const keeper = peerOf(r, receiver, 'authority');
      const reported = may.some((p) => keeper !== undefined && audience(p).includes(keeper));
      if (receiver.asset.existsOn === 'authority' && !reported) tell('authority-gap');
    }
  }
}

export const ofNetwork: SecondReading = {
  rules: ['pause-deaf', 'unreliable-state', 'authority-gap', 'barred-raise', 'empty-audience'],
  read: deliveries,
};
