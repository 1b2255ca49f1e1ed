import type { ReactNode } from 'react';
import { roundStep, type Rect, type Viewport } from './viewport.js';

/** The sheet under the things: the scene's border, a grid in round metres, and rulers along two edges. */
export function PlanGround({
  view,
  bounds,
  width,
  height,
  sized,
  children,
}: {
  view: Viewport;
  bounds: Rect;
  width: number;
  height: number;
  /** Whether the scene says how large it is; otherwise no border is drawn. */
  sized: boolean;
  /** What lies on the sheet, under the grid. */
  children?: ReactNode;
}): ReactNode {
  const step = roundStep(view.scale, 56);
  const left = bounds.x * view.scale + view.x;
  const top = bounds.y * view.scale + view.y;
  const w = bounds.width * view.scale;
  const h = bounds.height * view.scale;
  const xs = ticks(bounds.x, bounds.x + bounds.width, step);
  const ys = ticks(bounds.y, bounds.y + bounds.height, step);
  const rulerY = Math.min(Math.max(top - 8, 14), height - 30);
  const rulerX = Math.min(Math.max(left - 8, 26), width - 30);
  return (
    <g aria-hidden="true">
      <rect
        className="border"
        x={left}
        y={top}
        width={w}
        height={h}
        strokeDasharray={sized ? undefined : '1 6'}
      />
      {children}
      {xs.map((m) => {
        const x = m * view.scale + view.x;
        return <line key={`x${m}`} className="grid" x1={x} x2={x} y1={top} y2={top + h} />;
      })}
      {ys.map((m) => {
        const y = m * view.scale + view.y;
        return <line key={`y${m}`} className="grid" x1={left} x2={left + w} y1={y} y2={y} />;
      })}
      {xs.map((m) => (
        <text key={`tx${m}`} className="ruler" x={m * view.scale + view.x} y={rulerY} textAnchor="middle">
          {metres(m)}
        </text>
      ))}
      {ys.map((m) => (
        <text key={`ty${m}`} className="ruler" x={rulerX} y={m * view.scale + view.y + 4} textAnchor="end">
          {m === ys[0] ? `${metres(m)} m` : metres(m)}
        </text>
      ))}
    </g>
  );
}

function ticks(from: number, to: number, step: number): number[] {
  const list: number[] = [];
  for (let i = Math.ceil(from / step); i * step <= to + 1e-9 && list.length < 400; i++) list.push(i * step);
  return list;
}
function metres(m: number): string {
  return String(Math.round(m * 1000) / 1000);
}
