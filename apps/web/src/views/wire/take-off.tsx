import type { AssetIndex, Binding, ChangeSet } from '@oquel/core';
import type { ReactNode } from 'react';

/** Takes the chosen placement off the plan, saying first how many bindings name it. */
export function TakeOff({
  owner,
  at,
  onEdit,
}: {
  owner: AssetIndex;
  at: string;
  onEdit: (changeSet: ChangeSet) => void;
}): ReactNode {
  if (!owner.placementAt.has(at)) return null;
  const naming = owner.bindings.filter((b) => names(b.from, at) || names(b.to, at)).length;
  const asset = owner.decl.id;
  return (
    <button
      type="button"
      className="word"
      title={`Removes ${at} from the plan: ${naming === 0 ? 'no binding names it' : 'what names it is left dangling'}`}
      onClick={() =>
        onEdit({
          label: `${asset}: removed ${at} from the plan`,
          changes: [{ op: 'remove', list: 'placements', asset, id: at }],
        })
      }
    >
      Remove ({naming === 1 ? '1 binding names it' : `${naming} bindings name it`})
    </button>
  );
}
function names(end: Binding['from'] | Binding['to'], at: string): boolean {
  return 'at' in end && (end.at === at || end.at.startsWith(`${at}/`));
}
