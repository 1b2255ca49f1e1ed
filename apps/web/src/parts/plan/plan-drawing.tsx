import './plan.css';
import {
  useEffect,
  useMemo,
  useRef,
  useState,
  type KeyboardEvent,
  type PointerEvent,
  type ReactNode,
} from 'react';
import { placeLabels } from './labels.js';
import { PlanGround } from './plan-ground.js';
import { PlanThing, type ThingLook } from './plan-thing.js';
import type { Thing } from './thing.js';
import { extent, fit, toScreen, zoomAt, type Viewport } from './viewport.js';

interface Props {
  label: string;
  size: readonly [number, number] | undefined;
  things: readonly Thing[];
  /** How each thing looks now; absent: as usual. */
  looks: ReadonlyMap<string, ThingLook>;
  /** Pixels on the left that something covers. */
  covered?: number;
  onPick: (path: string) => void;
}

/** A scene to scale: ground, areas, things with labels that do not collide. Wheel zooms, dragging pans, 0 shows all. */
export function PlanDrawing({ label, size, things, looks, covered = 0, onPick }: Props): ReactNode {
  const pane = useRef<HTMLDivElement>(null);
  const [paneSize, setPaneSize] = useState({ width: 0, height: 0 });
  const [moved, setMoved] = useState<Viewport | null>(null);
  const bounds = useMemo(
    () =>
      extent(
        size,
        things.map((t) => t.at),
      ),
    [size, things],
  );
  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => {
      setPaneSize({ width: entry.contentRect.width, height: entry.contentRect.height });
    });
    watch.observe(pane.current!);
    return () => watch.disconnect();
  }, []);
  useEffect(() => setMoved(null), [label]);
  const { width, height } = paneSize;
  const view = moved ?? fit(bounds, width, height, covered);

  // React's own wheel listener is passive and could not keep the page from scrolling.
  const latest = useRef(view);
  latest.current = view;
  useEffect(() => {
    const node = pane.current!;
    const onWheel = (e: WheelEvent): void => {
      e.preventDefault();
      const box = node.getBoundingClientRect();
      setMoved(
        zoomAt(latest.current, Math.exp(-e.deltaY * 0.0015), e.clientX - box.left, e.clientY - box.top),
      );
    };
    node.addEventListener('wheel', onWheel, { passive: false });
    return () => node.removeEventListener('wheel', onWheel);
  }, []);
  const drag = useRef<{ x: number; y: number; from: Viewport } | null>(null);
  const zoom = (factor: number): void => setMoved(zoomAt(view, factor, width / 2, height / 2));

  const shown = things.filter((t) => t.depth <= 1 || looks.has(t.path));
  const mark = Math.min(13, Math.max(8, view.scale * 2.6));
  const labels = useMemo(() => {
    // What is faded gives way: it has no label, and its mark is no obstacle.
    const labelled = shown.filter((t) => !looks.get(t.path)?.faded);
    return placeLabels(
      labelled.map((t) => {
        const [x, y] = toScreen(view, t.at);
        const look = looks.get(t.path);
        const rank = look?.chosen ? 4 : look?.picked ? 3 : look?.lit ? 2 : 1;
        return { id: t.path, text: t.label, x, y, radius: radiusOf(t, mark), rank };
      }),
    );
  }, [shown, view, looks, mark]);

  const onPointerDown = (e: PointerEvent<SVGSVGElement>): void => {
    if (e.button !== 0) return;
    drag.current = { x: e.clientX, y: e.clientY, from: view };
  };
  const onPointerMove = (e: PointerEvent<SVGSVGElement>): void => {
    const start = drag.current;
    if (!start) return;
    const [dx, dy] = [e.clientX - start.x, e.clientY - start.y];
    if (Math.hypot(dx, dy) < 4 && !e.currentTarget.hasPointerCapture(e.pointerId)) return;
    e.currentTarget.setPointerCapture(e.pointerId);
    setMoved({ ...start.from, x: start.from.x + dx, y: start.from.y + dy });
  };
  const onKeyDown = (e: KeyboardEvent): void => {
    if (e.key === '+' || e.key === '=') zoom(1.25);
    else if (e.key === '-') zoom(0.8);
    else if (e.key === '0') setMoved(null);
  };

  return (
    <div className="plan-pane" ref={pane} style={{ position: 'absolute', inset: 0 }} onKeyDown={onKeyDown}>
      <svg
        role="group"
        aria-label={label}
        onPointerDown={onPointerDown}
        onPointerMove={onPointerMove}
        onPointerUp={() => (drag.current = null)}
        onPointerCancel={() => (drag.current = null)}
      >
        {width > 0 && (
          <>
            <PlanGround
              view={view}
              bounds={bounds}
              width={width}
              height={height}
              sized={size !== undefined}
            />
            {shown.map((t) => (
              <AreaShape key={t.path} thing={t} view={view} chosen={looks.get(t.path)?.chosen === true} />
            ))}
            {shown.map((t) => (
              <PlanThing
                key={t.path}
                thing={t}
                screen={toScreen(view, t.at)}
                radius={radiusOf(t, mark)}
                look={looks.get(t.path)}
                label={labels.get(t.path)}
                onPick={onPick}
              />
            ))}
          </>
        )}
      </svg>
      <div className="tools" role="group" aria-label="Zoom">
        <button type="button" onClick={() => zoom(0.8)} aria-label="Zoom out" title="Zoom out (-)">
          −
        </button>
        <button type="button" onClick={() => setMoved(null)} aria-label="Show all" title="Show all (0)">
          ⤢
        </button>
        <button type="button" onClick={() => zoom(1.25)} aria-label="Zoom in" title="Zoom in (+)">
          +
        </button>
      </div>
    </div>
  );
}

/** Nested things are drawn smaller. */
function radiusOf(t: Thing, mark: number): number {
  return t.depth > 1 ? mark * 0.6 : mark;
}

function AreaShape({ thing, view, chosen }: { thing: Thing; view: Viewport; chosen: boolean }): ReactNode {
  const { area } = thing;
  if (!area) return null;
  const [x, y] = toScreen(view, thing.at);
  const className = `area ${chosen ? 'chosen' : ''}`;
  if ('circle' in area) return <circle className={className} cx={x} cy={y} r={area.circle * view.scale} />;
  if ('rect' in area) {
    const [w, h] = area.rect.map((m) => m * view.scale);
    return <rect className={className} x={x - w / 2} y={y - h / 2} width={w} height={h} />;
  }
  const points = area.polygon.map(([px, py]) => `${x + px * view.scale},${y + py * view.scale}`).join(' ');
  return <polygon className={className} points={points} />;
}
