import type { AssetIndex } from '@oquel/core';
import type { ReactNode } from 'react';
import { ImpactPanel } from '../../parts/impact-panel.js';
import { DropPanel } from './drop-panel.js';
import { RemovalPanel } from './removal-panel.js';
import { dropping as droppingOf } from './stage-edits.js';
import type { Stage } from './use-stage.js';

/** What is asked before something is done that other things depend on. */
export function StagePanels({ owner, stage }: { owner: AssetIndex; stage: Stage }): ReactNode {
  const { index, pending, setPending, round, setRound, dropping, setDropping, leaving, setLeaving } = stage;
  const { edit, go, take } = stage;
  return (
    <>
      {pending && (
        <ImpactPanel
          uses={pending.uses}
          changeSet={pending.changeSet}
          onDo={() => {
            if (edit(pending.changeSet)) pending.then?.();
            setPending(null);
          }}
          onKeep={() => {
            setPending(null);
            setRound(round + 1);
          }}
        />
      )}
      {dropping && (
        <DropPanel
          index={index}
          asset={owner}
          onDrop={() => {
            const next = index.assets.find((a) => a !== owner);
            if (edit(droppingOf(owner)) && next) go({ scope: next.decl.id });
            setDropping(false);
          }}
          onKeep={() => setDropping(false)}
        />
      )}
      {leaving && (
        <RemovalPanel
          index={index}
          owner={owner}
          ids={leaving}
          onRemove={(wired) => take(leaving, wired)}
          onClose={() => setLeaving(null)}
        />
      )}
    </>
  );
}
