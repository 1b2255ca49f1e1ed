import type { Area } from '@oquel/core';

/** What can be done to the things besides pointing at them; a plan without it is only looked at. */
export interface PlacementEdits {
  /** Metres between the places at which things come to stand; 0 for any. */
  snap: number;
  chosen: readonly string[];
  /** A click on the ground puts something there. */
  placing: boolean;
  onMove: (paths: readonly string[], by: [number, number]) => void;
  onFrame: (paths: readonly string[]) => void;
  onGround: (at: [number, number]) => void;
  onArea: (path: string, area: Area) => void;
}
