import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, type ReactNode } from 'react';
import { isNewName, type Candidate } from './candidates.js';
import { showRow } from '../../parts/ui/show-row.js';

const ROW = 28;

/** The candidates that were found, however many they are; the one at the cursor is kept in sight. */
export function FoundList({
  found,
  picked,
  cursor,
  marked,
  typed,
  onPick,
  onNew,
}: {
  found: readonly Candidate[];
  picked: readonly string[];
  cursor: number;
  /** Whether the cursor shows: the keys go to the field above. */
  marked: boolean;
  /** What is looked for. */
  typed: string;
  onPick: (path: string) => void;
  onNew: (name: string) => void;
}): ReactNode {
  const scroller = useRef<HTMLUListElement>(null);
  const virtual = useVirtualizer({
    count: found.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 10,
  });
  const show = useRef((_at: number): void => undefined);
  show.current = (at) => showRow(virtual, at);
  useEffect(() => show.current(cursor), [cursor]);
  return (
    <ul
      className="found"
      id="found"
      role="listbox"
      aria-label="Receivers"
      aria-multiselectable="true"
      ref={scroller}
      tabIndex={-1}
    >
      <li role="presentation" className="rows" style={{ height: virtual.getTotalSize() }}>
        {found.length === 0 && (
          <span className="soft none">
            No match.{' '}
            {isNewName(typed) && (
              <button type="button" className="word" onClick={() => onNew(typed)}>
                Create {typed}
              </button>
            )}
          </span>
        )}
      </li>
      {virtual.getVirtualItems().map(({ index: at, start }) => (
        <CandidateRow
          key={found[at].path}
          id={`found-${at}`}
          candidate={found[at]}
          at={at}
          of={found.length}
          top={start}
          picked={picked.includes(found[at].path)}
          current={marked && at === cursor}
          onPick={() => onPick(found[at].path)}
        />
      ))}
    </ul>
  );
}

function CandidateRow({
  id,
  candidate: c,
  at,
  of,
  top,
  picked,
  current,
  onPick,
}: {
  id: string;
  candidate: Candidate;
  at: number;
  of: number;
  top: number;
  picked: boolean;
  current: boolean;
  onPick: () => void;
}): ReactNode {
  return (
    <li
      id={id}
      role="option"
      aria-selected={picked}
      aria-setsize={of}
      aria-posinset={at + 1}
      style={{ transform: `translateY(${top}px)` }}
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
        <span className="soft">{c.kind === 'every one' ? '' : c.kind}</span>
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
