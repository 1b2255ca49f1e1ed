import { bindingEnds, type BindingEnds } from '../edit/binding-ends.js';
import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import { conditionFaults } from '../project/condition.js';
import { argFault, argFaultText, type ArgScope } from '../project/arg-types.js';
import type { Field } from '../project/types.js';
import type { LineBinding } from './parse.js';
import { append } from '../util/append.js';
import { own } from '../util/own.js';

/** What a line can ask: what its event or channel carries, and its sender's properties. Null where that is not there. */
export function askScope(index: ProjectIndex, owner: AssetIndex, line: LineBinding): ArgScope | null {
  const { payload, reader } = bindingEnds(index, owner, line);
  return payload && { index, payload, reader };
}

/**
 * What is wrong with a line in a project, as sentences; none if every name is there and every argument fits. It is what
 * the audit would say of the ends and arguments, said before the binding is made.
 */
export function checkLine(index: ProjectIndex, owner: AssetIndex, line: LineBinding): string[] {
  const ends = bindingEnds(index, owner, line);
  const wrong: string[] = [];
  const { from, to } = line;
  if ('channel' in from) {
    if (!ends.payload) wrong.push(`there is no channel #${from.channel}`);
  } else if (!ends.sender) wrong.push(`nothing here is called ${from.at}`);
  else if (!ends.payload) wrong.push(`${ends.sender.decl.id} has no event ${from.event}`);
  if ('channel' in to) {
    if (!ends.params) wrong.push(`there is no channel #${to.channel}`);
  } else if (!ends.receiver) {
    wrong.push(
      'every' in to ? `there is no prefab or widget ${to.every}` : `nothing here is called ${to.at}`,
    );
  } else if (!ends.params) wrong.push(`${ends.receiver.decl.id} has no action ${to.action}`);
  if (ends.params && ends.payload) append(wrong, argsWrong(index, line, ends, ends.params, ends.payload));
  const scope = askScope(index, owner, line);
  if (line.if && scope) {
    append(
      wrong,
      conditionFaults(scope, line.if).map((f) => f.words),
    );
  }
  return wrong;
}

function argsWrong(
  index: ProjectIndex,
  { args = {} }: LineBinding,
  { reader }: BindingEnds,
  params: readonly Field[],
  payload: readonly Field[],
): string[] {
  const wrong: string[] = [];
  for (const { name, type, optional } of params) {
    if (!Object.hasOwn(args, name)) {
      if (!optional) wrong.push(`${name} (${type}) is missing`);
      continue;
    }
    const fault = argFault({ index, payload, reader }, own(args, name)!, type);
    if (fault) wrong.push(`${name}: ${argFaultText(fault, type)}`);
  }
  const known = new Set(params.map((p) => p.name));
  for (const name of Object.keys(args)) if (!known.has(name)) wrong.push(`there is no parameter ${name}`);
  return wrong;
}
