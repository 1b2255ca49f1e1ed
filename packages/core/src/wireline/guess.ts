import type { Cause, Type } from '../project/types.js';

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

/** Words in names of fields, and what such fields hold. The first that fits counts. */
const TYPES: [RegExp, Type][] = [
  [/^(is|has|can|was)[A-Z_]|^(on|off|open|lit|shut|asleep|enabled|visible)$/, 'bool'],
  [/name|text|title|label|line|colou?r|kind|mode|message|id$|key|tag|who/i, 'string'],
  [/count|number|index|level|times|steps?$|points|score|lives/i, 'int'],
];
/** What a field holds, from its name, where no value tells; null if the name does not tell either. */
export function guessType(name: string): Type | null {
  return TYPES.find(([pattern]) => pattern.test(name))?.[1] ?? null;
}
