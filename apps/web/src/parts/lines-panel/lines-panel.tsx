import './lines-panel.css';
import {
  printBinding,
  printFrom,
  readWireLines,
  type AssetIndex,
  type BindingFrom,
  type ProjectIndex,
  type ReadLine,
  type ReadLines,
  type Wish,
} from '@oquel/core';
import { useState, type ReactNode } from 'react';
import { usePreview } from '../../session/use-preview.js';
import { Making } from '../needs-list.js';
import { useLines } from './use-lines.js';
import { countText } from '../../format.js';

interface Props {
  index: ProjectIndex;
  /** To which lines without a head belong; null for none. */
  owner: AssetIndex | null;
  text: string;
  /** The event whose strip is active: lines can be put on it instead of on what they name. */
  here?: BindingFrom | null;
  onAdd: (lines: ReadLines) => void;
  onClose: () => void;
}

const STATE = {
  new: 'new',
  asked: 'needs a decision',
  wired: 'exists',
  faulty: 'has problems',
  broken: 'cannot be read',
} as const;

/**
 * What pasted lines would become, and what would be made for them, before it is. What is new is ticked; what is at fault can
 * be.
 */
export function LinesPanel({ index, owner, text, here = null, onAdd, onClose }: Props): ReactNode {
  const [onHere, setOnHere] = useState(false);
  const [ticked, setTicked] = useState<ReadonlyMap<number, boolean>>(new Map());
  const [wishes, setWishes] = useState<ReadonlyMap<string, Wish>>(new Map());
  const [isMaking, setMaking] = useState(true);
  const whole = onHere && here && owner ? rewritten(index, owner, text, here) : text;
  const { read, fault } = useLines(index, owner?.decl.id ?? '', whole, { ticks: ticked, wishes, isMaking });
  const { lines, needs, changes, count, declared } = read;
  const more = needs.length + declared;
  const shown =
    lines.length <= MOST_SHOWN
      ? lines
      : [...lines.filter((l) => l.state !== 'new'), ...lines.filter((l) => l.state === 'new')].slice(
          0,
          MOST_SHOWN,
        );
  const found = usePreview(changes, 400);
  const left = lines.filter(
    (l) => canTick(l) && !l.isTicked && (l.binding !== null || l.state !== 'wired'),
  ).length;
  const open = needs.filter((n) => n.isOpen).length;
  const add = (): void => {
    if (changes) onAdd(read);
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
        {countText(lines.length, 'line')}
        {owner && ` for ${owner.decl.id}`}
      </h2>
      {here && (
        <div className="row" role="radiogroup" aria-label="Where they go">
          <label>
            <input type="radio" checked={!onHere} onChange={() => setOnHere(false)} autoFocus /> to the events
            they name
          </label>
          <label>
            <input type="radio" checked={onHere} onChange={() => setOnHere(true)} /> all to{' '}
            <span className="mono">{printFrom({ from: here })}</span>
          </label>
        </div>
      )}
      <ol>
        {shown.map((l) => (
          <li
            key={l.number}
            data-state={l.state}
            className={/^(?:scene|prefab|widget) /.test(l.declares ?? '') ? 'head' : ''}
          >
            <input
              type="checkbox"
              aria-label={`Add line ${l.number}`}
              disabled={!canTick(l)}
              checked={l.isTicked}
              onChange={(e) => setTicked(new Map(ticked).set(l.number, e.target.checked))}
            />
            <span className="nth">{l.number}</span>
            <span className={`state ${l.state}`}>
              {l.state === 'wired' && l.binding ? 'exists' : STATE[l.state]}
            </span>
            <span className="mono">
              {l.binding ? printBinding(l.binding) : (l.declares ?? <Broken line={l} />)}
            </span>
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
          Add {count > 0 || more === 0 ? countText(count, 'binding') : countText(more, 'declaration')}
          {count > 0 && more > 0 && ` and ${more} more`}
        </button>
        <button type="button" className="tick" onClick={onClose}>
          Cancel
        </button>
        {left > 0 && (
          <button
            type="button"
            className="tick"
            title="Creates nothing else; lines with problems are added as they are"
            onClick={() => {
              setMaking(false);
              setTicked(new Map(lines.filter(canTick).map((l) => [l.number, true])));
            }}
          >
            Add every line exactly as written
          </button>
        )}
        <span className="soft" role="status">
          {fault}
          {lines.length > shown.length && `${lines.length - shown.length} more lines are not shown. `}
          {open > 0 && `${open === 1 ? '1 name needs' : `${open} names need`} a decision. `}
          {found &&
            (found.added.length === 0
              ? 'No new findings.'
              : `${countText(found.added.length, 'new finding')}.`)}
        </span>
      </div>
    </section>
  );
}

function canTick({ binding, declares }: ReadLine): boolean {
  return binding !== null || declares !== null;
}

const MOST_SHOWN = 1_000;

function Broken({ line: { text, fault } }: { line: ReadLine }): ReactNode {
  if (!fault) return text;
  const { at, found } = fault;
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
