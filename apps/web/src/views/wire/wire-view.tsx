import './wire.css';
import { printFrom, reachableFrom, type ArgScope, type AssetIndex, type Binding } from '@oquel/core';
import { useCallback, useEffect, useMemo, useState, type ReactNode } from 'react';
import { Link, useNavigate } from 'react-router';
import { PlanDrawing } from '../../parts/plan/plan-drawing.js';
import { WidgetBoxes } from '../../parts/plan/widget-boxes.js';
import { rippleHref, startAt } from '../../parts/ripple-href.js';
import { ScopeSelect } from '../../parts/scope-select.js';
import { useContextMenu } from '../../parts/ui/context-menu.js';
import { thingsOf } from '../../parts/plan/thing.js';
import { useScope } from '../../parts/use-scope.js';
import { WalkLink, walkHref } from '../../parts/walk-link.js';
import { NothingYet } from '../../parts/nothing-yet.js';
import { useSession, useSessionState } from '../../session/session-context.js';
import { coveredSenders } from '../../session/coverage.js';
import { useCoverage } from '../../session/use-coverage.js';
import { useSelected } from '../../session/use-selected.js';
import { allCandidates } from './candidates.js';
import { declaredAction } from './declared-action.js';
import { wiringOf } from './draft.js';
import { ChannelUsers } from './channel-users.js';
import { EventStrip } from './event-strip.js';
import { Finder } from './finder.js';
import { Lines } from './lines.js';
import { concerning, findingsHere } from './findings-here.js';
import { thingStylesOf } from './thing-styles.js';
import { NoEvents } from './no-events.js';
import {
  aboutSender,
  countBySender,
  firstSender,
  sceneToHearIn,
  sourceOf,
  togglePick,
  wiredFor,
} from './senders.js';
import { missingSenders, senderAt } from './strips.js';
import { TakeOff } from './take-off.js';
import { thingChoices } from './thing-menu.js';
import { later } from '../../parts/later.js';
import { focusSentence, useAddKey } from './wire-keys.js';
import { useWireAddress } from './wire-address.js';
import { useSidePanel } from '../../parts/ui/side-panel.js';

const OwnWiring = later(async () => (await import('./own-wiring.js')).OwnWiring);
const SenderPicker = later(async () => (await import('./sender-picker.js')).SenderPicker, {
  meanwhile: ({ value }) => <input className="line mono" aria-label="Sender" readOnly value={value} />,
});

/** The day's work: a sender on the plan, its events as strips of sentences, and the finder that wires more. */
export function WireView(): ReactNode {
  const { id, index } = useSessionState();
  const address = useWireAddress(index);
  const owner = useScope(index, address.scope, address.go);
  const [first] = index.assets;
  if (!first)
    return <NothingYet base={`/p/${id}`} what="Nothing can be wired yet: the project has no scene." />;
  return owner && <WireScope key={address.scope} owner={owner} address={address} />;
}

function WireScope({
  owner,
  address,
}: {
  owner: AssetIndex;
  address: ReturnType<typeof useWireAddress>;
}): ReactNode {
  const session = useSession();
  const { id, index, audit } = useSessionState();
  const { go } = address;
  const things = useMemo(() => reachableFrom(index, owner), [index, owner]);
  // A prefab stands at the origin of its own plan; a scene is the plan.
  const isScene = owner.decl.kind === 'scene';
  const at = address.at || firstSender(owner, things);
  const sender = useMemo(() => senderAt(index, owner, at), [index, owner, at]);
  const active = sender.strips.find((s) => s.event === address.event) ?? sender.strips[0];
  const [adding, setAdding] = useState<string | null>(null);
  const [picked, setPicked] = useState<readonly string[]>([]);
  // A line that was drawn from one thing to another: the finder opens with both ends answered.
  const [link, setLink] = useState<{ from: string; to: string } | null>(null);
  // A line that was begun elsewhere, to go on with.
  const [begun, setBegun] = useState<{ text: string } | null>(null);
  const [found, setFound] = useState<readonly string[] | null>(null);
  const [taken, setTaken] = useState<readonly string[] | null>(null);
  const selected = useSelected(
    owner.decl.id,
    useMemo(() => sender.strips.flatMap((s) => s.bindings), [sender]),
  );
  const addingStrip = adding === null ? undefined : sender.strips.find((s) => s.event === adding);
  const open = useCallback((event: string) => {
    setAdding(event);
    setPicked([]);
  }, []);
  const close = useCallback(() => setAdding(null), []);
  const openFirst = (path: string): void => {
    go({ at: path });
    setLink({ from: path, to: '' });
  };
  useEffect(() => close(), [at, close]);
  useEffect(() => {
    if (isScene) sessionStorage.setItem(`oquel-last-scene-${id}`, owner.decl.id);
  }, [id, isScene, owner.decl.id]);

  const pick = useCallback(
    (path: string) => {
      if (!addingStrip) return go({ at: path });
      setPicked((old) => togglePick(old, path));
    },
    [addingStrip, go],
  );
  useEffect(() => {
    if (link?.from !== at) return;
    setLink(null);
    const strip = sender.strips.find((s) => !s.missing);
    if (!strip) return;
    setAdding(strip.event);
    setPicked(link.to === '' ? [] : [link.to]);
  }, [link, at, sender]);
  const scope: ArgScope = useMemo(
    () => ({ index, payload: (addingStrip ?? active)?.payload ?? [], reader: sender.reader }),
    [index, addingStrip, active, sender.reader],
  );
  useAddKey(active && !active.missing ? () => open(active.event) : null);

  const here = useMemo(() => findingsHere(audit?.findings ?? [], owner.decl.id), [audit, owner.decl.id]);
  const coverage = useCoverage();
  const covered = useMemo(() => coveredSenders(owner, coverage), [owner, coverage]);
  const thingStyles = useMemo(
    () =>
      thingStylesOf(things, {
        at,
        active,
        selected,
        adding: addingStrip,
        picked,
        found: taken ?? found,
        covered,
      }),
    [things, at, active, selected, addingStrip, picked, taken, found, covered],
  );
  const missing = useMemo(
    () => missingSenders(index, owner, new Set(things.map((t) => t.path))),
    [index, owner, things],
  );
  const counts = useMemo(() => countBySender(owner), [owner]);
  const planThings = useMemo(
    () =>
      thingsOf(
        index,
        things.filter((t) => t.depth > 0 || !isScene),
      ),
    [index, things, isScene],
  );
  const senderAddress = owner.decl.kind === 'scene' && !sender.channel ? `${owner.decl.id}:${at}` : null;
  const show = ({ id, from }: Binding): void => {
    go('at' in from ? { at: from.at } : { at: `#${from.channel}` });
    go({ event: 'at' in from ? from.event : from.channel, binding: id });
    focusSentence(id);
  };
  const wire = (action: string, draft: Parameters<typeof wiringOf>[4]): void => {
    if (!addingStrip || picked.length === 0) return;
    const from = sourceOf(sender, addingStrip);
    const { changeSet, ids } = wiringOf(owner, from, picked, action, draft);
    if (!session.edit(changeSet)) return;
    close();
    go({ event: addingStrip.event, binding: ids[0] });
    focusSentence(ids[0]);
  };
  const declare = (text: string): string | null => {
    if (!addingStrip) return null;
    const made = declaredAction(index, owner, { from: sourceOf(sender, addingStrip), picked }, scope, text);
    if ('fault' in made) return made.fault;
    if (!session.edit(made.changeSet)) return null;
    close();
    go({ event: addingStrip.event, binding: made.ids[0] });
    focusSentence(made.ids[0]);
    return null;
  };
  const candidates = useMemo(
    () =>
      addingStrip
        ? allCandidates(index, things, at, wiredFor(owner, sender, addingStrip), sender.channel === null)
        : [],
    [addingStrip, index, things, at, owner, sender],
  );

  const navigate = useNavigate();
  const { onContextMenu, menu } = useContextMenu(
    (target) => target.closest<SVGElement>('[data-path]')?.dataset.path ?? null,
    (path) =>
      thingChoices(index, owner, path, {
        base: `/p/${id}`,
        go,
        open: openFirst,
        to: (href) => void navigate(href),
      }),
  );

  const panel = useSidePanel({
    name: 'wire',
    label: 'Width of the wiring',
    side: 'right',
    share: 0.43,
    min: 420,
  });
  return (
    <div className="wire" style={panel.style}>
      {panel.divider}
      {menu}
      <div className="plan" onContextMenu={onContextMenu}>
        {owner.decl.kind === 'widget' ? (
          <div className="boxplan">
            <WidgetBoxes
              label={`Boxes of ${owner.decl.id}`}
              index={index}
              things={planThings}
              thingStyles={thingStyles}
              onPick={pick}
            />
          </div>
        ) : (
          <PlanDrawing
            label={`Plan of ${owner.decl.id}`}
            size={owner.decl.size}
            things={planThings}
            thingStyles={thingStyles}
            onPick={pick}
            onLink={(from, to) => {
              go({ at: from });
              setLink({ from, to });
            }}
          />
        )}
      </div>
      <div className="sheet">
        <header>
          <h1 className="unseen">
            Wire: {at} in {owner.decl.id}
          </h1>
          <div className="pick">
            <ScopeSelect index={index} value={owner.decl.id} onChange={(next) => go({ scope: next })} />
            <SenderPicker
              index={index}
              things={things}
              missing={missing}
              counts={counts}
              value={at}
              onChoose={(next) => go({ at: next })}
            />
          </div>
          <div className="about">
            <span className="what">{aboutSender(sender, things)}</span>
            <TakeOff owner={owner} at={at} onEdit={(c) => session.edit(c)} />
            <WalkLink href={walkHref(`/p/${id}`, owner, at)} />
            <Link to={`/p/${id}/wire/sheet?scope=${owner.decl.id}`}>All as a sheet</Link>
          </div>
        </header>
        <div className="strips">
          {sender.strips.map((strip) => (
            <EventStrip
              key={strip.event}
              index={index}
              owner={owner}
              strip={strip}
              channel={sender.channel !== null}
              active={strip === active}
              scope={{ index, payload: strip.payload, reader: sender.reader }}
              findings={
                sender.asset
                  ? concerning(
                      here.ofEvent.get(`${sender.asset.decl.id}/${strip.event}`) ?? [],
                      senderAddress,
                    )
                  : (here.ofEvent.get(`#${strip.event}`) ?? [])
              }
              address={senderAddress}
              ofBinding={here.ofBinding}
              auditHref={`/p/${id}/audit`}
              sought={address.binding}
              rippleHref={rippleHref(
                `/p/${id}`,
                sender.channel !== null
                  ? { channel: sender.channel }
                  : startAt(index, owner, sender.at, strip.event),
              )}
              selected={selected}
              onActivate={() => strip.event !== active?.event && go({ event: strip.event })}
              onAdd={() => open(strip.event)}
              onEdit={(changeSet) => session.edit(changeSet)}
              onHear={(channel) => {
                const scene = isScene ? owner.decl.id : sceneToHearIn(index, id);
                go({ ...(scene === undefined ? {} : { scope: scene }), at: `#${channel}` });
              }}
            />
          ))}
          {sender.channel !== null && (
            <ChannelUsers index={index} channel={sender.channel} base={`/p/${id}`} />
          )}
          <OwnWiring
            index={index}
            owner={owner}
            at={at}
            base={`/p/${id}`}
            onEdit={(changeSet) => session.edit(changeSet)}
          />
          {sender.strips.length === 0 && (
            <NoEvents owner={owner} at={at} asset={sender.asset} base={`/p/${id}`} />
          )}
        </div>
        {addingStrip && (
          <Finder
            key={`${at}/${addingStrip.event}`}
            index={index}
            owner={owner}
            from={sourceOf(sender, addingStrip)}
            title={`Receivers for ${sender.channel ? at : `${at} ${addingStrip.event}`}`}
            scope={scope}
            all={candidates}
            picked={picked}
            onPick={pick}
            onFound={setFound}
            onTaken={setTaken}
            onWire={wire}
            onDeclare={declare}
            onNew={(name) => {
              const from = printFrom({ from: sourceOf(sender, addingStrip) });
              close();
              setBegun({ text: `when ${from} do ${name}.` });
            }}
            onClose={close}
          />
        )}
        <Lines
          index={index}
          owner={owner}
          begun={begun}
          here={active && !active.missing ? sourceOf(sender, active) : null}
          onEdit={(changeSet) => session.edit(changeSet)}
          onAdded={show}
        />
      </div>
    </div>
  );
}
