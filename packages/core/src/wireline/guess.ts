import type { Cause } from '../project/types.js';

/** Words in names of events, and what brings such events about. The first that fits counts. */
const CAUSES: [RegExp, Cause][] = [
  [/press|click|tap/i, { type: 'press' }],
  [/step|enter|arriv/i, { type: 'area-enter' }],
  [/left|leave|exit/i, { type: 'area-leave' }],
  [/Used?$|Use[A-Z]|Rung|Pull|Talk|Interact/, { type: 'use' }],
  [/open|clos|shut/i, { type: 'raised' }],
  [/start|load|spawn|begin|began/i, { type: 'start' }],
  [/destroy|gone|died|dead/i, { type: 'destroyed' }],
  [/tick|timer|interval|beat/i, { type: 'timer', every: 1 }],
];
/** What an event is brought about by, from its name: what it says happened; otherwise the game's code. */
export function guessCause(name: string): Cause {
  return CAUSES.find(([pattern]) => pattern.test(name))?.[1] ?? { type: 'code' };
}
