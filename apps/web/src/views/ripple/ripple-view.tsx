import './ripple.css';
import { mutingAll, rippleDiagram, type BindingRef, type RippleStart } from '@oquel/core';
import { useCallback, useMemo, type ReactNode } from 'react';
import { Link, useNavigate } from 'react-router';
import { PictureMenu } from '../../parts/picture/picture-menu.js';
import { rippleHref } from '../../parts/ripple-href.js';
import { countText } from '../../parts/ui/severity-mark.js';
import { NothingYet } from '../../parts/nothing-yet.js';
import { useSession, useSessionState } from '../../session/session-context.js';
import { EntryDetails } from './entry-details.js';
import { useRippleAddress } from './ripple-address.js';
import { RippleDrawing } from './ripple-drawing.js';
import { RippleList } from './ripple-list.js';
import { StartPicker } from './start-picker.js';
import { TrialBar } from './trial-bar.js';
import { useRipple } from './use-ripple.js';

/** What happens if this fires, and what could have caused it: drawn in the order in which it happens. */
export function RippleView(): ReactNode {
  const session = useSession();
  const { id, index } = useSessionState();
  const navigate = useNavigate();
  const address = useRippleAddress(index);
  const { start, way, axis, filter, open, muted, entry, lit, shows, go } = address;
  const base = `/p/${id}`;
  const question = useMemo(
    () => ({ ask: { start, way, open }, axis, filter, muted }),
    [start, way, open, axis, filter, muted],
  );
  const rippling = useRipple(question);
  const answer = rippling.state === 'there' ? rippling.answer : null;
  const ripple = answer?.ripple ?? null;
  // A cycle counts each of its actions, though its ways are not unrolled.
  const longest = Math.max(ripple?.longest ?? 0, ripple?.heaviest?.hops ?? 0);
  const chosen = ripple?.entries.find((e) => e.key === entry);
  const litKeys = useMemo(
    () => (lit && ripple?.heaviest ? new Set(ripple.heaviest.keys) : null),
    [lit, ripple],
  );
  const begin = (next: RippleStart, nextWay = way): void => void navigate(rippleHref(base, next, nextWay));
  const mute = (binding: BindingRef, off: boolean): void => {
    const rest = muted.filter((m) => m.asset !== binding.asset || m.binding !== binding.binding);
    go({ muted: (off ? [...rest, binding] : rest).map((m) => `${m.asset}/${m.binding}`).join(',') });
  };
  const choose = useCallback((key: string) => go({ entry: key }), [go]);
  const foldOf = (key: string): string => (open.includes(key) ? key : key.replace(/@\d+$/, ''));
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
        <span role="group" aria-label="Which way" className="switch">
          <Choice text="what follows" on={way === 'on'} onChoose={() => begin(start, 'on')} />
          <Choice text="what came before" on={way === 'back'} onChoose={() => begin(start, 'back')} />
        </span>
        <span role="group" aria-label="Columns by" className="switch">
          <Choice text="hops" on={axis === 'hops'} onChoose={() => go({ axis: '' })} />
          <Choice text="seconds" on={axis === 'time'} onChoose={() => go({ axis: 'time' })} />
        </span>
        <span role="group" aria-label="Shown as" className="switch">
          <Choice text="picture" on={shows === 'picture'} onChoose={() => go({ shows: '' })} />
          <Choice text="list" on={shows === 'list'} onChoose={() => go({ shows: 'list' })} />
        </span>
        <Filters address={address} />
      </div>
      <div className="ripplesays" role="status" data-took={answer?.took.toFixed(1)}>
        {ripple && (
          <>
            <b className="big">{ripple.reach}</b> {ripple.reach === 1 ? 'action' : 'actions'}{' '}
            {way === 'on' ? 'reached' : 'could lead here'} ·{' '}
            {longest === 0 ? 'nothing further' : `up to ${countText(longest, 'hop')}`}
            {answer && longest > answer.limit && way === 'on' && (
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
                  heaviest chain: {countText(ripple.heaviest.hops, 'hop')}, {ripple.heaviest.seconds} s
                </button>
              </>
            )}
            {ripple.links.some((l) => l.asks.length > 0) && (
              <span className="soft"> · a hollow line asks first</span>
            )}{' '}
            <PictureMenu
              title={`${way === 'on' ? 'What follows' : 'What came before'} ${startText(start)}`}
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
              axis={axis}
              limit={way === 'on' ? answer.limit : Infinity}
              chosen={entry}
              lit={litKeys}
              onChoose={choose}
            />
          ))}
        {chosen && ripple && (
          <EntryDetails
            index={index}
            ripple={ripple}
            entry={chosen}
            base={base}
            muted={muted}
            opened={open.includes(foldOf(chosen.key))}
            onMute={mute}
            onFold={
              chosen.count > 1 || open.includes(foldOf(chosen.key))
                ? () => {
                    const key = foldOf(chosen.key);
                    const next = open.includes(key) ? open.filter((o) => o !== key) : [...open, key];
                    go({ open: next.join('|'), entry: open.includes(key) ? key : '' });
                  }
                : null
            }
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
