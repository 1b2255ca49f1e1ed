import type { Area } from '@oquel/core';
import type { ReactNode } from 'react';
import { areaText, handlesOf } from './area.js';
import { toScreen, type Viewport } from './viewport.js';

interface Props {
  at: readonly [number, number];
  area: Area;
  view: Viewport;
  className: string;
}

/** A sensing area to scale. */
export function AreaShape({ at, area, view, className }: Props): ReactNode {
  const [x, y] = toScreen(view, at);
  if ('circle' in area) return <circle className={className} cx={x} cy={y} r={area.circle * view.scale} />;
  if ('rect' in area) {
    const [w, h] = area.rect.map((m) => m * view.scale);
    return <rect className={className} x={x - w / 2} y={y - h / 2} width={w} height={h} />;
  }
  const points = area.polygon.map(([px, py]) => `${x + px * view.scale},${y + py * view.scale}`).join(' ');
  return <polygon className={className} points={points} />;
}

/** Where an area can be pulled: the rim of a circle, a corner of a rectangle, each corner of a polygon. */
export function AreaHandles({
  path,
  at,
  area,
  view,
}: Omit<Props, 'className'> & { path: string }): ReactNode {
  return (
    <g aria-hidden="true">
      {handlesOf(area).map(([hx, hy], i) => {
        const [x, y] = toScreen(view, [at[0] + hx, at[1] + hy]);
        return (
          <rect
            key={i}
            className="handle"
            data-handle={i}
            data-of={path}
            x={x - 5}
            y={y - 5}
            width={10}
            height={10}
          />
        );
      })}
      <AreaSize at={at} area={area} view={view} />
    </g>
  );
}
function AreaSize({ at, area, view }: Omit<Props, 'className'>): ReactNode {
  const [, hy] = handlesOf(area)[0] ?? [0, 0];
  const [x, y] = toScreen(view, [
    at[0],
    at[1] + handlesOf(area).reduce((low, [, py]) => Math.max(low, py), Math.max(0, hy)),
  ]);
  return (
    <text className="areasize" x={x} y={y + 18 + ('circle' in area ? area.circle * view.scale : 0)}>
      {areaText(area)}
    </text>
  );
}
