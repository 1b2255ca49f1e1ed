import {
  type ArgScope,
  type AssetIndex,
  type Binding,
  type ChangeSet,
  type Finding,
  type Field,
  type ProjectIndex,
  type SelectedNow,
  assetAtPath,
  bindingWords,
  freeBindingId,
  oneForEachValue,
  printBinding,
  reachableFrom,
  valuesOfType,
} from '@oquel/core';
import { useEffect, useId, useMemo, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { copyText } from '../../parts/clipboard.js';
import { FaultLine } from '../../parts/fault-line.js';
import { selectedText } from '../../parts/selected-text.js';
import { useContextMenu } from '../../parts/ui/context-menu.js';
import { CoveredMark } from '../../parts/ui/covered-mark.js';
import { SaidSentence } from '../../parts/ui/sentence.js';
import { SeverityMark, SEVERITY_WORD } from '../../parts/ui/severity-mark.js';
import { lettersOn } from '../../session/letters.js';
import { useCoverage } from '../../session/use-coverage.js';
import { AskLine } from './ask-line.js';
import { checkDraft, draftOf, enteredFaults, withDraft } from './draft.js';
import { BindingFields, Complaints } from './fields.js';
import { hearersOf } from './hearers.js';
import { HowFields } from './which-fields.js';

interface Props {
  index: ProjectIndex;
  owner: AssetIndex;
  binding: Binding;
  /** Its place among the bindings of its event, from 1. */
  nth: number;
  of: number;
  scope: ArgScope;
  findings: readonly Finding[];
  auditHref: string;
  sought: boolean;
  /** What its `every …` takes now. */
  selected?: SelectedNow;
  onEdit: (changeSet: ChangeSet) => boolean;
  /** Goes to where a channel that it tells can be heard. */
  onHear: (channel: string) => void;
  /** Moves it before or after its neighbour of the same event. */
  onMove: (by: -1 | 1) => void;
  /** Another sentence was dropped on it, and takes its place. */
  onDropped: (id: string) => void;
}

/** One binding as a sentence, with its faults under it; opened, it can be changed in place. */
export function SentenceRow(props: Props): ReactNode {
  const { index, owner, binding, nth, findings, sought, onEdit, onMove, auditHref } = props;
  const [open, setOpen] = useState(false);
  const [asking, setAsking] = useState(false);
  const row = useRef<HTMLLIElement>(null);
  useEffect(() => {
    if (sought) row.current?.scrollIntoView({ block: 'nearest' });
  }, [sought]);
  const off = binding.enabled === false;
  const used = useCoverage()?.(owner.decl.id, binding.id);
  const remove = (): boolean => {
    focusNext(row.current);
    return onEdit(removal(owner, binding));
  };
  const copy = (): void => void copyText(printBinding(binding));
  const cut = (): void => {
    copy();
    remove();
  };
  const duplicate = (): boolean => onEdit(duplication(owner, binding));
  const mute = (): boolean => onEdit(muting(owner, binding));
  const onKeyDown = (e: KeyboardEvent): void => {
    if (e.target !== e.currentTarget) return;
    const ctrl = e.ctrlKey || e.metaKey;
    if (e.key === 'Delete') remove();
    else if (ctrl && e.key === 'c') copy();
    else if (ctrl && e.key === 'x') cut();
    else if (ctrl && e.key === 'd') duplicate();
    else if (ctrl) return;
    else if (!e.altKey && (e.key === 'ArrowDown' || e.key === 'ArrowUp')) {
      neighbour(row.current, e.key === 'ArrowDown' ? 1 : -1)?.focus();
    } else if (e.key === 'm' && !lettersOn()) return;
    else if (e.key === 'm') mute();
    else if (e.key === 'i' && lettersOn()) setAsking(true);
    else if (e.key === 'h' && lettersOn() && 'channel' in binding.to) props.onHear(binding.to.channel);
    else if (e.key === 'c' && !e.altKey && lettersOn()) copy();
    else if (e.altKey && e.key === 'ArrowUp') onMove(-1);
    else if (e.altKey && e.key === 'ArrowDown') onMove(1);
    else return;
    e.preventDefault();
  };
  const { onContextMenu, menu } = useContextMenu(
    () => binding.id,
    () => ({
      of: binding.id,
      groups: [
        [
          { label: 'Change', keys: 'Enter', onDo: () => setOpen(true) },
          {
            label: binding.if ? 'Change its condition' : 'Add a condition …',
            keys: 'I',
            onDo: () => setAsking(true),
          },
          { label: off ? 'Unmute' : 'Mute', keys: 'M', onDo: mute },
          ...('channel' in binding.to
            ? [
                {
                  label: 'Listen in a scene',
                  keys: 'H',
                  onDo: () => 'channel' in binding.to && props.onHear(binding.to.channel),
                },
              ]
            : []),
        ],
        props.scope.payload
          .filter((f) => valuesOfType(index, f.type).length > 1)
          .map((f) => ({
            label: `One for each ${f.name}`,
            onDo: () => onEdit(eachValue(index, owner, binding, f)),
          })),
        [
          { label: 'Run earlier', keys: 'Alt ↑', onDo: nth > 1 ? () => onMove(-1) : undefined },
          { label: 'Run later', keys: 'Alt ↓', onDo: nth < props.of ? () => onMove(1) : undefined },
        ],
        [
          { label: 'Cut', keys: 'Ctrl X', onDo: cut },
          { label: 'Copy as a line', keys: 'Ctrl C', onDo: copy },
          { label: 'Duplicate', keys: 'Ctrl D', onDo: duplicate },
        ],
        [{ label: 'Remove', keys: 'Delete', onDo: remove }],
      ],
    }),
  );
  return (
    <li
      onContextMenu={onContextMenu}
      className={`sentence ${off ? 'off' : ''} ${sought ? 'sought' : ''}`}
      ref={row}
      data-binding={binding.id}
      draggable={!open}
      onDragStart={(e) => {
        e.dataTransfer.setData(DRAGGED, binding.id);
        e.dataTransfer.setData('text/plain', printBinding(binding));
      }}
      onDragOver={(e) => e.dataTransfer.types.includes(DRAGGED) && e.preventDefault()}
      onDrop={(e) => {
        const id = e.dataTransfer.getData(DRAGGED);
        if (id === '' || id === binding.id) return;
        e.preventDefault();
        props.onDropped(id);
      }}
    >
      {menu}
      <span className="nth">{nth}</span>
      <button
        type="button"
        className="plain said"
        aria-expanded={open}
        aria-keyshortcuts="Delete I M C H Alt+ArrowUp Alt+ArrowDown"
        title={`${printBinding(binding)}\nEnter changes it, Delete removes it, I sets a condition, M mutes it, C copies it as a line, Alt+↑↓ moves it; a right click shows all`}
        onClick={() => setOpen(!open)}
        onKeyDown={onKeyDown}
      >
        <SaidSentence binding={binding} />
        {props.selected && <span className="takes"> {selectedText(props.selected)}</span>}
      </button>
      <span className="marks">
        {!asking && !open && (
          <button type="button" className="word asks" title="Condition (I)" onClick={() => setAsking(true)}>
            if
          </button>
        )}
        {'channel' in binding.to && (
          <button
            type="button"
            className="word"
            title="Listen in a scene (H)"
            onClick={() => 'channel' in binding.to && props.onHear(binding.to.channel)}
          >
            {heardBy(index, binding.to.channel)}
          </button>
        )}
        {used && <CoveredMark used={used} />}
        {findings.map((f) => (
          <SeverityMark
            key={f.fingerprint}
            severity={f.severity}
            label={`${SEVERITY_WORD[f.severity]}: ${f.rule}`}
          />
        ))}
      </span>
      {findings.map((f) => (
        <FaultLine key={f.fingerprint} finding={f} href={auditHref} />
      ))}
      {asking && (
        <AskLine
          {...props}
          onClose={() => {
            setAsking(false);
            requestAnimationFrame(() => row.current?.querySelector<HTMLElement>('.said')?.focus());
          }}
        />
      )}
      {open && <Editor {...props} onClose={() => setOpen(false)} onRemove={remove} onMute={mute} />}
    </li>
  );
}

/** What is dragged from one sentence to another. */
const DRAGGED = 'application/x-oquel-binding';

/** The sentence before or after one, in whatever strip. */
function neighbour(row: HTMLElement | null, by: 1 | -1): HTMLElement | null {
  const all = [...document.querySelectorAll<HTMLElement>('.strips .sentence > .said')];
  const at = all.findIndex((s) => s.parentElement === row);
  return at < 0 ? null : (all[at + by] ?? null);
}
/** When a sentence goes, the one after it has the focus, or the one before it. */
function focusNext(row: HTMLElement | null): void {
  const next = (neighbour(row, 1) ?? neighbour(row, -1))?.parentElement?.dataset.binding;
  if (next === undefined) return;
  requestAnimationFrame(() =>
    document.querySelector<HTMLElement>(`.strips [data-binding="${CSS.escape(next)}"] > .said`)?.focus(),
  );
}

function Editor({
  index,
  owner,
  binding,
  nth,
  of,
  scope,
  onEdit,
  onMove,
  onClose,
  onRemove,
  onMute,
}: Props & { onClose: () => void; onRemove: () => boolean; onMute: () => boolean }): ReactNode {
  const { to } = binding;
  const [at, setAt] = useState('at' in to ? to.at : '');
  const receiver =
    'at' in to
      ? assetAtPath(index, owner, at)
      : 'every' in to
        ? (index.assets[index.assetAt.get(to.every) ?? -1] ?? null)
        : null;
  const [action, setAction] = useState('channel' in to ? '' : to.action);
  const params = paramsOf(index, binding, receiver, action);
  const [draft, setDraft] = useState(() => draftOf(binding, params));
  const [tried, setTried] = useState(false);
  const checked = checkDraft(draft, params, scope);
  const save = (): void => {
    setTried(true);
    if (checked.faults.size > 0) return;
    const target = 'channel' in to ? to : 'at' in to ? { at, action } : { ...to, action };
    const changed = withDraft({ ...binding, to: target }, checked);
    if (JSON.stringify(changed) === JSON.stringify(binding) || onEdit(replacement(owner, changed))) onClose();
  };
  return (
    <div
      className="editor"
      role="group"
      aria-label="Change this binding"
      onKeyDown={(e) => {
        if (e.key === 'Escape') onClose();
        if (e.key === 'Enter' && e.target instanceof HTMLInputElement) save();
      }}
    >
      {!('channel' in to) && (
        <div className="row">
          <span className="lead">What</span>
          <select
            className="line"
            aria-label="Action"
            value={action}
            onChange={(e) => setAction(e.target.value)}
            // The person has just opened the editor; its first field is where they want to be.
            autoFocus
          >
            {!receiver?.actionAt.has(action) && <option value={action}>{action} (not there)</option>}
            {receiver?.actions.map((a) => (
              <option key={a.name} value={a.name}>
                {a.name}
              </option>
            ))}
          </select>
          {'at' in to && (
            <Receiver
              index={index}
              owner={owner}
              value={at}
              onChange={(next) => {
                setAt(next);
                const asset = assetAtPath(index, owner, next);
                if (asset && !asset.actionAt.has(action)) setAction(asset.actions[0]?.name ?? action);
              }}
            />
          )}
          <span className="soft mono">{binding.id}</span>
        </div>
      )}
      <BindingFields
        params={params}
        scope={scope}
        draft={draft}
        faults={tried ? checked.faults : enteredFaults(checked, draft)}
        keyed={'channel' in to || 'channel' in binding.from}
        selected={'every' in to ? receiver : null}
        onChange={setDraft}
      />
      <HowFields how={draft.how} onChange={(how) => setDraft({ ...draft, how })} />
      <Complaints faults={tried ? checked.faults : enteredFaults(checked, draft)} />
      <div className="row">
        <button type="button" className="tick" aria-pressed="true" onClick={save}>
          Save
        </button>
        <button type="button" className="tick" onClick={onClose}>
          Cancel
        </button>
        <span className="grow" />
        <button type="button" className="word" disabled={nth <= 1} onClick={() => onMove(-1)}>
          Earlier
        </button>
        <button type="button" className="word" disabled={nth >= of} onClick={() => onMove(1)}>
          Later
        </button>
        <button type="button" className="word" onClick={onMute}>
          {binding.enabled === false ? 'Unmute' : 'Mute'}
        </button>
        <button type="button" className="word" onClick={onRemove}>
          Remove
        </button>
      </div>
    </div>
  );
}

/** The receiver by its path, with all that could stand there. */
function Receiver({
  index,
  owner,
  value,
  onChange,
}: {
  index: ProjectIndex;
  owner: AssetIndex;
  value: string;
  onChange: (path: string) => void;
}): ReactNode {
  const list = useId();
  const paths = useMemo(() => reachableFrom(index, owner).slice(0, MOST_OFFERED), [index, owner]);
  return (
    <>
      <input
        className="line code"
        style={{ width: 150 }}
        aria-label="Receiver"
        aria-invalid={assetAtPath(index, owner, value) === null}
        list={list}
        value={value}
        onChange={(e) => onChange(e.target.value)}
      />
      <datalist id={list}>
        {paths.map((t) => (
          <option key={t.path} value={t.path} />
        ))}
      </datalist>
    </>
  );
}
const MOST_OFFERED = 2000;

function paramsOf(
  index: ProjectIndex,
  { to }: Binding,
  receiver: AssetIndex | null,
  action: string,
): readonly Field[] {
  if ('channel' in to) return index.project.channels?.find((c) => c.name === to.channel)?.payload ?? [];
  const at = receiver?.actionAt.get(action);
  return at === undefined ? [] : (receiver!.actions[at].params ?? []);
}

/** "heard by 3", so that it shows when nobody does. */
function heardBy(index: ProjectIndex, channel: string): string {
  return `heard by ${hearersOf(index, channel) || 'no one'}`;
}
function removal(owner: AssetIndex, binding: Binding): ChangeSet {
  const asset = owner.decl.id;
  const { id } = binding;
  return {
    label: `${asset}: removed ${bindingWords(binding)}`,
    changes: [{ op: 'remove', list: 'bindings', asset, id }],
  };
}
/** One for each value of a field, so that each has its own answer. */
function eachValue(
  index: ProjectIndex,
  owner: AssetIndex,
  binding: Binding,
  { name, type }: Field,
): ChangeSet {
  const label = `${owner.decl.id}: one binding for each ${name}: ${bindingWords(binding)}`;
  return { label, changes: oneForEachValue(owner, binding, name, valuesOfType(index, type)) };
}
/** The same once more, right behind it. */
function duplication(owner: AssetIndex, binding: Binding): ChangeSet {
  const asset = owner.decl.id;
  const id = freeBindingId(owner, binding.id.replace(/-\d+$/, ''));
  const index = owner.bindingAt.get(binding.id)! + 1;
  return {
    label: `${asset}: duplicated ${bindingWords(binding)}`,
    changes: [{ op: 'insert', list: 'bindings', asset, index, item: { ...binding, id } }],
  };
}
function muting(owner: AssetIndex, binding: Binding): ChangeSet {
  const { enabled, ...rest } = binding;
  const muted = enabled !== false;
  const label = `${owner.decl.id}: ${muted ? 'muted' : 'unmuted'} ${bindingWords(binding)}`;
  return { label, changes: [replace(owner, muted ? { ...rest, enabled: false } : rest)] };
}
function replacement(owner: AssetIndex, binding: Binding): ChangeSet {
  return {
    label: `${owner.decl.id}: changed to ${bindingWords(binding)}`,
    changes: [replace(owner, binding)],
  };
}
function replace(owner: AssetIndex, item: Binding): ChangeSet['changes'][number] {
  return { op: 'replace', list: 'bindings', asset: owner.decl.id, id: item.id, item };
}
