import { useEffect, type RefObject } from 'react';
import { lettersOn } from '../../session/letters.js';
import { NOT_OF_THE_VIEW } from '../../parts/ui/keys.js';

/** Keys of the stage while the plan or the list of its parts has the focus. */
export function useStageKeys(
  region: RefObject<HTMLElement | null>,
  keys: {
    move: (dx: number, dy: number) => unknown;
    leave: () => void;
    duplicate: (wired: boolean) => unknown;
    rotate: (degrees: number) => unknown;
    escape: () => void;
    all: () => void;
    place: () => void;
    rename: () => unknown;
  },
): void {
  useEffect(() => {
    const arrows: Record<string, [number, number]> = {
      ArrowLeft: [-1, 0],
      ArrowRight: [1, 0],
      ArrowUp: [0, -1],
      ArrowDown: [0, 1],
    };
    const onKey = (e: KeyboardEvent): void => {
      const target = e.target as Element;
      if (target.closest(NOT_OF_THE_VIEW)) return;
      const isHere = region.current?.contains(target) === true || target.closest('.partslist') !== null;
      // What has been removed leaves the focus nowhere; that is still here.
      if (!isHere && target !== document.body) return;
      const key = e.key.toLowerCase();
      const ctrl = e.ctrlKey || e.metaKey;
      if (ctrl && key === 'a') keys.all();
      else if (ctrl && key === 'd') keys.duplicate(e.shiftKey);
      else if (ctrl || e.altKey) return;
      else if (e.key in arrows) {
        const [dx, dy] = arrows[e.key];
        const by = e.shiftKey ? 10 : 1;
        keys.move(dx * by, dy * by);
      } else if ((e.key === 'Delete' || e.key === 'Backspace') && isHere) keys.leave();
      else if (key === '[' || key === ']') keys.rotate(key === ']' ? 15 : -15);
      else if (key === '{' || key === '}') keys.rotate(key === '}' ? 90 : -90);
      else if (key === 'p' && lettersOn()) keys.place();
      else if (key === 'd' && isHere && lettersOn()) keys.duplicate(e.shiftKey);
      else if (e.key === 'F2') keys.rename();
      else if (e.key === 'Escape') keys.escape();
      else return;
      e.preventDefault();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  });
}
