import {
  printBinding,
  printFrom,
  readNote,
  readWireLines,
  type AssetIndex,
  type BindingFrom,
  type Note,
  type NoteLine,
  type ProjectIndex,
  type Wish,
} from '@oquel/core';
import { useMemo, useState, type ReactNode } from 'react';
import { countText } from '../../parts/ui/severity-mark.js';
import { usePreview } from '../../session/use-preview.js';
import { Making } from '../../parts/needs-list.js';

interface Props {
  index: ProjectIndex;
  owner: AssetIndex;
  text: string;
  /** The event whose strip is active: lines can be put on it instead of on what they name. */
  here: BindingFrom | null;
  onAdd: (note: Note) => void;
  onClose: () => void;
}

const STATE = {
  new: 'new',
  asked: 'to decide',
  wired: 'wired already',
  faulty: 'at fault',
  broken: 'cannot be read',
} as const;

/**
 * What pasted lines would become, and what would be made for them, before it is. What is new is ticked; what is at fault can
 * be.
 */
export function PastePanel({ index, owner, text, here, onAdd, onClose }: Props): ReactNode {
  const [onHere, setOnHere] = useState(false);
  const [ticked, setTicked] = useState<ReadonlyMap<number, boolean>>(new Map());
  const [wishes, setWishes] = useState<ReadonlyMap<string, Wish>>(new Map());
  const [isMaking, setMaking] = useState(true);
  const note = useMemo(
    () =>
      readNote(index, owner, onHere && here ? rewritten(index, owner, text, here) : text, {
        ticks: ticked,
        wishes,
        isMaking,
      }),
    [index, owner, text, onHere, here, ticked, wishes, isMaking],
  );
  const { lines, needs, changes, count } = note;
  const found = usePreview(changes, 400);
  const open = needs.filter((n) => n.isOpen).length;
  const add = (): void => {
    if (changes) onAdd(note);
  };
  return (
    <section
      className="paste"
      role="dialog"
      aria-label="Pasted lines"
      onKeyDown={(e) => {
        if (e.key === 'Escape') onClose();
        // Enter adds, unless it is meant for a button or for a line that is being written.
        if (e.key === 'Enter' && !(e.target as Element).closest('button, .needline')) add();
      }}
    >
      <h2>
        {countText(lines.length, 'line')} for {owner.decl.id}
      </h2>
      {here && (
        <div className="row" role="radiogroup" aria-label="Where they go">
          <label>
            <input type="radio" checked={!onHere} onChange={() => setOnHere(false)} autoFocus /> on what they
            name
          </label>
          <label>
            <input type="radio" checked={onHere} onChange={() => setOnHere(true)} /> all on{' '}
            <span className="mono">{printFrom({ from: here })}</span>
          </label>
        </div>
      )}
      <ol>
        {lines.map((l) => (
          <li key={l.number} data-state={l.state}>
            <input
              type="checkbox"
              aria-label={`Add line ${l.number}`}
              disabled={!l.binding}
              checked={l.isTicked}
              onChange={(e) => setTicked(new Map(ticked).set(l.number, e.target.checked))}
            />
            <span className="nth">{l.number}</span>
            <span className={`state ${l.state}`}>{STATE[l.state]}</span>
            <span className="mono">{l.binding ? printBinding(l.binding) : <Broken line={l} />}</span>
            {l.reasons.length > 0 && <span className="why">{l.reasons.join('; ')}</span>}
          </li>
        ))}
      </ol>
      <Making
        needs={needs}
        isMaking={isMaking}
        onMaking={setMaking}
        onWish={(key, wish) => setWishes(new Map(wishes).set(key, wish))}
      />
      <div className="row">
        <button
          type="button"
          className="tick"
          aria-pressed={changes !== null}
          disabled={!changes}
          onClick={add}
          ref={(el) => {
            // Enter adds at once what needs no answer.
            if (el && !el.disabled && !here && document.activeElement === document.body) el.focus();
          }}
        >
          Add {countText(count, 'binding')}
          {needs.length > 0 && ` and ${needs.length} more`}
        </button>
        <button type="button" className="tick" onClick={onClose}>
          Cancel
        </button>
        <span className="soft" role="status">
          {open > 0 && `${countText(open, 'name')} to decide. `}
          {found &&
            (found.added.length === 0
              ? 'No finding would come.'
              : `${countText(found.added.length, 'finding')} would come.`)}
        </span>
      </div>
    </section>
  );
}

function Broken({ line: { text, fault } }: { line: NoteLine }): ReactNode {
  const { at, found } = fault!;
  const end = at + Math.max(1, found.length);
  return (
    <>
      {text.slice(0, at)}
      <mark>{text.slice(at, end) || ' '}</mark>
      {text.slice(end)}
    </>
  );
}

/** The same lines with another source. One that cannot be read stays as it is. */
function rewritten(index: ProjectIndex, owner: AssetIndex, text: string, here: BindingFrom): string {
  const read = new Map(readWireLines(index, owner, text).map((l) => [l.number, l.binding]));
  return text
    .split(/\r?\n/)
    .map((line, i) => {
      const binding = read.get(i + 1);
      return binding ? printBinding({ ...binding, from: here }) : line;
    })
    .join('\n');
}
