import './splitter.css';
import {
  useRef,
  useState,
  type CSSProperties,
  type KeyboardEvent,
  type PointerEvent,
  type ReactNode,
} from 'react';
import { followDrag } from './drag.js';

const STEP = 24;
/** Share of the whole that a panel may take. */
const MOST_SHARE = 0.72;

interface Options {
  /** Under which its width is remembered. */
  name: string;
  label: string;
  /** Where the panel stands. */
  side: 'left' | 'right';
  /** Its share of the width until it is changed. */
  share: number;
  /** Pixels. */
  min: number;
}

/**
 * A panel at one side of a view whose width is changed by pointer or keys and remembered in this browser. The view takes
 * `style`, in which `--panel` is the width once it has been changed, and has `divider` in it; a double click forgets it.
 */
export function useSidePanel({ name, label, side, share, min }: Options): {
  style: CSSProperties;
  divider: ReactNode;
} {
  const key = `oquel.split.${name}`;
  const bar = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState<number | null>(() => Number(localStorage.getItem(key)) || null);
  const whole = (): number => bar.current?.parentElement?.clientWidth ?? 1280;
  const now = (): number => size ?? Math.round(whole() * share);
  const set = (next: number): void => {
    const within = Math.round(Math.min(whole() * MOST_SHARE, Math.max(min, next)));
    setSize(within);
    localStorage.setItem(key, String(within));
  };
  const sign = side === 'left' ? 1 : -1;
  const onPointerDown = (e: PointerEvent<HTMLElement>): void => {
    const begun = now();
    followDrag(e, (dx) => set(begun + sign * dx));
  };
  const onKeyDown = (e: KeyboardEvent): void => {
    if (e.key !== 'ArrowLeft' && e.key !== 'ArrowRight') return;
    e.preventDefault();
    e.stopPropagation();
    set(now() + sign * (e.key === 'ArrowRight' ? STEP : -STEP));
  };
  const style = size === null ? {} : ({ '--panel': `${size}px` } as CSSProperties);
  const divider = (
    <div
      ref={bar}
      className={`divider x aside ${side}`}
      role="separator"
      tabIndex={0}
      aria-label={label}
      aria-orientation="vertical"
      aria-valuenow={size ?? Math.round(share * 100)}
      aria-valuetext={size === null ? `${Math.round(share * 100)} percent` : `${size} pixels`}
      aria-valuemin={min}
      onPointerDown={onPointerDown}
      onKeyDown={onKeyDown}
      onDoubleClick={() => {
        setSize(null);
        localStorage.removeItem(key);
      }}
    />
  );
  return { style, divider };
}
