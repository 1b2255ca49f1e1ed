import type { Arg } from '../project/types.js';

export interface NamedArg {
  readonly name: string;
  readonly arg: Arg;
}
/** The arguments of a document as a list: to look for their names at each delivery is slow. */
export function namedArgs(args: Readonly<Record<string, Arg>> | undefined): readonly NamedArg[] {
  return Object.entries(args ?? {}).map(([name, arg]) => ({ name, arg }));
}
