import './plan-view.css';
import '../../parts/impact-panel.css';
import { freePlace, type AssetIndex, type ChangeSet, type Finding } from '@oquel/core';
import type { ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { FaultLine } from '../../parts/fault-line.js';
import { ImpactPanel } from '../../parts/impact-panel.js';
import { PlanDrawing } from '../../parts/plan/plan-drawing.js';
import { WidgetBoard } from '../../parts/plan/widget-board.js';
import { WalkLink, walkHref } from '../../parts/walk-link.js';
import { rippleHref, startAt } from '../../parts/ripple-href.js';
import { ScopeSelect } from '../../parts/scope-select.js';
import { useContextMenu } from '../../parts/ui/context-menu.js';
import { useSplit } from '../../parts/ui/splitter.js';
import { useScope } from '../../parts/use-scope.js';
import { TabRow } from '../../parts/ui/tab-row.js';
import { useSession, useSessionState } from '../../session/session-context.js';
import { ChosenBar } from './chosen-bar.js';
import { Deeds } from './deeds.js';
import { DefinitionPane } from './definition/definition-pane.js';
import { DropPanel } from './drop-panel.js';
import { FirstScene } from './first-scene.js';
import { Hint } from './hints.js';
import { NewAsset } from './new-asset.js';
import { Palette } from './palette.js';
import { PartsList } from './parts-list.js';
import { usePlanAddress, type PlanAddress } from './plan-address.js';
import { RemovalPanel } from './removal-panel.js';
import { dropping as droppingOf, reordering } from './stage-edits.js';
import { stageChoices } from './stage-menu.js';
import { PictureMenu } from '../../parts/picture/picture-menu.js';
import { LayersMenu } from './layers-menu.js';
import { useBackdrop } from './use-backdrop.js';
import { useStage } from './use-stage.js';

const SNAPS = [0, 0.1, 0.5, 1, 5];

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
  const {
    project,
    index,
    audit,
    asset,
    setAsset,
    snap,
    setSnap,
    isScene,
    palette,
    region,
    pending,
    setPending,
    round,
    setRound,
    dropping,
    setDropping,
    leaving,
    setLeaving,
    chosen,
    placements,
    boxes,
    things,
    findings,
    looks,
    counts,
    turn,
    edit,
    renameAsset,
    duplicateAsset,
    openThing,
    place,
    choose,
    take,
    leave,
    duplicate,
    placementEdits,
    go,
    declares,
    setDeclares,
    rename,
    named,
  } = stage;

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
  const parts = (
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
        <Told findings={chosen.flatMap((id) => findings.get(id) ?? [])} base={`/p/${project}/audit`} />
        {placements.length > 0 ? (
          <ChosenBar
            deeds={
              <Deeds
                wire={
                  chosen.length === 1 ? `/p/${project}/wire?scope=${owner.decl.id}&at=${chosen[0]}` : null
                }
                onOpen={placements.length === 1 ? () => go({ scope: placements[0].asset }) : null}
                onDuplicate={duplicate}
                onTurn={chosen.length > 0 && turn(90).changes.length > 0 ? () => edit(turn(90)) : null}
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

  return (
    <div className={`stage ${isScene ? '' : 'defining'}`} onContextMenu={onContextMenu}>
      {menu}
      {stage.linesPanel}
      <div className="stagebar">
        <h1 className="unseen">Plan of {owner.decl.id}</h1>
        <ScopeSelect index={index} value={owner.decl.id} onChange={(scope) => go({ scope })} />
        <NewAsset
          index={index}
          onCreate={(changeSet, id) => {
            if (edit(changeSet)) go({ scope: id });
          }}
        />
        <div className="palette">
          <Palette
            ref={palette}
            index={index}
            owner={owner}
            value={asset?.id ?? null}
            onChoose={setAsset}
            onPlace={(placeable) => place(placeable, freePlace(owner))}
          />
        </div>
        {asset !== null && (
          <span>
            Click where <b>{asset.id}</b> goes; <kbd>Esc</kbd> ends
          </span>
        )}
        <label>
          Snap{' '}
          <select className="line" value={snap} onChange={(e) => setSnap(Number(e.target.value))}>
            {SNAPS.map((s) => (
              <option key={s} value={s}>
                {s === 0 ? 'off' : `${s} m`}
              </option>
            ))}
          </select>
        </label>
        <label>
          Wiring{' '}
          <select
            className="line"
            value={stage.wiring}
            onChange={(e) => stage.setWiring(e.target.value as typeof stage.wiring)}
          >
            <option value="chosen">selected</option>
            <option value="all">all</option>
            <option value="none">off</option>
          </select>
        </label>
        <LayersMenu
          layers={stage.layers}
          onLayer={stage.setLayer}
          onBackdrop={isScene ? backdrop.open : undefined}
        />
        <PictureMenu
          title={`Plan of ${owner.decl.id}`}
          drawing={() => document.querySelector<SVGSVGElement>('.stage .plan-pane > .pushed > svg')}
        />
        <span className="grow" />
        <WalkLink href={walkHref(`/p/${project}`, owner, chosen.length === 1 ? chosen[0] : '')} />
      </div>
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
                looks={looks}
                placementEdits={placementEdits}
                onPick={choose}
                onOpen={openThing}
              />
            ) : (
              <PlanDrawing
                label={`Plan of ${owner.decl.id}`}
                size={owner.decl.size}
                things={things}
                looks={looks}
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

function Told({ findings, base }: { findings: readonly Finding[]; base: string }): ReactNode {
  if (findings.length === 0) return null;
  const [first] = findings;
  return (
    <div className="told">
      <FaultLine
        key={first.fingerprint}
        finding={first}
        href={base}
        more={findings.length > 1 ? ` (and ${findings.length - 1} more)` : ''}
      />
    </div>
  );
}
