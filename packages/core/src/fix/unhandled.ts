import { bindingsForValues, insertBehind } from '../edit/for-each-value.js';
import { holds } from '../project/condition.js';
import { valuesOfType } from '../project/type-values.js';
import type { Condition } from '../project/types.js';
import { bindingWords } from '../wireline/binding-words.js';
import { bindingEnds } from '../edit/binding-ends.js';
import { find, type ProposeFixes } from './proposal.js';

/** A binding for each value that nothing handles, like the last one that asks that field. */
export const fixUnhandled: ProposeFixes = (index, { subject, evidence }) => {
  if (evidence.kind !== 'bindings' || !('name' in subject)) return [];
  const found = evidence.bindings.flatMap((b) => find(index, b.asset, b.binding) ?? []);
  const last = found.at(-1);
  if (!last) return [];
  const { owner, binding } = last;
  const asks = (c: Condition): boolean => 'payload' in c && c.payload === subject.name;
  const type = bindingEnds(index, owner, binding).payload?.find((f) => f.name === subject.name)?.type;
  if (type === undefined) return [];
  const handled = (v: string | boolean): boolean =>
    found.some(({ binding: b }) => (b.if ?? []).filter(asks).every((c) => holds(c.is, v)));
  const values = valuesOfType(index, type).filter((v) => !handled(v));
  const what =
    values.length === 1 ? `a binding for ${String(values[0])}` : `bindings for ${values.join(', ')}`;
  return [
    {
      label: `Add ${what}, like: ${bindingWords(binding)}`,
      changes: insertBehind(owner, binding, bindingsForValues(owner, binding, subject.name, values)),
    },
  ];
};
