import './comparison.css';
import '../ui/rulehead.css';
import { useVirtualizer } from '@tanstack/react-virtual';
import type { DifferenceHow, DifferenceLine, Finding } from '@oquel/core';
import { useRef, type ReactNode } from 'react';
import { Link } from 'react-router';
import type { Comparison } from '../../workers/auditor-answers.js';
import { SeverityMark, SEVERITY_WORD } from '../ui/severity-mark.js';
import { HOW_WORD } from './words.js';
import { countText } from '../../format.js';

export type ComparisonRow =
  { head: string; n: number } | { line: DifferenceLine } | { finding: Finding; how: 'new' | 'gone' };

/** Scene by scene; only what is of one kind or way, if asked. */
export function changeRows({ difference }: Comparison, of: string, how: DifferenceHow | ''): ComparisonRow[] {
  return difference.groups.flatMap((g): ComparisonRow[] => {
    const lines = g.lines.filter((l) => (of === '' || l.of === of) && (how === '' || l.how === how));
    if (lines.length === 0) return [];
    const head = g.kind === 'project' ? 'the project' : `${g.kind} ${g.asset}`;
    return [{ head, n: lines.length }, ...lines.map((line) => ({ line }))];
  });
}
/** Those that are new, then those that are gone. */
export function findingRows({ findings: { added, gone } }: Comparison): ComparisonRow[] {
  const part = (how: 'new' | 'gone', list: readonly Finding[]): ComparisonRow[] =>
    list.length === 0
      ? []
      : [{ head: how, n: list.length }, ...list.map((finding): ComparisonRow => ({ finding, how }))];
  return [...part('new', added), ...part('gone', gone)];
}

/** The rows as one virtual list. New findings lead to the audit where they are `here`: the base of its address. */
export function ComparisonList({
  rows,
  here,
}: {
  rows: readonly ComparisonRow[];
  here: string | null;
}): ReactNode {
  const box = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => box.current,
    estimateSize: (i) =>
      'head' in rows[i] ? 34 : 'line' in rows[i] && rows[i].line.was !== undefined ? 50 : 28,
    overscan: 16,
  });
  return (
    <div
      className="scroll comparisonlist"
      ref={box}
      tabIndex={0}
      role="group"
      aria-label="Lines of the comparison"
    >
      <div style={{ height: virtual.getTotalSize(), position: 'relative' }}>
        {virtual.getVirtualItems().map((item) => (
          <div
            key={item.key}
            ref={virtual.measureElement}
            data-index={item.index}
            style={{ position: 'absolute', top: item.start, left: 0, right: 0 }}
          >
            <RowText row={rows[item.index]} here={here} />
          </div>
        ))}
      </div>
    </div>
  );
}

function RowText({ row, here }: { row: ComparisonRow; here: string | null }): ReactNode {
  if ('head' in row) {
    return (
      <div className="rulehead">
        <span className="n">{row.n}</span>
        <b>{row.head}</b>
      </div>
    );
  }
  if ('finding' in row) {
    return (
      <div className="changeline">
        <span className={`how ${row.how === 'new' ? 'worse' : 'better'}`}>{row.how}</span>
        <span>
          <SeverityMark severity={row.finding.severity} label={SEVERITY_WORD[row.finding.severity]} />{' '}
          {row.how === 'new' && here !== null ? (
            <Link to={`${here}/audit?finding=${row.finding.fingerprint}`}>{row.finding.message}</Link>
          ) : (
            row.finding.message
          )}
        </span>
      </div>
    );
  }
  const { how, text, was, place, carried, of } = row.line;
  return (
    <div className="changeline" data-how={how} data-of={of}>
      <span className={`how ${how}`}>{HOW_WORD[how]}</span>
      <span>
        {text}
        {place && (
          <span className="soft">
            {' '}
            · from place {place[0]} to {place[1]}
          </span>
        )}
        {carried !== undefined && carried > 0 && (
          <span className="soft"> · {countText(carried, 'binding')} carried along</span>
        )}
        {was !== undefined && <span className="was">was: {was}</span>}
      </span>
    </div>
  );
}
