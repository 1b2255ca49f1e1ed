import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef, type ReactNode } from 'react';
import type { TableLook } from '../../workers/table-incoming.js';

interface Row {
  line: number;
  how: string;
  text: ReactNode;
}

/** Rows that cannot be taken, each with its faults by column; then what the others become. */
export function TableRows({ look }: { look: TableLook }): ReactNode {
  const rows = useMemo<Row[]>(
    () => [
      ...look.broken.map((r) => ({
        line: r.line,
        how: 'broken',
        text: r.faults.map(({ column, text }, i) => (
          <span key={i} className="fault error csvfault">
            {column === null ? 'the row ' : <b>{column}: </b>}
            {text}
          </span>
        )),
      })),
      ...look.taken.map((r) => ({
        line: r.line,
        how: r.state,
        text: (
          <>
            {r.asset !== '' && <span className="soft">{r.asset}: </span>}
            {r.text}
            {r.doubts.map((d) => (
              <span key={d} className="fault warning csvfault">
                {d}
              </span>
            ))}
          </>
        ),
      })),
    ],
    [look],
  );
  const left = look.counts.broken + look.counts.new + look.counts.changed - rows.length;
  const box = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => box.current,
    estimateSize: () => 29,
    overscan: 16,
  });
  return (
    <div className="scroll" ref={box} tabIndex={0} role="group" aria-label="Rows of the table">
      <div style={{ height: virtual.getTotalSize(), position: 'relative' }}>
        {virtual.getVirtualItems().map((item) => {
          const row = rows[item.index];
          return (
            <div
              key={item.key}
              ref={virtual.measureElement}
              data-index={item.index}
              className="csvrow"
              style={{ position: 'absolute', top: item.start, left: 0, right: 0 }}
            >
              <span className="soft">line {row.line}</span>
              <b className={row.how}>{row.how}</b>
              <span>{row.text}</span>
            </div>
          );
        })}
      </div>
      {left > 0 && <p className="soft">and {left} more rows</p>}
    </div>
  );
}
