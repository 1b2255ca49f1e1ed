import { useLayoutEffect } from 'react';
import { NOT_OF_THE_VIEW } from '../../parts/ui/keys.js';
import { lettersOn } from '../../session/letters.js';

/** A adds a receiver to the active event, wherever the focus is, except in a field. */
export function useAddKey(add: (() => void) | null): void {
  // Bound with the strip that is seen to be active, not a moment later.
  useLayoutEffect(() => {
    const onKey = (e: globalThis.KeyboardEvent): void => {
      if (!add || e.ctrlKey || e.metaKey || e.altKey || e.key.toLowerCase() !== 'a' || !lettersOn()) return;
      if (e.target instanceof HTMLElement && e.target.closest(NOT_OF_THE_VIEW)) return;
      e.preventDefault();
      add();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [add]);
}
/** The new sentence takes the focus, so that it can be changed or taken back at once. */
export function focusSentence(id: string): void {
  requestAnimationFrame(() => {
    document.querySelector<HTMLElement>(`[data-binding="${id}"] .said`)?.focus();
  });
}
