import type { PointerEvent, ReactNode } from 'react';
import type { Thing } from './thing.js';
import type { Rect, Viewport } from './viewport.js';

const WIDTH = 150;

/** The whole plan in small, with a frame around what is shown; pressing there goes there. */
export function Minimap({
  bounds,
  things,
  view,
  width,
  height,
  onShow,
}: {
  bounds: Rect;
  things: readonly Thing[];
  view: Viewport;
  width: number;
  height: number;
  onShow: (view: Viewport) => void;
}): ReactNode {
  const k = WIDTH / bounds.width;
  const tall = Math.min(120, bounds.height * k);
  const small = Math.min(k, tall / bounds.height);
  const go = (e: PointerEvent<SVGSVGElement>): void => {
    if (e.buttons !== 1) return;
    const box = e.currentTarget.getBoundingClientRect();
    const mx = bounds.x + (e.clientX - box.left) / small;
    const my = bounds.y + (e.clientY - box.top) / small;
    onShow({ ...view, x: width / 2 - mx * view.scale, y: height / 2 - my * view.scale });
  };
  const left = (-view.x / view.scale - bounds.x) * small;
  const top = (-view.y / view.scale - bounds.y) * small;
  return (
    <svg
      className="minimap"
      width={bounds.width * small}
      height={bounds.height * small}
      aria-hidden="true"
      onPointerDown={go}
      onPointerMove={go}
    >
      {things
        .filter((t) => t.depth === 1)
        .map((t) => (
          <rect
            key={t.path}
            x={(t.at[0] - bounds.x) * small - 1}
            y={(t.at[1] - bounds.y) * small - 1}
            width="2"
            height="2"
          />
        ))}
      <rect
        className="shown"
        x={left}
        y={top}
        width={(width / view.scale) * small}
        height={(height / view.scale) * small}
      />
    </svg>
  );
}
