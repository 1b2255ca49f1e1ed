import type { Arg, Binding, KeyExpr, Value } from '../project/types.js';
import { isLiteral } from '../project/value.js';

/** One part of a sentence, so that it can be drawn with its own look and answered on its own. */
export interface SentencePart {
  role: 'word' | 'sender' | 'event' | 'channel' | 'receiver' | 'action' | 'args' | 'option';
  text: string;
}

/** `when mast-2.onGust do brake-1.engage(force = $speed) once after 0.5s` */
export function printBinding(binding: Binding): string {
  return [`when ${printFrom(binding)}`, `do ${printTo(binding)}`, ...printOptions(binding)].join(' ');
}

export function printFrom({ from }: Binding): string {
  if ('channel' in from) return `#${from.channel}${keySuffix(from.key)}`;
  return `${from.at}.${from.event}`;
}

export function printTo(binding: Binding): string {
  return toParts(binding)
    .map((p) => (p.role === 'action' && !('channel' in binding.to) ? `.${p.text}` : p.text))
    .join('');
}

/** Who and what, as parts: receiver and action, or channel; then the arguments. */
export function toParts({ to, args }: Binding): SentencePart[] {
  const parts: SentencePart[] = [];
  if ('channel' in to) {
    parts.push({ role: 'channel', text: `#${to.channel}${keySuffix(to.key)}` });
  } else if ('every' in to) {
    const filter = [
      ...(to.within === 'project' ? ['in project'] : []),
      ...(to.spawned === true ? ['with spawned'] : []),
      ...(to.pick === 'first' ? ['first only'] : []),
      ...matchText(to.match),
    ];
    const text = `every ${to.every}${filter.length > 0 ? ` [${filter.join(', ')}]` : ''}`;
    parts.push({ role: 'receiver', text }, { role: 'action', text: to.action });
  } else {
    parts.push({ role: 'receiver', text: to.at }, { role: 'action', text: to.action });
  }
  const given = Object.entries(args ?? {});
  if (given.length > 0) {
    parts.push({
      role: 'args',
      text: `(${given.map(([name, arg]) => `${name} = ${printArg(arg)}`).join(', ')})`,
    });
  }
  return parts;
}

/** `once`, `at most 3`, `after 0.5s`, `off`, … in that order. */
export function printOptions(b: Binding): string[] {
  const options: string[] = [];
  if (b.limit === 1) options.push('once');
  else if (b.limit !== undefined) options.push(`at most ${b.limit}`);
  if (b.delay !== undefined && b.delay > 0) options.push(`after ${b.delay}s`);
  if (b.origin === 'code') options.push('in code');
  if (b.bind === 'start') options.push('bound at start');
  if (b.release !== undefined && b.release !== 'own') options.push(`releases ${b.release}`);
  if (b.enabled === false) options.push('off');
  return options;
}

/** A literal as JSON; `$speed` of the payload, `@line` of the sender, `sender` the sender itself. */
export function printArg(arg: Arg): string {
  if (isLiteral(arg)) return printValue(arg);
  if ('sender' in arg) return 'sender';
  const name = 'payload' in arg ? `$${arg.payload}` : `@${arg.property}`;
  return arg.as === 'string' ? `${name} as string` : name;
}
export function printValue(value: Value): string {
  return Array.isArray(value) ? `[${value.join(', ')}]` : JSON.stringify(value);
}
function printKey(key: KeyExpr): string {
  return isLiteral(key) ? printValue(key) : `@${key.property}`;
}
function keySuffix(key: KeyExpr | undefined): string {
  return key === undefined ? '' : `[${printKey(key)}]`;
}
function matchText(match: 'all' | { property: string; equals: KeyExpr } | undefined): string[] {
  if (match === undefined) return [];
  return match === 'all' ? ['all'] : [`${match.property} = ${printKey(match.equals)}`];
}
