import type { Area } from '@oquel/core';
import { useCallback, useLayoutEffect, useRef, useState, type PointerEvent, type RefObject } from 'react';
import { pulled } from './area.js';
import { gestureOf, snapped, type Gesture } from './gesture.js';
import { ORIGIN } from './plan-bounds.js';
import type { PlacementEdits } from './placement-edits.js';
import type { Thing } from './thing.js';
import type { Pane } from './use-pane.js';
import { AROUND } from './use-shown-things.js';
import { toMetres, type Viewport } from './viewport.js';

/** A gesture under way: pixels from where it began. */
export interface Drawn {
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
interface Given {
  things: readonly Thing[];
  /** The sensing area of the plan's owner itself. */
  own: Area | undefined;
  placementEdits: PlacementEdits | undefined;
  onPick: (path: string, add: boolean) => void;
  onLink: ((from: string, to: string) => void) | undefined;
  onGround: ((at: [number, number]) => void) | undefined;
}
/** What is pressed and drawn on a plan, and what that does to it while it goes on. */
export interface PlanGestures {
  drawn: Drawn | null;
  /** The box that is pushed about, and the picture above it. */
  pushed: RefObject<HTMLDivElement | null>;
  top: RefObject<SVGSVGElement | null>;
  /** Things that are being moved, and how far. Metres. */
  moving: { paths: readonly string[]; by: [number, number] } | null;
  /** The area whose handle is being pulled, as it is now. */
  pulling: { path: string; area: Area } | null;
  /** A click on a thing, unless it ended a gesture. */
  pick: (path: string, add: boolean) => void;
  onPointerDown: (e: PointerEvent<SVGSVGElement>) => void;
  onPointerMove: (e: PointerEvent<SVGSVGElement>) => void;
  onPointerUp: (e: PointerEvent<SVGSVGElement>) => void;
  onPointerCancel: (e: PointerEvent<SVGSVGElement>) => void;
}

export function usePlanGestures(
  pane: Pane,
  { things, own, placementEdits, onPick, onLink, onGround }: Given,
): PlanGestures {
  const { view } = pane;
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
  function movedBy({ gesture, dx, dy }: Drawn): { paths: readonly string[]; by: [number, number] } | null {
    if (!placementEdits || gesture.kind !== 'move') return null;
    const { path } = gesture;
    const thing = things.find((t) => t.path === path);
    if (!thing) return null;
    const by = snapped(thing.at, [dx / view.scale, dy / view.scale], placementEdits.snap);
    return { paths: placementEdits.chosen.includes(path) ? placementEdits.chosen : [path], by };
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
      area: pulled(
        thing.area,
        gesture.handle,
        [mx - thing.at[0], my - thing.at[1]],
        placementEdits?.snap ?? 0,
      ),
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
      canMove: placementEdits !== undefined,
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
    if (!drawn || !placementEdits) return;
    if (!drawn.begun) {
      if (drawn.ground || placementEdits.placing) placementEdits.onGround(place(e));
      return;
    }
    const { gesture } = drawn;
    if (gesture.kind === 'pan') return;
    if (gesture.kind === 'move') {
      const moved = movedBy(drawn);
      if (moved && (moved.by[0] !== 0 || moved.by[1] !== 0)) placementEdits.onMove(moved.paths, moved.by);
    } else if (gesture.kind === 'area') {
      const to = pulledTo(drawn);
      if (to) placementEdits.onArea(to.path, to.area);
    } else if (gesture.kind === 'frame') {
      const [ax, ay] = place({ clientX: drawn.x, clientY: drawn.y });
      const [bx, by] = place(e);
      const inside = ([x, y]: readonly [number, number]): boolean =>
        x >= Math.min(ax, bx) && x <= Math.max(ax, bx) && y >= Math.min(ay, by) && y <= Math.max(ay, by);
      placementEdits.onFrame(things.filter((t) => t.depth === 1 && inside(t.at)).map((t) => t.path));
    }
  };
  const onPointerCancel = (e: PointerEvent<SVGSVGElement>): void => {
    endPan(e);
    setDrawn(null);
  };
  const latest = useRef(onPick);
  latest.current = onPick;
  const placing = useRef(false);
  placing.current = placementEdits?.placing === true;
  const pick = useCallback((path: string, add: boolean): void => {
    // While something is placed, a press on a thing puts it there as well.
    if (clicked.current && !placing.current) latest.current(path, add);
    clicked.current = true;
  }, []);
  const moving = drawn?.begun === true && drawn.gesture.kind === 'move' ? movedBy(drawn) : null;
  const pulling = drawn?.begun ? pulledTo(drawn) : null;
  return {
    drawn,
    pushed,
    top,
    moving,
    pulling,
    pick,
    onPointerDown,
    onPointerMove,
    onPointerUp,
    onPointerCancel,
  };
}

function pannedBy({ from }: Drawn, dx: number, dy: number): Viewport {
  return { ...from, x: from.x + dx, y: from.y + dy };
}
