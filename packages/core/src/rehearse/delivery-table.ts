import { maySend, receivers, type InstancePeers, type PeerRoles } from '../expand/peers.js';
import { BIND, edgeKind, expandedBinding, HEAR, PUBLISH, type Graph } from '../graph/graph.js';
import type { EventDecl, Role, Roles } from '../project/types.js';

/** One receiver of an event, and the peers at which it acts. */
export interface DeliveryAct {
  owner: string;
  binding: string;
  at: string;
  action: string;
  /** Peers that are reported and hold the receiver. */
  peers: string[];
}
export interface DeliveryRow {
  peer: string;
  /** What the peer is towards the instance. */
  roles: Role[];
  may: boolean;
  /** Peers that receive it when this one raises it. */
  audience: string[];
  acts: DeliveryAct[];
  /** The same in words. */
  answer: string;
}
export interface DeliveryTable {
  at: string;
  event: string;
  authority: string;
  operator: string | null;
  reliable: boolean;
  rows: DeliveryRow[];
}

/**
 * For an event of an instance, by raising peer: whether it may raise it, who receives it, and where its receivers act,
 * as the wiring stands. Null without peers. Cost: the receivers of the event, for each peer.
 */
export function deliveryTable(
  g: Graph,
  peerRoles: PeerRoles,
  instance: number,
  event: number,
): DeliveryTable | null {
  const { peers, names } = peerRoles;
  if (peers.length === 0) return null;
  const { x } = g;
  const decl = x.assetOf(instance).events[event];
  const of: InstancePeers = {
    authority: peerRoles.authority[instance],
    operator: peerRoles.operator[instance],
  };
  const reached = receiversOf(g, x.nodeBase[instance] + event);
  const rows = peers.map(({ name: peer }, p): DeliveryRow => {
    const may = maySend(decl, p, of);
    const audience = may ? receivers(decl, peers.length, p, of) : [];
    const acts = may ? reached.map((r) => actOf(g, peerRoles, r, audience)) : [];
    const row = { peer, roles: rolesOf(p, of), may, audience: audience.map((t) => names[t]), acts };
    return { ...row, answer: answerOf(row, decl, of, peerRoles) };
  });
  return {
    at: x.address(instance),
    event: decl.name,
    authority: names[of.authority],
    operator: names[of.operator] ?? null,
    reliable: decl.delivery?.reliable !== false,
    rows,
  };
}

interface Reached {
  binding: number;
  node: number;
}
/** Actions that an event delivers to, directly or through channels, in running order. */
function receiversOf(g: Graph, node: number): Reached[] {
  const found: Reached[] = [];
  for (let e = g.first[node]; e < g.end[node]; e++) {
    if (edgeKind(g, e) === BIND) found.push({ binding: g.ref[e], node: g.head[e] });
    if (edgeKind(g, e) !== PUBLISH) continue;
    const channel = g.head[e];
    for (let h = g.first[channel]; h < g.end[channel]; h++) {
      if (edgeKind(g, h) === HEAR) found.push({ binding: g.ref[h], node: g.head[h] });
    }
  }
  return found;
}
function actOf(
  g: Graph,
  peerRoles: PeerRoles,
  { binding, node }: Reached,
  audience: readonly number[],
): DeliveryAct {
  const { x } = g;
  const instance = g.instanceOf[node];
  const asset = x.assetOf(instance);
  const keeper = peerRoles.authority[instance];
  const holds = audience.filter((p) => asset.decl.existsOn !== 'authority' || p === keeper);
  const { owner, binding: decl } = expandedBinding(x, binding);
  return {
    owner: x.address(owner),
    binding: decl.id,
    at: x.address(instance),
    action: asset.actions[node - x.nodeBase[instance] - asset.events.length].name,
    peers: holds.map((p) => peerRoles.names[p]),
  };
}

function rolesOf(peer: number, of: InstancePeers): Role[] {
  const roles: Role[] = [];
  if (of.authority === peer) roles.push('authority');
  if (of.operator === peer) roles.push('operator');
  return roles.length > 0 ? roles : ['others'];
}

function answerOf(
  { peer, may, audience, acts }: Omit<DeliveryRow, 'answer'>,
  event: EventDecl,
  of: InstancePeers,
  peerRoles: PeerRoles,
): string {
  if (!may) return `${peer} may not raise this: ${sendersText(event, of, peerRoles)}`;
  if (audience.length === 0) return `${peer} may raise this, but no peer receives it`;
  const deaf = acts.filter((a) => a.peers.length === 0).map((a) => `${a.at} ${a.action}`);
  const heard = `${peer} may raise this; ${list(audience)} ${audience.length === 1 ? 'receives' : 'receive'} it`;
  if (deaf.length === 0) return heard;
  return `${heard}, but none of them performs ${list(deaf.slice(0, 3))}${deaf.length > 3 ? ` and ${deaf.length - 3} more` : ''}`;
}

function sendersText(event: EventDecl, of: InstancePeers, peerRoles: PeerRoles): string {
  const send = event.delivery?.send;
  if (send === 'nobody') return 'no peer is allowed to';
  const may = peerRoles.peers.filter((_, p) => maySend(event, p, of)).map((p) => p.name);
  const said = send === undefined || send === 'everyone' ? 'everyone may' : rolesText(send);
  return may.length === 0 ? `${said}, and no peer has that role` : `${said}, which is ${list(may)}`;
}
function rolesText(roles: Exclude<Roles, 'everyone'>): string {
  const named = (r: readonly Role[]): string => list(r.map((role) => ROLE_TEXT[role]));
  return 'only' in roles ? `only ${named(roles.only)}` : `everyone except ${named(roles.except)}`;
}
const ROLE_TEXT: Record<Role, string> = {
  authority: 'the authority',
  operator: 'the operator',
  others: 'the others',
};
function list(items: readonly string[]): string {
  if (items.length < 2) return items[0] ?? 'no peer';
  return `${items.slice(0, -1).join(', ')} and ${items.at(-1)}`;
}
