import { BEGINS_ASLEEP } from '../expand/expansion.js';
import type { AnalysisInputs } from './inputs.js';

/**
 * The outermost thing around an instance (or itself) that begins asleep and that nothing live wakes; −1 if it can be
 * awake. Cost: its depth.
 */
export function sleeperAround(inputs: AnalysisInputs, instance: number): number {
  const { x, facts } = inputs;
  const { blocked } = facts.awake;
  if (blocked[instance] === 0) return -1;
  let outermost = -1;
  for (let at = instance; at >= 0; at = x.containerOf(at)) {
    const above = x.containerOf(at);
    const blockedAbove = above < 0 ? 0 : blocked[above];
    if ((x.flags[at] & BEGINS_ASLEEP) !== 0 && blocked[at] > blockedAbove) outermost = at;
  }
  return outermost;
}
