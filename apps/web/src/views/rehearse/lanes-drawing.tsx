import { assetAtAddress, recordText, secondsText, type ProjectIndex, type TraceRecord } from '@oquel/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { foldLanes, type ShownLane } from './fold-lanes.js';
import { causesOf, laneOf, layLanes, within, type Lane, type Mark, type MarkShape } from './lanes.js';
import { showRow } from '../../parts/ui/show-row.js';

const ROW = 24;
const NAME = 168;
const HEAD = 24;

interface Props {
  index: ProjectIndex;
  records: readonly TraceRecord[];
  byNumber: ReadonlyMap<number, TraceRecord>;
  cursor: number;
  /** Records that the run before did not have. */
  added: ReadonlySet<number>;
  scale: number;
  onCursor: (n: number) => void;
}

/** Pixels around the window that are drawn as well, and by which the drawn part moves on. */
const TILE = 400;
/** Records of the way to the chosen one that are drawn; a loop has thousands. */
const MOST_CAUSES = 400;

/** A lane for each instance over time, with a mark for each record; the way to the chosen one is drawn. */
export function LanesDrawing({ index, records, byNumber, cursor, added, scale, onCursor }: Props): ReactNode {
  const laid = useMemo(() => layLanes(records, scale), [records, scale]);
  const { width, ticks, xOf } = laid;
  const [open, setOpen] = useState<ReadonlySet<string>>(new Set());
  const { lanes, at: laneAt } = useMemo(
    () => foldLanes(laid.lanes, (at) => assetAtAddress(index, at)?.decl.id ?? null, open),
    [laid, index, open],
  );
  const pane = useRef<HTMLDivElement>(null);
  const [from, setFrom] = useState(0);
  const rows = useVirtualizer({
    count: lanes.length,
    getScrollElement: () => pane.current,
    estimateSize: () => ROW,
    overscan: 6,
    // The head with the seconds lies over the first of them.
    scrollPaddingEnd: HEAD,
  });
  const way = useMemo(
    () =>
      causesOf(byNumber, cursor, MOST_CAUSES)
        .map((r) => ({ x: xOf[r.n] + NAME, y: yOf(laneAt, r) }))
        .filter(({ y }) => y >= 0)
        .map(({ x, y }) => `${x},${y}`),
    [byNumber, cursor, xOf, laneAt],
  );
  const cursorX = NAME + (cursor > 0 ? (xOf[cursor] ?? 0) : 0);
  useEffect(() => {
    const box = pane.current;
    if (!box || cursor === 0) return;
    if (cursorX < box.scrollLeft + NAME + 20) box.scrollLeft = cursorX - NAME - 40;
    else if (cursorX > box.scrollLeft + box.clientWidth - 40)
      box.scrollLeft = cursorX - box.clientWidth + 120;
    const record = byNumber.get(cursor);
    const lane = record ? laneAt.get(laneOf(record) ?? '') : undefined;
    if (lane !== undefined) showRow(rows, lane);
  }, [cursor, cursorX, byNumber, laneAt, rows]);
  const turn = (key: string): void => {
    const next = new Set(open);
    if (!next.delete(key)) next.add(key);
    setOpen(next);
  };
  const height = lanes.length * ROW + HEAD;
  // Only what is in sight is drawn, and drawn anew when the window has moved by a tile.
  const left = Math.max(0, from * TILE - TILE);
  const right = Math.min(width + NAME, left + (pane.current?.clientWidth ?? 900) + 3 * TILE);
  const shownTicks = within(ticks, left - NAME, right - NAME);
  return (
    <div
      className="lanes"
      ref={pane}
      role="group"
      aria-label="Lanes over time"
      tabIndex={0}
      onScroll={(e) => setFrom(Math.floor(e.currentTarget.scrollLeft / TILE))}
    >
      <div style={{ width: width + NAME, height, position: 'relative' }}>
        <svg
          style={{ left }}
          width={Math.max(1, right - left)}
          height={height}
          viewBox={`${left} 0 ${Math.max(1, right - left)} ${height}`}
          className="lanesink"
          aria-hidden="true"
        >
          {shownTicks.map(({ t, x }) => (
            <line key={t} className="moment" x1={x + NAME - 8} x2={x + NAME - 8} y1={HEAD} y2={height} />
          ))}
          {rows.getVirtualItems().map(({ index: i, start }) => (
            <LaneMarks
              key={lanes[i].fold?.key ?? lanes[i].name}
              lane={lanes[i]}
              marks={within(lanes[i].marks, left - NAME, right - NAME)}
              y={HEAD + start + ROW / 2}
              cursor={cursor}
              added={added}
              onCursor={onCursor}
            />
          ))}
          {way.length > 1 && <polyline className="wayto" points={way.join(' ')} />}
          <line className="cursorline" x1={cursorX} x2={cursorX} y1={0} y2={height} />
        </svg>
        <div className="times" style={{ width: width + NAME }}>
          {spaced(shownTicks).map(({ t, x }) => (
            <span key={t} style={{ left: x + NAME - 8 }}>
              {secondsText(t)}
            </span>
          ))}
        </div>
        <div className="lanenames" style={{ width: NAME, height: lanes.length * ROW }}>
          {rows.getVirtualItems().map(({ index: i, start }) => (
            <LaneName key={lanes[i].fold?.key ?? lanes[i].name} lane={lanes[i]} top={start} onFold={turn} />
          ))}
        </div>
      </div>
    </div>
  );
}

function LaneName({
  lane: { name, heads, fold },
  top,
  onFold,
}: {
  lane: ShownLane;
  top: number;
  onFold: (key: string) => void;
}): ReactNode {
  const style = { top, height: ROW };
  if (!fold) {
    return (
      <span className={heads ? 'scenename' : 'mono'} title={name} style={style}>
        {shortName(name)}
      </span>
    );
  }
  return (
    <button
      type="button"
      className="copies mono"
      style={style}
      aria-expanded={fold.isOpen}
      title={fold.isOpen ? 'Fold copies' : `Unfold ${fold.count}`}
      onClick={() => onFold(fold.key)}
    >
      {name}
    </button>
  );
}

function LaneMarks({
  lane,
  marks,
  y,
  cursor,
  added,
  onCursor,
}: { lane: Lane; marks: readonly Mark[]; y: number } & Pick<
  Props,
  'cursor' | 'added' | 'onCursor'
>): ReactNode {
  if (lane.marks.length === 0) return null;
  return (
    <g>
      <line className="lane" x1={NAME + lane.marks[0].x} x2={NAME + lane.marks.at(-1)!.x} y1={y} y2={y} />
      {marks.map((mark) => (
        <g
          key={mark.record.n}
          className={markClass(mark, cursor, added)}
          onClick={() => onCursor(mark.record.n)}
        >
          <title>{`${secondsText(mark.record.t)}: ${recordText(mark.record)}`}</title>
          <rect className="press" x={NAME + mark.x - 5} y={y - 10} width={10} height={20} />
          <MarkPath mark={mark} x={NAME + mark.x} y={y} />
        </g>
      ))}
    </g>
  );
}
function markClass({ record: { n }, shape }: Mark, cursor: number, added: ReadonlySet<number>): string {
  const words = ['lanemark', shape];
  if (n === cursor) words.push('here');
  if (n > cursor) words.push('later');
  if (added.has(n)) words.push('new');
  return words.join(' ');
}

/** Each kind has a shape of its own, so that colour is never needed to tell them apart. */
const SHAPES: Record<MarkShape, (x: number, y: number) => string> = {
  raise: (x, y) => `M${x - 3} ${y + 7}L${x + 3} ${y - 7}`,
  does: (x, y) => `M${x - 3.5} ${y - 6}h7v12h-7z`,
  change: (x, y) => `M${x - 3} ${y - 3}h6M${x - 3} ${y + 3}h6`,
  not: (x, y) => `M${x - 4} ${y}a4 4 0 1 0 8 0a4 4 0 1 0 -8 0M${x - 4} ${y + 5}L${x + 4} ${y - 5}`,
  publishes: (x, y) => `M${x - 4} ${y - 6}l4 6l-4 6M${x} ${y - 6}l4 6l-4 6`,
  wakes: (x, y) => `M${x - 4} ${y + 4}l4 -8l4 8`,
  sleeps: (x, y) => `M${x - 4} ${y - 4}l4 8l4 -8`,
  ends: (x, y) => `M${x} ${y - 8}v16M${x + 3} ${y - 8}v16`,
  comes: (x, y) => `M${x} ${y - 6}v12M${x - 5} ${y}h10`,
  holds: (x, y) => `M${x - 5} ${y}l3.5 5l6 -10`,
  fails: (x, y) => `M${x - 5} ${y - 6}l10 12m0 -12l-10 12`,
};
function MarkPath({ mark, x, y }: { mark: Mark; x: number; y: number }): ReactNode {
  return <path d={SHAPES[mark.shape](x, y)} />;
}

function yOf(laneAt: ReadonlyMap<string, number>, r: TraceRecord): number {
  const lane = laneAt.get(laneOf(r) ?? '');
  return lane === undefined ? -1 : HEAD + lane * ROW + ROW / 2;
}
/** Times that do not run into each other. */
function spaced(ticks: readonly { t: number; x: number }[]): { t: number; x: number }[] {
  const out: { t: number; x: number }[] = [];
  for (const tick of ticks) if (out.length === 0 || tick.x - out[out.length - 1].x >= 48) out.push(tick);
  return out;
}
/** An address without its scene; the scene is in the title. */
function shortName(name: string): string {
  const colon = name.indexOf(':');
  if (colon < 0) return name;
  return name.slice(colon + 1) === '.' ? 'itself' : name.slice(colon + 1);
}
