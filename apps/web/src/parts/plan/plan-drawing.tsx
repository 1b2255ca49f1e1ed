import './plan.css';
import type { Area, Backdrop } from '@oquel/core';
import { memo, useMemo, type KeyboardEvent, type ReactNode } from 'react';
import { AreaHandles, AreaShape } from './area-shape.js';
import { BackdropPicture } from './backdrop.js';
import { ClusterDot } from './cluster-dot.js';
import { Frame, LinkLine, Way } from './drawn-lines.js';
import { Minimap } from './minimap.js';
import { cornersOf, cornersOfPicture, ORIGIN } from './plan-bounds.js';
import type { PlacementEdits } from './placement-edits.js';
import { PlanGround } from './plan-ground.js';
import { PlanThing, type ThingStyle } from './plan-thing.js';
import { SightLayer, type Sights } from './sight-layer.js';
import type { Thing } from './thing.js';
import { usePane } from './use-pane.js';
import { usePlanGestures } from './use-plan-gestures.js';
import { MOST_LABELS, radiusOf, useShownThings } from './use-shown-things.js';
import { crowded, extent, toScreen, zoomAt, type Viewport } from './viewport.js';
import { ZoomTools } from './zoom-tools.js';

interface Props {
  label: string;
  size: readonly [number, number] | undefined;
  /** A picture under the plan, and where it is to be had. */
  backdrop?: { backdrop: Backdrop; href: string };
  /** Sensing areas are left out. */
  noAreas?: boolean;
  things: readonly Thing[];
  /** How each thing looks now; absent: as usual. */
  thingStyles: ReadonlyMap<string, ThingStyle>;
  /** The sensing area of the plan's owner itself, a prefab. */
  own?: Area;
  onPick: (path: string, add: boolean) => void;
  /** A double click on a thing. */
  onOpen?: (path: string) => void;
  placementEdits?: PlacementEdits;
  /** A line was drawn from one thing to another; only where nothing can be moved. */
  onLink?: (from: string, to: string) => void;
  /** What the chosen things reach, and what reaches them. */
  sights?: Sights;
  /** A way over the plan, in metres. */
  way?: readonly (readonly [number, number])[];
  /** A click on the ground; only where nothing can be moved. */
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
/** A scene to scale: ground, areas, things with labels that do not collide. Wheel zooms, dragging pans, 0 shows all. */
export const PlanDrawing = memo(function PlanDrawing({
  label,
  size,
  backdrop,
  noAreas = false,
  things,
  thingStyles,
  own,
  onPick,
  onOpen,
  onLink,
  placementEdits,
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
  const gestures = usePlanGestures(pane, { things, own, placementEdits, onPick, onLink, onGround });
  const { drawn, moving, pulling } = gestures;
  const { mark, shown, clusters, labels } = useShownThings(things, thingStyles, pane);
  const byPath = useMemo(() => new Map(things.map((t) => [t.path, t])), [things]);
  const inner = useMemo(() => things.filter((t) => t.depth > 1 && t.area), [things]);
  const onKeyDown = (e: KeyboardEvent): void => {
    if (e.key === '+' || e.key === '=') pane.zoom(1.25);
    else if (e.key === '-') pane.zoom(0.8);
    else if (e.key === '0') pane.show(null);
  };
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
  const areaOf = (t: Thing): Area | undefined => (pulling?.path === t.path ? pulling.area : t.area);
  const ownArea = pulling?.path === '.' ? pulling.area : own;
  const only =
    placementEdits?.chosen.length === 1 ? things.find((t) => t.path === placementEdits.chosen[0]) : undefined;

  return (
    <>
      <div
        className={`plan-pane ${placementEdits?.placing ? 'placing' : ''}`}
        ref={pane.ref}
        style={{ position: 'absolute', inset: 0 }}
        onKeyDown={onKeyDown}
      >
        <div className="pushed" ref={gestures.pushed}>
          <svg
            // In pixels, not as a share of the pane: else whatever changes in the page lays all of it out anew.
            style={width > 0 ? { width, height } : undefined}
            role="group"
            aria-label={label}
            onDoubleClick={(e) => {
              const path = (e.target as Element).closest<SVGElement>('.thing')?.dataset.path;
              if (path !== undefined) onOpen?.(path);
            }}
            onPointerDown={gestures.onPointerDown}
            onPointerMove={gestures.onPointerMove}
            onPointerUp={gestures.onPointerUp}
            onPointerCancel={gestures.onPointerCancel}
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
                  const chosen = thingStyles.get(t.path)?.chosen === true;
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
                      look={thingStyles.get(t.path)}
                      label={moving?.paths.includes(t.path) ? undefined : labels.get(t.path)}
                      onPick={gestures.pick}
                    />
                  );
                })}
                {placementEdits && ownArea && !only && (
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
        <ZoomTools pane={pane} />
      </div>
      {over && width > 0 && (
        // A picture of its own, and not in the pane: what moves does not have all the rest laid out and painted anew.
        <svg ref={gestures.top} className="over" style={{ width, height }} aria-hidden="true">
          {over({ view, width, height, show: pane.show })}
        </svg>
      )}
    </>
  );
});
