import './widget-board.css';
import type { Area, ProjectIndex } from '@oquel/core';
import { useLayoutEffect, useMemo, useRef, useState, type PointerEvent, type ReactNode } from 'react';
import { SeverityMark, SEVERITY_WORD } from '../ui/severity-mark.js';
import { snapped } from './gesture.js';
import type { PlacementEdits } from './placement-edits.js';
import type { ThingStyle } from './plan-thing.js';
import type { Thing } from './thing.js';

interface Props {
  label: string;
  index: ProjectIndex;
  /** The widget itself (path `.`) and all that is nested in it, each after what contains it. */
  things: readonly Thing[];
  thingStyles: ReadonlyMap<string, ThingStyle>;
  placementEdits: PlacementEdits;
  onPick: (path: string, add: boolean) => void;
  onOpen: (path: string) => void;
}
/** What a part measures where nobody has said it. */
const USUAL: Size = [2.8, 1.8];
const MARGIN = 28;
const LARGEST = 120;
type Size = readonly [number, number];

/** A gesture on a part: pixels from where it began. */
interface Drag {
  path: string;
  kind: 'move' | 'size';
  x: number;
  y: number;
  dx: number;
  dy: number;
}

/** A widget in proportion: its parts where they are and as large as they are, each with what it says and does. */
export function WidgetBoard({
  label,
  index,
  things,
  thingStyles,
  placementEdits,
  onPick,
  onOpen,
}: Props): ReactNode {
  const pane = useRef<HTMLDivElement>(null);
  const [[width, height], setPane] = useState<Size>([0, 0]);
  useLayoutEffect(() => {
    const node = pane.current!;
    const observer = new ResizeObserver(() => setPane([node.clientWidth, node.clientHeight]));
    observer.observe(node);
    return () => observer.disconnect();
  }, []);
  const parts = useMemo(() => things.filter((t) => t.depth === 1), [things]);
  const own = things.find((t) => t.depth === 0);
  const bounds = useMemo(() => boundsOf(parts, own?.area), [parts, own?.area]);
  const scale = Math.max(
    8,
    Math.min(
      LARGEST,
      (width - 2 * MARGIN) / (bounds.right - bounds.left),
      (height - 2 * MARGIN) / (bounds.bottom - bounds.top),
    ),
  );
  const left = (width - (bounds.right - bounds.left) * scale) / 2;
  const top = (height - (bounds.bottom - bounds.top) * scale) / 2;
  const [drag, setDrag] = useState<Drag | null>(null);
  const far = drag !== null && Math.hypot(drag.dx, drag.dy) >= 4;
  const by = (t: Thing): [number, number] =>
    snapped(t.at, [drag!.dx / scale, drag!.dy / scale], placementEdits.snap);
  const sizeTo = (t: Thing): Size => {
    const [w, h] = sizeOf(t.area);
    const step = placementEdits.snap > 0 ? placementEdits.snap : 0.1;
    const to = (m: number): number => Math.max(step, Math.round(m / step) * step);
    return [to(w + (2 * drag!.dx) / scale), to(h + (2 * drag!.dy) / scale)];
  };
  const begin =
    (path: string, kind: Drag['kind']) =>
    (e: PointerEvent<HTMLElement>): void => {
      if (e.button !== 0 || placementEdits.placing) return;
      e.stopPropagation();
      e.currentTarget.setPointerCapture(e.pointerId);
      setDrag({ path, kind, x: e.clientX, y: e.clientY, dx: 0, dy: 0 });
    };
  const onPointerMove = (e: PointerEvent): void => {
    if (drag) setDrag({ ...drag, dx: e.clientX - drag.x, dy: e.clientY - drag.y });
  };
  const onPointerUp = (): void => {
    const t = drag && parts.find((p) => p.path === drag.path);
    if (t && far && drag.kind === 'move') {
      const paths = placementEdits.chosen.includes(t.path) ? placementEdits.chosen : [t.path];
      const [dx, dy] = by(t);
      if (dx !== 0 || dy !== 0) placementEdits.onMove(paths, [dx, dy]);
    } else if (t && far && drag.kind === 'size') {
      placementEdits.onArea(t.path, { rect: [...sizeTo(t)] as [number, number] });
    }
    setDrag(null);
  };
  const pressBoard = (e: PointerEvent<HTMLElement>): void => {
    if (e.button !== 0 || (e.target !== e.currentTarget && !placementEdits.placing)) return;
    const box = pane.current!.getBoundingClientRect();
    placementEdits.onGround([
      (e.clientX - box.left - left) / scale + bounds.left,
      (e.clientY - box.top - top) / scale + bounds.top,
    ]);
  };
  return (
    <div
      className={`widgetboard ${placementEdits.placing ? 'placing' : ''}`}
      role="group"
      aria-label={label}
      ref={pane}
      onPointerDown={pressBoard}
      onPointerMove={onPointerMove}
      onPointerUp={onPointerUp}
      onPointerCancel={() => setDrag(null)}
    >
      {own?.area && (
        <div
          className="boardframe"
          style={frameOf([0, 0], sizeOf(own.area), { bounds, scale, left, top })}
          aria-hidden="true"
        />
      )}
      {parts.map((t) => {
        const moving =
          far && drag.kind === 'move' && (drag.path === t.path || isWith(placementEdits, drag.path, t.path));
        const sizing = far && drag.kind === 'size' && drag.path === t.path;
        const shift = moving ? by(parts.find((p) => p.path === drag.path)!) : [0, 0];
        const at: Size = [t.at[0] + shift[0], t.at[1] + shift[1]];
        const size = sizing ? sizeTo(t) : sizeOf(t.area);
        return (
          <Part
            key={t.path}
            thing={t}
            index={index}
            inner={things.filter((i) => i.depth === 2 && i.path.startsWith(`${t.path}/`))}
            look={thingStyles.get(t.path) ?? {}}
            style={frameOf(at, size, { bounds, scale, left, top })}
            onPick={(add) => !far && onPick(t.path, add)}
            onOpen={() => onOpen(t.path)}
            onMove={begin(t.path, 'move')}
            onSize={
              placementEdits.chosen.length === 1 && placementEdits.chosen[0] === t.path
                ? begin(t.path, 'size')
                : null
            }
          />
        );
      })}
      {parts.length === 0 && (
        <p className="soft boardempty">
          No parts yet. Type the name of a widget above and press Enter to put it in.
        </p>
      )}
    </div>
  );
}

function Part({
  thing,
  index,
  inner,
  look,
  style,
  onPick,
  onOpen,
  onMove,
  onSize,
}: {
  thing: Thing;
  index: ProjectIndex;
  inner: readonly Thing[];
  look: ThingStyle;
  style: object;
  onPick: (add: boolean) => void;
  onOpen: () => void;
  onMove: (e: PointerEvent<HTMLElement>) => void;
  onSize: ((e: PointerEvent<HTMLElement>) => void) | null;
}): ReactNode {
  const asset = index.assets[index.assetAt.get(thing.asset) ?? -1];
  const events = asset?.events.map((e) => e.name) ?? [];
  const actions = asset?.actions.map((a) => a.name) ?? [];
  return (
    <div className={`boardpart ${look.chosen ? 'chosen' : ''} ${thing.asleep ? 'asleep' : ''}`} style={style}>
      <button
        type="button"
        className="plain"
        data-path={thing.path}
        aria-pressed={look.chosen === true}
        aria-label={`${thing.label}, ${thing.asset}${thing.asleep ? ', asleep' : ''}`}
        onClick={(e) => onPick(e.shiftKey || e.ctrlKey || e.metaKey)}
        onDoubleClick={onOpen}
        onPointerDown={onMove}
      >
        <b className="mono">{thing.label}</b> <span className="soft">{thing.asset}</span>
        {look.fault && <SeverityMark severity={look.fault} label={SEVERITY_WORD[look.fault]} />}
        {events.length > 0 && <span className="does">events: {events.join(', ')}</span>}
        {actions.length > 0 && <span className="does">actions: {actions.join(', ')}</span>}
        {inner.length > 0 && (
          <span className="does">holds: {inner.map((i) => i.path.split('/').at(-1)).join(', ')}</span>
        )}
      </button>
      {onSize && <span className="boardhandle" onPointerDown={onSize} aria-hidden="true" />}
    </div>
  );
}

function isWith({ chosen }: PlacementEdits, dragged: string, path: string): boolean {
  return chosen.includes(dragged) && chosen.includes(path);
}
interface Bounds {
  left: number;
  top: number;
  right: number;
  bottom: number;
}
function frameOf(
  [x, y]: Size,
  [w, h]: Size,
  { bounds, scale, left, top }: { bounds: Bounds; scale: number; left: number; top: number },
): object {
  return {
    left: left + (x - w / 2 - bounds.left) * scale,
    top: top + (y - h / 2 - bounds.top) * scale,
    width: w * scale,
    height: h * scale,
  };
}
/** Width and height of a part. */
function sizeOf(area: Area | undefined): Size {
  if (!area) return USUAL;
  if ('rect' in area) return area.rect;
  if ('circle' in area) return [2 * area.circle, 2 * area.circle];
  let [w, h] = [0, 0];
  for (const [x, y] of area.polygon) {
    w = Math.max(w, 2 * Math.abs(x));
    h = Math.max(h, 2 * Math.abs(y));
  }
  return [w, h];
}
function boundsOf(parts: readonly Thing[], own: Area | undefined): Bounds {
  const all: [Size, Size][] = parts.map((t) => [t.at, sizeOf(t.area)]);
  if (own) all.push([[0, 0], sizeOf(own)]);
  if (all.length === 0) return { left: -4, top: -2, right: 4, bottom: 2 };
  const bounds: Bounds = { left: Infinity, top: Infinity, right: -Infinity, bottom: -Infinity };
  for (const [[x, y], [w, h]] of all) {
    bounds.left = Math.min(bounds.left, x - w / 2);
    bounds.top = Math.min(bounds.top, y - h / 2);
    bounds.right = Math.max(bounds.right, x + w / 2);
    bounds.bottom = Math.max(bounds.bottom, y + h / 2);
  }
  return bounds;
}
