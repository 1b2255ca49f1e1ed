import type { ProjectIndex, Reachable, StateChange } from '@oquel/core';
import { useMemo } from 'react';
import type { ThingStyle } from '../../../parts/plan/plan-thing.js';
import { thingsOf, type Thing } from '../../../parts/plan/thing.js';

/**
 * The things of a scene as they are now: asleep or awake, faint where they are gone. They are made anew only when one of
 * these changes, since a scene may have thousands.
 */
export function usePlanThings(
  index: ProjectIndex,
  scene: string,
  reachable: readonly Reachable[],
  changes: readonly StateChange[],
  chosen: string,
): { things: readonly Thing[]; thingStyles: ReadonlyMap<string, ThingStyle> } {
  const states = useStates(scene, changes);
  const things = useMemo(() => {
    const { asleep } = states;
    const placed = reachable.filter((t) => t.depth > 0);
    const all = thingsOf(index, placed);
    if (asleep.size === 0) return all;
    const isAsleep = new Map<string, boolean>();
    return all.map((thing, i) => {
      const { path, placement } = placed[i];
      const around = isAsleep.get(path.slice(0, Math.max(0, path.lastIndexOf('/')))) === true;
      const is = around || (asleep.get(path) ?? placement?.asleep === true);
      isAsleep.set(path, is);
      return is === thing.asleep ? thing : { ...thing, asleep: is };
    });
  }, [index, reachable, states]);
  const thingStyles = useMemo(() => {
    const found = new Map<string, ThingStyle>();
    for (const path of states.gone) found.set(path, { faded: true });
    if (chosen !== '') found.set(chosen, { ...found.get(chosen), chosen: true });
    return found;
  }, [states, chosen]);
  return { things, thingStyles };
}

interface States {
  asleep: ReadonlyMap<string, boolean>;
  gone: ReadonlySet<string>;
}
/** Which things of a scene sleep otherwise than at first, or are gone; the same object while that is the same. */
function useStates(scene: string, changes: readonly StateChange[]): States {
  const shown = changes.filter(
    ({ at, what }) => (what === 'asleep' || what === 'gone') && at.startsWith(`${scene}:`),
  );
  const text = shown.map(({ at, what, now }) => `${at} ${what as string} ${String(now)}`).join('\n');
  return useMemo(() => {
    const asleep = new Map<string, boolean>();
    const gone = new Set<string>();
    for (const line of text === '' ? [] : text.split('\n')) {
      const [at, what, now] = line.split(' ');
      const path = at.slice(scene.length + 1);
      if (what === 'gone') gone.add(path);
      else asleep.set(path, now === 'true');
    }
    return { asleep, gone };
  }, [scene, text]);
}
