import './splitter.css';
import { useCallback, useState, type KeyboardEvent, type PointerEvent, type ReactNode } from 'react';
import { followDrag } from './drag.js';

const STEP = 24;

/** A size in pixels that is remembered in this browser, and the divider that changes it. */
export function useSplit({
  name,
  label,
  axis,
  first,
  min,
  max,
  sign = 1,
}: {
  /** Under which it is remembered. */
  name: string;
  label: string;
  /** Along which the size is measured. */
  axis: 'x' | 'y';
  first: number;
  min: number;
  max: number;
  /** 1 where the size grows with the coordinate, −1 where it shrinks. */
  sign?: 1 | -1;
}): { size: number; divider: ReactNode } {
  const key = `oquel.split.${name}`;
  const within = useCallback((size: number) => Math.round(Math.min(max, Math.max(min, size))), [min, max]);
  const [size, setSize] = useState(() => within(Number(localStorage.getItem(key)) || first));
  const set = (next: number): void => {
    setSize(within(next));
    localStorage.setItem(key, String(within(next)));
  };
  const onPointerDown = (e: PointerEvent<HTMLElement>): void => {
    followDrag(e, (dx, dy) => set(size + sign * (axis === 'x' ? dx : dy)));
  };
  const onKeyDown = (e: KeyboardEvent): void => {
    const more = axis === 'x' ? 'ArrowRight' : 'ArrowDown';
    const less = axis === 'x' ? 'ArrowLeft' : 'ArrowUp';
    if (e.key === more) set(size + sign * STEP);
    else if (e.key === less) set(size - sign * STEP);
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  const divider = (
    <div
      className={`divider ${axis}`}
      role="separator"
      tabIndex={0}
      aria-label={label}
      aria-orientation={axis === 'x' ? 'vertical' : 'horizontal'}
      aria-valuenow={size}
      aria-valuemin={min}
      aria-valuemax={max}
      onPointerDown={onPointerDown}
      onKeyDown={onKeyDown}
      onDoubleClick={() => set(first)}
    />
  );
  return { size, divider };
}
