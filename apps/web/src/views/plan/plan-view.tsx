import './plan-view.css';
import '../../parts/impact-panel.css';
import type { AssetIndex, ChangeSet } from '@oquel/core';
import type { ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { PlanDrawing } from '../../parts/plan/plan-drawing.js';
import { WidgetBoard } from '../../parts/plan/widget-board.js';
import { walkHref } from '../../parts/walk-link.js';
import { rippleHref, startAt } from '../../parts/ripple-href.js';
import { useContextMenu } from '../../parts/ui/context-menu.js';
import { useSplit } from '../../parts/ui/splitter.js';
import { useScope } from '../../parts/use-scope.js';
import { TabRow } from '../../parts/ui/tab-row.js';
import { useSession, useSessionState } from '../../session/session-context.js';
import { DefinitionPane } from './definition/definition-pane.js';
import { FirstScene } from './first-scene.js';
import { Hint } from './hints.js';
import { usePlanAddress, type PlanAddress } from './plan-address.js';
import { StageBar } from './stage-bar.js';
import { stageChoices } from './stage-menu.js';
import { StagePanels } from './stage-panels.js';
import { StageParts } from './stage-parts.js';
import { useBackdrop } from './use-backdrop.js';
import { useStage } from './use-stage.js';

/** Sets the stage: what stands where, drawn to scale, and what each scene, prefab and widget is made of. */
export function PlanView(): ReactNode {
  const session = useSession();
  const { index } = useSessionState();
  const address = usePlanAddress(index);
  const owner = useScope(index, address.scope, address.go);
  const create = (changeSet: ChangeSet, id: string): void => {
    if (session.edit(changeSet)) address.go({ scope: id });
  };
  const [first] = index.assets;
  if (!first) {
    return (
      <div className="middle">
        <FirstScene index={index} onCreate={create} />
      </div>
    );
  }
  return owner && <Stage key={address.scope} owner={owner} address={address} />;
}

function Stage({ owner, address }: { owner: AssetIndex; address: PlanAddress }): ReactNode {
  const stage = useStage(owner, address);
  const { project, index, audit, isScene, palette, region, setPending, round, setDropping } = stage;
  const { chosen, boxes, things, thingStyles, edit, renameAsset, duplicateAsset, openThing, choose } = stage;
  const { placementEdits, declares, setDeclares } = stage;

  const backdrop = useBackdrop(project, owner, edit);
  const navigate = useNavigate();
  const { onContextMenu, menu } = useContextMenu(
    (target): { path: string | null } | null => {
      if (target.closest('.chosenpart, .definition, .undertabs, .head, [role="dialog"]')) return null;
      // The owner itself, by its name in the bar; what else stands there has no menu.
      const inBar = target.closest('.stagebar') !== null;
      if (inBar && !target.matches('[aria-label="Scope"]')) return null;
      const path =
        target.closest<SVGElement>('[data-path]')?.dataset.path ??
        target.closest<HTMLElement>('[data-part]')?.dataset.part;
      const [id] = path?.split('/') ?? [];
      if (id !== undefined && !chosen.includes(id)) choose(id, false);
      return { path: id ?? null };
    },
    ({ path }) =>
      stageChoices(owner, stage, path, {
        wire: (at) => void navigate(`/p/${project}/wire?scope=${owner.decl.id}&at=${at}`),
        ripple: (at) => void navigate(rippleHref(`/p/${project}`, startAt(index, owner, at))),
        walk: (at) => void navigate(walkHref(`/p/${project}`, owner, at)),
        place: () => palette.current?.focus(),
      }),
  );

  const lower = useSplit({
    name: 'plan-under',
    label: 'Height of the list under the plan',
    axis: 'y',
    first: 286,
    min: 120,
    max: 620,
    sign: -1,
  });
  const beside = useSplit({
    name: 'plan-beside',
    label: 'Width of the list beside the plan',
    axis: 'x',
    first: 500,
    min: 320,
    max: 1100,
    sign: -1,
  });
  const side = useSplit({
    name: 'plan-side',
    label: 'Width of the definition',
    axis: 'x',
    first: 620,
    min: 360,
    max: 960,
  });
  const definition = (
    <DefinitionPane
      key={round}
      index={index}
      findings={audit?.findings ?? []}
      asset={owner}
      onEdit={edit}
      onAsk={({ uses, changeSet }) => setPending({ uses, changeSet })}
      onRename={renameAsset}
      onDuplicate={duplicateAsset}
      onDrop={() => setDropping(true)}
    />
  );
  const parts = <StageParts owner={owner} stage={stage} />;

  return (
    <div className={`stage ${isScene ? '' : 'defining'}`} onContextMenu={onContextMenu}>
      {menu}
      {stage.linesPanel}
      <StageBar owner={owner} stage={stage} backdrop={backdrop} />
      <Hint index={index} project={project} owner={owner.decl.id} onPlace={() => palette.current?.focus()} />
      <div
        className="stagebody"
        style={
          isScene
            ? { gridTemplateColumns: `minmax(0, 1fr) auto min(${beside.size}px, 60%)` }
            : { gridTemplateColumns: `${side.size}px auto minmax(0, 1fr)` }
        }
      >
        {!isScene && definition}
        {!isScene && side.divider}
        <div
          className="stagemain"
          style={
            isScene ? { display: 'contents' } : { gridTemplateRows: `minmax(0, 1fr) auto ${lower.size}px` }
          }
        >
          <div className="plan" ref={region} tabIndex={-1}>
            {owner.decl.kind === 'widget' ? (
              <WidgetBoard
                label={`Parts of ${owner.decl.id}`}
                index={index}
                things={boxes}
                thingStyles={thingStyles}
                placementEdits={placementEdits}
                onPick={choose}
                onOpen={openThing}
              />
            ) : (
              <PlanDrawing
                label={`Plan of ${owner.decl.id}`}
                size={owner.decl.size}
                things={things}
                thingStyles={thingStyles}
                own={owner.decl.area}
                backdrop={stage.layers.backdrop ? backdrop.shown : undefined}
                noAreas={!stage.layers.areas}
                way={backdrop.measuring?.points}
                onPick={choose}
                onOpen={openThing}
                placementEdits={
                  backdrop.measuring
                    ? {
                        ...placementEdits,
                        placing: true,
                        onGround: ([x, y]) => backdrop.measuring!.onPoint([x, y]),
                      }
                    : placementEdits
                }
                sights={stage.sights}
              />
            )}
            {backdrop.panel}
            <StagePanels owner={owner} stage={stage} />
          </div>
          {isScene ? beside.divider : lower.divider}
          <div className="under">
            {isScene && (
              <TabRow
                label="Beside the drawing"
                className="undertabs"
                tabs={[
                  { value: 'things', text: 'Things' },
                  { value: 'declared', text: 'Events, actions, properties' },
                ]}
                value={declares ? 'declared' : 'things'}
                onChoose={(tab) => setDeclares(tab === 'declared')}
              />
            )}
            {isScene && declares ? definition : parts}
          </div>
        </div>
      </div>
    </div>
  );
}
