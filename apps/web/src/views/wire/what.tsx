import {
  assetAtPath,
  commonActions,
  guessMatch,
  loadedTogether,
  meetingOn,
  type Action,
  type AssetIndex,
  type BindingFrom,
  type ProjectIndex,
} from '@oquel/core';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { selectedText } from '../../parts/selected-text.js';
import { useSelected } from '../../session/use-selected.js';
import { EVERY } from './candidates.js';
import {
  checkDraft,
  EMPTY_DRAFT,
  enteredFaults,
  guessDraft,
  type CheckedDraft,
  type Draft,
} from './draft.js';
import { DeclareAction } from './declare-action.js';
import { BindingFields, Complaints } from './fields.js';
import type { FinderProps } from './finder-props.js';

/** The actions that all chosen receivers offer; taking one wires it, unless it still needs an argument. */
export function What({
  index,
  owner,
  from,
  scope,
  picked,
  all,
  onWire,
  onTaken,
  onDeclare,
}: FinderProps): ReactNode {
  const channel = picked.length === 1 && picked[0].startsWith('#') ? picked[0].slice(1) : null;
  const every = picked.length === 1 && picked[0].startsWith(EVERY) ? picked[0].slice(EVERY.length) : null;
  const far = useMemo(() => loadNotes(index, owner, picked), [index, owner, picked]);
  const assets = useMemo(() => pickedAssets(index, owner, picked), [index, owner, picked]);
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
  const [options, setOptions] = useState<Draft | null>(null);
  const [tried, setTried] = useState(false);
  const form = useRef<HTMLDivElement>(null);
  const usual = every !== null && assets[0] ? guessMatch(assets[0], scope.reader) : null;
  const draftFor = (a: Action): Draft => ({
    ...guessDraft(a.params ?? [], scope, drafts[a.name]),
    ...optionsOf(options ?? withMatch(usual)),
  });
  const draft = action ? draftFor(action) : EMPTY_DRAFT;
  const checked = action ? checkDraft(draft, action.params ?? [], scope) : null;
  const takes = useTaken(owner, from, { every, action, checked }, onTaken);
  if (picked.length === 0) {
    return <div className="part soft">Choose one or more receivers, here or on the plan.</div>;
  }
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
    return (
      <>
        <div className="part soft">The chosen receivers have no action in common.</div>
        <DeclareAction onDeclare={onDeclare} />
      </>
    );
  }
  return (
    <div
      ref={form}
      onKeyDown={(e) => {
        if (e.key !== 'Enter' || !(e.target instanceof HTMLInputElement) || !action) return;
        e.preventDefault();
        take(action);
      }}
    >
      {(takes !== '' || channel !== null || far.length > 0) && (
        <div className="part soft notes" role="status">
          {takes !== '' && <div>{takes}</div>}
          {channel !== null && <div>{usersOf(index, channel)}</div>}
          {far.map((note) => (
            <div key={note}>{note}</div>
          ))}
        </div>
      )}
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
            <b>{channel === null ? a.name : `publish to #${channel}`}</b>
            <span className="mono">{argsText(draftFor(a), a)}</span>
            <span className="grow soft">
              {wired.has(a.name) ? 'already wired' : a === action ? 'Enter wires' : ''}
            </span>
          </button>
        ))}
      </div>
      {channel === null && <DeclareAction onDeclare={onDeclare} />}
      {action && checked && (
        <div className="part" style={{ display: 'grid', gap: 7 }}>
          <BindingFields
            params={action.params ?? []}
            scope={scope}
            draft={draft}
            faults={tried ? checked.faults : enteredFaults(checked, draft)}
            keyed={channel !== null || 'channel' in from}
            selected={every === null ? null : assets[0]}
            onChange={(next) => {
              setDrafts({ ...drafts, [action.name]: next });
              setOptions(next);
            }}
          />
          <Complaints faults={tried ? checked.faults : enteredFaults(checked, draft)} />
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

/** A key on both sides is what is mostly meant: without it every copy reacts. */
function withMatch(property: string | null): Draft {
  if (property === null) return EMPTY_DRAFT;
  return { ...EMPTY_DRAFT, which: { ...EMPTY_DRAFT.which, match: property, equals: `@${property}` } };
}
function optionsOf({ limit, delay, key, asks, which, how }: Draft): Omit<Draft, 'args'> {
  return { limit, delay, key, asks, which, how };
}
function pickedAssets(index: ProjectIndex, owner: AssetIndex, picked: readonly string[]): AssetIndex[] {
  return picked.flatMap((path) => {
    const asset = path.startsWith(EVERY)
      ? index.assets[index.assetAt.get(path.slice(EVERY.length)) ?? -1]
      : path.startsWith('#')
        ? undefined
        : assetAtPath(index, owner, path);
    return asset ? [asset] : [];
  });
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

/** What a selection that is being put together takes now, in words, and shown on the plan. */
function useTaken(
  owner: AssetIndex,
  from: BindingFrom,
  {
    every,
    action,
    checked,
  }: { every: string | null; action: Action | undefined; checked: CheckedDraft | null },
  onTaken: (paths: readonly string[] | null) => void,
): string {
  const to =
    every !== null && action && checked ? { every, action: action.name, ...checked.selection } : null;
  const now = useSelected(owner.decl.id, to ? [{ id: 'draft', from, to }] : []).get('draft');
  useEffect(() => {
    onTaken(now ? now.first.flatMap((f) => f.path ?? []) : null);
    return () => onTaken(null);
  }, [now, onTaken]);
  return now ? `every ${every} ${selectedText(now)}` : '';
}

/** "On #tension: 3 publish, 5 hear." */
function usersOf(index: ProjectIndex, channel: string): string {
  const { publish, hear } = meetingOn(index, channel);
  const one = (n: number, verb: string, many: string): string =>
    n === 0 ? `none ${verb}` : n === 1 ? `1 binding ${verb}` : `${n} bindings ${many}`;
  return `On #${channel} ${one(publish.length, 'publishes', 'publish')}, ${one(hear.length, 'hears', 'hear')} so far.`;
}

/** For each other scene that is reached into, whether it is loaded together with this one. */
function loadNotes(index: ProjectIndex, owner: AssetIndex, picked: readonly string[]): string[] {
  const scenes = new Set(
    picked.flatMap((path) => (path.includes(':') ? [path.slice(0, path.indexOf(':'))] : [])),
  );
  return [...scenes].flatMap((id) => {
    const scene = index.assets[index.assetAt.get(id) ?? -1];
    if (!scene) return [];
    const { always, sets, without } = loadedTogether(index, owner, scene);
    if (always) return [`${id} is loaded whenever ${owner.decl.id} is.`];
    if (sets.length === 0)
      return [`No load set holds both ${owner.decl.id} and ${id}: it would never arrive.`];
    const missing = without.length > 0 ? `; not in ${without.join(', ')}` : '';
    return [`${id} is loaded with ${owner.decl.id} in ${sets.join(', ')}${missing}.`];
  });
}
