import type { Expansion } from '../expand/expansion.js';
import type { Delivery as Rights, EventDecl, Peer, Roles } from '../project/types.js';

/** Which peer keeps and which one steers each instance; numbers of peers, −1 for none. */
export interface Holding {
  peers: readonly Peer[];
  authority: Int32Array;
  operator: Int32Array;
}

/** Placements name their peers or take those around them; a scene has the first peer; a stand-in its spawner's. */
export function holdings(x: Expansion): Holding {
  const peers = x.index.project.peers ?? [];
  const at = new Map(peers.map((p, i) => [p.name, i]));
  const authority = new Int32Array(x.count).fill(-1);
  const operator = new Int32Array(x.count).fill(-1);
  // A spawner may stand after its stand-in's siblings, but never after what it spawns: stand-ins follow in order of discovery.
  for (let i = 0; i < x.count; i++) {
    const parent = x.parent[i];
    if (parent < 0) {
      authority[i] = peers.length > 0 ? 0 : -1;
      continue;
    }
    const from = x.isStandIn(i) ? spawnerOf(x, i) : parent;
    const placement = x.placementOf(i);
    authority[i] = placement?.authority === undefined ? authority[from] : (at.get(placement.authority) ?? -1);
    operator[i] = placement?.operator === undefined ? operator[from] : (at.get(placement.operator) ?? -1);
  }
  return { peers, authority, operator };
}

function spawnerOf(x: Expansion, standIn: number): number {
  const holder = x.parent[standIn];
  const own = x.assetOf(holder).placements.length;
  const { spawner } = x.standIns[x.asset[holder]][x.slot[standIn] - own];
  if (!spawner) return holder;
  let at = x.children[x.childBase[holder] + own + spawner.standIn];
  for (const slot of spawner.slots) at = x.children[x.childBase[at] + slot];
  return at;
}

/** Whether a peer has one of the roles towards an instance. */
function admits(h: Holding, roles: Roles, peer: number, instance: number): boolean {
  if (roles === 'everyone') return true;
  const has = (role: 'authority' | 'operator' | 'others'): boolean => {
    if (role === 'authority') return h.authority[instance] === peer;
    if (role === 'operator') return h.operator[instance] === peer;
    return h.authority[instance] !== peer && h.operator[instance] !== peer;
  };
  return 'only' in roles ? roles.only.some(has) : !roles.except.some(has);
}

/** Peers that may raise an event of that instance. */
export function senders(h: Holding, event: EventDecl, instance: number): number[] {
  const send: NonNullable<Rights['send']> = event.delivery?.send ?? 'everyone';
  if (send === 'nobody') return [];
  return [...h.peers.keys()].filter((p) => admits(h, send, p, instance));
}
/** Peers that receive it when that peer raises it. */
export function audience(h: Holding, event: EventDecl, instance: number, raiser: number): number[] {
  const to: NonNullable<Rights['to']> = event.delivery?.to ?? 'everyone';
  if (to === 'raiser') return [raiser];
  return [...h.peers.keys()].filter((p) => admits(h, to, p, instance));
}
