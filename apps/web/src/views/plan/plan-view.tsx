import './plan-view.css';
import '../../parts/impact-panel.css';
import {
  bindingsNaming,
  countUses,
  freePlace,
  reachableFrom,
  usesOfName,
  type AssetIndex,
  type ChangeSet,
  type Finding,
  type NameUses,
} from '@oquel/core';
import { useCallback, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { FaultLine } from '../../parts/fault-line.js';
import { ImpactPanel } from '../../parts/impact-panel.js';
import { PlanDrawing, type Staging } from '../../parts/plan/plan-drawing.js';
import { toThing } from '../../parts/plan/thing.js';
import { WidgetBoard } from '../../parts/plan/widget-board.js';
import { ScopeSelect } from '../../parts/scope-select.js';
import { useSplit } from '../../parts/ui/splitter.js';
import { useScope } from '../../parts/use-scope.js';
import { useSession, useSessionState } from '../../session/session-context.js';
import { coveredSenders, useCoverage } from '../../session/use-coverage.js';
import { ChosenBar } from './chosen-bar.js';
import { Deeds } from './deeds.js';
import { DefinitionPane } from './definition/definition-pane.js';
import { DropPanel } from './drop-panel.js';
import { FirstScene } from './first-scene.js';
import { Hint } from './hints.js';
import { NewAsset } from './new-asset.js';
import { Palette, type Placeable } from './palette.js';
import { PartsList } from './parts-list.js';
import { findingsByPlacement, looksOf, namingCounts } from './placement-looks.js';
import { usePlanAddress, type PlanAddress } from './plan-address.js';
import { RemovalPanel } from './removal-panel.js';
import {
  copying,
  dropping as droppingOf,
  duplicating,
  moving,
  placing,
  placingNew,
  removing,
  renaming,
  renamingAsset,
  reordering,
  setting,
  turning,
} from './stage-edits.js';
import { useStageKeys } from './stage-keys.js';

const SNAPS = [0, 0.1, 0.5, 1, 5];

/** A change of something that is used elsewhere, looked at before it is done. */
interface Pending {
  uses: NameUses;
  changeSet: ChangeSet;
  /** Done once it is made. */
  then?: () => void;
}

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
  const session = useSession();
  const { id: project, index, audit } = useSessionState();
  const { go } = address;
  const [asset, setAsset] = useState<Placeable | null>(null);
  const [snap, setSnap] = useState(0.5);
  const isScene = owner.decl.kind === 'scene';
  const [declares, setDeclares] = useState(false);
  const palette = useRef<HTMLInputElement>(null);
  const region = useRef<HTMLDivElement>(null);
  const [pending, setPending] = useState<Pending | null>(null);
  const [round, setRound] = useState(0);
  const [dropping, setDropping] = useState(false);
  const [leaving, setLeaving] = useState<readonly string[] | null>(null);
  // The address follows what is chosen; it would be too slow to lead.
  const [wanted, setChosen] = useState(address.chosen);
  const told = address.chosen.join();
  useEffect(() => {
    if (wanted.join() !== told) go({ chosen: wanted });
  }, [wanted, told, go]);
  const chosen = useMemo(() => wanted.filter((id) => owner.placementAt.has(id)), [wanted, owner]);
  const placements = chosen.map((id) => owner.placements[owner.placementAt.get(id)!]);
  const boxes = useMemo(() => reachableFrom(index, owner).map(toThing), [index, owner]);
  const things = useMemo(() => boxes.filter((t) => t.depth > 0), [boxes]);
  const findings = useMemo(() => findingsByPlacement(audit?.findings ?? [], owner), [audit, owner]);
  const coverage = useCoverage();
  const covered = useMemo(() => coveredSenders(owner, coverage), [owner, coverage]);
  const looks = useMemo(
    () => looksOf(index, owner, chosen, findings, covered),
    [index, owner, chosen, findings, covered],
  );
  const counts = useMemo(() => namingCounts(owner), [owner]);

  const turn = (degrees: number): ChangeSet => turning(index, owner, chosen, degrees);
  const edit = useCallback(
    (changeSet: ChangeSet) => changeSet.changes.length > 0 && session.edit(changeSet),
    [session],
  );
  const ask = (uses: NameUses, changeSet: ChangeSet, then?: () => void): void => {
    if (countUses(uses) > 0) setPending({ uses, changeSet, then });
    else if (edit(changeSet)) then?.();
  };
  const renameAsset = (to: string): void => {
    const { id } = owner.decl;
    const uses = usesOfName(index, { kind: 'asset', asset: '', of: '', name: id });
    ask(uses, renamingAsset(index, audit?.findings ?? [], id, to), () => go({ scope: to }));
  };
  const duplicateAsset = (): void => {
    const { changeSet, id } = copying(index, owner);
    if (edit(changeSet)) go({ scope: id });
  };
  const openThing = (path: string): void => {
    const [id] = path.split('/');
    const slot = owner.placementAt.get(id);
    if (slot !== undefined && owner.placed[slot] >= 0) go({ scope: owner.placements[slot].asset });
  };
  const place = ({ id, kind, isNew }: Placeable, at: readonly [number, number]): void => {
    const placed = isNew ? placingNew(index, owner, kind, id, at) : placing(owner, id, at);
    if (edit(placed.changeSet)) setChosen([placed.id]);
  };
  const choose = useCallback((id: string, add: boolean) => {
    const [own] = id.split('/');
    setChosen((old) => {
      if (!add) return [own];
      return old.includes(own) ? old.filter((c) => c !== own) : [...old, own];
    });
  }, []);
  const take = (ids: readonly string[], wired: boolean): void => {
    if (edit(removing(index, owner, ids, wired))) setChosen([]);
    setLeaving(null);
  };
  const leave = (): void => {
    if (chosen.length === 0) return;
    if (bindingsNaming(index, owner, new Set(chosen)).length === 0) take(chosen, false);
    else setLeaving(chosen);
  };
  const duplicate = (wired: boolean): void => {
    const { changeSet, copies } = duplicating(owner, chosen, wired);
    if (edit(changeSet)) setChosen(copies);
  };
  const staging: Staging = {
    snap,
    chosen,
    placing: asset !== null,
    onMove: (ids, by) => {
      edit(moving(owner, ids, by));
      if (!ids.every((id) => chosen.includes(id))) setChosen(ids);
    },
    onFrame: (ids) => setChosen(ids),
    onGround: (at) => {
      if (asset === null) return setChosen([]);
      const step = snap > 0 ? snap : 0.001;
      place(asset, at.map((m) => Math.round(m / step) * step) as [number, number]);
      if (asset.isNew) setAsset({ ...asset, isNew: false });
    },
    onArea: (id, area) =>
      edit(
        id === '.'
          ? {
              label: `${owner.decl.id}: set its area`,
              changes: [{ op: 'set', asset: owner.decl.id, part: 'area', value: area }],
            }
          : setting(owner, [id], 'area', area),
      ),
  };
  useStageKeys(region, {
    move: (dx, dy) =>
      chosen.length > 0 && edit(moving(owner, chosen, [dx * (snap || 0.1), dy * (snap || 0.1)])),
    leave,
    duplicate: (wired) => chosen.length > 0 && duplicate(wired),
    turn: (degrees) => chosen.length > 0 && edit(turn(degrees)),
    escape: () => (asset === null ? setChosen([]) : setAsset(null)),
    all: () => setChosen(owner.placements.map((p) => p.id)),
    place: () => palette.current?.focus(),
  });

  const lower = useSplit({
    name: 'plan-under',
    label: 'Height of the list under the plan',
    axis: 'y',
    first: 286,
    min: 120,
    max: 620,
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
      <div className="chosenpart">
        <Told findings={chosen.flatMap((id) => findings.get(id) ?? [])} base={`/p/${project}/audit`} />
        {placements.length > 0 ? (
          <ChosenBar
            index={index}
            owner={owner}
            chosen={placements}
            onEdit={edit}
            onRename={(id, to) => {
              if (edit(renaming(index, audit?.findings ?? [], owner, id, to))) setChosen([to]);
            }}
          />
        ) : (
          <p className="soft hint">
            Click a thing to choose it, <kbd>Shift</kbd> adds and draws a frame; drag moves, arrow keys step,{' '}
            <kbd>D</kbd> duplicates, <kbd>Delete</kbd> removes.
          </p>
        )}
      </div>
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
    </>
  );

  return (
    <div className={`stage ${isScene ? '' : 'defining'}`}>
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
        <span className="grow" />
        <Deeds
          count={chosen.length}
          wire={chosen.length === 1 ? `/p/${project}/wire?scope=${owner.decl.id}&at=${chosen[0]}` : null}
          onOpen={placements.length === 1 ? () => go({ scope: placements[0].asset }) : null}
          onDuplicate={duplicate}
          onTurn={chosen.length > 0 && turn(90).changes.length > 0 ? () => edit(turn(90)) : null}
          onLeave={leave}
        />
      </div>
      <Hint index={index} project={project} owner={owner.decl.id} onPlace={() => palette.current?.focus()} />
      <div
        className="stagebody"
        style={
          isScene
            ? { gridTemplateRows: `minmax(0, 1fr) auto ${lower.size}px` }
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
                staging={staging}
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
                onPick={choose}
                onOpen={openThing}
                staging={staging}
              />
            )}
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
          {lower.divider}
          <div className="under">
            {isScene && (
              <div className="undertabs" role="tablist" aria-label="Under the drawing">
                {(['Things', 'Events, actions, properties'] as const).map((text, i) => (
                  <button
                    key={text}
                    type="button"
                    role="tab"
                    className="tick"
                    aria-selected={declares === (i === 1)}
                    onClick={() => setDeclares(i === 1)}
                  >
                    {text}
                  </button>
                ))}
              </div>
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
