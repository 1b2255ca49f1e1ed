import type { ChangeSet } from '../edit/change.js';
import { conditionFaults, literalsAsked, typeAsked, withLiterals } from '../project/condition.js';
import { literalFault } from '../project/arg-types.js';
import { valuesOfType } from '../project/type-values.js';
import type { Condition } from '../project/types.js';
import { bindingEnds } from '../edit/binding-ends.js';
import { nearest } from '../project/nearest.js';
import { bindingOf, changeBinding, type ProposeFixes } from './proposal.js';

/** A condition that names nothing, or asks for a value that there is not: the nearest that is there, or without it. */
export const fixCondition: ProposeFixes = (index, finding) => {
  const found = bindingOf(index, finding);
  const { subject } = finding;
  if (!found || !('name' in subject)) return [];
  const { owner, binding } = found;
  const { if: asked = [], ...bare } = binding;
  const ends = bindingEnds(index, owner, binding);
  const scope = { index, payload: ends.payload ?? [], reader: ends.reader };
  const put = (conditions: Condition[], label: string): ChangeSet =>
    changeBinding(owner, conditions.length > 0 ? { ...bare, if: conditions } : bare, label);
  const isMeant = (c: Condition): boolean =>
    ('payload' in c ? c.payload : c.property) === subject.name && conditionFaults(scope, [c]).length > 0;
  const fixes = asked.filter(isMeant).flatMap((c): ChangeSet[] => {
    const instead = (next: Condition, label: string): ChangeSet =>
      put(
        asked.map((one) => (one === c ? next : one)),
        label,
      );
    if (finding.class === 'condition') {
      return 'payload' in c
        ? nearest(
            c.payload,
            scope.payload.map((f) => f.name),
          ).map((payload) => instead({ ...c, payload }, `Test ${payload} instead`))
        : nearest(c.property, ends.reader?.propertyAt.keys() ?? []).map((property) =>
            instead({ ...c, property }, `Test ${property} instead`),
          );
    }
    const type = typeAsked(scope, c);
    if (type === null || type === 'unknown') return [];
    const values = valuesOfType(index, type).filter((v) => typeof v === 'string');
    const wrong = literalsAsked(c.is, type).find((v) => literalFault(index, v, type) !== null);
    if (typeof wrong !== 'string') return [];
    return nearest(wrong, values).map((value) =>
      instead({ ...c, is: withLiterals(c.is, (v) => (v === wrong ? value : v)) }, `Test for ${value}`),
    );
  });
  return [
    ...fixes,
    put(
      asked.filter((c) => !isMeant(c)),
      `Remove the condition on ${subject.name}`,
    ),
  ];
};
