import {
  completeConditions,
  conditionFaults,
  parseConditions,
  printConditions,
  type ArgScope,
  type AssetIndex,
  type Binding,
  type ChangeSet,
  type Condition,
  type ProjectIndex,
} from '@oquel/core';
import { useCallback, type ReactNode } from 'react';
import { LineInput, type ReadLine } from '../../parts/ui/line-input.js';
import { asksText } from './draft.js';

/** What a binding asks before it acts, typed under its sentence; an empty line asks nothing. */
export function AskLine({
  index,
  owner,
  binding,
  scope,
  onEdit,
  onClose,
}: {
  index: ProjectIndex;
  owner: AssetIndex;
  binding: Binding;
  scope: ArgScope;
  onEdit: (changeSet: ChangeSet) => boolean;
  onClose: () => void;
}): ReactNode {
  const complete = useCallback(
    (beginning: string) => completeConditions(index, owner, binding, beginning),
    [index, owner, binding],
  );
  const read = useCallback((text: string): ReadLine<Condition[]> => parseConditions(text), []);
  const warn = useCallback(
    (conditions: Condition[]) => conditionFaults(scope, conditions).map((f) => f.words),
    [scope],
  );
  const take = (conditions: Condition[]): boolean => {
    const { if: _before, ...rest } = binding;
    const item: Binding = conditions.length > 0 ? { ...rest, if: conditions } : rest;
    const asset = owner.decl.id;
    const label =
      conditions.length > 0
        ? `${asset}: ${binding.id} acts only ${printConditions(conditions)}`
        : `${asset}: ${binding.id} no longer has a condition`;
    const change = { op: 'replace', list: 'bindings', asset, id: binding.id, item } as const;
    if (!onEdit({ label, changes: [change] })) return false;
    onClose();
    return true;
  };
  return (
    <div className="asking">
      <LineInput
        label="if"
        placeholder="$speed > 12 and @calm = false"
        hint="$ names payload fields, @ the sender’s properties. Enter on an empty line removes the condition."
        text={asksText(binding.if)}
        autoFocus
        complete={complete}
        read={read}
        warn={warn}
        does={(asked) =>
          asked.length > 0
            ? `Enter sets the condition: ${printConditions(asked)}`
            : 'Enter removes the condition'
        }
        onTake={take}
        onLeave={onClose}
      />
    </div>
  );
}
