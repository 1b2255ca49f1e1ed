import type { Mark } from '@oquel/core';
import type { ReactNode } from 'react';
import { ScaledPath } from './scaled-path.js';

/** A mark in a square from -1 to 1: its plate, in which the letters stand, and what is drawn beside it. */
interface Drawing {
  plate: string;
  detail?: string;
}

/** One style for all: a plate of straight edges and plain arcs, with at most a few strokes that say what it is. */
const DRAWINGS: Record<Mark, Drawing> = {
  thing: { plate: 'M-.42 -1H.42L1 -.42V.42L.42 1H-.42L-1 .42V-.42Z' },
  // The corners of a field around it.
  area: {
    plate: 'M-.8 -.8H.8V.8H-.8Z',
    detail: 'M-1.25 -.7V-1.25H-.7M.7 -1.25H1.25V-.7M1.25 .7V1.25H.7M-.7 1.25H-1.25V.7',
  },
  // A plunger on its base.
  press: { plate: 'M-.75 .7V-.2A.75 .8 0 0 1 .75 -.2V.7Z', detail: 'M-1.15 1.05H1.15' },
  // A bar with a knob.
  handle: { plate: 'M-.9 -.45H.9V1H-.9Z', detail: 'M0 -.45V-1.05M-.3 -1.05H.3' },
  timer: { plate: 'M0 -.95A.95 .95 0 1 1 -.01 -.95Z', detail: 'M-.35 -1.25H.35M.72 -.95L1 -1.2' },
  // Ways that meet.
  hub: {
    plate: 'M-.55 -.95H.55L1.1 0L.55 .95H-.55L-1.1 0Z',
    detail: 'M-1.1 0H-1.5M1.1 0H1.5M-.55 -.95L-.75 -1.3M.55 -.95L.75 -1.3M-.55 .95L-.75 1.3M.55 .95L.75 1.3',
  },
  // A frame that something leaves.
  spawner: { plate: 'M-.9 -.9H.9V.9H-.9Z', detail: 'M.9 0H1.45M1.2 -.25L1.45 0L1.2 .25' },
  mover: { plate: 'M-1 -.75H.45L1.15 0L.45 .75H-1Z', detail: 'M-1.3 -.45V.45' },
  light: {
    plate: 'M0 -.85A.85 .85 0 1 1 -.01 -.85Z',
    detail: 'M-.8 -.8L-1.15 -1.15M.8 -.8L1.15 -1.15M-.8 .8L-1.15 1.15M.8 .8L1.15 1.15',
  },
  sound: { plate: 'M-.95 -.45L.8 -1V1L-.95 .45Z', detail: 'M1.1 -.6A.9 .9 0 0 1 1.1 .6' },
  text: { plate: 'M-1.05 -.75H1.05V.75H-1.05Z', detail: 'M-.8 1.08H.8' },
  person: { plate: 'M-.8 1V-.15A.8 .85 0 0 1 .8 -.15V1Z' },
  start: { plate: 'M-.95 1V-.3L0 -1.1L.95 -.3V1Z' },
  // A dial with its zero.
  gauge: { plate: 'M-1.1 .7A1.1 1.35 0 0 1 1.1 .7Z', detail: 'M0 -.66V-1.1' },
  switch: { plate: 'M-1 -.85H1V.85H-1Z', detail: 'M-1 1.15H-.1M.1 1.15H1' },
};

/** How far a mark reaches beside its plate, as a multiple of its radius: names stand behind that. */
export const REACH: Partial<Record<Mark, number>> = {
  area: 1.25,
  hub: 1.5,
  spawner: 1.45,
  mover: 1.3,
  light: 1.15,
  sound: 1.4,
  gauge: 1.1,
};

/** The same, ready to be put anywhere in any size. */
const PATHS = new Map(
  Object.entries(DRAWINGS).map(([mark, { plate, detail }]) => [
    mark,
    { plate: new ScaledPath(plate), detail: detail === undefined ? null : new ScaledPath(detail) },
  ]),
);

/** The mark of what a thing is. */
export function MarkShape({ mark, x, y, r }: { mark: Mark; x: number; y: number; r: number }): ReactNode {
  const { plate, detail } = PATHS.get(mark)!;
  return (
    <>
      <path className="shape" d={plate.at(x, y, r)} />
      {detail && r > 5 && <path className="markdetail" d={detail.at(x, y, r)} />}
    </>
  );
}
