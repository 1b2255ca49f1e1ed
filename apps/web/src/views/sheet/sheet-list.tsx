import { printFrom } from '@oquel/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, useState, type KeyboardEvent, type MouseEvent, type ReactNode } from 'react';
import { SaidSentence } from '../../parts/ui/sentence.js';
import { SeverityMark, SEVERITY_WORD } from '../../parts/ui/severity-mark.js';
import { showRow } from '../../parts/ui/show-row.js';
import type { FindingsOf, SheetItem, SheetRow } from './sheet-rows.js';

interface Props {
  items: readonly SheetItem[];
  /** Whether rows of several scopes are listed. */
  scoped: boolean;
  chosen: ReadonlySet<string>;
  findings: FindingsOf;
  onChoose: (ids: readonly string[], way: 'only' | 'toggle' | 'add') => void;
  onOpen: (row: SheetRow) => void;
  onKey: (key: 'delete' | 'mute' | 'copy' | 'all') => void;
}
const ROW = 28;

/** The rows as one virtual list; the arrows go through it, the space bar chooses, Enter opens a binding in Wire. */
export function SheetList({ items, scoped, chosen, findings, onChoose, onOpen, onKey }: Props): ReactNode {
  const scroller = useRef<HTMLDivElement>(null);
  const [at, setAt] = useState(0);
  const anchor = useRef(0);
  const virtual = useVirtualizer({
    count: items.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 12,
  });
  useEffect(() => setAt(0), [items.length]);
  const idsBetween = (a: number, b: number): string[] =>
    items.slice(Math.min(a, b), Math.max(a, b) + 1).flatMap((item) => ('row' in item ? [item.row.id] : []));
  const go = (to: number, extend: boolean): void => {
    const next = Math.min(items.length - 1, Math.max(0, to));
    setAt(next);
    showRow(virtual, next);
    if (extend) onChoose(idsBetween(anchor.current, next), 'only');
    else anchor.current = next;
  };
  const onKeyDown = (e: KeyboardEvent): void => {
    const page = Math.max(1, Math.floor((scroller.current?.clientHeight ?? ROW) / ROW) - 1);
    const steps: Record<string, number> = {
      ArrowDown: at + 1,
      ArrowUp: at - 1,
      PageDown: at + page,
      PageUp: at - page,
      Home: 0,
      End: items.length - 1,
    };
    const item = items[at];
    const key = e.key.toLowerCase();
    const ctrl = e.ctrlKey || e.metaKey;
    if (e.key in steps) go(steps[e.key], e.shiftKey);
    else if (ctrl && key === 'a') onKey('all');
    else if (ctrl && key === 'c') onKey('copy');
    else if (ctrl || e.altKey) return;
    else if (e.key === ' ' && item) onChoose(idsOf(at), 'toggle');
    else if (e.key === 'Enter' && item && 'row' in item) onOpen(item.row);
    else if (e.key === 'Delete') onKey('delete');
    else if (key === 'm') onKey('mute');
    else if (key === 'c') onKey('copy');
    else return;
    e.preventDefault();
  };
  /** A heading stands for all rows under it. */
  const idsOf = (i: number): string[] => {
    const item = items[i];
    return 'row' in item ? [item.row.id] : idsBetween(i + 1, i + item.count);
  };
  const onClick = (e: MouseEvent, i: number): void => {
    setAt(i);
    if (e.shiftKey) onChoose(idsBetween(anchor.current, i), 'only');
    else {
      anchor.current = i;
      onChoose(idsOf(i), e.ctrlKey || e.metaKey || (e.target as Element).closest('.box') ? 'toggle' : 'only');
    }
  };
  return (
    <div className="scroller" ref={scroller}>
      <div
        className="rows"
        role="listbox"
        aria-multiselectable="true"
        aria-label="Bindings"
        tabIndex={0}
        aria-activedescendant={items.length > 0 ? `sheet-${at}` : undefined}
        style={{ height: virtual.getTotalSize() }}
        onKeyDown={onKeyDown}
      >
        {virtual.getVirtualItems().map(({ index: i, start }) => {
          const item = items[i];
          const common = {
            id: `sheet-${i}`,
            style: { transform: `translateY(${start}px)` },
            onClick: (e: MouseEvent) => onClick(e, i),
          };
          const active = i === at ? 'active' : '';
          if (!('row' in item)) {
            return (
              <div
                key={`g${item.group}`}
                {...common}
                className={`heading ${active}`}
                role="option"
                aria-selected={false}
              >
                <b>{item.group}</b> <span className="soft">{item.count}</span>
              </div>
            );
          }
          const { row } = item;
          const { binding } = row;
          const isChosen = chosen.has(row.id);
          return (
            <div
              key={row.id}
              {...common}
              className={`binding ${active} ${isChosen ? 'chosen' : ''} ${binding.enabled === false ? 'off' : ''}`}
              role="option"
              aria-selected={isChosen}
              aria-setsize={items.length}
              aria-posinset={i + 1}
              data-row={row.id}
              onDoubleClick={() => onOpen(row)}
            >
              <span className="box" aria-hidden="true" />
              {scoped && <span className="mono soft scope">{row.owner.decl.id}</span>}
              <span className="mono from">{printFrom(binding)}</span>
              <span className="sentence">
                <span className="said">
                  <SaidSentence binding={binding} />
                </span>
              </span>
              <span className="marks">
                {(findings.get(row.id) ?? []).map((f) => (
                  <SeverityMark
                    key={f.fingerprint}
                    severity={f.severity}
                    label={`${SEVERITY_WORD[f.severity]}: ${f.message}`}
                  />
                ))}
              </span>
            </div>
          );
        })}
      </div>
    </div>
  );
}
