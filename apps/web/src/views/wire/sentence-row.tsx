import { type Finding, type ProjectIndex, type SelectedNow, printBinding, valuesOfType } from '@oquel/core';
import { useEffect, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
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
import { hearersOf } from './hearers.js';
import { duplication, eachValue, muting, removal } from './sentence-edits.js';
import { SentenceEditor, type Sentence } from './sentence-editor.js';

interface Props extends Sentence {
  findings: readonly Finding[];
  auditHref: string;
  sought: boolean;
  /** What its `every …` takes now. */
  selected?: SelectedNow;
  /** Goes to where a channel that it tells can be heard. */
  onHear: (channel: string) => void;
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
      {open && <SentenceEditor {...props} onClose={() => setOpen(false)} onRemove={remove} onMute={mute} />}
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

/** "heard by 3", so that it shows when nobody does. */
function heardBy(index: ProjectIndex, channel: string): string {
  return `heard by ${hearersOf(index, channel) || 'no one'}`;
}
