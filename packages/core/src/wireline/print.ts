import type { Arg, Binding, KeyExpr, SelectionTarget } from '../project/types.js';
import { isLiteral } from '../project/value.js';
import { printConditions } from './conditions.js';
import { printName, printPathDot } from './names.js';
import { printValue } from './print-value.js';

export { printValue };

/** One part of a sentence, so that it can be drawn with its own look and answered on its own. */
export interface SentencePart {
  role: 'word' | 'sender' | 'event' | 'channel' | 'receiver' | 'action' | 'args' | 'option';
  text: string;
}

/** `when mast-2.onGust do brake-1.engage(force = $speed) once after 0.5s`: what it does, without its id and note. */
export function printBinding(binding: Binding): string {
  return [`when ${printFrom(binding)}`, `do ${printTo(binding)}`, ...printOptions(binding)].join(' ');
}

/** The wire line that reads back as the very same binding, id, note and spelt-out defaults included. */
export function printWireLine(binding: Binding): string {
  const { id, note } = binding;
  const words = [`when ${printFrom(binding)}`, `do ${printTo(binding)}`, ...printAllOptions(binding)];
  words.push(`named ${printName(id)}`);
  if (note !== undefined) words.push(`note ${JSON.stringify(note)}`);
  return words.join(' ');
}
/** The options with those that are spelt out though they are the default. */
export function printAllOptions(binding: Binding): string[] {
  const words = printOptions(binding);
  if (binding.if?.length === 0) words.push('if nothing');
  if (binding.delay === 0) words.push('after 0s');
  if (binding.origin === 'authored') words.push('by hand');
  if (binding.bind === 'load') words.push('bound at load');
  if (binding.release === 'own') words.push('releases own');
  if (binding.enabled === true) words.push('on');
  return words;
}

export function printFrom({ from }: Pick<Binding, 'from'>): string {
  if ('channel' in from) return `#${printName(from.channel)}${keySuffix(from.key)}`;
  return `${printPathDot(from.at)}${printName(from.event)}`;
}

export function printTo({ to, args }: Pick<Binding, 'to' | 'args'>): string {
  const given = args === undefined ? '' : printArgs(args);
  if ('channel' in to) return `#${printName(to.channel)}${keySuffix(to.key)}${given}`;
  if ('at' in to) return `${printPathDot(to.at)}${printName(to.action)}${given}`;
  return `every ${printName(to.every)}${printFilters(to)}.${printName(to.action)}${given}`;
}

function printFilters(to: SelectionTarget): string {
  const filters = selectionFilters(to);
  if (to.within === 'asset') filters.push('in owner');
  if (to.spawned === false) filters.push('without spawned');
  if (to.pick === 'all') filters.push('each');
  return filters.length > 0 ? ` [${filters.join(', ')}]` : '';
}
function selectionFilters(to: SelectionTarget): string[] {
  return [
    ...(to.within === 'project' ? ['in project'] : []),
    ...(to.spawned === true ? ['with spawned'] : []),
    ...(to.pick === 'first' ? ['first only'] : []),
    ...matchText(to.match),
  ];
}
function printArgs(args: Record<string, Arg>): string {
  const given = Object.entries(args).map(([name, arg]) => `${printName(name)} = ${printArg(arg)}`);
  return `(${given.join(', ')})`;
}

/** Who and what, as parts: receiver and action, or channel; then the arguments. */
export function toParts({ to, args }: Binding): SentencePart[] {
  const parts: SentencePart[] = [];
  if ('channel' in to) {
    parts.push({ role: 'channel', text: `#${to.channel}${keySuffix(to.key)}` });
  } else if ('every' in to) {
    const filter = selectionFilters(to);
    const text = `every ${to.every}${filter.length > 0 ? ` [${filter.join(', ')}]` : ''}`;
    parts.push({ role: 'receiver', text }, { role: 'action', text: to.action });
  } else {
    parts.push({ role: 'receiver', text: to.at }, { role: 'action', text: to.action });
  }
  if (args && Object.keys(args).length > 0) parts.push({ role: 'args', text: printArgs(args) });
  return parts;
}

/** `if $speed > 12`, `once`, `at most 3`, `after 0.5s`, `off`, … in that order. */
export function printOptions(b: Binding): string[] {
  const options: string[] = [];
  if (b.if && b.if.length > 0) options.push(printConditions(b.if));
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
  const name = 'payload' in arg ? `$${printName(arg.payload)}` : `@${printName(arg.property)}`;
  return arg.as === 'string' ? `${name} as string` : name;
}
export function printKey(key: KeyExpr): string {
  return isLiteral(key) ? printValue(key) : `@${printName(key.property)}`;
}
function keySuffix(key: KeyExpr | undefined): string {
  return key === undefined ? '' : `[${printKey(key)}]`;
}
function matchText(match: 'all' | { property: string; equals: KeyExpr } | undefined): string[] {
  if (match === undefined) return [];
  return match === 'all' ? ['all'] : [`${printName(match.property)} = ${printKey(match.equals)}`];
}
