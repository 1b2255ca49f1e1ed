import {
  type ArgScope,
  type AssetIndex,
  type Binding,
  type ChangeSet,
  type Finding,
  type Field,
  type ProjectIndex,
  assetAtPath,
  printBinding,
} from '@oquel/core';
import { useEffect, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { Link } from 'react-router';
import { SaidSentence } from '../../parts/ui/sentence.js';
import { SeverityMark, SEVERITY_WORD } from '../../parts/ui/severity-mark.js';
import { checkDraft, draftOf, withDraft } from './draft.js';
import { BindingFields, Complaints } from './fields.js';

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
  onEdit: (changeSet: ChangeSet) => boolean;
  /** Moves it before or after its neighbour of the same event. */
  onMove: (by: -1 | 1) => void;
}

/** One binding as a sentence, with its faults under it; opened, it can be changed in place. */
export function SentenceRow(props: Props): ReactNode {
  const { owner, binding, nth, findings, sought, onEdit, onMove, auditHref } = props;
  const [open, setOpen] = useState(false);
  const row = useRef<HTMLLIElement>(null);
  useEffect(() => {
    if (sought) row.current?.scrollIntoView({ block: 'nearest' });
  }, [sought]);
  const off = binding.enabled === false;
  const remove = (): boolean => onEdit(removal(owner, binding));
  const mute = (): boolean => onEdit(muting(owner, binding));
  const onKeyDown = (e: KeyboardEvent): void => {
    if (e.target !== e.currentTarget) return;
    if (e.key === 'Delete') remove();
    else if (e.key === 'm') mute();
    else if (e.altKey && e.key === 'ArrowUp') onMove(-1);
    else if (e.altKey && e.key === 'ArrowDown') onMove(1);
    else return;
    e.preventDefault();
  };
  return (
    <li
      className={`sentence ${off ? 'off' : ''} ${sought ? 'sought' : ''}`}
      ref={row}
      data-binding={binding.id}
    >
      <span className="nth">{nth}</span>
      <button
        type="button"
        className="plain said"
        aria-expanded={open}
        aria-keyshortcuts="Delete M Alt+ArrowUp Alt+ArrowDown"
        title={`${printBinding(binding)}\nEnter changes it, Delete removes it, M mutes it, Alt+↑↓ moves it`}
        onClick={() => setOpen(!open)}
        onKeyDown={onKeyDown}
      >
        <SaidSentence binding={binding} />
      </button>
      <span className="marks">
        {findings.map((f) => (
          <SeverityMark
            key={f.fingerprint}
            severity={f.severity}
            label={`${SEVERITY_WORD[f.severity]}: ${f.rule}`}
          />
        ))}
      </span>
      {findings.map((f) => (
        <span key={f.fingerprint} className={`fault ${f.severity}`}>
          {f.message}. <Link to={`${auditHref}?finding=${f.fingerprint}`}>Show</Link>
        </span>
      ))}
      {open && <Editor {...props} onClose={() => setOpen(false)} onRemove={remove} onMute={mute} />}
    </li>
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
  const receiver =
    'at' in to
      ? assetAtPath(index, owner, to.at)
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
    const changed = withDraft('channel' in to ? binding : { ...binding, to: { ...to, action } }, checked);
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
          <span className="soft mono">{binding.id}</span>
        </div>
      )}
      <BindingFields
        params={params}
        scope={scope}
        draft={draft}
        faults={tried ? checked.faults : new Map()}
        keyed={'channel' in to || 'channel' in binding.from}
        onChange={setDraft}
      />
      {tried && <Complaints faults={checked.faults} />}
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

function removal(owner: AssetIndex, { id }: Binding): ChangeSet {
  const asset = owner.decl.id;
  return { label: `${asset}: removed ${id}`, changes: [{ op: 'remove', list: 'bindings', asset, id }] };
}
function muting(owner: AssetIndex, binding: Binding): ChangeSet {
  const { enabled, ...rest } = binding;
  const muted = enabled !== false;
  const label = `${owner.decl.id}: ${muted ? 'muted' : 'unmuted'} ${binding.id}`;
  return { label, changes: [replace(owner, muted ? { ...rest, enabled: false } : rest)] };
}
function replacement(owner: AssetIndex, binding: Binding): ChangeSet {
  return { label: `${owner.decl.id}: changed ${binding.id}`, changes: [replace(owner, binding)] };
}
function replace(owner: AssetIndex, item: Binding): ChangeSet['changes'][number] {
  return { op: 'replace', list: 'bindings', asset: owner.decl.id, id: item.id, item };
}
