import type { Ripple, RippleLayout } from '@oquel/core';
import { useCallback, useEffect, useMemo, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { useCoverage } from '../../session/use-coverage.js';
import {
  entryLine,
  LEFT,
  onScreen,
  ribbonPath,
  returnPath,
  type EntryLine,
  type Region,
} from './geometry.js';
import type { LitChain } from './lit-chain.js';
import { Entry } from './ripple-entry.js';
import { PICTURE_HEAD, PictureHead, RippleHead } from './ripple-head.js';

interface Props {
  ripple: Ripple;
  layout: RippleLayout;
  /** Hops that the policy allows; beyond them the ground is shaded. */
  limit: number;
  chosen: string;
  /** The chain that is lit; null: nothing stands out. */
  lit: LitChain | null;
  onChoose: (key: string) => void;
  /** Pixels that it has from left to right. */
  onRoom: (width: number) => void;
}
const HEAD = 44;
/** Pixels around the window in which things are drawn as well, and by which the drawn region moves on. */
const TILE = 300;

/** The ripple drawn: columns from left to right, an entry a line with its ribbons, returns as marks. */
export function RippleDrawing({ ripple, layout, limit, chosen, lit, onChoose, onRoom }: Props): ReactNode {
  const pane = useRef<HTMLDivElement>(null);
  const coverage = useCoverage();
  const [region, setRegion] = useState<Region>({ left: -TILE, top: -TILE, right: 1600, bottom: 1200 });
  const follow = useCallback(() => {
    const el = pane.current;
    if (!el) return;
    const left = Math.floor(el.scrollLeft / TILE) * TILE - TILE;
    const top = Math.floor(el.scrollTop / TILE) * TILE - TILE;
    const right = left + el.clientWidth + 3 * TILE;
    const bottom = top + el.clientHeight + 3 * TILE;
    setRegion((old) =>
      old.left === left && old.top === top && old.right === right && old.bottom === bottom
        ? old
        : { left, top, right, bottom },
    );
  }, []);
  useEffect(() => {
    follow();
    const watch = new ResizeObserver(() => {
      follow();
      if (pane.current) onRoom(pane.current.clientWidth);
    });
    watch.observe(pane.current!);
    return () => watch.disconnect();
  }, [follow, onRoom, layout]);

  const { entries, links } = ripple;
  const at = useMemo(() => new Map(entries.map((e, i) => [e.key, i])), [entries]);
  const ends = useMemo(
    () => Int32Array.from(links.flatMap((l) => [at.get(l.from)!, at.get(l.to)!])),
    [links, at],
  );
  const shown = useMemo(() => onScreen(ripple, layout, ends, region), [ripple, layout, ends, region]);
  useReveal(pane, chosen, at, layout);

  const move = (e: KeyboardEvent): void => {
    const focused = (e.target as Element).closest<SVGElement>('[data-entry]')?.dataset.entry;
    const from = at.get(focused ?? chosen) ?? 0;
    const next = neighbour(ripple, layout, at, from, e.key);
    if (next === null) return;
    e.preventDefault();
    onChoose(entries[next].key);
    requestAnimationFrame(() =>
      pane.current?.querySelector<HTMLElement>(`[data-entry="${CSS.escape(entries[next].key)}"]`)?.focus(),
    );
  };
  // Only the part in sight is drawn, so that pushing it costs nothing but where it lies.
  const left = Math.max(0, region.left);
  const top = Math.max(0, region.top);
  const beyond = layout.columns.find((c) => c.hop > limit);
  const width = Math.max(layout.width + 2 * LEFT, region.right - region.left - 3 * TILE);
  const height = Math.max(layout.height + HEAD + 40, region.bottom - region.top - 3 * TILE - 12);
  const view = {
    x: left,
    y: top,
    width: Math.max(1, Math.min(width, region.right) - left),
    height: Math.max(1, Math.min(height - HEAD, region.bottom) - top),
  };
  const { drawn, hollow, back } = ribbons();
  return (
    <div
      className="ripplepane"
      ref={pane}
      onScroll={follow}
      onKeyDown={move}
      onPointerDown={(e) => drag(e.nativeEvent, pane.current)}
    >
      <RippleHead layout={layout} direction={ripple.direction} limit={limit} />
      <div className="rippleground" style={{ width, height: height - HEAD }}>
        <svg
          data-whole={
            region.left <= 0 && region.top <= 0 && region.right >= width && region.bottom >= layout.height
          }
          data-head={PICTURE_HEAD}
          style={{ left: view.x, top: view.y }}
          width={view.width}
          height={view.height}
          viewBox={`${view.x} ${view.y} ${view.width} ${view.height}`}
          role="group"
          aria-label={`Ripple of ${entries.length} entries`}
        >
          <PictureHead layout={layout} direction={ripple.direction} limit={limit} />
          {layout.ticks.map((t) => (
            <line
              key={t.seconds}
              className="timetick"
              x1={LEFT + t.x}
              x2={LEFT + t.x}
              y1={0}
              y2={height}
              aria-hidden="true"
            />
          ))}
          {beyond && (
            <g aria-hidden="true">
              <rect
                className="beyondground"
                x={LEFT + beyond.x - 12}
                y={0}
                width={width - LEFT - beyond.x + 12}
                height={height}
              />
              <line
                className="limitline"
                x1={LEFT + beyond.x - 12}
                x2={LEFT + beyond.x - 12}
                y1={0}
                y2={height}
              />
              <text className="limittext" x={LEFT + beyond.x - 6} y={height - HEAD - 10}>
                beyond the limit of {limit} hops
              </text>
            </g>
          )}
          <g className="ribbons" aria-hidden="true">
            {[...drawn].map(([look, d]) => {
              const [classes, thick] = look.split('|');
              return <path key={look} className={`ribbon ${classes}`} d={d} strokeWidth={thick} />;
            })}
            {hollow !== '' && <path className="ribbonhollow" d={hollow} />}
            {back !== '' && <path className="ribbonback" d={back} />}
          </g>
          {shown.entries.map((i) => (
            <Entry
              key={entries[i].key}
              e={entries[i]}
              notes={layout.notes[i]}
              x={LEFT + layout.x[i]}
              top={layout.y[i]}
              y={lineOf(i).y}
              width={layout.w[i]}
              height={layout.h[i]}
              chosen={entries[i].key === chosen}
              lit={lit !== null && lit.keys.has(entries[i].key)}
              faded={lit !== null && !lit.keys.has(entries[i].key)}
              beyond={entries[i].hop > limit}
              hops={lit?.hops.get(entries[i].key) ?? ''}
              focusable={entries[i].key === chosen || (chosen === '' && i === 0)}
              onChoose={onChoose}
            />
          ))}
        </svg>
      </div>
    </div>
  );

  /**
   * Ribbons that look alike are one path: there may be thousands. Those that hang on a condition are hollow. Ways back are
   * drawn for the entry that is chosen and for the chain that is lit; elsewhere a mark says where they lead.
   */
  function ribbons(): { drawn: Map<string, string>; hollow: string; back: string } {
    const paths = new Map<string, string>();
    let hollow = '';
    for (const k of shown.links) {
      const l = links[k];
      const [a, b] = [ends[2 * k], ends[2 * k + 1]];
      const isLit = lit !== null && lit.pairs.has(`${l.from}|${l.to}`);
      const words: string[] = [l.class];
      const path = ribbonPath(lineOf(a), lineOf(b));
      if (isLit || l.from === chosen || l.to === chosen) words.push('lit');
      if (lit && !isLit) words.push('faded');
      if (entries[a].gone || entries[b].gone) words.push('gone');
      if (coverage && l.bindings.some((b) => (coverage(b.asset, b.binding)?.served ?? 0) > 0))
        words.push('used');
      const asks = l.asks.length > 0;
      const thick =
        Math.round(Math.min(18, 2.4 + 2.4 * Math.log2(Math.max(1, l.count))) * 2) / 2 + (asks ? 2.6 : 0);
      if (asks) {
        hollow += path;
        words.push('asks');
      }
      const look = `${words.join(' ')}|${thick}`;
      paths.set(look, (paths.get(look) ?? '') + path);
    }
    let back = '';
    links.forEach((l, k) => {
      const isShown = l.from === chosen || l.to === chosen || lit?.pairs.has(`${l.from}|${l.to}`);
      if (l.returns && isShown) back += returnPath(lineOf(ends[2 * k]), lineOf(ends[2 * k + 1]));
    });
    return { drawn: paths, hollow, back };
  }
  function lineOf(i: number): EntryLine {
    return entryLine(entries[i], layout, i);
  }
}

/** Scrolls an entry into sight when it is chosen elsewhere. */
function useReveal(
  pane: React.RefObject<HTMLDivElement | null>,
  chosen: string,
  at: ReadonlyMap<string, number>,
  layout: RippleLayout,
): void {
  const announced = useRef('');
  useEffect(() => {
    const el = pane.current;
    const i = at.get(chosen);
    if (!el || i === undefined || announced.current === chosen) return;
    announced.current = chosen;
    const { [i]: x } = layout.x;
    const { [i]: width } = layout.w;
    const { [i]: y } = layout.y;
    if (x < el.scrollLeft || x + width > el.scrollLeft + el.clientWidth) el.scrollLeft = x - 60;
    if (y < el.scrollTop || y + 80 > el.scrollTop + el.clientHeight) el.scrollTop = y - el.clientHeight / 2;
  }, [pane, chosen, at, layout]);
}

/** Left and right follow a ribbon, up and down stay in the column. Linear in the ripple. */
function neighbour(
  ripple: Ripple,
  layout: RippleLayout,
  at: ReadonlyMap<string, number>,
  from: number,
  key: string,
): number | null {
  const { entries, links } = ripple;
  if (key === 'ArrowRight') {
    const on = links.find((l) => l.from === entries[from].key && !l.returns);
    return on ? at.get(on.to)! : null;
  }
  if (key === 'ArrowLeft') {
    const back = links.find((l) => l.to === entries[from].key && !l.returns);
    return back ? at.get(back.from)! : null;
  }
  if (key !== 'ArrowUp' && key !== 'ArrowDown') return null;
  const sign = key === 'ArrowDown' ? 1 : -1;
  let best: number | null = null;
  entries.forEach((_, i) => {
    // Along the seconds there are no columns: the next one up or down.
    if (layout.columns.length > 0 && layout.x[i] !== layout.x[from]) return;
    const by = (layout.y[i] - layout.y[from]) * sign;
    if (by > 0 && (best === null || by < (layout.y[best] - layout.y[from]) * sign)) best = i;
  });
  return best;
}

/** Drawing the ground pushes the picture. */
function drag(e: PointerEvent, el: HTMLDivElement | null): void {
  if (!el || e.button !== 0 || (e.target as Element).closest('[data-entry]')) return;
  const [x, y, left, top] = [e.clientX, e.clientY, el.scrollLeft, el.scrollTop];
  const onMove = (m: PointerEvent): void => {
    el.scrollLeft = left - (m.clientX - x);
    el.scrollTop = top - (m.clientY - y);
  };
  const onUp = (): void => {
    window.removeEventListener('pointermove', onMove);
    window.removeEventListener('pointerup', onUp);
  };
  window.addEventListener('pointermove', onMove);
  window.addEventListener('pointerup', onUp);
}
