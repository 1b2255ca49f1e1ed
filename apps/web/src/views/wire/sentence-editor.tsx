import {
  type ArgScope,
  type AssetIndex,
  type Binding,
  type ChangeSet,
  type Field,
  type ProjectIndex,
  assetAtPath,
  reachableFrom,
} from '@oquel/core';
import { useId, useMemo, useState, type ReactNode } from 'react';
import { checkDraft, draftOf, enteredFaults, withDraft } from './draft.js';
import { BindingFields, Complaints } from './fields.js';
import { replacement } from './sentence-edits.js';
import { HowFields } from './which-fields.js';

/** A sentence in its place, and what is done with it. */
export interface Sentence {
  index: ProjectIndex;
  owner: AssetIndex;
  binding: Binding;
  /** Its place among the bindings of its event, from 1. */
  nth: number;
  of: number;
  scope: ArgScope;
  onEdit: (changeSet: ChangeSet) => boolean;
  /** Moves it before or after its neighbour of the same event. */
  onMove: (by: -1 | 1) => void;
}
interface Props extends Sentence {
  onClose: () => void;
  onRemove: () => boolean;
  onMute: () => boolean;
}

/** A binding's receiver, action, arguments and options in fields. */
export function SentenceEditor({
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
}: Props): ReactNode {
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
