import { useState } from 'react';

/** What is drawn over a plan besides its things. */
export interface Layers {
  areas: boolean;
  /** How much of each thing's wiring rehearsals have used. */
  coverage: boolean;
  /** What is asleep at first stands out. */
  sleepers: boolean;
  backdrop: boolean;
}
const KEY = 'oquel.plan.layers';
const USUAL: Layers = { areas: true, coverage: true, sleepers: false, backdrop: true };

/** The layers of the plan, remembered in this browser. */
export function useLayers(): [Layers, (layer: keyof Layers, on: boolean) => void] {
  const [layers, setLayers] = useState<Layers>(() => ({ ...USUAL, ...stored() }));
  const set = (layer: keyof Layers, on: boolean): void => {
    const next = { ...layers, [layer]: on };
    setLayers(next);
    localStorage.setItem(KEY, JSON.stringify(next));
  };
  return [layers, set];
}
function stored(): Partial<Layers> {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<Layers>;
  } catch {
    return {};
  }
}
