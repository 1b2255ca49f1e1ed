import { canonicalJson } from '../project/canonical.js';
import type { Arg, Value } from '../project/types.js';
import { isLiteral } from '../project/value.js';
import { own, put } from '../util/own.js';
import type { NamedArg } from './named-args.js';
import type { InstanceState } from './instance-state.js';
import type { Population } from './population.js';
import type { Values } from './records.js';

/**
 * Arguments as values: fields of what is carried, and current values and the address of one instance. One that has no
 * value is left out.
 */
export function evaluate(
  args: readonly NamedArg[],
  carried: Values,
  reader: InstanceState,
  population: Population,
): Values {
  if (args.length === 0) return NONE;
  const out: Record<string, Value> = {};
  for (const { name, arg } of args) {
    const value = valueOf(arg, carried, reader, population);
    if (value !== undefined) put(out, name, value);
  }
  return out;
}
export const NONE: Values = {};

function valueOf(
  arg: Arg,
  carried: Values,
  reader: InstanceState,
  population: Population,
): Value | undefined {
  if (isLiteral(arg)) return arg;
  if ('sender' in arg) return population.address(reader);
  const value = 'payload' in arg ? own(carried, arg.payload) : population.current(reader, arg.property);
  if (arg.as !== 'string' || value === undefined) return value;
  return typeof value === 'string' ? value : canonicalJson(value);
}
