import type { Role, Roles, WiringEvent } from './format.js';

/** Peers of one instance, as numbers. */
export interface PeersOf {
  authority: number;
  operator: number;
}

/** Whether a peer has one of the roles towards an instance. */
function admits(roles: Roles, peer: number, of: PeersOf): boolean {
  if (roles === 'everyone') return true;
  const has = (role: Role): boolean => {
    if (role === 'authority') return of.authority === peer;
    if (role === 'operator') return of.operator === peer;
    return of.authority !== peer && of.operator !== peer;
  };
  return 'only' in roles ? roles.only.some(has) : !roles.except.some(has);
}
export function maySend({ send = 'everyone' }: WiringEvent, peer: number, of: PeersOf): boolean {
  return send !== 'nobody' && admits(send, peer, of);
}
/** Peers, of so many, that receive an event when that peer raises it. */
export function receivers(
  { to = 'everyone' }: WiringEvent,
  peers: number,
  raiser: number,
  of: PeersOf,
): number[] {
  if (to === 'raiser') return [raiser];
  return [...Array(peers).keys()].filter((p) => admits(to, p, of));
}
