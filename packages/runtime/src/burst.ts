import type { Values } from './format.js';
import type { Bound, Instance } from './instance.js';
import type { Tally } from './watch.js';

/** A delivery of which nothing depends on the state of play, as long as nobody comes, goes, sleeps or wakes. */
export interface Sure {
  bound: Bound;
  instance: Instance;
  action: number;
  name: string;
  args: Values;
  tally: Tally;
  /** Of an action whose effects are left to the game nothing needs to be counted. */
  hasEffects: boolean;
}
/**
 * All that a raise of an event of an instance brings, where each delivery is sure and due at once. It is queued as one
 * thing, and made once for as long as nothing changes: a raise allocates nothing then.
 */
export interface Burst {
  kind: 'burst';
  /** For what count of changes it was judged. */
  changes: number;
  /** Null where something must be decided at each raise. */
  sure: readonly Sure[] | null;
  /** Whether it is sure that a raise brings these, whoever raises it. */
  isFree: boolean;
}

/**
 * Whether everything on an event is sure: from literals, undelayed, without limit or condition, to one that stands in a
 * scene that is loaded, is awake and performs that. Linear in what is bound to the event.
 */
export function judge(
  sender: Instance,
  bounds: readonly Bound[],
  ownEffects: ((asset: string) => boolean) | undefined,
): readonly Sure[] | null {
  const sure: Sure[] = [];
  for (const bound of bounds) {
    const { decl, receiver: instance, action, constant } = bound;
    if (!instance || !constant || bound.sceneNamed !== null || bound.towards(sender) !== 'holds') return null;
    if (decl.if || decl.limit !== undefined || (decl.delay ?? 0) > 0) return null;
    const { actions, id } = instance.table.decl;
    const { name, whileAsleep, effects } = actions[action];
    if (!instance.scene.loaded || instance.gone || (instance.isAsleep && !whileAsleep)) return null;
    sure.push({
      bound,
      instance,
      action,
      name,
      args: constant,
      tally: instance.scene.tallyOf(instance.at, action),
      hasEffects: effects !== undefined && ownEffects?.(id) !== true,
    });
  }
  return sure;
}
