import {
  readWireLines,
  type AssetIndex,
  type Binding,
  type BindingFrom,
  type PastedLine,
  type ProjectIndex,
} from '@oquel/core';
import { printBinding, printFrom } from '@oquel/core';
import { useMemo, useState, type ReactNode } from 'react';
import { countText } from '../../parts/ui/severity-mark.js';

interface Props {
  index: ProjectIndex;
  owner: AssetIndex;
  text: string;
  /** The event whose strip is active: lines can be put on it instead of on what they name. */
  here: BindingFrom | null;
  onAdd: (bindings: Binding[]) => void;
  onClose: () => void;
}

const STATE = { new: 'new', wired: 'wired already', faulty: 'at fault', broken: 'cannot be read' } as const;

/** What pasted lines would become, before they do. What is new is ticked; what is at fault can be. */
export function PastePanel({ index, owner, text, here, onAdd, onClose }: Props): ReactNode {
  const [onHere, setOnHere] = useState(false);
  const [ticked, setTicked] = useState<ReadonlyMap<number, boolean>>(new Map());
  const lines = useMemo(
    () => readWireLines(index, owner, onHere && here ? rewritten(index, owner, text, here) : text),
    [index, owner, text, onHere, here],
  );
  const isTicked = (l: PastedLine): boolean => ticked.get(l.number) ?? l.state === 'new';
  const chosen = lines.filter((l) => l.binding && isTicked(l)).map((l) => l.binding!);
  return (
    <section
      className="paste"
      role="dialog"
      aria-label="Pasted lines"
      onKeyDown={(e) => e.key === 'Escape' && onClose()}
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
              checked={l.binding !== null && isTicked(l)}
              onChange={(e) => setTicked(new Map(ticked).set(l.number, e.target.checked))}
            />
            <span className="nth">{l.number}</span>
            <span className={`state ${l.state}`}>{STATE[l.state]}</span>
            <span className="mono">{l.binding ? printBinding(l.binding) : <Broken line={l} />}</span>
            {l.reasons.length > 0 && <span className="why">{l.reasons.join('; ')}</span>}
          </li>
        ))}
      </ol>
      <div className="row">
        <button
          type="button"
          className="tick"
          aria-pressed="true"
          disabled={chosen.length === 0}
          onClick={() => onAdd(chosen)}
        >
          Add {countText(chosen.length, 'binding')}
        </button>
        <button type="button" className="tick" onClick={onClose}>
          Cancel
        </button>
      </div>
    </section>
  );
}

function Broken({ line: { text, fault } }: { line: PastedLine }): ReactNode {
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
