import type { Backdrop } from '@oquel/core';
import { useState, type ReactNode } from 'react';
import { toScreen, type Viewport } from './viewport.js';

/** How much a picture is dimmed where the document does not say. */
export const USUAL_DIM = 0.5;

/** The picture under a plan, to scale. What cannot be loaded is not drawn: its panel says so. */
export function BackdropPicture({
  backdrop: { at, size, dim = USUAL_DIM },
  href,
  view,
}: {
  backdrop: Backdrop;
  href: string;
  view: Viewport;
}): ReactNode {
  const [failed, setFailed] = useState('');
  if (failed === href) return null;
  const [x, y] = toScreen(view, at);
  return (
    <image
      className="backdrop"
      href={href}
      x={x}
      y={y}
      width={size[0] * view.scale}
      height={size[1] * view.scale}
      preserveAspectRatio="none"
      opacity={Math.max(0, 1 - dim)}
      aria-hidden="true"
      onError={() => setFailed(href)}
    />
  );
}
