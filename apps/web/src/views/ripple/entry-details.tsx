import {
  delayText,
  entryText,
  printBinding,
  type BindingRef,
  type ProjectIndex,
  type Ripple,
  type RippleEntry,
  type RippleLink,
} from '@oquel/core';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { bindingPlace, instancePlace } from '../../parts/places.js';
import { rippleHref } from '../../parts/ripple-href.js';
import { CoveredMark } from '../../parts/ui/covered-mark.js';
import { useCoverage } from '../../session/use-coverage.js';

interface Props {
  index: ProjectIndex;
  ripple: Ripple;
  entry: RippleEntry;
  base: string;
  muted: readonly BindingRef[];
  onMute: (binding: BindingRef, off: boolean) => void;
  /** Opens or closes a fold, by key. */
  onFold: (key: string) => void;
  onChoose: (key: string) => void;
  onClose: () => void;
}
const MOST = 40;

/** One entry: where it is, how it is come to, binding by binding, and what can be tried. */
export function EntryDetails(props: Props): ReactNode {
  const { index, ripple, entry, base, onFold, onClose } = props;
  const before = ripple.links.filter((l) => l.to === entry.key);
  const after = ripple.links.filter((l) => l.from === entry.key);
  const start =
    entry.kind === 'cycle'
      ? null
      : entry.kind === 'channel'
        ? { channel: entry.name, ...(entry.channelKey === undefined ? {} : { key: entry.channelKey }) }
        : entry.count > 1
          ? { asset: entry.asset, name: entry.name }
          : { at: entry.at[0], name: entry.name };
  const state = [
    entry.kind === 'action' ? `hop ${entry.hop}` : '',
    entry.longest > entry.hop ? `hop ${entry.longest} by the longest way` : '',
    entry.time > 0 ? `first after ${entry.time} s` : '',
    entry.spawned ? 'spawned' : '',
    entry.asleep ? 'asleep at first' : '',
    entry.outside && entry.hop > 0 ? 'raised from outside' : '',
    entry.gone ? 'no longer reached in the trial' : '',
  ].filter(Boolean);
  return (
    <aside className="entrydetails" aria-label={`About ${entryText(entry)}`}>
      <div className="row">
        <h2 className="mono">{entryText(entry)}</h2>
        <span className="grow" />
        <button type="button" className="word" onClick={onClose}>
          Close
        </button>
      </div>
      <p className="soft">{state.join(' · ')}</p>
      <div className="row">
        {start && <Link to={rippleHref(base, start)}>What follows</Link>}
        {start && <Link to={rippleHref(base, start, 'backward')}>What leads here</Link>}
        {entry.folded && (
          <button type="button" className="word" onClick={() => onFold(entry.key)}>
            {entry.kind === 'cycle' ? 'Open the cycle' : `Unfold ${entry.count}`}
          </button>
        )}
        {entry.within !== null && (
          <button type="button" className="word" onClick={() => onFold(entry.within!)}>
            {entry.within.startsWith('cycle/') ? 'Fold the cycle' : 'Fold copies'}
          </button>
        )}
      </div>
      <Side
        {...props}
        title={ripple.direction === 'forward' ? 'Reached by' : 'Leads to'}
        links={before}
        other="from"
      />
      <Side
        {...props}
        title={ripple.direction === 'forward' ? 'Leads to' : 'Reached by'}
        links={after}
        other="to"
      />
      {entry.at.length > 0 && (
        <section>
          <h3>{entry.at.length > 1 ? `${Math.max(entry.count, entry.at.length)} places` : 'Place'}</h3>
          <ul>
            {entry.at.slice(0, MOST).map((at) => {
              const place = instancePlace(index, base, at, entry.kind === 'event' ? entry.name : '');
              return <li key={at}>{place ? <Link to={place.href}>{at}</Link> : at}</li>;
            })}
            {entry.count > MOST && <li className="soft">and {entry.count - MOST} more</li>}
          </ul>
        </section>
      )}
    </aside>
  );
}

function Side({
  index,
  ripple,
  base,
  muted,
  title,
  links,
  other,
  onMute,
  onChoose,
}: Props & { title: string; links: readonly RippleLink[]; other: 'from' | 'to' }): ReactNode {
  if (links.length === 0) return null;
  const entries = new Map(ripple.entries.map((e) => [e.key, e]));
  return (
    <section>
      <h3>{title}</h3>
      <ul>
        {links.slice(0, MOST).map((l) => (
          <li key={`${l.from}|${l.to}|${l.returns}`}>
            <button type="button" className="word mono" onClick={() => onChoose(l[other])}>
              {entryText(entries.get(l[other])!)}
            </button>
            {l.via.length > 0 && <span className="soft"> by {l.via.join(', ')}</span>}
            {l.count > 1 && <span className="soft"> × {l.count}</span>}
            {l.delayMost > 0 && <span className="option">{delayText(l.delay, l.delayMost)}</span>}
            {l.asks.map((text) => (
              <span key={text} className="option mono">
                {text}
              </span>
            ))}
            {l.returns && <span className="option">{l.cycle ? `returns, ${l.class}` : 'a longer way'}</span>}
            {l.bindings.map((b) => (
              <Bound key={`${b.asset}/${b.binding}`} {...{ index, base, muted, onMute }} binding={b} />
            ))}
          </li>
        ))}
        {links.length > MOST && <li className="soft">and {links.length - MOST} more</li>}
      </ul>
    </section>
  );
}

/** A binding on the way: it opens in Wire, and can be put off as a trial. */
function Bound({
  index,
  base,
  binding,
  muted,
  onMute,
}: Pick<Props, 'index' | 'base' | 'muted' | 'onMute'> & { binding: BindingRef }): ReactNode {
  const owner = index.assets[index.assetAt.get(binding.asset) ?? -1];
  const decl = owner?.bindings[owner.bindingAt.get(binding.binding) ?? -1];
  const place = bindingPlace(index, base, binding.asset, binding.binding);
  const off = muted.some((m) => m.asset === binding.asset && m.binding === binding.binding);
  const used = useCoverage()?.(binding.asset, binding.binding);
  if (!decl) return null;
  return (
    <div className={`bound ${off ? 'off' : ''}`}>
      {used && <CoveredMark used={used} />}{' '}
      {place ? <Link to={place.href}>{printBinding(decl)}</Link> : printBinding(decl)}
      <button
        type="button"
        className="tick"
        aria-pressed={off}
        aria-label={`${binding.binding} of ${binding.asset} off as a trial`}
        onClick={() => onMute({ asset: binding.asset, binding: binding.binding }, !off)}
      >
        off as a trial
      </button>
    </div>
  );
}
