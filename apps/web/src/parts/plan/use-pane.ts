import { useEffect, useRef, useState, type RefObject } from 'react';
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

/** The viewport of a plan in a pane that may change its size; the wheel zooms. `plan` names what is shown. */
export function usePane(plan: string, bounds: Rect, covered: number): Pane {
  const ref = useRef<HTMLDivElement>(null);
  const [{ width, height }, setSize] = useState({ width: 0, height: 0 });
  const [moved, show] = useState<Viewport | null>(null);
  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => {
      setSize({ width: entry.contentRect.width, height: entry.contentRect.height });
    });
    watch.observe(ref.current!);
    return () => watch.disconnect();
  }, []);
  useEffect(() => show(null), [plan]);
  const view = moved ?? fit(bounds, width, height, covered);

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
  }, []);
  const zoom = (factor: number): void => show(zoomAt(view, factor, width / 2, height / 2));
  return { ref, width, height, view, whole: moved === null, show, zoom };
}
