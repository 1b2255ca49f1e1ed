import { printConditions, type Reachable, type SelectedNow } from '@oquel/core';
import type { ThingStyle } from '../../parts/plan/plan-thing.js';
import type { Covered } from '../../session/coverage.js';
import type { Strip } from './strips.js';

interface Standing {
  /** The sender. */
  at: string;
  active: Strip | undefined;
  selected: ReadonlyMap<string, SelectedNow>;
  /** The event for which the finder is open. */
  adding: Strip | undefined;
  picked: readonly string[];
  found: readonly string[] | null;
  covered: ReadonlyMap<string, Covered>;
}

/** What stands out on the plan: the sender; with the finder open the candidates, without it the receivers in order. */
export function thingStylesOf(
  things: readonly Reachable[],
  { at, active, selected, adding, picked, found, covered }: Standing,
): Map<string, ThingStyle> {
  const thingStyles = new Map<string, ThingStyle>();
  const add = (path: string, look: ThingStyle): unknown =>
    thingStyles.set(path, { ...thingStyles.get(path), ...look });
  for (const [path, how] of covered) add(path, { covered: how });
  (adding ?? active)?.bindings.forEach((b, i) => {
    const taken = selected.get(b.id)?.first.flatMap((f) => f.path ?? []) ?? [];
    for (const path of 'at' in b.to ? [b.to.at] : taken) {
      const { order = [], asks = [] } = thingStyles.get(path) ?? {};
      add(path, { order: [...order, i + 1], asks: [...asks, printConditions(b.if)] });
    }
  });
  if (adding) {
    for (const path of found ?? []) add(path, { lit: true });
    for (const path of picked) add(path, { picked: true });
    for (const t of found ? things : [])
      if (t.depth === 1 && !thingStyles.get(t.path)?.lit) add(t.path, { faded: true });
  }
  add(at, { chosen: true, faded: false });
  return thingStyles;
}
