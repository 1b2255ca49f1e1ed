import {
  bindingsNaming,
  chosenLines,
  countUses,
  printStage,
  sightLines,
  textKind,
  reachableFrom,
  usesOfName,
  type AssetIndex,
  type ChangeSet,
  type NameUses,
} from '@oquel/core';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { afterPaint } from '../../parts/after-paint.js';
import { copyText, pastedText } from '../../parts/clipboard.js';
import { usePastedLines } from '../../parts/lines-panel/use-pasted-lines.js';
import { pasting } from '../../parts/pasting.js';
import type { PlacementEdits } from '../../parts/plan/placement-edits.js';
import type { Sights } from '../../parts/plan/sight-layer.js';
import { thingsOf } from '../../parts/plan/thing.js';
import { useSession, useSessionState } from '../../session/session-context.js';
import { coveredSenders } from '../../session/coverage.js';
import { useCoverage } from '../../session/use-coverage.js';
import type { Placeable } from './palette.js';
import { faultsOfBindings, findingsByPlacement, thingStylesOf, namingCounts } from './placement-styles.js';
import type { PlanAddress } from './plan-address.js';
import {
  copying,
  duplicating,
  moving,
  placing,
  placingNew,
  removing,
  renaming,
  renamingAsset,
  setting,
  rotating,
} from './stage-edits.js';
import { useLayers } from './use-layers.js';
import { useClipboard } from './use-clipboard.js';
import { useStageKeys } from './stage-keys.js';

/** A change of something that is used elsewhere, looked at before it is done. */
export interface Pending {
  uses: NameUses;
  changeSet: ChangeSet;
  /** Done once it is made. */
  then?: () => void;
}
/** Lines of more things would hide the plan. */
const NOTHING: ReadonlyMap<string, never> = new Map<string, never>();
const MOST_LOOKED_FROM = 12;
export type Stage = ReturnType<typeof useStage>;

/** What is chosen on the stage of an owner, how it looks, and everything that can be done there. */
// What it returns is listed at its end, and nowhere else.
// eslint-disable-next-line @typescript-eslint/explicit-function-return-type
export function useStage(owner: AssetIndex, address: PlanAddress) {
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
  const back = useRef<HTMLElement | null>(null);
  const [dropping, setDropping] = useState(false);
  const [leaving, setLeaving] = useState<readonly string[] | null>(null);
  // The address follows what is chosen; it would be too slow to lead.
  const [wanted, setChosen] = useState(address.chosen);
  const inAddress = address.chosen.join();
  useEffect(() => {
    if (wanted.join() === inAddress) return undefined;
    return afterPaint(() => go({ chosen: wanted }));
  }, [wanted, inAddress, go]);
  const chosen = useMemo(() => wanted.filter((id) => owner.placementAt.has(id)), [wanted, owner]);
  const placements = chosen.map((id) => owner.placements[owner.placementAt.get(id)!]);
  const boxes = useMemo(() => thingsOf(index, reachableFrom(index, owner)), [index, owner]);
  const things = useMemo(() => boxes.filter((t) => t.depth > 0), [boxes]);
  const findings = useMemo(() => findingsByPlacement(audit?.findings ?? [], owner), [audit, owner]);
  const coverage = useCoverage();
  const covered = useMemo(() => coveredSenders(owner, coverage), [owner, coverage]);
  const [layers, setLayer] = useLayers();
  const thingStyles = useMemo(
    () =>
      thingStylesOf(index, owner, {
        chosen,
        findings,
        covered: layers.coverage ? covered : NOTHING,
        sleepers: layers.sleepers,
      }),
    [index, owner, chosen, findings, covered, layers],
  );
  const counts = useMemo(() => namingCounts(owner), [owner]);

  const rotate = (degrees: number): ChangeSet => rotating(index, owner, chosen, degrees);
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
    if (!edit(placed.changeSet)) return;
    setChosen([placed.id]);
    nameIt();
  };
  /** The name of what is chosen is selected, to be typed over; after it the focus goes back. */
  const nameIt = (): void => {
    back.current = document.activeElement instanceof HTMLElement ? document.activeElement : null;
    setDeclares(false);
    requestAnimationFrame(() => {
      const field = document.querySelector<HTMLInputElement>('.chosenbar input[name="placement"]');
      field?.focus();
      field?.select();
    });
  };
  const nameOwner = (): void => {
    if (isScene) setDeclares(true);
    requestAnimationFrame(() => {
      const field = document.querySelector<HTMLInputElement>('.assethead input[aria-label^="Name of the"]');
      field?.focus();
      field?.select();
    });
  };
  const named = (): void => {
    const to = back.current?.isConnected && back.current !== document.body ? back.current : region.current;
    requestAnimationFrame(() => to?.focus());
  };
  const rename = (id: string, to: string): void => {
    if (edit(renaming(index, audit?.findings ?? [], owner, id, to))) setChosen([to]);
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
  const placementEdits: PlacementEdits = {
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
    rotate: (degrees) => chosen.length > 0 && edit(rotate(degrees)),
    escape: () => (asset === null ? setChosen([]) : setAsset(null)),
    all: () => setChosen(owner.placements.map((p) => p.id)),
    place: () => palette.current?.focus(),
    rename: () => chosen.length === 1 && nameIt(),
  });
  const [wiring, setWiring] = useState<'chosen' | 'all' | 'none'>('chosen');
  const sights = useMemo((): Sights | undefined => {
    const isWhole = wiring === 'all';
    const from = isWhole ? owner.placements.map((p) => p.id) : chosen;
    if (wiring === 'none' || from.length === 0 || (!isWhole && from.length > MOST_LOOKED_FROM))
      return undefined;
    const ofAsset = (id: string): string[] => owner.placements.filter((p) => p.asset === id).map((p) => p.id);
    const lines = sightLines(owner, new Set(from), ofAsset);
    return { lines, isWhole, faults: faultsOfBindings(audit?.findings ?? [], owner.decl.id) };
  }, [wiring, owner, chosen, audit]);
  const copied = (): string => printStage(owner, chosen);
  const lines = usePastedLines(owner);
  const paste = (text: string): void => {
    const kind = textKind(text);
    // What is no line at all is reported in words.
    const isLines = kind === 'declared' || kind === 'table' || (kind === 'wired' && /^\s*when\s/m.test(text));
    if (isLines) return lines.open(text);
    const { changeSet, placed, words } = pasting(index, owner, text);
    if (changeSet && edit(changeSet)) setChosen(placed);
    if (words !== null) session.notice(words, changeSet ? 'info' : 'refused');
  };
  useClipboard(region, { copied, cut: leave, paste });
  const copy = (): void => void copyText(copied());
  const copyWhole = (): void => {
    const { text, left } = chosenLines(index, owner, chosen);
    void copyText(text);
    if (left.length > 0) session.notice(`Not in the copied lines: ${left.join(', ')}`, 'info');
  };
  const cut = (): void => {
    copy();
    leave();
  };
  const pasteHere = (): void => void pastedText().then(paste);

  return {
    layers,
    setLayer,
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
    thingStyles,
    counts,
    rotate,
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
    setChosen,
    nameIt,
    nameOwner,
    named,
    rename,
    copy,
    copyWhole,
    cut,
    pasteHere,
    linesPanel: lines.panel,
    sights,
    wiring,
    setWiring,
  };
}
