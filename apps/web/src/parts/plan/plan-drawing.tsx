import './plan.css';
import type { Area, Backdrop } from '@oquel/core';
import {
  memo,
  useCallback,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  type KeyboardEvent,
  type PointerEvent,
  type ReactNode,
} from 'react';
import { pulled } from './area.js';
import { AreaHandles, AreaShape } from './area-shape.js';
import { BackdropPicture } from './backdrop.js';
import { clustered } from './clusters.js';
import { ClusterDot } from './cluster-dot.js';
import { gestureOf, snapped, type Gesture } from './gesture.js';
import { placeLabels } from './labels.js';
import { REACH } from './mark-shape.js';
import { Minimap } from './minimap.js';
import { PlanGround } from './plan-ground.js';
import { PlanThing, type ThingLook } from './plan-thing.js';
import { SightLayer, type Sights } from './sight-layer.js';
import type { Thing } from './thing.js';
import { usePane } from './use-pane.js';
import { crowded, extent, toMetres, toScreen, zoomAt, type Viewport } from './viewport.js';

/** What can be done to the things besides pointing at them; a plan without it is only looked at. */
export interface Staging {
  /** Metres between the places at which things come to stand; 0 for any. */
  snap: number;
  chosen: readonly string[];
  /** A click on the ground puts something there. */
  placing: boolean;
  onMove: (paths: readonly string[], by: [number, number]) => void;
  onFrame: (paths: readonly string[]) => void;
  onGround: (at: [number, number]) => void;
  onArea: (path: string, area: Area) => void;
}
interface Props {
  label: string;
  size: readonly [number, number] | undefined;
  /** A picture under the plan, and where it is to be had. */
  backdrop?: { backdrop: Backdrop; href: string };
  /** Sensing areas are left out. */
  noAreas?: boolean;
  things: readonly Thing[];
  /** How each thing looks now; absent: as usual. */
  looks: ReadonlyMap<string, ThingLook>;
  /** The sensing area of the plan's owner itself, a prefab. */
  own?: Area;
  onPick: (path: string, add: boolean) => void;
  /** A double click on a thing. */
  onOpen?: (path: string) => void;
  staging?: Staging;
  /** A line was drawn from one thing to another; only where nothing is staged. */
  onLink?: (from: string, to: string) => void;
  /** What the chosen things reach, and what reaches them. */
  sights?: Sights;
  /** A way over the plan, in metres. */
  way?: readonly (readonly [number, number])[];
  /** A click on the ground; only where nothing is staged. */
  onGround?: (at: [number, number]) => void;
  /** What is drawn over everything else. */
  over?: (plan: PlanSeen) => ReactNode;
}
/** How a plan is shown: pixels, and the way to show another part of it. */
export interface PlanSeen {
  view: Viewport;
  width: number;
  height: number;
  show: (view: Viewport) => void;
}
/** A gesture under way: pixels from where it began. */
interface Drawn {
  gesture: Gesture;
  x: number;
  y: number;
  from: Viewport;
  dx: number;
  dy: number;
  /** Whether it has gone far enough to be more than a click. */
  begun: boolean;
  /** Whether it began on the ground, not on a thing. */
  ground: boolean;
}
/** Room around what is seen in which things are drawn as well, to be there when the plan is pushed. Pixels. */
const AROUND = 200;
const MOST_LABELS = 500;

/** A scene to scale: ground, areas, things with labels that do not collide. Wheel zooms, dragging pans, 0 shows all. */
export const PlanDrawing = memo(function PlanDrawing({
  label,
  size,
  backdrop,
  noAreas = false,
  things,
  looks,
  own,
  onPick,
  onOpen,
  onLink,
  staging,
  sights,
  way = [],
  onGround,
  over,
}: Props): ReactNode {
  const bounds = useMemo(
    () =>
      extent(size, [...things.map((t) => t.at), ...cornersOf(own), ...cornersOfPicture(backdrop?.backdrop)]),
    [size, things, own, backdrop],
  );
  const pane = usePane(label, bounds, () => crowded(bounds, things));
  const { view, width, height } = pane;
  const [drawn, setDrawn] = useState<Drawn | null>(null);
  const clicked = useRef(true);
  // The box around the drawing is pushed: a drawing that is itself moved has all its texts laid out anew.
  const pushed = useRef<HTMLDivElement>(null);
  const top = useRef<SVGSVGElement>(null);
  const push = useCallback((transform: string): void => {
    for (const { current } of [pushed, top]) if (current) current.style.transform = transform;
    // A layer of its own while it is pushed about, and only then: whatever changes in one of thousands of marks is dear.
    if (pushed.current) pushed.current.style.willChange = transform === '' ? '' : 'transform';
  }, []);
  useLayoutEffect(() => push(''), [push, view.x, view.y, view.scale]);
  const moving = drawn?.begun === true && drawn.gesture.kind === 'move' ? movedBy(drawn) : null;

  const byPath = useMemo(() => new Map(things.map((t) => [t.path, t])), [things]);
  const inner = useMemo(() => things.filter((t) => t.depth > 1 && t.area), [things]);
  const within = useMemo(
    () =>
      things.filter((t) => {
        if (t.depth > 1 && !looks.has(t.path)) return false;
        const [x, y] = toScreen(view, t.at);
        return x > -AROUND && y > -AROUND && x < width + AROUND && y < height + AROUND;
      }),
    [things, looks, view, width, height],
  );
  const mark = Math.min(13, Math.max(8, view.scale * 2.6));
  // What is pointed out always stands by itself.
  const { alone: shown, clusters } = useMemo(
    () =>
      clustered(
        within,
        (t) => toScreen(view, t.at),
        mark,
        ({ path }) => {
          const look = looks.get(path);
          return look?.chosen === true || look?.picked === true || look?.order !== undefined;
        },
      ),
    [within, view, mark, looks],
  );
  const labels = useMemo(() => {
    // What is faded gives way: it has no label, and its mark is no obstacle.
    const rankOf = (t: Thing): number => {
      const look = looks.get(t.path);
      return look?.chosen ? 4 : look?.picked ? 3 : look?.lit ? 2 : 1;
    };
    const wished = shown.filter((t) => !looks.get(t.path)?.faded);
    // Where so many crowd, hardly any label finds room; it is not tried for all.
    const labelled =
      wished.length <= MOST_LABELS
        ? wished
        : [...wished.filter((t) => rankOf(t) > 1), ...wished.filter((t) => rankOf(t) === 1)].slice(
            0,
            MOST_LABELS,
          );
    return placeLabels(
      labelled.map((t) => {
        const [x, y] = toScreen(view, t.at);
        const rank = rankOf(t);
        const radius = reachOf(t, mark);
        return { id: t.path, text: t.label, kind: t.asset, x, y, radius, rank, isNeeded: rank > 1 };
      }),
      { width, height },
      clusters,
    );
  }, [shown, clusters, view, looks, mark, width, height]);

  function movedBy({ gesture, dx, dy }: Drawn): { paths: readonly string[]; by: [number, number] } | null {
    if (!staging || gesture.kind !== 'move') return null;
    const { path } = gesture;
    const thing = things.find((t) => t.path === path);
    if (!thing) return null;
    const by = snapped(thing.at, [dx / view.scale, dy / view.scale], staging.snap);
    return { paths: staging.chosen.includes(path) ? staging.chosen : [path], by };
  }
  function pulledTo({ gesture, x, y, dx, dy }: Drawn): { path: string; area: Area } | null {
    if (gesture.kind !== 'area') return null;
    const thing =
      gesture.path === '.' ? { at: ORIGIN, area: own } : things.find((t) => t.path === gesture.path);
    if (!thing?.area) return null;
    const box = pane.ref.current!.getBoundingClientRect();
    const [mx, my] = toMetres(view, [x + dx - box.left, y + dy - box.top]);
    return {
      path: gesture.path,
      area: pulled(thing.area, gesture.handle, [mx - thing.at[0], my - thing.at[1]], staging?.snap ?? 0),
    };
  }
  const place = (e: { clientX: number; clientY: number }): [number, number] => {
    const box = pane.ref.current!.getBoundingClientRect();
    return toMetres(view, [e.clientX - box.left, e.clientY - box.top]);
  };

  const onPointerDown = (e: PointerEvent<SVGSVGElement>): void => {
    if (e.button !== 0) return;
    const target = e.target as Element;
    const handle = target.closest<SVGElement>('[data-handle]');
    const path = target.closest<SVGElement>('.thing')?.dataset.path ?? null;
    const gesture = gestureOf({
      thing: path !== null && things.some((t) => t.path === path && t.depth === 1) ? path : null,
      handle: handle ? { path: handle.dataset.of!, at: Number(handle.dataset.handle) } : null,
      shift: e.shiftKey,
      staging: staging !== undefined,
      link: onLink ? path : null,
    });
    clicked.current = true;
    const ground = path === null && !handle;
    setDrawn({ gesture, x: e.clientX, y: e.clientY, from: view, dx: 0, dy: 0, begun: false, ground });
  };
  const onPointerMove = (e: PointerEvent<SVGSVGElement>): void => {
    if (!drawn) return;
    const [dx, dy] = [e.clientX - drawn.x, e.clientY - drawn.y];
    const begun = drawn.begun || Math.hypot(dx, dy) >= 4;
    if (!begun) return;
    if (!drawn.begun) e.currentTarget.setPointerCapture(e.pointerId);
    clicked.current = false;
    if (drawn.gesture.kind !== 'pan') return setDrawn({ ...drawn, dx, dy, begun });
    // The drawing itself is pushed about; it is drawn anew only when its margin is used up, and at the end.
    const far = Math.max(Math.abs(dx), Math.abs(dy)) > AROUND - 30;
    if (far) pane.show(pannedBy(drawn, dx, dy));
    else push(`translate(${dx}px, ${dy}px)`);
    if (far || !drawn.begun) {
      const at = far ? { x: e.clientX, y: e.clientY, from: pannedBy(drawn, dx, dy) } : {};
      setDrawn({ ...drawn, ...at, begun });
    }
  };
  const endPan = (e: { clientX: number; clientY: number }): void => {
    if (drawn?.begun !== true || drawn.gesture.kind !== 'pan') return;
    pane.show(pannedBy(drawn, e.clientX - drawn.x, e.clientY - drawn.y));
  };
  const onPointerUp = (e: PointerEvent<SVGSVGElement>): void => {
    setDrawn(null);
    // The click that follows a drawn gesture is none; the next one is.
    requestAnimationFrame(() => (clicked.current = true));
    endPan(e);
    if (drawn?.begun && drawn.gesture.kind === 'link') {
      const under = document.elementFromPoint(e.clientX, e.clientY)?.closest<SVGElement>('.thing');
      const to = under?.dataset.path;
      if (to !== undefined && to !== drawn.gesture.path) onLink?.(drawn.gesture.path, to);
    }
    if (drawn && !drawn.begun && drawn.ground) onGround?.(place(e));
    if (!drawn || !staging) return;
    if (!drawn.begun) {
      if (drawn.ground || staging.placing) staging.onGround(place(e));
      return;
    }
    const { gesture } = drawn;
    if (gesture.kind === 'pan') return;
    if (gesture.kind === 'move') {
      const moved = movedBy(drawn);
      if (moved && (moved.by[0] !== 0 || moved.by[1] !== 0)) staging.onMove(moved.paths, moved.by);
    } else if (gesture.kind === 'area') {
      const to = pulledTo(drawn);
      if (to) staging.onArea(to.path, to.area);
    } else if (gesture.kind === 'frame') {
      const [ax, ay] = place({ clientX: drawn.x, clientY: drawn.y });
      const [bx, by] = place(e);
      const inside = ([x, y]: readonly [number, number]): boolean =>
        x >= Math.min(ax, bx) && x <= Math.max(ax, bx) && y >= Math.min(ay, by) && y <= Math.max(ay, by);
      staging.onFrame(things.filter((t) => t.depth === 1 && inside(t.at)).map((t) => t.path));
    }
  };
  const onKeyDown = (e: KeyboardEvent): void => {
    if (e.key === '+' || e.key === '=') pane.zoom(1.25);
    else if (e.key === '-') pane.zoom(0.8);
    else if (e.key === '0') pane.show(null);
  };
  const latest = useRef(onPick);
  latest.current = onPick;
  const placing = useRef(false);
  placing.current = staging?.placing === true;
  const pick = useCallback((path: string, add: boolean): void => {
    // While something is placed, a press on a thing puts it there as well.
    if (clicked.current && !placing.current) latest.current(path, add);
    clicked.current = true;
  }, []);
  const placeOf = (t: Thing): readonly [number, number] =>
    moving?.paths.includes(t.path) ? [t.at[0] + moving.by[0], t.at[1] + moving.by[1]] : t.at;
  const moved = (t: Thing): readonly [number, number] => {
    const inMoved = moving?.paths.includes(t.path.split('/')[0]);
    return inMoved ? [t.at[0] + moving!.by[0], t.at[1] + moving!.by[1]] : t.at;
  };
  const seenAt = (path: string): { x: number; y: number; r: number } | null => {
    const t = byPath.get(path);
    if (!t) return null;
    const [x, y] = toScreen(view, placeOf(t));
    const isSeen = x > -mark && y > -mark && x < width + mark && y < height + mark;
    return isSeen ? { x, y, r: radiusOf(t, mark) } : null;
  };
  const pulling = drawn?.begun ? pulledTo(drawn) : null;
  const areaOf = (t: Thing): Area | undefined => (pulling?.path === t.path ? pulling.area : t.area);
  const ownArea = pulling?.path === '.' ? pulling.area : own;
  const only = staging?.chosen.length === 1 ? things.find((t) => t.path === staging.chosen[0]) : undefined;

  return (
    <>
      <div
        className={`plan-pane ${staging?.placing ? 'placing' : ''}`}
        ref={pane.ref}
        style={{ position: 'absolute', inset: 0 }}
        onKeyDown={onKeyDown}
      >
        <div className="pushed" ref={pushed}>
          <svg
            // In pixels, not as a share of the pane: else whatever changes in the page lays all of it out anew.
            style={width > 0 ? { width, height } : undefined}
            role="group"
            aria-label={label}
            onDoubleClick={(e) => {
              const path = (e.target as Element).closest<SVGElement>('.thing')?.dataset.path;
              if (path !== undefined) onOpen?.(path);
            }}
            onPointerDown={onPointerDown}
            onPointerMove={onPointerMove}
            onPointerUp={onPointerUp}
            onPointerCancel={(e) => {
              endPan(e);
              setDrawn(null);
            }}
          >
            {width > 0 && (
              <>
                <PlanGround
                  view={view}
                  bounds={bounds}
                  width={width}
                  height={height}
                  sized={size !== undefined}
                >
                  {backdrop && <BackdropPicture {...backdrop} view={view} />}
                </PlanGround>
                {ownArea && !noAreas && (
                  <AreaShape at={ORIGIN} area={ownArea} view={view} className="area own" />
                )}
                {(noAreas ? [] : inner.slice(0, MOST_LABELS)).map((t) => (
                  <AreaShape
                    key={`inner/${t.path}`}
                    at={moved(t)}
                    area={t.area!}
                    view={view}
                    className="area inner"
                  />
                ))}
                {shown.map((t) => {
                  const area = t.depth > 1 || noAreas ? undefined : areaOf(t);
                  const chosen = looks.get(t.path)?.chosen === true;
                  return (
                    area && (
                      <AreaShape
                        key={t.path}
                        at={placeOf(t)}
                        area={area}
                        view={view}
                        className={`area ${chosen ? 'chosen' : ''}`}
                      />
                    )
                  );
                })}
                {sights && <SightLayer sights={sights} placeOf={seenAt} width={width} height={height} />}
                {clusters.map((c) => (
                  <ClusterDot key={c.key} cluster={c} onOpen={() => pane.show(zoomAt(view, 2.5, c.x, c.y))} />
                ))}
                {shown.map((t) => {
                  const [x, y] = toScreen(view, placeOf(t));
                  return (
                    <PlanThing
                      key={t.path}
                      thing={t}
                      x={x}
                      y={y}
                      radius={radiusOf(t, mark)}
                      look={looks.get(t.path)}
                      label={moving?.paths.includes(t.path) ? undefined : labels.get(t.path)}
                      onPick={pick}
                    />
                  );
                })}
                {staging && ownArea && !only && (
                  <AreaHandles path="." at={ORIGIN} area={ownArea} view={view} />
                )}
                {only?.depth === 1 && areaOf(only) && !moving && (
                  <AreaHandles path={only.path} at={only.at} area={areaOf(only)!} view={view} />
                )}
                {drawn?.begun === true && drawn.gesture.kind === 'link' && (
                  <LinkLine drawn={drawn} pane={pane.ref} />
                )}
                {way.length > 0 && <Way points={way.map((p) => toScreen(view, p))} />}
                {drawn?.begun === true && drawn.gesture.kind === 'frame' && (
                  <Frame drawn={drawn} pane={pane.ref} />
                )}
              </>
            )}
          </svg>
        </div>
        {!pane.whole && width > 0 && (
          <Minimap
            bounds={bounds}
            things={things}
            view={view}
            width={width}
            height={height}
            onShow={pane.show}
          />
        )}
        <div className="tools" role="group" aria-label="Zoom">
          <button type="button" onClick={() => pane.zoom(0.8)} aria-label="Zoom out" title="Zoom out (-)">
            −
          </button>
          <button type="button" onClick={() => pane.show(null)} aria-label="Show all" title="Show all (0)">
            ⤢
          </button>
          <button type="button" onClick={() => pane.zoom(1.25)} aria-label="Zoom in" title="Zoom in (+)">
            +
          </button>
        </div>
      </div>
      {over && width > 0 && (
        // A picture of its own, and not in the pane: what moves does not have all the rest laid out and painted anew.
        <svg ref={top} className="over" style={{ width, height }} aria-hidden="true">
          {over({ view, width, height, show: pane.show })}
        </svg>
      )}
    </>
  );
});

const ORIGIN = [0, 0] as const;
/** Places that show how far an area reaches. */
function cornersOfPicture(picture: Backdrop | undefined): (readonly [number, number])[] {
  if (!picture) return [];
  const { at, size } = picture;
  return [at, [at[0] + size[0], at[1] + size[1]]];
}
function cornersOf(area: Area | undefined): (readonly [number, number])[] {
  if (!area) return [];
  if ('polygon' in area) return area.polygon;
  const [w, h] = 'circle' in area ? [area.circle, area.circle] : [area.rect[0] / 2, area.rect[1] / 2];
  return [
    [-w, -h],
    [w, h],
  ];
}

function pannedBy({ from }: Drawn, dx: number, dy: number): Viewport {
  return { ...from, x: from.x + dx, y: from.y + dy };
}

function Way({ points }: { points: readonly [number, number][] }): ReactNode {
  return (
    <g className="way" aria-hidden="true">
      <polyline points={points.map((p) => p.join(',')).join(' ')} />
      {points.map(([x, y], i) => (
        <path key={i} d={`M${x - 4} ${y}l4 -4l4 4l-4 4z`} />
      ))}
    </g>
  );
}

function LinkLine({
  drawn: { x, y, dx, dy },
  pane,
}: {
  drawn: Drawn;
  pane: { current: HTMLDivElement | null };
}): ReactNode {
  const box = pane.current!.getBoundingClientRect();
  return (
    <line
      className="linkline"
      x1={x - box.left}
      y1={y - box.top}
      x2={x + dx - box.left}
      y2={y + dy - box.top}
    />
  );
}

function Frame({
  drawn: { x, y, dx, dy },
  pane,
}: {
  drawn: Drawn;
  pane: { current: HTMLDivElement | null };
}): ReactNode {
  const box = pane.current!.getBoundingClientRect();
  return (
    <rect
      className="frameline"
      x={Math.min(x, x + dx) - box.left}
      y={Math.min(y, y + dy) - box.top}
      width={Math.abs(dx)}
      height={Math.abs(dy)}
    />
  );
}

/** Nested things are drawn smaller. */
function reachOf(t: Thing, mark: number): number {
  return radiusOf(t, mark) * (t.kind === 'widget' ? 1.15 : (REACH[t.mark] ?? 1));
}
function radiusOf(t: Thing, mark: number): number {
  return t.depth > 1 ? mark * 0.6 : mark;
}
