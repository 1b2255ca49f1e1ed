import './plan-view.css';
import '../../parts/impact-panel.css';
import {
  bindingsNaming,
  reachableFrom,
  type AssetIndex,
  type ChangeSet,
  type Finding,
  usesOfName,
} from '@oquel/core';
import { useCallback, useEffect, useMemo, useState, type ReactNode } from 'react';
import { PlanDrawing, type Staging } from '../../parts/plan/plan-drawing.js';
import { WidgetBoxes } from '../../parts/plan/widget-boxes.js';
import { toThing } from '../../parts/plan/thing.js';
import { FaultLine } from '../../parts/fault-line.js';
import { ScopeSelect } from '../../parts/scope-select.js';
import { useSession, useSessionState } from '../../session/session-context.js';
import { coveredSenders, useCoverage } from '../../session/use-coverage.js';
import { ChosenBar } from './chosen-bar.js';
import { Deeds } from './deeds.js';
import { DropPanel } from './drop-panel.js';
import { NewAsset } from './new-asset.js';
import { findingsByPlacement, looksOf, namingCounts } from './placement-looks.js';
import { useStageKeys } from './stage-keys.js';
import { ImpactPanel } from '../../parts/impact-panel.js';
import { DeclarationsPane } from './declarations.js';
import type { Declared } from './declaration-edits.js';
import { Palette } from './palette.js';
import { PartsList } from './parts-list.js';
import { usePlanAddress, type PlanAddress } from './plan-address.js';
import { RemovalPanel } from './removal-panel.js';
import {
  dropping as droppingOf,
  duplicating,
  moving,
  placing,
  removing,
  renaming,
  setting,
  turning,
} from './stage-edits.js';

const SNAPS = [0, 0.1, 0.5, 1, 5];

/** A change of a declaration that bindings use. */
interface Pending {
  kind: Declared;
  name: string;
  changeSet: ChangeSet;
}

/** Sets the stage: what stands where, drawn to scale, with the list of parts under the drawing. */
export function PlanView(): ReactNode {
  const { index } = useSessionState();
  const address = usePlanAddress(index);
  const at = index.assetAt.get(address.scope);
  if (at === undefined) {
    const [first] = index.assets;
    return (
      <div className="middle" role="alert">
        <p>There is no scene, prefab or widget called “{address.scope}” in this project.</p>
        {first && (
          <button type="button" className="word" onClick={() => address.go({ scope: first.decl.id })}>
            Go to {first.decl.id}
          </button>
        )}
      </div>
    );
  }
  return <Stage key={address.scope} owner={index.assets[at]} address={address} />;
}

function Stage({ owner, address }: { owner: AssetIndex; address: PlanAddress }): ReactNode {
  const session = useSession();
  const { id: project, index, audit } = useSessionState();
  const { go } = address;
  const [asset, setAsset] = useState<string | null>(null);
  const [snap, setSnap] = useState(0.5);
  // A scene is first of all what stands in it, a prefab what it says and does.
  const [declares, setDeclares] = useState(owner.decl.kind !== 'scene');
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
  const declare = (kind: Declared, name: string, changeSet: ChangeSet): void => {
    if (usesOfName(index, { kind, asset: owner.decl.id, of: '', name }).bindings.length > 0)
      setPending({ kind, name, changeSet });
    else edit(changeSet);
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
      const to = at.map((m) => Math.round(m / step) * step) as [number, number];
      const placed = placing(owner, asset, to);
      if (edit(placed.changeSet)) setChosen([placed.id]);
    },
    onArea: (id, area) => edit(setting(owner, [id], 'area', area)),
  };
  useStageKeys({
    move: (dx, dy) =>
      chosen.length > 0 && edit(moving(owner, chosen, [dx * (snap || 0.1), dy * (snap || 0.1)])),
    leave,
    duplicate: (wired) => chosen.length > 0 && duplicate(wired),
    turn: (degrees) => chosen.length > 0 && edit(turn(degrees)),
    escape: () => (asset === null ? setChosen([]) : setAsset(null)),
    all: () => setChosen(owner.placements.map((p) => p.id)),
  });

  return (
    <div className="stage">
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
          <Palette index={index} owner={owner} value={asset} onChoose={setAsset} />
        </div>
        {asset !== null && (
          <span>
            Point where <b>{asset}</b> stands; <kbd>Esc</kbd> ends
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
          onDuplicate={duplicate}
          onTurn={chosen.length > 0 && turn(90).changes.length > 0 ? () => edit(turn(90)) : null}
          onLeave={leave}
        />
      </div>
      <div className="plan">
        {owner.decl.kind === 'widget' ? (
          <WidgetBoxes
            label={`Boxes of ${owner.decl.id}`}
            index={index}
            things={boxes}
            looks={looks}
            onPick={(path, add) => (path === '.' ? setChosen([]) : choose(path, add))}
          />
        ) : (
          <PlanDrawing
            label={`Plan of ${owner.decl.id}`}
            size={owner.decl.size}
            things={things}
            looks={looks}
            onPick={choose}
            staging={staging}
          />
        )}
        {pending && (
          <ImpactPanel
            uses={
              usesOfName(index, { kind: pending.kind, asset: owner.decl.id, of: '', name: pending.name })
                .bindings
            }
            changeSet={pending.changeSet}
            onDo={() => {
              edit(pending.changeSet);
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
      <div className="under">
        <div className="undertabs" role="tablist" aria-label="Under the drawing">
          {(['Things', 'Says, does, has'] as const).map((text, i) => (
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
        {declares ? (
          <DeclarationsPane
            key={round}
            index={index}
            findings={audit?.findings ?? []}
            asset={owner}
            onChange={declare}
            onEdit={edit}
            onDrop={() => setDropping(true)}
          />
        ) : (
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
                  Point at things to choose them, <kbd>Shift</kbd> adds and draws a frame; drag moves, arrows
                  step, <kbd>D</kbd> duplicates, <kbd>Delete</kbd> takes off.
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
            />
          </>
        )}
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
