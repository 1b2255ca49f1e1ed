import { useEffect } from 'react';

/** Keys that work wherever nothing is typed. */
export function useKeys(keys: Readonly<Record<string, () => void>>): void {
  useEffect(() => {
    const onKey = (e: KeyboardEvent): void => {
      if (e.ctrlKey || e.metaKey || e.altKey || !(e.key in keys)) return;
      const target = e.target;
      if (
        target instanceof HTMLElement &&
        target.closest('input, textarea, select, button, a, [role="button"], [role="dialog"]')
      )
        return;
      e.preventDefault();
      keys[e.key]();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  });
}
