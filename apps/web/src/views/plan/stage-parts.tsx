import type { AssetIndex, Finding } from '@oquel/core';
import type { ReactNode } from 'react';
import { FaultLine } from '../../parts/fault-line.js';
import { ChosenBar } from './chosen-bar.js';
import { ThingActions } from './thing-actions.js';
import { PartsList } from './parts-list.js';
import { reordering } from './stage-edits.js';
import type { Stage } from './use-stage.js';

/** What stands on the plan as a list, and what is said of the chosen ones. */
export function StageParts({ owner, stage }: { owner: AssetIndex; stage: Stage }): ReactNode {
  const { project, index, chosen, counts, findings, placements } = stage;
  const { choose, openThing, edit, rotate, go, duplicate, leave, rename, named } = stage;
  return (
    <>
      <PartsList
        index={index}
        owner={owner}
        chosen={chosen}
        counts={counts}
        findings={findings}
        onChoose={choose}
        onOpen={openThing}
        onOrder={(id, at) => edit(reordering(owner, id, at))}
      />
      <div className="chosenpart">
        <FirstFault findings={chosen.flatMap((id) => findings.get(id) ?? [])} base={`/p/${project}/audit`} />
        {placements.length > 0 ? (
          <ChosenBar
            actions={
              <ThingActions
                wire={
                  chosen.length === 1 ? `/p/${project}/wire?scope=${owner.decl.id}&at=${chosen[0]}` : null
                }
                onOpen={placements.length === 1 ? () => go({ scope: placements[0].asset }) : null}
                onDuplicate={duplicate}
                onRotate={chosen.length > 0 && rotate(90).changes.length > 0 ? () => edit(rotate(90)) : null}
                onLeave={leave}
              />
            }
            index={index}
            owner={owner}
            chosen={placements}
            onEdit={edit}
            onRename={rename}
            onNamed={named}
          />
        ) : (
          <p className="soft hint">
            Click a thing to choose it, <kbd>Shift</kbd> adds and draws a frame; drag moves, arrow keys step,{' '}
            <kbd>D</kbd> duplicates, <kbd>Delete</kbd> removes.
          </p>
        )}
      </div>
    </>
  );
}

function FirstFault({ findings, base }: { findings: readonly Finding[]; base: string }): ReactNode {
  if (findings.length === 0) return null;
  const [first] = findings;
  return (
    <div className="stage-notice">
      <FaultLine
        key={first.fingerprint}
        finding={first}
        href={base}
        more={findings.length > 1 ? ` (and ${findings.length - 1} more)` : ''}
      />
    </div>
  );
}
