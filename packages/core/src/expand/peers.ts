import type { Expansion } from './expansion.js';
import type { Delivery as Rights, EventDecl, Peer, Role, Roles } from '../project/types.js';

/** Which peer keeps and which one steers each instance; numbers of names, −1 for none. */
export interface PeerRoles {
  peers: readonly Peer[];
  /** Names of the peers, then names that placements give and that no peer has. */
  names: readonly string[];
  authority: Int32Array;
  operator: Int32Array;
}

/** Placements name their peers or take those around them; a scene has the first peer; a stand-in its spawner's. */
export function peerRolesOf(x: Expansion): PeerRoles {
  const peers = x.index.project.peers ?? [];
  const names = peers.map((p) => p.name);
  const at = new Map(names.map((name, i) => [name, i]));
  const number = (name: string): number => {
    let n = at.get(name);
    if (n === undefined) at.set(name, (n = names.push(name) - 1));
    return n;
  };
  const authority = new Int32Array(x.count).fill(-1);
  const operator = new Int32Array(x.count).fill(-1);
  // A spawner may stand after its stand-in's siblings, but never after what it spawns: stand-ins follow in order of discovery.
  for (let i = 0; i < x.count; i++) {
    const parent = x.parent[i];
    if (x.isFree(i)) continue;
    if (parent < 0) {
      authority[i] = peers.length > 0 ? 0 : -1;
      continue;
    }
    const from = x.isStandIn(i) ? spawnerOf(x, i) : parent;
    const placement = x.placementOf(i);
    authority[i] = placement?.authority === undefined ? authority[from] : number(placement.authority);
    operator[i] = placement?.operator === undefined ? operator[from] : number(placement.operator);
  }
  return { peers, names, authority, operator };
}

function spawnerOf(x: Expansion, standIn: number): number {
  const holder = x.parent[standIn];
  const own = x.assetOf(holder).placements.length;
  const { spawner } = x.standIns.of(x.asset[holder])[x.slot[standIn] - own];
  if (!spawner) return holder;
  let at = x.children[x.childBase[holder] + own + spawner.standIn];
  for (const slot of spawner.slots) at = x.children[x.childBase[at] + slot];
  return at;
}

/** The two peers of one instance, as numbers of {@link PeerRoles.names}. */
export interface InstancePeers {
  authority: number;
  operator: number;
}

/** Whether a peer has one of the roles towards an instance. */
export function admits(roles: Roles, peer: number, of: InstancePeers): boolean {
  if (roles === 'everyone') return true;
  const has = (role: Role): boolean => {
    if (role === 'authority') return of.authority === peer;
    if (role === 'operator') return of.operator === peer;
    return of.authority !== peer && of.operator !== peer;
  };
  return 'only' in roles ? roles.only.some(has) : !roles.except.some(has);
}
/** Whether a peer may raise an event of an instance. */
export function maySend(event: EventDecl, peer: number, of: InstancePeers): boolean {
  const send: NonNullable<Rights['send']> = event.delivery?.send ?? 'everyone';
  return send !== 'nobody' && admits(send, peer, of);
}
/** Peers, of so many, that receive an event of an instance when that peer raises it. */
export function receivers(event: EventDecl, peers: number, raiser: number, of: InstancePeers): number[] {
  const to: NonNullable<Rights['to']> = event.delivery?.to ?? 'everyone';
  if (to === 'raiser') return [raiser];
  return [...Array(peers).keys()].filter((p) => admits(to, p, of));
}

/** Peers that may raise an event of that instance. */
export function senders(h: PeerRoles, event: EventDecl, instance: number): number[] {
  const of = peersOf(h, instance);
  return [...h.peers.keys()].filter((p) => maySend(event, p, of));
}
/** Peers that receive it when that peer raises it. */
export function audience(h: PeerRoles, event: EventDecl, instance: number, raiser: number): number[] {
  return receivers(event, h.peers.length, raiser, peersOf(h, instance));
}
function peersOf(h: PeerRoles, instance: number): InstancePeers {
  return { authority: h.authority[instance], operator: h.operator[instance] };
}
