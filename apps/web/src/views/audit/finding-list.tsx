import type { Finding } from '@oquel/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useImperativeHandle, useRef, type KeyboardEvent, type ReactNode, type Ref } from 'react';
import { useNavigate } from 'react-router';
import { placesOf } from '../../parts/places.js';
import { useContextMenu } from '../../parts/ui/context-menu.js';
import { SeverityMark, SEVERITY_WORD } from '../../parts/ui/severity-mark.js';
import { showRow } from '../../parts/ui/show-row.js';
import { queryNow, useQuery } from '../../parts/use-query.js';
import { useSessionState } from '../../session/session-context.js';
import { findingChoices } from './finding-menu.js';
import type { Row } from './finding-rows.js';

/** The findings in groups; arrow keys move among them. */
export function FindingList({
  ref,
  rows,
  ordered,
  current,
  onChoose,
  onFold,
}: {
  ref: Ref<HTMLDivElement>;
  rows: readonly Row[];
  ordered: readonly Finding[];
  current: Finding | undefined;
  onChoose: (f: Finding) => void;
  onFold: (mistake: string) => void;
}): ReactNode {
  const box = useRef<HTMLDivElement>(null);
  useImperativeHandle(ref, () => box.current!);
  const { id, index } = useSessionState();
  const navigate = useNavigate();
  const { params, go } = useQuery();
  const { onContextMenu, menu } = useContextMenu(
    (target) => {
      const fingerprint = target.closest<HTMLElement>('[data-fingerprint]')?.dataset.fingerprint;
      const finding =
        ordered.find((f) => f.fingerprint === fingerprint) ?? (target === box.current ? current : undefined);
      if (finding) onChoose(finding);
      return finding ?? null;
    },
    (finding) =>
      findingChoices(finding, {
        places: placesOf(index, `/p/${id}`, finding, 3),
        to: (href) => void navigate(href),
        isFiltered: params.get('rule') === finding.rule,
        only: (rule) => go({ rule }),
      }),
  );
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => box.current,
    estimateSize: (i) => (rows[i].kind === 'group' ? 36 : 30),
    overscan: 12,
  });
  const onKeyDown = (e: KeyboardEvent): void => {
    if (e.key !== 'ArrowDown' && e.key !== 'ArrowUp') return;
    e.preventDefault();
    const wanted = queryNow().get('finding') ?? current?.fingerprint;
    const at = ordered.findIndex((f) => f.fingerprint === wanted);
    const next = ordered[Math.max(0, Math.min(ordered.length - 1, at + (e.key === 'ArrowDown' ? 1 : -1)))];
    if (!next) return;
    onChoose(next);
    showRow(
      virtual,
      rows.findIndex((r) => r.kind === 'finding' && r.finding === next),
    );
  };
  return (
    <div
      className="scroll"
      ref={box}
      tabIndex={0}
      role="group"
      aria-label="Findings, arrow keys move"
      onKeyDown={onKeyDown}
      onContextMenu={onContextMenu}
    >
      {menu}
      <div style={{ height: virtual.getTotalSize(), position: 'relative' }}>
        {virtual.getVirtualItems().map((item) => {
          const row = rows[item.index];
          const style = {
            position: 'absolute',
            top: item.start,
            left: 0,
            right: 0,
            height: item.size,
          } as const;
          if (row.kind === 'fold') {
            return (
              <button
                key={item.key}
                type="button"
                className="foldrow"
                style={style}
                aria-expanded={row.isOpen}
                onClick={() => onFold(row.mistake)}
              >
                {row.isOpen ? 'Fold' : 'Show'} {row.more} more with the same mistake
              </button>
            );
          }
          return row.kind === 'group' ? (
            <div key={item.key} className="rulehead" style={style}>
              <span className="n">{row.group.findings.length}</span>
              <b>{row.group.name}</b>
            </div>
          ) : (
            <button
              key={item.key}
              type="button"
              className="findingrow"
              style={style}
              tabIndex={-1}
              aria-current={row.finding === current}
              data-rule={row.finding.rule}
              data-fingerprint={row.finding.fingerprint}
              onClick={() => onChoose(row.finding)}
            >
              <SeverityMark severity={row.finding.severity} label={SEVERITY_WORD[row.finding.severity]} />
              <span className="text" title={row.finding.message}>
                {row.finding.message}
              </span>
              <span className="soft">
                {row.finding.waived ? 'waived ' : ''}
                {row.finding.occurrences.length > 1 ? `× ${row.finding.occurrences.length}` : ''}
              </span>
            </button>
          );
        })}
      </div>
    </div>
  );
}
