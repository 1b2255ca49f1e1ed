import { printFields, type CatalogueEntry, type Finding } from '@oquel/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useNavigate } from 'react-router';
import { useEffect, useRef, type KeyboardEvent, type ReactNode } from 'react';
import { useContextMenu } from '../../parts/ui/context-menu.js';
import { queryNow } from '../../parts/use-query.js';
import { useSessionState } from '../../session/session-context.js';
import { SeverityMark, SEVERITY_WORD } from '../../parts/ui/severity-mark.js';
import { showRow } from '../../parts/ui/show-row.js';
import { entryKey } from './catalogue-address.js';
import { entryChoices, renameEntry } from './entry-menu.js';

const ROW = 28;
const KIND_WORD: Record<CatalogueEntry['kind'], string> = {
  event: 'event',
  action: 'action',
  channel: 'channel',
  enum: 'enum',
  table: 'keys',
  loadSet: 'load set',
  peer: 'peer',
  tag: 'tag',
};

/** The entries as one virtual list; the arrows go through it. */
export function EntryList({
  entries,
  chosen,
  findings,
  onChoose,
}: {
  entries: readonly CatalogueEntry[];
  chosen: string;
  findings: ReadonlyMap<string, readonly Finding[]>;
  onChoose: (key: string) => void;
}): ReactNode {
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: entries.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 12,
  });
  const at = entries.findIndex((e) => entryKey(e) === chosen);
  useEffect(() => showRow(virtual, at), [at, virtual]);
  const onKeyDown = (e: KeyboardEvent): void => {
    if (e.key === 'F2') return renameEntry();
    const page = Math.max(1, Math.floor((scroller.current?.clientHeight ?? ROW) / ROW) - 1);
    const wanted = queryNow().get('entry');
    const from = entries.findIndex((e) => entryKey(e) === wanted);
    const to: Record<string, number> = {
      ArrowDown: from + 1,
      ArrowUp: from - 1,
      PageDown: from + page,
      PageUp: from - page,
      Home: 0,
      End: entries.length - 1,
    };
    if (!(e.key in to) || entries.length === 0) return;
    e.preventDefault();
    onChoose(entryKey(entries[Math.min(entries.length - 1, Math.max(0, to[e.key]))]));
  };
  const { id } = useSessionState();
  const navigate = useNavigate();
  const { onContextMenu, menu } = useContextMenu(
    (target) => {
      const key = target.closest<HTMLElement>('[data-entry]')?.dataset.entry ?? chosen;
      const entry = entries.find((e) => entryKey(e) === key);
      if (entry) onChoose(key);
      return entry ?? null;
    },
    (entry) => entryChoices(entry, `/p/${id}`, (href) => void navigate(href)),
  );
  return (
    <div className="scroller" ref={scroller} onContextMenu={onContextMenu}>
      {menu}
      <div
        className="entryrows"
        role="listbox"
        aria-label="All entries"
        tabIndex={0}
        aria-activedescendant={at >= 0 ? `entry-${at}` : undefined}
        style={{ height: virtual.getTotalSize() }}
        onKeyDown={onKeyDown}
      >
        {virtual.getVirtualItems().map(({ index: i, start }) => {
          const e = entries[i];
          const key = entryKey(e);
          return (
            <div
              key={key}
              id={`entry-${i}`}
              role="option"
              aria-selected={key === chosen}
              aria-setsize={entries.length}
              aria-posinset={i + 1}
              data-entry={key}
              className="entryrow"
              style={{ transform: `translateY(${start}px)` }}
              onClick={() => onChoose(key)}
            >
              <span className="kind">{KIND_WORD[e.kind]}</span>
              <span className="named">
                {e.asset !== '' && <span className="soft">{e.asset} </span>}
                <b>{e.name}</b>
              </span>
              <span className="mono carries">{e.fields.length > 0 ? printFields(e.fields) : e.about}</span>
              <span className="counts">{countsText(e)}</span>
              <span className="marks">
                {(findings.get(key) ?? []).slice(0, 4).map((f) => (
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

function countsText({ kind, brings, hears }: CatalogueEntry): string {
  if (kind === 'loadSet' || kind === 'peer') return '';
  if (kind === 'enum' || kind === 'table' || kind === 'tag') return `in ${brings}`;
  if (kind === 'action') return `by ${brings}`;
  return kind === 'channel' ? `${brings} to ${hears}` : `to ${hears}`;
}
