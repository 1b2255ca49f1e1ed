import './go-to.css';
import type { ReactNode } from 'react';

let typed = '';

/** What was typed while the finder was loaded. */
export function typedMeanwhile(): string {
  return typed;
}
export function forgetTyped(): void {
  typed = '';
}

/** A field in the finder's place until it is loaded, so that nothing that is typed is lost. */
export function GoToLoading(): ReactNode {
  return (
    <input
      className="line gotoloading"
      aria-label="Go to"
      // It was opened to be typed into.
      autoFocus
      onChange={(e) => (typed = e.target.value)}
    />
  );
}
