import type { ReactNode } from 'react';
import type { Pane } from './use-pane.js';

/** Buttons that zoom, for who has no wheel. */
export function ZoomTools({ pane }: { pane: Pane }): ReactNode {
  return (
    <div className="tools" role="group" aria-label="Zoom">
      <button type="button" onClick={() => pane.zoom(0.8)} aria-label="Zoom out" title="Zoom out (-)">
        −
      </button>
      <button type="button" onClick={() => pane.show(null)} aria-label="Show all" title="Show all (0)">
        ⤢
      </button>
      <button type="button" onClick={() => pane.zoom(1.25)} aria-label="Zoom in" title="Zoom in (+)">
        +
      </button>
    </div>
  );
}
