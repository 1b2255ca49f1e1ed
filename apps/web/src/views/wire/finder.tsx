import './finder.css';
import {
  commonActions,
  type Action,
  type ArgScope,
  type AssetIndex,
  type ProjectIndex,
  type Reachable,
} from '@oquel/core';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { chipsOf, findCandidates, type Candidate, type Order } from './candidates.js';
import { checkDraft, EMPTY_DRAFT, guessDraft, type CheckedDraft, type Draft } from './draft.js';
import { BindingFields, Complaints } from './fields.js';

interface Props {
  index: ProjectIndex;
  things: readonly Reachable[];
  title: string;
  scope: ArgScope;
  all: readonly Candidate[];
  picked: readonly string[];
  onPick: (path: string) => void;
  /** What the list shows now, so that the plan can light it; null while nothing narrows it. */
  onFound: (paths: readonly string[] | null) => void;
  onWire: (action: string, draft: CheckedDraft) => void;
  onClose: () => void;
}

/** Rows shown; the rest is reached by narrowing. */
const ROWS = 150;

/** Finds receivers, then wires them: who, what, with, how. Everything by pointer or by keys alone. */
export function Finder(props: Props): ReactNode {
  const { all, picked, onPick, onFound, onClose, title } = props;
  const [text, setText] = useState('');
  const [chip, setChip] = useState('');
  const [order, setOrder] = useState<Order>('near');
  const [cursor, setCursor] = useState(0);
  const whatList = useRef<HTMLDivElement>(null);
  const input = useRef<HTMLInputElement>(null);
  const found = useMemo(() => findCandidates(all, text, chip, order), [all, text, chip, order]);
  const chips = useMemo(() => chipsOf(all), [all]);
  const rows = found.slice(0, ROWS);
  const narrowed = text !== '' || chip !== '';
  useEffect(() => onFound(narrowed ? found.map((c) => c.path) : null), [found, narrowed, onFound]);
  useEffect(() => input.current?.focus(), []);
  const at = Math.min(cursor, rows.length - 1);

  const toWhat = (): void => {
    // The list of actions is there after the next drawing.
    requestAnimationFrame(() =>
      whatList.current?.querySelector<HTMLElement>('.actionrow:not(:disabled)')?.focus(),
    );
  };
  const onKeyDown = (e: KeyboardEvent): void => {
    if (e.key === 'ArrowDown' || e.key === 'ArrowUp') {
      e.preventDefault();
      setCursor(Math.max(0, Math.min(rows.length - 1, at + (e.key === 'ArrowDown' ? 1 : -1))));
    } else if (e.key === 'Enter' && rows[at]) {
      e.preventDefault();
      const more = e.ctrlKey || e.metaKey || e.shiftKey;
      if (more || !picked.includes(rows[at].path)) onPick(rows[at].path);
      if (!more) toWhat();
    }
  };
  const current = document.activeElement === input.current ? rows[at]?.path : undefined;
  return (
    <div
      className="finder"
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
            aria-activedescendant={rows[at] ? `found-${at}` : undefined}
            aria-label="Find receivers"
            placeholder="name, asset or #tag; or point"
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
        </div>
      </div>
      <ul className="found" id="found" role="listbox" aria-label="Receivers" aria-multiselectable="true">
        {rows.map((c, i) => (
          <CandidateRow
            key={c.path}
            id={`found-${i}`}
            candidate={c}
            picked={picked.includes(c.path)}
            current={c.path === current}
            onPick={() => onPick(c.path)}
          />
        ))}
        {found.length > ROWS && (
          <li className="candidate soft" role="presentation">
            <span />
            {found.length - ROWS} more: narrow the search
          </li>
        )}
        {found.length === 0 && (
          <li className="candidate soft" role="presentation">
            <span />
            Nothing here is called that
          </li>
        )}
      </ul>
      <div ref={whatList}>
        <What {...props} />
      </div>
    </div>
  );
}

function CandidateRow({
  id,
  candidate: c,
  picked,
  current,
  onPick,
}: {
  id: string;
  candidate: Candidate;
  picked: boolean;
  current: boolean;
  onPick: () => void;
}): ReactNode {
  return (
    <li
      id={id}
      role="option"
      aria-selected={picked}
      className={`candidate ${picked ? 'picked' : ''} ${current ? 'current' : ''}`}
      onMouseDown={(e) => e.preventDefault()}
      onClick={onPick}
    >
      <svg width="12" height="12" viewBox="0 0 12 12" aria-hidden="true">
        <path
          d="M1 1h10v10H1z"
          fill={picked ? 'var(--accent)' : 'none'}
          stroke={picked ? 'var(--accent)' : 'var(--soft)'}
          strokeWidth="1.4"
        />
      </svg>
      <span className="name">
        <span className="mono">{c.path === '.' ? 'itself' : c.path}</span>{' '}
        <span className="soft">{c.kind}</span>
      </span>
      <span className="wired">
        {c.wired.length > 0
          ? `wired: ${c.wired.join(', ')}`
          : c.distance === null
            ? ''
            : `${Math.round(c.distance)} m`}
      </span>
    </li>
  );
}

/** The actions that all chosen receivers offer; taking one wires it, unless it still needs an argument. */
function What({ index, things, scope, picked, all, onWire }: Props): ReactNode {
  const channel = picked.length === 1 && picked[0].startsWith('#') ? picked[0].slice(1) : null;
  const assets = useMemo(() => pickedAssets(things, picked), [things, picked]);
  const actions = useMemo(
    () => (channel === null ? commonActions(assets) : channelAsAction(index, channel)),
    [assets, channel, index],
  );
  const wired = useMemo(() => {
    const chosen = all.filter((c) => picked.includes(c.path));
    return new Set(chosen.flatMap((c) => c.wired));
  }, [all, picked]);
  const open = actions.find((a) => !wired.has(a.name));
  const [named, setNamed] = useState('');
  const action = actions.find((a) => a.name === named && !wired.has(a.name)) ?? open;
  const [drafts, setDrafts] = useState<Readonly<Record<string, Draft>>>({});
  const [options, setOptions] = useState<Draft>(EMPTY_DRAFT);
  const [tried, setTried] = useState(false);
  const form = useRef<HTMLDivElement>(null);
  if (picked.length === 0) {
    return <div className="part soft">Choose one or more receivers, here or on the plan.</div>;
  }
  const draftFor = (a: Action): Draft => ({
    ...guessDraft(a.params ?? [], scope, drafts[a.name]),
    ...optionsOf(options),
  });
  const take = (a: Action): void => {
    setNamed(a.name);
    const checked = checkDraft(draftFor(a), a.params ?? [], scope);
    if (checked.faults.size === 0) return onWire(channel === null ? a.name : '', checked);
    setTried(true);
    requestAnimationFrame(() => {
      const [first] = checked.faults.keys();
      form.current?.querySelector<HTMLElement>(`[data-param="${first}"]`)?.focus();
    });
  };
  if (actions.length === 0) {
    return <div className="part soft">The chosen receivers have no action in common.</div>;
  }
  const draft = action ? draftFor(action) : EMPTY_DRAFT;
  const checked = action ? checkDraft(draft, action.params ?? [], scope) : null;
  return (
    <div
      ref={form}
      onKeyDown={(e) => {
        if (e.key !== 'Enter' || !(e.target instanceof HTMLInputElement) || !action) return;
        e.preventDefault();
        take(action);
      }}
    >
      <div className="part" role="group" aria-label="Action" onKeyDown={moveBetweenActions}>
        {actions.map((a) => (
          <button
            type="button"
            key={a.name}
            className={`actionrow ${a === action ? 'current' : ''}`}
            disabled={wired.has(a.name)}
            onFocus={() => setNamed(a.name)}
            onClick={() => take(a)}
          >
            <b>{channel === null ? a.name : `tell #${channel}`}</b>
            <span className="mono">{argsText(draftFor(a), a)}</span>
            <span className="grow soft">
              {wired.has(a.name) ? 'wired already' : a === action ? 'Enter wires' : ''}
            </span>
          </button>
        ))}
      </div>
      {action && checked && (
        <div className="part" style={{ display: 'grid', gap: 7 }}>
          <BindingFields
            params={action.params ?? []}
            scope={scope}
            draft={draft}
            faults={tried ? checked.faults : new Map()}
            keyed={channel !== null}
            onChange={(next) => {
              setDrafts({ ...drafts, [action.name]: next });
              setOptions(next);
            }}
          />
          {tried && <Complaints faults={checked.faults} />}
          <div className="row">
            <button
              type="button"
              className="tick"
              style={{ background: 'var(--ink)', color: 'var(--sheet)', fontWeight: 700 }}
              onClick={() => take(action)}
            >
              Wire {picked.length === 1 ? picked[0] : `${picked.length} receivers`}
            </button>
          </div>
        </div>
      )}
    </div>
  );
}

function optionsOf({ limit, delay, key }: Draft): Pick<Draft, 'limit' | 'delay' | 'key'> {
  return { limit, delay, key };
}
function pickedAssets(things: readonly Reachable[], picked: readonly string[]): AssetIndex[] {
  const chosen = new Set(picked);
  return things.filter((t) => chosen.has(t.path)).map((t) => t.asset);
}
/** Publishing takes the channel's fields as its parameters. */
function channelAsAction(index: ProjectIndex, name: string): Action[] {
  const at = index.channelAt.get(name);
  return at === undefined ? [] : [{ name, params: index.project.channels![at].payload ?? [] }];
}
function argsText(draft: Draft, action: Action): string {
  const given = (action.params ?? []).filter((p) => (draft.args[p.name] ?? '') !== '' || !p.optional);
  if (given.length === 0) return '';
  return `(${given.map((p) => `${p.name} = ${draft.args[p.name] === '' ? '?' : draft.args[p.name]}`).join(', ')})`;
}
function moveBetweenActions(e: KeyboardEvent<HTMLDivElement>): void {
  if (e.key !== 'ArrowDown' && e.key !== 'ArrowUp') return;
  const rows = [...e.currentTarget.querySelectorAll<HTMLElement>('.actionrow:not(:disabled)')];
  const at = rows.indexOf(document.activeElement as HTMLElement);
  if (at < 0) return;
  e.preventDefault();
  rows[Math.max(0, Math.min(rows.length - 1, at + (e.key === 'ArrowDown' ? 1 : -1)))].focus();
}
