import {
  freeBindingId,
  needsText,
  printFrom,
  lineKind,
  type AssetIndex,
  type Binding,
  type BindingFrom,
  type ChangeSet,
  type LineBinding,
  type Note,
  type ProjectIndex,
} from '@oquel/core';
import { useEffect, useRef, type ReactNode } from 'react';
import { isForView } from '../../parts/clipboard.js';
import { usePastedLines } from '../../parts/lines-panel/use-pasted-lines.js';
import { pasting } from '../../parts/pasting.js';
import { useSession, useSessionState } from '../../session/session-context.js';
import { LineField } from './line-field.js';
import { countText } from '../../format.js';

interface Props {
  index: ProjectIndex;
  owner: AssetIndex;
  /** A line that was begun elsewhere: it is gone on with here. */
  begun: { text: string } | null;
  /** The event whose strip is active. */
  here: BindingFrom | null;
  onEdit: (changeSet: ChangeSet) => boolean;
  /** A binding that was added, to be shown. */
  onAdded: (binding: Binding) => void;
}

/** Bindings as text: one typed as a line, many pasted, wherever the focus is. */
export function Lines({ index, owner, begun, here, onEdit, onAdded }: Props): ReactNode {
  const session = useSession();
  const { id: project } = useSessionState();
  useEffect(() => {
    const onPaste = (e: ClipboardEvent): void => {
      if (!isForView(e)) return;
      const text = e.clipboardData?.getData('text') ?? '';
      if (!/\S/.test(text)) return;
      e.preventDefault();
      latest.current(text);
    };
    window.addEventListener('paste', onPaste);
    return () => window.removeEventListener('paste', onPaste);
  }, []);
  const { open, panel } = usePastedLines(owner, {
    here,
    onAdded: (changes) => {
      const first = changes.find(
        (c) => c.op === 'insert' && c.list === 'bindings' && c.asset === owner.decl.id,
      );
      if (first?.op === 'insert' && first.list === 'bindings') onAdded(first.item);
    },
  });
  // Things with what is wired between them come in as on the plan.
  const latest = useRef((_text: string): void => undefined);
  latest.current = (text) => {
    if (lineKind(text) !== 'stage') return open(text);
    const { changeSet, words } = pasting(index, owner, text);
    if (changeSet) onEdit(changeSet);
    if (words !== null) session.notice(words, changeSet ? 'info' : 'refused');
  };
  const add = (bindings: Binding[]): boolean => {
    if (!onEdit(additions(owner, bindings))) return false;
    onAdded(bindings[0]);
    return true;
  };
  const addNote = ({ changes, needs, count }: Note): boolean => {
    if (!changes) return false;
    const made = needs.length > 0 ? `, made ${needsText(needs)}` : '';
    const label = `${owner.decl.id}: added ${countText(count, 'binding')} as lines${made}`;
    if (!onEdit({ label, changes })) return false;
    const first = changes.find((c) => c.op === 'insert' && c.list === 'bindings');
    if (first?.op === 'insert' && first.list === 'bindings') onAdded(first.item);
    return true;
  };
  const addLine = ({ id, ...rest }: LineBinding): boolean => {
    const stem = 'channel' in rest.from ? rest.from.channel : rest.from.event;
    const own = id !== undefined && !owner.bindingAt.has(id) ? id : freeBindingId(owner, stem);
    return add([{ id: own, ...rest }]);
  };
  return (
    <>
      <LineField
        index={index}
        owner={owner}
        draftKey={`${project}/${owner.decl.id}`}
        key={`${project}/${owner.decl.id}`}
        begun={begun}
        beginning={here ? `when ${printFrom({ from: here })} do ` : 'when '}
        onLine={addLine}
        onNote={addNote}
        onLines={open}
      />
      {panel}
    </>
  );
}

/** Puts bindings behind all others, so that each runs after what its event has already. */
function additions(owner: AssetIndex, bindings: readonly Binding[]): ChangeSet {
  const asset = owner.decl.id;
  const what = bindings.length === 1 ? bindings[0].id : countText(bindings.length, 'binding');
  return {
    label: `${asset}: added ${what} as ${bindings.length === 1 ? 'a line' : 'lines'}`,
    changes: bindings.map((item, i) => ({
      op: 'insert',
      list: 'bindings',
      asset,
      index: owner.bindings.length + i,
      item,
    })),
  };
}
