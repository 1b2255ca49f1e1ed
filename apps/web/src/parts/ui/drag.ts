import type { PointerEvent } from 'react';

/** Follows the pointer from a press until it is let go: `onMove` gets the pixels from where it began. */
export function followDrag(e: PointerEvent<HTMLElement>, onMove: (dx: number, dy: number) => void): void {
  const [x, y, target] = [e.clientX, e.clientY, e.currentTarget];
  target.setPointerCapture(e.pointerId);
  const move = (m: globalThis.PointerEvent): void => onMove(m.clientX - x, m.clientY - y);
  const end = (): void => {
    target.removeEventListener('pointermove', move);
    target.removeEventListener('pointerup', end);
    target.removeEventListener('pointercancel', end);
  };
  target.addEventListener('pointermove', move);
  target.addEventListener('pointerup', end);
  target.addEventListener('pointercancel', end);
}
