import {
  entryText,
  entryWords,
  RIPPLE_ROW,
  type Ripple,
  type RippleEntry,
  type RippleLayout,
} from '@oquel/core';
import {
  memo,
  useCallback,
  useEffect,
  useMemo,
  useRef,
  useState,
  type KeyboardEvent,
  type ReactNode,
} from 'react';
import { useCoverage } from '../../session/use-coverage.js';
import { onScreen, ribbonPath, type Region } from './geometry.js';

interface Props {
  ripple: Ripple;
  layout: RippleLayout;
  axis: 'hops' | 'time';
  /** Hops that the policy allows; beyond them the ground is shaded. */
  limit: number;
  chosen: string;
  /** Entries that are lit; null: none stand out. */
  lit: ReadonlySet<string> | null;
  onChoose: (key: string) => void;
}
const HEAD = 44;
const LEFT = 14;
/** Pixels around the window in which things are drawn as well, and by which the drawn region moves on. */
const TILE = 300;

/** The ripple drawn: columns from left to right, an entry a line with its ribbons, returns as marks. */
export function RippleDrawing({ ripple, layout, axis, limit, chosen, lit, onChoose }: Props): ReactNode {
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
    window.addEventListener('resize', follow);
    return () => window.removeEventListener('resize', follow);
  }, [follow, layout]);

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
  const returns = useMemo(() => {
    const by = new Map<string, typeof links>();
    for (const l of links) if (l.returns) by.set(l.from, [...(by.get(l.from) ?? []), l]);
    return by;
  }, [links]);
  const conditions = useMemo(() => conditionsOf(ripple), [ripple]);
  // Only the part in sight is drawn, so that pushing it costs nothing but where it lies.
  const left = Math.max(0, region.left);
  const top = Math.max(0, region.top);
  const beyond = layout.columns.find((c) => c.hop > limit);
  const width = layout.width + 2 * LEFT;
  const height = Math.max(layout.height + HEAD + 40, region.bottom - region.top - 3 * TILE - 12);
  const view = {
    x: left,
    y: top,
    width: Math.max(1, Math.min(width, region.right) - left),
    height: Math.max(1, Math.min(height - HEAD, region.bottom) - top),
  };
  const { drawn, hollow } = ribbons();
  return (
    <div
      className="ripplepane"
      ref={pane}
      onScroll={follow}
      onKeyDown={move}
      onPointerDown={(e) => drag(e.nativeEvent, pane.current)}
    >
      <div className="ripplehead" style={{ width, minWidth: '100%' }} aria-hidden="true">
        {layout.columns.map((c, i) => (
          <span
            key={i}
            className={c.hop > limit ? 'beyond' : ''}
            style={{ left: LEFT + c.x, width: c.width - 10 }}
          >
            <b>{headText(c.hop, ripple.way)}</b>
            {axis === 'time' && <i>{c.time} s</i>}
            {c.entries > 1 && <em>{c.entries}</em>}
          </span>
        ))}
      </div>
      <div className="rippleground" style={{ width, height: height - HEAD }}>
        <svg
          data-whole={
            region.left <= 0 && region.top <= 0 && region.right >= width && region.bottom >= layout.height
          }
          style={{ left: view.x, top: view.y }}
          width={view.width}
          height={view.height}
          viewBox={`${view.x} ${view.y} ${view.width} ${view.height}`}
          role="group"
          aria-label={`Ripple of ${entries.length} entries`}
        >
          {beyond && (
            <g aria-hidden="true">
              {layout.columns
                .filter((c) => c.hop > limit)
                .map((c) => (
                  // Along the seconds a column within the limit may come after one beyond it.
                  <rect
                    key={c.x}
                    className="beyondground"
                    x={LEFT + c.x - 12}
                    y={0}
                    width={c.width}
                    height={height}
                  />
                ))}
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
          </g>
          {shown.entries.map((i) => (
            <Entry
              key={entries[i].key}
              e={entries[i]}
              x={startOf(i)}
              y={y(i)}
              width={layout.columns[layout.column[i]].width}
              chosen={entries[i].key === chosen}
              lit={lit !== null && lit.has(entries[i].key)}
              faded={lit !== null && !lit.has(entries[i].key)}
              asks={conditions.get(entries[i].key) ?? ''}
              returns={returns.get(entries[i].key)?.map((l) => (l.cycle ? l.class : 'back')) ?? []}
              focusable={entries[i].key === chosen || (chosen === '' && i === 0)}
              onChoose={onChoose}
            />
          ))}
        </svg>
      </div>
    </div>
  );

  /** Ribbons that look alike are one path: there may be thousands. Those that hang on a condition are hollow. */
  function ribbons(): { drawn: Map<string, string>; hollow: string } {
    const paths = new Map<string, string>();
    let hollow = '';
    for (const k of shown.links) {
      const l = links[k];
      const [a, b] = [ends[2 * k], ends[2 * k + 1]];
      const isLit = lit !== null && lit.has(l.from) && lit.has(l.to);
      const words: string[] = [l.class];
      const path = ribbonPath(endOf(a), y(a), startOf(b), y(b));
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
    return { drawn: paths, hollow };
  }
  function startOf(i: number): number {
    return LEFT + layout.columns[layout.column[i]].x;
  }
  function endOf(i: number): number {
    return startOf(i) + lineLength(entries[i], layout.columns[layout.column[i]].width);
  }
  function y(i: number): number {
    return layout.y[i] + 32;
  }
}

/** For each entry what must hold to come to it, if nothing leads to it without asking. Linear in the links. */
function conditionsOf({ links }: Ripple): Map<string, string> {
  const asked = new Map<string, Set<string> | null>();
  for (const { to, asks, returns } of links) {
    if (returns || asked.get(to) === null) continue;
    if (asks.length === 0) asked.set(to, null);
    else asked.set(to, new Set([...(asked.get(to) ?? []), asks.join('; or ')]));
  }
  return new Map([...asked].flatMap(([key, texts]) => (texts ? [[key, [...texts].join('; or ')]] : [])));
}

function headText(hop: number, way: 'on' | 'back'): string {
  if (hop === 0) return way === 'on' ? 'when' : 'what';
  if (!Number.isInteger(hop)) return 'channel';
  return way === 'on' ? `hop ${hop}` : `${hop} before`;
}

interface EntryProps {
  e: RippleEntry;
  x: number;
  y: number;
  width: number;
  chosen: boolean;
  lit: boolean;
  faded: boolean;
  /** What must hold for it to be come to; empty if something leads here without asking. */
  asks: string;
  returns: readonly string[];
  focusable: boolean;
  onChoose: (key: string) => void;
}

/** One entry: what it is over a line as thick as it spreads. */
const Entry = memo(function Entry({
  e,
  x,
  y,
  width,
  chosen,
  lit,
  faded,
  asks,
  returns,
  focusable,
  onChoose,
}: EntryProps): ReactNode {
  const classes = ['rippleentry', e.kind];
  for (const [name, on] of Object.entries({
    chosen,
    lit,
    faded,
    gone: e.gone,
    asleep: e.asleep,
    spawned: e.spawned,
  })) {
    if (on) classes.push(name);
  }
  const length = lineLength(e, width);
  const state = [
    e.spawned ? 'spawned' : '',
    e.asleep ? 'asleep' : '',
    e.outside && e.hop > 0 ? 'from outside' : '',
  ]
    .filter(Boolean)
    .join(', ');
  const name = [entryText(e), asks, state, `followed by ${e.fanOut}`, ...returns.map((r) => `returns, ${r}`)]
    .filter(Boolean)
    .join(', ');
  const [who, what] = entryWords(e);
  const room = Math.floor((width - 14) / 7.3);
  const thick = e.fanOut === 0 ? 1.4 : Math.min(14, 1.6 + e.fanOut * 1.7);
  return (
    <g
      className={classes.join(' ')}
      data-entry={e.key}
      role="button"
      tabIndex={focusable ? 0 : -1}
      aria-label={name}
      aria-pressed={chosen}
      onClick={() => onChoose(e.key)}
      onKeyDown={(k) => {
        if (k.key !== 'Enter' && k.key !== ' ') return;
        k.preventDefault();
        onChoose(e.key);
      }}
    >
      <title>{name}</title>
      <rect className="hit" x={x - 5} y={y - 24} width={width - 6} height={RIPPLE_ROW - 4} />
      <line className="spread" x1={x} x2={x + length} y1={y} y2={y} strokeWidth={thick} />
      <text x={x} y={y - 4 - thick / 2}>
        <tspan className="who">{short(who, room)}</tspan>
      </text>
      <text className="what" x={x} y={y + 11 + thick / 2}>
        {short(what, room)}
      </text>
      {asks !== '' && (
        <text className="asks" x={x} y={y + 24 + thick / 2}>
          {short(asks, Math.floor((width - 10) / 6.7))}
        </text>
      )}
      {e.count > 1 && (
        <text className="times" x={x + length + 3} y={y - 6}>
          × {e.count}
        </text>
      )}
      {state !== '' && (
        <text className="state" x={x + length + 3} y={y + 13}>
          {e.spawned ? 'new' : e.asleep ? 'asleep' : 'outside'}
        </text>
      )}
      {returns.length > 0 && (
        <g aria-hidden="true">
          <path className="returnmark" d={`M${x + length} ${y}h7a4.5 4.5 0 0 0 0 -9h-4m3 -3l-3 3l3 3`} />
          <text className="state" x={x + length + 14} y={y - 1}>
            {returns[0]}
          </text>
        </g>
      )}
    </g>
  );
}, sameEntry);

/** Lists of returns are made anew with every drawing. */
function sameEntry(a: EntryProps, b: EntryProps): boolean {
  return (
    a.e === b.e &&
    a.x === b.x &&
    a.y === b.y &&
    a.width === b.width &&
    a.chosen === b.chosen &&
    a.lit === b.lit &&
    a.faded === b.faded &&
    a.asks === b.asks &&
    a.focusable === b.focusable &&
    a.onChoose === b.onChoose &&
    a.returns.join() === b.returns.join()
  );
}

/** Room is left behind it for what stands at its end. */
function lineLength(e: RippleEntry, width: number): number {
  return width - (e.count > 1 || e.spawned || e.asleep || e.outside ? 54 : 30);
}
function short(text: string, room: number): string {
  return text.length <= room ? text : `${text.slice(0, Math.max(1, room - 1))}…`;
}

/** Scrolls an entry into sight when it is chosen elsewhere. */
function useReveal(
  pane: React.RefObject<HTMLDivElement | null>,
  chosen: string,
  at: ReadonlyMap<string, number>,
  layout: RippleLayout,
): void {
  const told = useRef('');
  useEffect(() => {
    const el = pane.current;
    const i = at.get(chosen);
    if (!el || i === undefined || told.current === chosen) return;
    told.current = chosen;
    const { x, width } = layout.columns[layout.column[i]];
    const y = layout.y[i];
    if (x < el.scrollLeft || x + width > el.scrollLeft + el.clientWidth) el.scrollLeft = x - 60;
    if (y < el.scrollTop || y + 80 > el.scrollTop + el.clientHeight) el.scrollTop = y - el.clientHeight / 2;
  }, [pane, chosen, at, layout]);
}

/** Left and right follow a ribbon, up and down stay in the column. */
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
    if (layout.column[i] !== layout.column[from]) return;
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
