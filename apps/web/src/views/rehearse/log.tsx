import { recordText, secondsText, type TraceRecord } from '@oquel/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { wentWrong } from './lanes.js';
import { showRow } from '../../parts/ui/show-row.js';

const ROW = 24;

/** Everything that happened, in order, as sentences; the arrows go through it. */
export function Log({
  records,
  cursor,
  added,
  left,
  onCursor,
}: {
  records: readonly TraceRecord[];
  cursor: number;
  added: ReadonlySet<number>;
  left: number;
  onCursor: (n: number) => void;
}): ReactNode {
  const [text, setText] = useState('');
  const [wrong, setWrong] = useState(false);
  const shown = useMemo(() => {
    const words = text.toLowerCase().split(/\s+/).filter(Boolean);
    return records.filter((r) => {
      if (wrong && !wentWrong(r)) return false;
      if (words.length === 0) return true;
      const said = recordText(r).toLowerCase();
      return words.every((w) => said.includes(w));
    });
  }, [records, text, wrong]);
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: shown.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 10,
  });
  const at = useMemo(() => shown.findIndex((r) => r.n === cursor), [shown, cursor]);
  useEffect(() => showRow(virtual, at), [at, virtual]);
  const onKeyDown = (e: KeyboardEvent): void => {
    const page = Math.max(1, Math.floor((scroller.current?.clientHeight ?? ROW) / ROW) - 1);
    const to: Record<string, number> = {
      ArrowDown: at + 1,
      ArrowUp: at - 1,
      PageDown: at + page,
      PageUp: at - page,
      Home: 0,
      End: shown.length - 1,
    };
    if (!(e.key in to) || shown.length === 0) return;
    e.preventDefault();
    onCursor(shown[Math.min(shown.length - 1, Math.max(0, to[e.key]))].n);
  };
  return (
    <section className="log" aria-label="Log">
      <div className="row">
        <h2>Log</h2>
        <input
          className="line"
          aria-label="Search the log"
          placeholder="search"
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
        <button type="button" className="tick" aria-pressed={wrong} onClick={() => setWrong(!wrong)}>
          refused and lost
        </button>
        <span className="soft">
          {shown.length} of {records.length + left}
          {left > 0 && `, the first ${records.length} are kept`}
        </span>
      </div>
      <div className="scroller" ref={scroller}>
        <div
          className="logrows"
          role="listbox"
          aria-label="What happened"
          tabIndex={0}
          aria-activedescendant={at >= 0 ? `log-${shown[at].n}` : undefined}
          style={{ height: virtual.getTotalSize() }}
          onKeyDown={onKeyDown}
        >
          {virtual.getVirtualItems().map(({ index: i, start }) => {
            const r = shown[i];
            return (
              <div
                key={r.n}
                id={`log-${r.n}`}
                role="option"
                aria-selected={r.n === cursor}
                aria-setsize={shown.length}
                aria-posinset={i + 1}
                className={`logrow ${wentWrong(r) ? 'wrong' : ''} ${r.n > cursor ? 'later' : ''}`}
                style={{ transform: `translateY(${start}px)` }}
                onClick={() => onCursor(r.n)}
              >
                <span className="t" title={secondsText(r.t)}>
                  {secondsText(Math.round(r.t / 1000) * 1000)}
                </span>
                <span className="n">{r.n}</span>
                <span className="what">
                  {added.has(r.n) && <b className="newmark">new </b>}
                  {recordText(r)}
                </span>
              </div>
            );
          })}
        </div>
      </div>
    </section>
  );
}
