import { useCallback, useEffect, useRef, useState, type RefObject } from 'react';
import { fit, zoomAt, type Rect, type Viewport } from './viewport.js';

export interface Pane {
  ref: RefObject<HTMLDivElement | null>;
  width: number;
  height: number;
  view: Viewport;
  /** Whether all of the plan is shown. */
  whole: boolean;
  /** Null shows all again. */
  show: (view: Viewport | null) => void;
  zoom: (factor: number) => void;
}

/**
 * The viewport of a plan in a pane that may change its size; the wheel zooms. `plan` names what is shown; `opening` gives the
 * part of it with which it is opened, null for all.
 */
export function usePane(plan: string, bounds: Rect, opening: () => Rect | null): Pane {
  const ref = useRef<HTMLDivElement>(null);
  const [{ width, height }, setSize] = useState({ width: 0, height: 0 });
  const [moved, setMoved] = useState<Viewport | null>(null);
  const [opened, setOpened] = useState<{ plan: string; part: Rect | null }>(() => ({
    plan,
    part: opening(),
  }));
  const show = useCallback((next: Viewport | null): void => {
    setMoved(next);
    if (next === null) setOpened((o) => ({ ...o, part: null }));
  }, []);
  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => {
      setSize({ width: entry.contentRect.width, height: entry.contentRect.height });
    });
    watch.observe(ref.current!);
    return () => watch.disconnect();
  }, []);
  // Edits do not move what is looked at: the part is that of the moment of opening.
  if (opened.plan !== plan) {
    setOpened({ plan, part: opening() });
    setMoved(null);
  }
  const view = moved ?? fit(opened.part ?? bounds, width, height);

  // React's own wheel listener is passive and could not keep the page from scrolling.
  const latest = useRef(view);
  latest.current = view;
  useEffect(() => {
    const node = ref.current!;
    const onWheel = (e: WheelEvent): void => {
      e.preventDefault();
      const box = node.getBoundingClientRect();
      show(zoomAt(latest.current, Math.exp(-e.deltaY * 0.0015), e.clientX - box.left, e.clientY - box.top));
    };
    node.addEventListener('wheel', onWheel, { passive: false });
    return () => node.removeEventListener('wheel', onWheel);
  }, [show]);
  const zoom = (factor: number): void => show(zoomAt(view, factor, width / 2, height / 2));
  return { ref, width, height, view, whole: moved === null && opened.part === null, show, zoom };
}
