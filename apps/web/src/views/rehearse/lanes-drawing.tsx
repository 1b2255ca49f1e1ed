import { recordText, secondsText, type TraceRecord } from '@oquel/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, type ReactNode } from 'react';
import { causesOf, laneOf, layLanes, type Lane, type Mark, type MarkShape } from './lanes.js';

const ROW = 24;
const NAME = 168;
const HEAD = 24;

interface Props {
  records: readonly TraceRecord[];
  byNumber: ReadonlyMap<number, TraceRecord>;
  cursor: number;
  /** Records that the run before did not have. */
  added: ReadonlySet<number>;
  scale: number;
  onCursor: (n: number) => void;
}

/** A lane for each instance over time, with a mark for each record; the way to the chosen one is drawn. */
export function LanesDrawing({ records, byNumber, cursor, added, scale, onCursor }: Props): ReactNode {
  const { lanes, width, ticks, xOf } = useMemo(() => layLanes(records, scale), [records, scale]);
  const pane = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: lanes.length,
    getScrollElement: () => pane.current,
    estimateSize: () => ROW,
    overscan: 6,
  });
  const laneAt = useMemo(() => new Map(lanes.map((l, i) => [l.name, i])), [lanes]);
  const chain = useMemo(() => causesOf(byNumber, cursor), [byNumber, cursor]);
  const way = chain
    .map((r) => ({ x: xOf[r.n] + NAME, y: yOf(laneAt, r) }))
    .filter(({ y }) => y >= 0)
    .map(({ x, y }) => `${x},${y}`);
  const cursorX = NAME + (cursor > 0 ? xOf[cursor] : 0);
  useEffect(() => {
    const box = pane.current;
    if (!box || cursor === 0) return;
    const x = NAME + xOf[cursor];
    if (x < box.scrollLeft + NAME + 20) box.scrollLeft = x - NAME - 40;
    else if (x > box.scrollLeft + box.clientWidth - 40) box.scrollLeft = x - box.clientWidth + 120;
    const record = byNumber.get(cursor);
    const lane = record ? laneAt.get(laneOf(record) ?? '') : undefined;
    if (lane !== undefined) rows.scrollToIndex(lane, { align: 'auto' });
  }, [cursor, xOf, byNumber, laneAt, rows]);
  const height = lanes.length * ROW + HEAD;
  return (
    <div className="lanes" ref={pane} role="group" aria-label="Lanes over time">
      <div style={{ width: width + NAME, height, position: 'relative' }}>
        <svg width={width + NAME} height={height} className="lanesink" aria-hidden="true">
          {ticks.map(({ t, x }, i) => (
            <line
              key={t}
              className={i % 2 === 0 ? 'moment' : 'moment odd'}
              x1={x + NAME - 8}
              x2={x + NAME - 8}
              y1={HEAD}
              y2={height}
            />
          ))}
          {rows.getVirtualItems().map(({ index: i, start }) => (
            <LaneMarks
              key={lanes[i].name}
              lane={lanes[i]}
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
          {spaced(ticks).map(({ t, x }) => (
            <span key={t} style={{ left: x + NAME - 8 }}>
              {secondsText(t)}
            </span>
          ))}
        </div>
        <div className="lanenames" style={{ width: NAME, height: lanes.length * ROW }}>
          {rows.getVirtualItems().map(({ index: i, start }) => (
            <span
              key={lanes[i].name}
              className={lanes[i].heads ? 'scenename' : 'mono'}
              title={lanes[i].name}
              style={{ top: start, height: ROW }}
            >
              {shortName(lanes[i].name)}
            </span>
          ))}
        </div>
      </div>
    </div>
  );
}

function LaneMarks({
  lane,
  y,
  cursor,
  added,
  onCursor,
}: { lane: Lane; y: number } & Pick<Props, 'cursor' | 'added' | 'onCursor'>): ReactNode {
  if (lane.heads) return null;
  const last = lane.marks.at(-1)!.x;
  return (
    <g>
      <line className="lane" x1={NAME + lane.marks[0].x} x2={NAME + last} y1={y} y2={y} />
      {lane.marks.map((mark) => (
        <g
          key={mark.record.n}
          className={`lanemark ${mark.shape} ${mark.record.n === cursor ? 'here' : ''} ${mark.record.n > cursor ? 'later' : ''} ${added.has(mark.record.n) ? 'new' : ''}`}
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

/** Each kind has a shape of its own, so that colour is never needed to tell them apart. */
const SHAPES: Record<MarkShape, (x: number, y: number) => string> = {
  raise: (x, y) => `M${x - 3} ${y + 7}L${x + 3} ${y - 7}`,
  does: (x, y) => `M${x - 3.5} ${y - 6}h7v12h-7z`,
  change: (x, y) => `M${x - 3} ${y - 3}h6M${x - 3} ${y + 3}h6`,
  not: (x, y) => `M${x - 4} ${y}a4 4 0 1 0 8 0a4 4 0 1 0 -8 0M${x - 4} ${y + 5}L${x + 4} ${y - 5}`,
  tells: (x, y) => `M${x - 4} ${y - 6}l4 6l-4 6M${x} ${y - 6}l4 6l-4 6`,
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
