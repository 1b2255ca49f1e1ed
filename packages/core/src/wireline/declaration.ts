import type { Action, Cause, EventDecl, Property, Type, Value } from '../project/types.js';
import { literalType } from '../project/arg-types.js';
import { printDelivery, takeDelivery } from './delivery.js';
import { guessCause } from './guess.js';
import {
  attempt,
  effectsAt,
  printEffect,
  printFields,
  printType,
  fieldsAt,
  literalAt,
  nameAt,
  secondsAt,
  typeAt,
} from './declared.js';
import type { ParsedText } from './declared.js';
import { printName } from './names.js';
import { printValue } from './print.js';
import { Scanner, WireLineFault } from './scanner.js';

/** One line that declares something of a scene, prefab or widget. */
export type Declaration =
  | { kind: 'event'; value: EventDecl }
  | { kind: 'action'; value: Action }
  | { kind: 'property'; value: Property };
export type DeclarationKind = Declaration['kind'];

const CAUSE_WORDS = {
  'area-enter': 'entered',
  'area-leave': 'left',
  use: 'used',
  press: 'pressed',
  start: 'started',
  destroyed: 'destroyed',
  raised: 'raised',
} as const;
const CAUSE_OF: ReadonlyMap<string, keyof typeof CAUSE_WORDS> = new Map(
  Object.entries(CAUSE_WORDS).map(([type, word]) => [word, type as keyof typeof CAUSE_WORDS]),
);
/** How an event can come about, as a line says it. */
export const CAUSE_PHRASES: readonly string[] = [...CAUSE_OF.keys(), 'every 1s', 'from code'];

/**
 * `event onRung(speed: float) when used by Boat, #loud at most 3 in pause`,
 * `action open(force: float): set isOpen to true; raise onOpened`, `property isOpen: bool = false key`. A note and
 * delivery over the network are read but not printed; `mergeDeclaration` keeps them.
 */
export function printDeclaration(declaration: Declaration): string {
  return printed(declaration, false);
}
/** The same with its note and with how it is delivered: the line that says all of it. */
export function printWholeDeclaration(declaration: Declaration): string {
  return printed(declaration, true);
}
function printed(declaration: Declaration, isWhole: boolean): string {
  switch (declaration.kind) {
    case 'event':
      return `event ${printEvent(declaration.value, isWhole)}`;
    case 'action':
      return `action ${printAction(declaration.value, isWhole)}`;
    case 'property':
      return `property ${printProperty(declaration.value)}`;
  }
}
function printNote(note: string): string {
  return `note ${JSON.stringify(note)}`;
}
function printEvent(e: EventDecl, isWhole: boolean): string {
  const words = [printName(e.name) + (e.payload ? `(${printFields(e.payload)})` : ''), printCause(e.cause)];
  if (e.limit !== undefined) words.push(`at most ${e.limit}`);
  if (e.raisedInPause) words.push('in pause');
  if (e.expectsListener) words.push('expects a listener');
  if (isWhole) {
    const delivery = printDelivery(e.delivery ?? {});
    if (delivery !== '') words.push(delivery);
    if (e.note !== undefined) words.push(printNote(e.note));
  }
  return words.join(' ');
}
/** `when used by Boat`, `every 2s`, `from code`. */
export function printCause(cause: Cause): string {
  if (cause.type === 'timer') return `every ${cause.every}s`;
  if (cause.type === 'code') return 'from code';
  if (cause.type === 'change') return `when ${printName(cause.property)} changes`;
  const who = 'activators' in cause ? cause.activators : undefined;
  const by = who ? ` by ${who.map(activator).join(', ') || 'nobody'}` : '';
  return `when ${CAUSE_WORDS[cause.type]}${by}`;
}
function activator(name: string): string {
  return name.startsWith('#') ? `#${printName(name.slice(1))}` : printName(name);
}
function printAction(a: Action, isWhole: boolean): string {
  const head = [printName(a.name) + (a.params ? `(${printFields(a.params)})` : '')];
  if (a.whileAsleep) head.push('while asleep');
  if (a.expectsSender) head.push('expects a sender');
  if (isWhole && a.note !== undefined) head.push(printNote(a.note));
  const effects = a.effects ?? [];
  return effects.length === 0 ? head.join(' ') : `${head.join(' ')}: ${effects.map(printEffect).join('; ')}`;
}
function printProperty(p: Property): string {
  return [
    `${printName(p.name)}: ${printType(p.type)} = ${typeof p.default === 'string' ? JSON.stringify(p.default) : printValue(p.default)}`,
    ...(p.isKey ? ['key'] : []),
    ...(p.unique ? ['unique'] : []),
  ].join(' ');
}

/** What a type begins with where a line does not say. */
export type DefaultOf = (type: Type) => Value;

/**
 * Reads such a line. The first word may be left out where the rest says what it is: a name such as `onRung` is an event,
 * one with a type or a value is a property, anything else an action. A cause that is left out is guessed from the name, a
 * type from the value. A word that is the name of a parameter must say whether it means that or a text.
 */
export function parseDeclaration(text: string, defaultOf: DefaultOf): ParsedText<Declaration> {
  const s = new Scanner(text);
  try {
    const kind = kindAt(s);
    const declaration: Declaration =
      kind === 'event'
        ? { kind, value: eventAt(s) }
        : kind === 'action'
          ? { kind, value: actionAt(s) }
          : { kind, value: propertyAt(s, defaultOf) };
    if (!s.ended) s.fail('the end');
    return { value: declaration };
  } catch (error) {
    if (error instanceof WireLineFault) return { fault: error };
    throw error;
  }
}

function kindAt(s: Scanner): DeclarationKind {
  // A thing that is itself called "event" is followed by what belongs to it.
  for (const kind of ['event', 'action', 'property'] as const) {
    if (s.take(new RegExp(`^${kind}(?=\\s+["A-Za-z_])`)) !== null) return kind;
  }
  const rest = s.line.trim();
  if (/^on[A-Z]/.test(rest)) return 'event';
  return /^(?:[\w-]+|"[^"]*")\s*(?:=|:\s*(?:(?:bool|int|float|string|vec2|instance)(?![\w-])|(?:enum|key):))/.test(
    rest,
  )
    ? 'property'
    : 'action';
}

function eventAt(s: Scanner): EventDecl {
  const name = nameAt(s, 'the name of the event');
  const payload = s.take(/^\(/) === null ? undefined : fieldsAt(s);
  if (payload && s.take(/^\)/) === null) s.fail('")"');
  const event: EventDecl = {
    name,
    cause: causeAt(s) ?? guessCause(name),
    ...(payload && payload.length > 0 ? { payload } : {}),
  };
  for (;;) {
    if (s.take(/^at\s+most(?![\w-])/) !== null) {
      event.limit = Number(s.take(/^\d+(?![\w.])/) ?? s.fail('a whole number'));
    } else if (s.take(/^in\s+pause(?![\w-])/) !== null) event.raisedInPause = true;
    else if (s.take(/^expects\s+a\s+listener(?![\w-])/) !== null) event.expectsListener = true;
    else if (s.sees(DELIVERY)) takeDelivery(s, (event.delivery ??= {}));
    else if (s.takeWord('note')) event.note = noteAt(s);
    else return event;
  }
}
const DELIVERY = /^(?:raised\s+by|received\s+by|unreliable|reliable)(?![\w-])/;
function noteAt(s: Scanner): string {
  s.skipBlanks();
  return s.takeQuoted() ?? s.fail('text in quotes');
}
/** Reads what brings an event about; "when" may be left out. */
export function parseCause(text: string): ParsedText<Cause> {
  return attempt(/^\s*(?:when|every|from)\s/.test(text) ? text : `when ${text}`, (s) => causeAt(s)!);
}
function causeAt(s: Scanner): Cause | null {
  if (s.takeWord('every')) return { type: 'timer', every: secondsAt(s) };
  if (s.take(/^from\s+code(?![\w-])/) !== null) return { type: 'code' };
  if (!s.takeWord('when')) return null;
  s.skipBlanks();
  const changes = /^("(?:[^"\\]|\\.)*"|[A-Za-z_][\w-]*)\s+changes(?![\w-])/.exec(s.line.slice(s.at));
  if (changes) {
    const property = nameAt(s, 'a property');
    s.takeWord('changes');
    return { type: 'change', property };
  }
  const before = s.at;
  const word = s.take(/^[a-z]+(?![\w-])/);
  const type = word === null ? undefined : CAUSE_OF.get(word);
  if (type === undefined) {
    s.backTo(before);
    return s.fail(`${[...CAUSE_OF.keys()].join(', ')}, or a property and "changes"`);
  }
  if ((type !== 'area-enter' && type !== 'area-leave' && type !== 'use') || !s.takeWord('by'))
    return { type };
  if (s.takeWord('nobody')) return { type, activators: [] };
  const activators: string[] = [];
  do {
    const tag = s.take(/^#/) === null ? '' : '#';
    activators.push(tag + nameAt(s, 'a prefab, or # and a tag'));
  } while (s.take(/^,/) !== null);
  return { type, activators };
}

function actionAt(s: Scanner): Action {
  const action: Action = { name: nameAt(s, 'the name of the action') };
  if (s.take(/^\(/) !== null) {
    const params = fieldsAt(s);
    if (s.take(/^\)/) === null) s.fail('")"');
    if (params.length > 0) action.params = params;
  }
  for (;;) {
    if (s.take(/^while\s+asleep(?![\w-])/) !== null) action.whileAsleep = true;
    else if (s.take(/^expects\s+a\s+sender(?![\w-])/) !== null) action.expectsSender = true;
    else if (s.takeWord('note')) action.note = noteAt(s);
    else break;
  }
  if (s.take(/^:/) === null) return action;
  const effects = effectsAt(s, new Set((action.params ?? []).map((p) => p.name)));
  return effects.length > 0 ? { ...action, effects } : action;
}

function propertyAt(s: Scanner, defaultOf: DefaultOf): Property {
  const name = nameAt(s, 'the name of the property');
  const declared = s.take(/^:/) === null ? null : typeAt(s);
  const given = s.take(/^=/) === null ? undefined : literalAt(s);
  if (declared === null && given === undefined) s.fail('":" and a type, or "=" and a value');
  const type = declared ?? literalType(given!);
  const property: Property = { name, type, default: given ?? defaultOf(type) };
  for (;;) {
    if (s.takeWord('key')) property.isKey = true;
    else if (s.takeWord('unique')) property.unique = true;
    else return property;
  }
}

/**
 * What a line says put in the place of what is declared: a note and delivery that it does not speak of stay. Of another kind it stands
 * alone.
 */
export function mergeDeclaration(old: Declaration, next: Declaration): Declaration {
  if (old.kind !== next.kind) return next;
  const said = SAID[old.kind];
  const isKept = (part: string): boolean => !said.has(part) && !Object.hasOwn(next.value, part);
  const kept = Object.fromEntries(Object.entries(old.value).filter(([part]) => isKept(part)));
  return { kind: next.kind, value: { ...next.value, ...kept } } as Declaration;
}
const SAID: Record<DeclarationKind, ReadonlySet<string>> = {
  event: new Set(['name', 'cause', 'payload', 'limit', 'raisedInPause', 'expectsListener']),
  action: new Set(['name', 'params', 'whileAsleep', 'expectsSender', 'effects']),
  property: new Set(['name', 'type', 'default', 'isKey', 'unique']),
};
