import type { Delivery, Role, Roles } from '../project/types.js';
import { attempt, type ParsedText } from './declared.js';
import type { Scanner } from './scanner.js';

/** `raised by all but operator received by raiser unreliable`: who may raise an event, and whom it reaches. */
export function printDelivery({ send, to, reliable }: Delivery): string {
  const words: string[] = [];
  if (send !== undefined) words.push(`raised by ${printRoles(send)}`);
  if (to !== undefined) words.push(`received by ${printRoles(to)}`);
  if (reliable !== undefined) words.push(reliable ? 'reliable' : 'unreliable');
  return words.join(' ');
}
function printRoles(roles: Roles | 'nobody' | 'raiser'): string {
  if (typeof roles === 'string') return roles;
  const list = 'only' in roles ? roles.only : roles.except;
  return `${'only' in roles ? '' : 'all but '}${list.join(', ') || 'none'}`;
}

export function parseDelivery(text: string): ParsedText<Delivery> {
  return attempt(text, (s) => {
    const delivery: Delivery = {};
    while (takeDelivery(s, delivery));
    return delivery;
  });
}
/** Takes one of its parts, if one stands here. */
export function takeDelivery(s: Scanner, delivery: Delivery): boolean {
  if (s.take(/^raised\s+by(?![\w-])/) !== null) delivery.send = rolesAt(s, 'nobody');
  else if (s.take(/^received\s+by(?![\w-])/) !== null) delivery.to = rolesAt(s, 'raiser');
  else if (s.takeWord('unreliable')) delivery.reliable = false;
  else if (s.takeWord('reliable')) delivery.reliable = true;
  else return false;
  return true;
}
function rolesAt<W extends string>(s: Scanner, special: W): W | Roles {
  if (s.takeWord(special)) return special;
  if (s.takeWord('everyone')) return 'everyone';
  if (s.take(/^all\s+but(?![\w-])/) !== null) return { except: roleListAt(s, special) };
  return { only: roleListAt(s, special) };
}
function roleListAt(s: Scanner, special: string): Role[] {
  if (s.takeWord('none')) return [];
  const roles: Role[] = [];
  do {
    const role = s.take(/^(?:authority|operator|others)(?![\w-])/);
    roles.push((role ?? s.fail(`authority, operator, others, all but, everyone or ${special}`)) as Role);
  } while (s.take(/^,/) !== null);
  return roles;
}
