import { canonicalJson } from '../project/canonical.js';
import type { Arg, Value } from '../project/types.js';
import { isLiteral } from '../project/value.js';
import { own, put } from '../util/own.js';
import type { InstanceState } from './instance-state.js';
import type { Population } from './population.js';
import type { Values } from './records.js';

/**
 * Arguments as values: fields of what is carried, and current values and the address of one instance. One that has no
 * value is left out. `names` are the arguments' own: finding them anew for each delivery is slow.
 */
export function evaluate(
  args: Readonly<Record<string, Arg>> | undefined,
  names: readonly string[],
  carried: Values,
  reader: InstanceState,
  population: Population,
): Values {
  if (!args) return NONE;
  const out: Record<string, Value> = {};
  for (const name of names) {
    const value = valueOf(own(args, name)!, carried, reader, population);
    if (value === undefined) continue;
    put(out, name, value);
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
