import {
  declareFor,
  defaultOfType,
  needKey,
  parseDeclaration,
  type ArgScope,
  type AssetIndex,
  type Binding,
  type ChangeSet,
  type ProjectIndex,
} from '@oquel/core';
import { EVERY } from './candidates.js';
import { checkDraft, guessDraft, wiringOf } from './draft.js';

/**
 * Declares an action, typed as `light(colour: string)`, on all chosen receivers that lack it and wires it, as one edit; or
 * says what is wrong with the text.
 */
export function declaredAction(
  index: ProjectIndex,
  owner: AssetIndex,
  { from, picked }: { from: Binding['from']; picked: readonly string[] },
  scope: ArgScope,
  text: string,
): { changeSet: ChangeSet; ids: string[] } | { fault: string } {
  const line = `action ${text}`;
  const read = parseDeclaration(line, (type) => defaultOfType(index, type));
  if ('fault' in read) return { fault: read.fault.message };
  if (read.value.kind !== 'action') return { fault: 'the name of an action' };
  const { name, params = [] } = read.value.value;
  const receivers = picked.filter((path) => !path.startsWith('#'));
  if (receivers.length === 0) return { fault: 'a channel has no actions' };
  const draft = checkDraft(guessDraft(params, scope), params, scope);
  const { changeSet, ids } = wiringOf(owner, from, receivers, name, draft);
  const bindings = changeSet.changes.flatMap((c) =>
    c.op === 'insert' && c.list === 'bindings' ? [c.item] : [],
  );
  const lacking = declareFor(index, owner, bindings).needs.filter((n) => n.kind === 'action');
  const wishes = new Map(lacking.map((n) => [needKey('action', name, n.of), { text: line }]));
  const { making } = declareFor(index, owner, bindings, wishes);
  const where = receivers.length === 1 ? receivers[0].replace(EVERY, '') : `${receivers.length} receivers`;
  return {
    ids,
    changeSet: {
      label: `${owner.decl.id}: declared ${name} for ${where}, and wired it`,
      changes: [...making, ...changeSet.changes],
    },
  };
}
