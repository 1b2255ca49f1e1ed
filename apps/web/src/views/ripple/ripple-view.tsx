import './ripple.css';
import './ripple-details.css';
import { mutingAll, rippleDiagram, type BindingRef, type RippleStart } from '@oquel/core';
import { useCallback, useMemo, useState, type ReactNode } from 'react';
import { Link, useNavigate } from 'react-router';
import { PictureMenu } from '../../parts/picture/picture-menu.js';
import { rippleHref } from '../../parts/ripple-href.js';
import { NothingYet } from '../../parts/nothing-yet.js';
import { useSession, useSessionState } from '../../session/session-context.js';
import { EntryDetails } from './entry-details.js';
import { litChain, type LitChain } from './lit-chain.js';
import { PlanBeside } from './plan-beside.js';
import { useRippleAddress } from './ripple-address.js';
import { RippleDrawing } from './ripple-drawing.js';
import { RippleList } from './ripple-list.js';
import { StartPicker } from './start-picker.js';
import { TrialBar } from './trial-bar.js';
import { useRipple } from './use-ripple.js';
import { countText } from '../../format.js';

/** What happens if this fires, and what could have caused it: drawn in the order in which it happens. */
export function RippleView(): ReactNode {
  const session = useSession();
  const { id, index } = useSessionState();
  const navigate = useNavigate();
  const address = useRippleAddress(index);
  const { start, direction, axis, filter, open, muted, entry, lit, shows, plan, go } = address;
  const base = `/p/${id}`;
  // In steps, so that it is not laid out anew at every pixel of a resize.
  const [room, setRoom] = useState(1200);
  const measure = useCallback(
    (width: number) => setRoom(Math.max(600, Math.floor((width - 44) / 40) * 40)),
    [],
  );
  const question = useMemo(
    () => ({ ask: { start, direction, open }, axis, room, filter, muted }),
    [start, direction, open, axis, room, filter, muted],
  );
  const rippling = useRipple(question);
  const answer = rippling.state === 'there' ? rippling.answer : null;
  const ripple = answer?.ripple ?? null;
  // A cycle counts each of its actions, though its ways are not unrolled.
  const longest = Math.max(ripple?.longest ?? 0, ripple?.heaviest?.hops ?? 0);
  const chosen = ripple?.entries.find((e) => e.key === entry);
  const [moment, setMoment] = useState<ReadonlySet<string> | null>(null);
  const litNow = useMemo((): LitChain | null => {
    if (plan && shows === 'picture' && moment) return { keys: moment, pairs: NONE, hops: NO_HOPS };
    return lit && ripple?.heaviest ? litChain(ripple.heaviest) : null;
  }, [lit, ripple, plan, shows, moment]);
  const begin = (next: RippleStart, nextDirection = direction): void =>
    void navigate(rippleHref(base, next, nextDirection));
  const mute = (binding: BindingRef, off: boolean): void => {
    const rest = muted.filter((m) => m.asset !== binding.asset || m.binding !== binding.binding);
    go({ muted: (off ? [...rest, binding] : rest).map((m) => `${m.asset}/${m.binding}`).join(',') });
  };
  const choose = useCallback((key: string) => go({ entry: key }), [go]);
  return (
    <div className="rippleview">
      <div className="ripplebar">
        <h1 className="unseen">Ripple</h1>
        <StartPicker
          index={index}
          start={start}
          onChoose={begin}
          onEdit={(changeSet) => session.edit(changeSet)}
        />
        <span role="group" aria-label="Direction" className="switch">
          <Choice text="what follows" on={direction === 'forward'} onChoose={() => begin(start, 'forward')} />
          <Choice
            text="what leads here"
            on={direction === 'backward'}
            onChoose={() => begin(start, 'backward')}
          />
        </span>
        <span role="group" aria-label="Columns by" className="switch">
          <Choice text="hops" on={axis === 'hops'} onChoose={() => go({ axis: '' })} />
          <Choice text="seconds" on={axis === 'time'} onChoose={() => go({ axis: 'time' })} />
        </span>
        <span role="group" aria-label="Shown as" className="switch">
          <Choice text="picture" on={shows === 'picture'} onChoose={() => go({ shows: '' })} />
          <Choice text="list" on={shows === 'list'} onChoose={() => go({ shows: 'list' })} />
        </span>
        <Choice
          text="plan"
          on={plan && shows === 'picture'}
          onChoose={() => go({ plan: plan && shows === 'picture' ? '' : 'beside', shows: '' })}
        />
        <Filters address={address} />
      </div>
      <div className="ripplesays" role="status" data-took={answer?.milliseconds.toFixed(1)}>
        {ripple && (
          <>
            <b className="big">{ripple.reach}</b> {ripple.reach === 1 ? 'action' : 'actions'}{' '}
            {direction === 'forward' ? 'reached' : 'could lead here'} ·{' '}
            {longest === 0 ? 'nothing further' : `up to ${countText(longest, 'hop')}`}
            {answer && longest > answer.limit && direction === 'forward' && (
              <span className="fault warning"> beyond the limit of {answer.limit}</span>
            )}
            {ripple.heaviest && ripple.heaviest.hops > 0 && (
              <>
                {' · '}
                <button
                  type="button"
                  className="tick"
                  aria-pressed={lit}
                  onClick={() => go({ lit: lit ? '' : 'heaviest' })}
                >
                  heaviest chain: {ripple.heaviest.text}, {ripple.heaviest.seconds} s
                </button>
              </>
            )}
            {ripple.links.some((l) => l.asks.length > 0) && (
              <span className="soft"> · a hollow line has a condition</span>
            )}{' '}
            <PictureMenu
              title={`${direction === 'forward' ? 'What follows' : 'What leads here'} ${startText(start)}`}
              drawing={() => document.querySelector<SVGSVGElement>('.ripplepane svg[data-whole="true"]')}
              none="This ripple is too large for one picture; fold it, or copy it as Mermaid or DOT."
              diagram={() => rippleDiagram(ripple, startText(start))}
            />
            {ripple.cut && <span className="fault warning"> · too much to show: the rest is left out</span>}
          </>
        )}
      </div>
      <div className="ripplebody">
        {rippling.state === 'waiting' && <div className="middle">Loading the ripple ...</div>}
        {rippling.state === 'nowhere' && (
          <div className="middle" role="alert">
            {index.assets.length === 0 ? (
              <NothingYet
                base={`/p/${id}`}
                what="There is nothing to follow yet: the project has no scene."
              />
            ) : index.assets.every((a) => a.events.length === 0) ? (
              <>
                <p>No event is declared yet, so there is nothing to follow.</p>
                <p>
                  <Link className="tick" to={`/p/${id}/plan?scope=${index.assets[0].decl.id}`}>
                    Declare events in Plan
                  </Link>
                </p>
              </>
            ) : (
              'This name is not in the project. Choose above where to begin.'
            )}
          </div>
        )}
        {rippling.state === 'failed' && (
          <div className="middle" role="alert">
            It could not be followed: {rippling.why}
          </div>
        )}
        {answer &&
          (shows === 'list' ? (
            <RippleList lines={answer.lines} chosen={entry} onChoose={(key) => go({ entry: key })} />
          ) : (
            <RippleDrawing
              ripple={answer.ripple}
              layout={answer.layout}
              limit={direction === 'forward' ? answer.limit : Infinity}
              chosen={entry}
              lit={litNow}
              onChoose={choose}
              onRoom={measure}
            />
          ))}
        {plan && shows === 'picture' && ripple && (
          <PlanBeside ripple={ripple} chosen={entry} onChoose={choose} onMoment={setMoment} />
        )}
        {chosen && ripple && (
          <EntryDetails
            index={index}
            ripple={ripple}
            entry={chosen}
            base={base}
            muted={muted}
            onMute={mute}
            onFold={(key) => {
              const next = open.includes(key) ? open.filter((o) => o !== key) : [...open, key];
              go({ open: next.join('|'), entry: open.includes(key) ? key : '' });
            }}
            onChoose={(key) => go({ entry: key })}
            onClose={() => go({ entry: '' })}
          />
        )}
      </div>
      {muted.length > 0 && (
        <TrialBar
          index={index}
          ripple={ripple}
          muted={muted}
          onKeep={() => {
            const changes = mutingAll(index, muted);
            const label = `muted ${countText(muted.length, 'binding')} after a trial`;
            if (changes.length === 0 || session.edit({ label, changes })) go({ muted: '' });
          }}
          onDrop={() => go({ muted: '' })}
        />
      )}
    </div>
  );
}

const NONE: ReadonlySet<string> = new Set();
const NO_HOPS: ReadonlyMap<string, string> = new Map();

/** Where it begins, in words. */
function startText(start: RippleStart): string {
  if ('channel' in start) return `#${start.channel}`;
  const of = 'at' in start ? start.at : `every ${start.asset}`;
  return start.name === undefined ? of : `${of} ${start.name}`;
}

function Choice({ text, on, onChoose }: { text: string; on: boolean; onChoose: () => void }): ReactNode {
  return (
    <button type="button" className="tick" aria-pressed={on} onClick={onChoose}>
      {text}
    </button>
  );
}

function Filters({ address: { filter, go } }: { address: ReturnType<typeof useRippleAddress> }): ReactNode {
  const { index } = useSessionState();
  const choices = useMemo(() => {
    const tags = new Set(index.assets.flatMap((a) => a.decl.tags ?? []));
    const ids = (scene: boolean): string[] =>
      index.assets.filter((a) => (a.decl.kind === 'scene') === scene).map((a) => a.decl.id);
    return { asset: ids(false), scene: ids(true), tag: [...tags].sort() };
  }, [index]);
  return (
    <span className="filters">
      {(['asset', 'scene', 'tag'] as const).map((name) => (
        <select
          key={name}
          className="line"
          aria-label={`Only this ${name}`}
          value={filter[name] ?? ''}
          onChange={(e) => go({ [`only-${name}`]: e.target.value })}
        >
          <option value="">any {name}</option>
          {choices[name].map((c) => (
            <option key={c}>{c}</option>
          ))}
        </select>
      ))}
    </span>
  );
}
