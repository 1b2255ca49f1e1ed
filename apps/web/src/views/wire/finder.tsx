import './finder.css';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { later } from '../../parts/later.js';
import {
  isNewName,
  candidatesElsewhere,
  chipsOf,
  EVERY,
  findCandidates,
  type Candidate,
  type Order,
} from './candidates.js';
import type { FinderProps } from './finder-props.js';
import { What } from './what.js';

// It has a list of any length, which nobody sees at first.
const FoundList = later(async () => (await import('./found-list.js')).FoundList);

/** Ctrl+A chooses so many at the most: more are hardly meant. */
const MOST_AT_ONCE = 200;

/** Finds receivers, then wires them: who, what, with, how. Everything by pointer or by keys alone. */
export function Finder(props: FinderProps): ReactNode {
  const { index, owner, all, picked, onPick, onFound, onClose, title } = props;
  const [text, setText] = useState('');
  const [chip, setChip] = useState('');
  const [order, setOrder] = useState<Order>('near');
  const [cursor, setCursor] = useState(0);
  const whatList = useRef<HTMLDivElement>(null);
  const input = useRef<HTMLInputElement>(null);
  const [elsewhere, setElsewhere] = useState(false);
  const pool = useMemo(
    () => (elsewhere ? candidatesElsewhere(index, owner, wiredOf(all)) : all),
    [elsewhere, index, owner, all],
  );
  const found = useMemo(() => findCandidates(pool, text, chip, order), [pool, text, chip, order]);
  const chips = useMemo(() => chipsOf(pool), [pool]);
  const scenes = useMemo(() => index.assets.filter((a) => a.decl.kind === 'scene').length, [index]);
  const narrowed = text !== '' || chip !== '';
  useEffect(() => onFound(narrowed ? found.map((c) => c.path) : null), [found, narrowed, onFound]);
  useEffect(() => input.current?.focus(), []);
  const at = Math.min(cursor, found.length - 1);

  const toWhat = (): void => {
    // The list of actions is there after the next drawing.
    requestAnimationFrame(() =>
      whatList.current?.querySelector<HTMLElement>('.actionrow:not(:disabled)')?.focus(),
    );
  };
  const onKeyDown = (e: KeyboardEvent): void => {
    if (e.key === 'ArrowDown' || e.key === 'ArrowUp') {
      e.preventDefault();
      setCursor(Math.max(0, Math.min(found.length - 1, at + (e.key === 'ArrowDown' ? 1 : -1))));
    } else if (
      e.key.toLowerCase() === 'a' &&
      (e.ctrlKey || e.metaKey) &&
      narrowed &&
      found.length <= MOST_AT_ONCE
    ) {
      // What is typed has narrowed the list to what is meant.
      e.preventDefault();
      const things = found.filter((c) => !c.path.startsWith('#') && !c.path.startsWith(EVERY));
      for (const c of things) if (!picked.includes(c.path)) onPick(c.path);
    } else if (e.key === 'Enter' && found.length === 0 && isNewName(text)) {
      e.preventDefault();
      props.onNew(text.trim());
    } else if (e.key === 'Enter' && found[at]) {
      e.preventDefault();
      const more = e.ctrlKey || e.metaKey || e.shiftKey;
      if (more || !picked.includes(found[at].path)) onPick(found[at].path);
      if (!more) toWhat();
    }
  };
  return (
    <div
      className={`finder ${picked.length > 0 ? 'answered' : ''}`}
      role="dialog"
      aria-label={title}
      onKeyDown={(e) => {
        if (e.key !== 'Escape') return;
        e.stopPropagation();
        onClose();
      }}
    >
      <div className="part">
        <div className="row">
          <span className="lead">Who</span>
          <input
            ref={input}
            className="line code"
            style={{ flex: 1 }}
            role="combobox"
            aria-expanded="true"
            aria-controls="found"
            aria-activedescendant={found[at] ? `found-${at}` : undefined}
            aria-label="Find receivers"
            placeholder="name, asset, #tag, * for every"
            value={text}
            onKeyDown={onKeyDown}
            onChange={(e) => {
              setText(e.target.value);
              setCursor(0);
            }}
          />
          <button type="button" className="word" onClick={() => setOrder(order === 'near' ? 'name' : 'near')}>
            {order === 'near' ? 'nearest' : 'by name'}
          </button>
          <button type="button" className="word" onClick={onClose} title="Close the finder">
            Esc
          </button>
        </div>
        <div className="chips" role="group" aria-label="Narrow by asset or tag">
          {chips.map((c) => (
            <button
              type="button"
              key={c.name}
              className="tick"
              aria-pressed={chip === c.name}
              onClick={() => {
                setChip(chip === c.name ? '' : c.name);
                setCursor(0);
              }}
            >
              {c.name} {c.count}
            </button>
          ))}
          {owner.decl.kind === 'scene' && scenes > 1 && (
            <button
              type="button"
              className="tick"
              aria-pressed={elsewhere}
              title="What stands in the other scenes"
              onClick={() => {
                setElsewhere(!elsewhere);
                setChip('');
                setCursor(0);
              }}
            >
              other scenes
            </button>
          )}
        </div>
      </div>
      <FoundList
        found={found}
        picked={picked}
        cursor={at}
        marked={document.activeElement === input.current}
        onPick={onPick}
        typed={text.trim()}
        onNew={props.onNew}
      />
      <div ref={whatList}>
        <What {...props} />
      </div>
    </div>
  );
}

function wiredOf(all: readonly Candidate[]): Map<string, ReadonlySet<string>> {
  return new Map(all.map((c) => [c.path, new Set(c.wired)]));
}
