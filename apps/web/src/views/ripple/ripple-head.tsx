import type { Ripple, RippleLayout } from '@oquel/core';
import type { ReactNode } from 'react';
import { LEFT } from './geometry.js';

interface Props {
  layout: RippleLayout;
  direction: Ripple['direction'];
  limit: number;
}
/** Pixels of the head of a picture that is exported. */
export const PICTURE_HEAD = 30;

/** What stands over the columns, and stays in sight. */
export function RippleHead({ layout, direction, limit }: Props): ReactNode {
  return (
    <div
      className="ripplehead"
      style={{ width: layout.width + 2 * LEFT, minWidth: '100%' }}
      aria-hidden="true"
    >
      {layout.columns.map((c) => (
        <span
          key={c.hop}
          className={c.hop > limit ? 'beyond' : ''}
          style={{ left: LEFT + c.x, width: c.width - 10 }}
        >
          <b>{headText(c.hop, direction)}</b>
          {c.entries > 1 && <em>{c.entries}</em>}
        </span>
      ))}
      {layout.ticks.map((t) => (
        <span key={t.seconds} style={{ left: LEFT + t.x }}>
          <b>{t.seconds} s</b>
        </span>
      ))}
    </div>
  );
}

/** The same over a picture that is exported: on the screen it lies above the edge. */
export function PictureHead({ layout, direction, limit }: Props): ReactNode {
  const heads = [
    ...layout.columns.map((c) => ({ x: c.x, text: headText(c.hop, direction), beyond: c.hop > limit })),
    ...layout.ticks.map((t) => ({ x: t.x, text: `${t.seconds} s`, beyond: false })),
  ];
  return (
    <g className="picturehead" aria-hidden="true">
      {heads.map(({ x, text, beyond }) => (
        <text key={x} className={beyond ? 'beyond' : ''} x={LEFT + x} y={-10}>
          {text}
        </text>
      ))}
    </g>
  );
}

function headText(hop: number, direction: Ripple['direction']): string {
  if (hop === 0) return direction === 'forward' ? 'when' : 'what';
  if (!Number.isInteger(hop)) return 'channel';
  return direction === 'forward' ? `hop ${hop}` : `${hop} before`;
}
