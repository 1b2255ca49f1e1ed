import type { Bound, Instance, Sure } from './instance.js';

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
