import type { AssetIndex, Finding, Placement, ProjectIndex } from '@oquel/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { afterPaint } from '../../parts/after-paint.js';
import { areaText } from '../../parts/plan/area.js';
import { SeverityMark, SEVERITY_WORD } from '../../parts/ui/severity-mark.js';
import { showRow } from '../../parts/ui/show-row.js';

interface Props {
  index: ProjectIndex;
  owner: AssetIndex;
  chosen: readonly string[];
  /** Bindings that name each placement. */
  counts: ReadonlyMap<string, number>;
  findings: ReadonlyMap<string, readonly Finding[]>;
  onChoose: (id: string, add: boolean) => void;
  /** Goes to its prefab or widget. */
  onOpen: (id: string) => void;
  /** Gives it another place in the order. */
  onOrder: (id: string, at: number) => void;
}
const ROW = 28;
const DRAGGED = 'application/x-oquel-placement';

/** All that stands in the owner, as the list of parts under a drawing; it says in words what the plan shows. */
export function PartsList({
  index,
  owner,
  chosen,
  counts,
  findings,
  onChoose,
  onOpen,
  onOrder,
}: Props): ReactNode {
  const [text, setText] = useState('');
  const rows = useMemo(() => {
    const words = text.toLowerCase().split(/\s+/).filter(Boolean);
    const fits = (p: Placement): boolean => {
      const tags = index.assets[index.assetAt.get(p.asset) ?? -1]?.decl.tags ?? [];
      const all = `${p.id} ${p.asset} ${tags.map((t) => `#${t}`).join(' ')}`.toLowerCase();
      return words.every((w) => all.includes(w));
    };
    return words.length === 0 ? owner.placements : owner.placements.filter(fits);
  }, [owner, index, text]);
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 8,
  });
  const [last] = chosen.slice(-1);
  // Only a new choice scrolls; scrolling by hand stays.
  const show = useRef((_id: string | undefined): void => undefined);
  show.current = (id) => {
    showRow(
      virtual,
      rows.findIndex((p) => p.id === id),
    );
  };
  useEffect(() => afterPaint(() => show.current(last)), [last]);
  const onKeyDown = (e: KeyboardEvent): void => {
    if (e.key !== 'ArrowDown' && e.key !== 'ArrowUp') return;
    if (e.target instanceof HTMLInputElement) return;
    e.preventDefault();
    e.stopPropagation();
    const focused = (e.target as HTMLElement).closest<HTMLElement>('[data-part]')?.dataset.part;
    const at = rows.findIndex((p) => p.id === (focused ?? last));
    if (e.altKey && focused !== undefined) {
      const from = owner.placementAt.get(focused)!;
      const to = from + (e.key === 'ArrowDown' ? 1 : -1);
      if (to >= 0 && to < owner.placements.length) onOrder(focused, to);
      return;
    }
    const next = rows[Math.min(rows.length - 1, Math.max(0, at + (e.key === 'ArrowDown' ? 1 : -1)))];
    if (!next) return;
    onChoose(next.id, e.shiftKey);
    scroller.current?.querySelector<HTMLElement>(`[data-part="${next.id}"] button`)?.focus();
  };
  return (
    <div className="partslist" onKeyDown={onKeyDown}>
      <div className="head">
        <input
          className="line"
          aria-label="Filter the list"
          placeholder="Filter by name, prefab or #tag"
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
        <span className="soft">
          {rows.length === owner.placements.length
            ? rows.length
            : `${rows.length} of ${owner.placements.length}`}{' '}
          {owner.placements.length === 1 ? 'thing' : 'things'}
        </span>
      </div>
      <div className="columns soft" aria-hidden="true">
        <span>name</span>
        <span>prefab</span>
        <span className="at">position</span>
        <span className="count">wired</span>
        <span>details</span>
      </div>
      <div className="scroller" ref={scroller} tabIndex={-1}>
        <ul aria-label={`Things in ${owner.decl.id}`} style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map(({ index: at, start }) => {
            const p = rows[at];
            const ownFindings = findings.get(p.id) ?? [];
            return (
              <li
                key={p.id}
                data-part={p.id}
                className={chosen.includes(p.id) ? 'chosen' : ''}
                style={{ transform: `translateY(${start}px)` }}
              >
                <button
                  type="button"
                  className="plain"
                  aria-pressed={chosen.includes(p.id)}
                  onClick={(e) => onChoose(p.id, e.shiftKey || e.ctrlKey || e.metaKey)}
                  onDoubleClick={() => onOpen(p.id)}
                  draggable
                  onDragStart={(e) => e.dataTransfer.setData(DRAGGED, p.id)}
                  onDragOver={(e) => e.dataTransfer.types.includes(DRAGGED) && e.preventDefault()}
                  onDrop={(e) => {
                    const id = e.dataTransfer.getData(DRAGGED);
                    if (!owner.placementAt.has(id) || id === p.id) return;
                    e.preventDefault();
                    onOrder(id, owner.placementAt.get(p.id)!);
                  }}
                >
                  <span className="mono name">{p.id}</span>
                  <span className="mono soft">{p.asset}</span>
                  <span className="at">{p.at ? `${p.at[0]}, ${p.at[1]} m` : '0, 0 m'}</span>
                  <span className="count" title="Bindings that name it">
                    {counts.get(p.id) ?? 0}
                  </span>
                  <span className="more">{aboutPart(p)}</span>
                  <span className="marks">
                    {ownFindings.map((f) => (
                      <SeverityMark
                        key={f.fingerprint}
                        severity={f.severity}
                        label={`${SEVERITY_WORD[f.severity]}: ${f.message}`}
                      />
                    ))}
                  </span>
                </button>
              </li>
            );
          })}
        </ul>
        {rows.length === 0 && (
          <p className="soft none">
            {owner.placements.length === 0
              ? 'Nothing is here yet. Type the name of a prefab or widget above and press Enter, or choose one and click on the plan.'
              : 'Nothing here has that name.'}
          </p>
        )}
      </div>
    </div>
  );
}

function aboutPart(p: Placement): string {
  const values = Object.entries(p.properties ?? {}).map(([k, v]) => `${k} = ${JSON.stringify(v)}`);
  return [
    ...(p.asleep ? ['asleep'] : []),
    ...(p.entry ? ['entry'] : []),
    ...(p.area ? [areaText(p.area)] : []),
    ...(p.muted?.length ? [`${p.muted.length} muted here`] : []),
    ...values,
  ].join(' · ');
}
