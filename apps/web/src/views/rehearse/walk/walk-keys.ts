import { useEffect } from 'react';
import { lettersOn } from '../../../session/letters.js';
import { NOT_OF_THE_VIEW } from '../../../parts/ui/keys.js';
import type { WalkPlay } from './walk-play.js';

const WAYS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** Arrows steer while they are held down; a list or a field has its own. */
export function useWalkKeys(play: WalkPlay, takeUp: () => void, leave: () => void): void {
  useEffect(() => {
    const down = new Set<string>();
    const steer = (): void => {
      let [x, y] = [0, 0];
      for (const key of down) [x, y] = [x + WAYS[key][0], y + WAYS[key][1]];
      play.steer([x, y]);
    };
    const onDown = (e: KeyboardEvent): void => {
      if (e.ctrlKey || e.metaKey || e.altKey || !(e.target instanceof Element)) return;
      if (e.target.closest(`${NOT_OF_THE_VIEW}, [role="listbox"]`)) return;
      const isPress = e.target.closest('button, a, [role="button"]') !== null;
      if (e.key in WAYS) {
        if (!down.has(e.key)) {
          down.add(e.key);
          steer();
        }
      } else if (e.key === ' ' && !isPress) play.hold(!play.held);
      else if (e.key === '.') play.on();
      else if (e.key === ',') play.off();
      else if (e.key === 'Escape') leave();
      else if (e.key.toLowerCase() === 'e' && lettersOn()) takeUp();
      else return;
      e.preventDefault();
    };
    const onUp = (e: KeyboardEvent): void => {
      if (down.delete(e.key)) steer();
    };
    const onBlur = (): void => {
      down.clear();
      play.steer([0, 0]);
    };
    window.addEventListener('keydown', onDown);
    window.addEventListener('keyup', onUp);
    window.addEventListener('blur', onBlur);
    return () => {
      window.removeEventListener('keydown', onDown);
      window.removeEventListener('keyup', onUp);
      window.removeEventListener('blur', onBlur);
      play.steer([0, 0]);
    };
  }, [play, takeUp, leave]);
}
