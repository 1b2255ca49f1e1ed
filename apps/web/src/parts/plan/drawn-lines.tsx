import type { ReactNode } from 'react';
import type { Drawn } from './use-plan-gestures.js';

/** A way over the plan. */
export function Way({ points }: { points: readonly [number, number][] }): ReactNode {
  return (
    <g className="way" aria-hidden="true">
      <polyline points={points.map((p) => p.join(',')).join(' ')} />
      {points.map(([x, y], i) => (
        <path key={i} d={`M${x - 4} ${y}l4 -4l4 4l-4 4z`} />
      ))}
    </g>
  );
}

interface Drawing {
  drawn: Drawn;
  pane: { current: HTMLDivElement | null };
}

/** The line that is being drawn from a thing. */
export function LinkLine({ drawn: { x, y, dx, dy }, pane }: Drawing): ReactNode {
  const box = pane.current!.getBoundingClientRect();
  return (
    <line
      className="linkline"
      x1={x - box.left}
      y1={y - box.top}
      x2={x + dx - box.left}
      y2={y + dy - box.top}
    />
  );
}

/** The frame that is being drawn. */
export function Frame({ drawn: { x, y, dx, dy }, pane }: Drawing): ReactNode {
  const box = pane.current!.getBoundingClientRect();
  return (
    <rect
      className="frameline"
      x={Math.min(x, x + dx) - box.left}
      y={Math.min(y, y + dy) - box.top}
      width={Math.abs(dx)}
      height={Math.abs(dy)}
    />
  );
}
