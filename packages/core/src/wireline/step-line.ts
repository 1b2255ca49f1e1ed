import type { Expectation, Step, Value } from '../project/types.js';
import { attempt, literalAt, nameAt, recordAt, type ParsedText } from './declared.js';
import { printName, printPathDot } from './names.js';
import { printRecord } from './placement.js';
import { printValue } from './print-value.js';
import type { Scanner } from './scanner.js';

/** What happens at a step of a rehearsal, without its time. */
export type StepAction = Step extends infer S ? (S extends { at: number } ? Omit<S, 'at'> : never) : never;

/**
 * A step as a line that reads back as the very same one: `raise quay:bell-1.onRung(force = 3) for quay:keeper by "host"`,
 * `publish #weather["east"](speed = 12)`, `expect quay:gate-1.isOpen = true`, `expect quay:gate-1 did open 2 times`,
 * `expect quay:gate-1 is asleep`, `pause`, `resume`.
 */
export function printStep(step: StepAction): string {
  if ('raise' in step) {
    const { at, event, payload, activator, by } = step.raise;
    const words = [`raise ${printPathDot(at)}${printName(event)}${payload ? printRecord(payload) : ''}`];
    if (activator !== undefined) words.push(`for ${printAddress(activator)}`);
    if (by !== undefined) words.push(`by ${printName(by)}`);
    return words.join(' ');
  }
  if ('publish' in step) {
    const { channel, key, payload } = step.publish;
    const at = key === undefined ? '' : `[${printValue(key)}]`;
    return `publish #${printName(channel)}${at}${payload ? printRecord(payload) : ''}`;
  }
  if ('expect' in step) return `expect ${printExpectation(step.expect)}`;
  return step.pause ? 'pause' : 'resume';
}
function printExpectation(e: Expectation): string {
  if ('property' in e) return `${printPathDot(e.at)}${printName(e.property)} = ${printValue(e.is)}`;
  const at = printAddress(e.at);
  if ('action' in e) return `${at} did ${printName(e.action)} ${e.times} ${e.times === 1 ? 'time' : 'times'}`;
  if ('asleep' in e) return `${at} is ${e.asleep ? 'asleep' : 'awake'}`;
  return `${at} is ${e.gone ? 'gone' : 'there'}`;
}
const PLAIN_ADDRESS = /^[A-Za-z_][A-Za-z0-9_-]*:[A-Za-z0-9_~/.-]+$/;
function printAddress(address: string): string {
  return PLAIN_ADDRESS.test(address) ? address : JSON.stringify(address);
}

/** Reads such a line. Cost: its length. */
export function parseStep(text: string): ParsedText<StepAction> {
  return attempt(text, stepAt);
}
function stepAt(s: Scanner): StepAction {
  if (s.takeWord('pause')) return { pause: true };
  if (s.takeWord('resume')) return { pause: false };
  if (s.takeWord('publish')) return { publish: publishAt(s) };
  if (s.takeWord('expect')) return { expect: expectationAt(s) };
  if (!s.takeWord('raise')) s.fail('raise, publish, expect, pause or resume');
  const { at, name: event } = dottedAt(s, 'an event of a thing, such as quay:bell-1.onRung');
  const raise: Extract<StepAction, { raise: unknown }>['raise'] = { at, event };
  if (s.sees(/^\(/)) raise.payload = recordAt(s, literalAt);
  if (s.takeWord('for')) raise.activator = addressAt(s);
  if (s.takeWord('by')) raise.by = nameAt(s, 'a peer');
  return { raise };
}
function publishAt(s: Scanner): Extract<StepAction, { publish: unknown }>['publish'] {
  if (s.take(/^#/) === null) s.fail('# and a channel');
  const publish: { channel: string; key?: Value; payload?: Record<string, Value> } = {
    channel: nameAt(s, 'a channel'),
  };
  if (s.take(/^\[/) !== null) {
    publish.key = literalAt(s);
    if (s.take(/^\]/) === null) s.fail('"]"');
  }
  if (s.sees(/^\(/)) publish.payload = recordAt(s, literalAt);
  return publish;
}
function expectationAt(s: Scanner): Expectation {
  const from = s.at;
  const at = addressAt(s);
  if (s.takeWord('did')) {
    const action = nameAt(s, 'an action');
    const times = Number(s.take(/^\d+(?![\w.])/) ?? s.fail('how many times'));
    if (!s.takeWord('times') && !s.takeWord('time')) s.fail('"times"');
    return { at, action, times };
  }
  if (s.takeWord('is')) {
    if (s.takeWord('asleep')) return { at, asleep: true };
    if (s.takeWord('awake')) return { at, asleep: false };
    if (s.takeWord('gone')) return { at, gone: true };
    if (s.takeWord('there')) return { at, gone: false };
    s.fail('asleep, awake, gone or there');
  }
  s.backTo(from);
  const { at: owner, name: property } = dottedAt(s, 'a property of a thing, "is" or "did"');
  if (s.take(/^=/) === null) s.fail('"=" and a value, "is" or "did"');
  return { at: owner, property, is: literalAt(s) };
}

function addressAt(s: Scanner): string {
  s.skipBlanks();
  return s.takeQuoted() ?? s.takeHere(/^[^\s("=,]+/) ?? s.fail('an address, such as quay:bell-1');
}
/** An address, a dot and a name; either may stand in quotes. The name is what follows the last dot. */
function dottedAt(s: Scanner, expected: string): { at: string; name: string } {
  s.skipBlanks();
  const quoted = s.takeQuoted();
  if (quoted !== null) {
    if (s.takeHere(/^\./) === null) s.fail('a dot and a name');
    return { at: quoted, name: nameAt(s, 'a name') };
  }
  const from = s.at;
  const token = s.takeHere(/^[^\s("=,]+/) ?? s.fail(expected);
  const dot = token.lastIndexOf('.');
  const at = token.slice(0, dot);
  if (dot > 0 && at.includes(':')) {
    if (dot === token.length - 1) {
      const name = s.takeQuoted();
      if (name !== null) return { at, name };
    } else if (/^[A-Za-z_][A-Za-z0-9_-]*$/.test(token.slice(dot + 1)))
      return { at, name: token.slice(dot + 1) };
  }
  s.backTo(from);
  return s.fail(expected);
}

/** The line with another thing in the place of the one that it speaks of; null where it speaks of none. */
export function stepOfAnother(line: string, address: string): string | null {
  const parsed = parseStep(line);
  if ('fault' in parsed) return null;
  const step = parsed.value;
  if ('raise' in step) return printStep({ raise: { ...step.raise, at: address } });
  if ('expect' in step) return printStep({ expect: { ...step.expect, at: address } });
  return null;
}
