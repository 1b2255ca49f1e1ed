import type { RippleLine } from '@oquel/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { CoveredMark } from '../../parts/ui/covered-mark.js';
import { showRow } from '../../parts/ui/show-row.js';
import { coverageOfMany } from '../../session/coverage.js';
import { useCoverage } from '../../session/use-coverage.js';
import { useRef, type KeyboardEvent, type ReactNode } from 'react';

const ROW = 28;

/** The ripple as an indented list; it says all that the picture shows. */
export function RippleList({
  lines,
  chosen,
  onChoose,
}: {
  lines: readonly RippleLine[];
  chosen: string;
  onChoose: (key: string) => void;
}): ReactNode {
  const scroller = useRef<HTMLDivElement>(null);
  const coverage = useCoverage();
  const virtual = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 12,
  });
  const onKeyDown = (e: KeyboardEvent): void => {
    if (e.key !== 'ArrowDown' && e.key !== 'ArrowUp') return;
    const at = Number((e.target as HTMLElement).closest<HTMLElement>('[data-line]')?.dataset.line ?? -1);
    const next = Math.max(0, Math.min(lines.length - 1, at + (e.key === 'ArrowDown' ? 1 : -1)));
    e.preventDefault();
    showRow(virtual, next);
    requestAnimationFrame(() =>
      scroller.current?.querySelector<HTMLElement>(`[data-line="${next}"] button`)?.focus(),
    );
  };
  return (
    <div className="ripplelist" ref={scroller} onKeyDown={onKeyDown} tabIndex={-1}>
      <ul aria-label="What follows, as a list" style={{ height: virtual.getTotalSize() }}>
        {virtual.getVirtualItems().map(({ index: at, start }) => {
          const line = lines[at];
          const used = coverage && coverageOfMany(line.bindings, coverage);
          return (
            <li
              key={at}
              data-line={at}
              className={`${line.kind} ${line.key === chosen ? 'chosen' : ''}`}
              style={{ transform: `translateY(${start}px)`, paddingLeft: 16 + Math.min(24, line.depth) * 22 }}
            >
              <button
                type="button"
                className="plain mono"
                aria-label={`Hop ${line.depth}: ${line.text}`}
                onClick={() => onChoose(line.key)}
              >
                {line.text}
              </button>
              {used && <CoveredMark used={used} />}
            </li>
          );
        })}
      </ul>
    </div>
  );
}
