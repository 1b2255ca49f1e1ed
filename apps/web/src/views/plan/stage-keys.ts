import { useEffect } from 'react';

/** Keys of the stage, wherever the focus is, except in a field or a dialog. */
export function useStageKeys(keys: {
  move: (dx: number, dy: number) => unknown;
  leave: () => void;
  duplicate: (wired: boolean) => unknown;
  turn: (degrees: number) => unknown;
  escape: () => void;
  all: () => void;
}): void {
  useEffect(() => {
    const arrows: Record<string, [number, number]> = {
      ArrowLeft: [-1, 0],
      ArrowRight: [1, 0],
      ArrowUp: [0, -1],
      ArrowDown: [0, 1],
    };
    const onKey = (e: KeyboardEvent): void => {
      if (e.target instanceof HTMLElement && e.target.closest('input, textarea, select, [role="dialog"]'))
        return;
      const key = e.key.toLowerCase();
      const ctrl = e.ctrlKey || e.metaKey;
      if (ctrl && key === 'a') keys.all();
      else if (ctrl || e.altKey) return;
      else if (e.key in arrows) {
        const [dx, dy] = arrows[e.key];
        const by = e.shiftKey ? 10 : 1;
        keys.move(dx * by, dy * by);
      } else if (e.key === 'Delete' || e.key === 'Backspace') keys.leave();
      else if (key === '[' || key === ']') keys.turn(key === ']' ? 15 : -15);
      else if (key === '{' || key === '}') keys.turn(key === '}' ? 90 : -90);
      else if (key === 'd') keys.duplicate(e.shiftKey);
      else if (e.key === 'Escape') keys.escape();
      else return;
      e.preventDefault();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  });
}
