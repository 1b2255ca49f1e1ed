import type { Effect } from './types.js';

/** `raise:event`, `destroy`, `set:property`, … as subjects name effects. */
export function effectName(effect: Effect): string {
  if ('raise' in effect) return `raise:${effect.raise}`;
  if ('set' in effect) return `set:${effect.set}`;
  if ('toggle' in effect) return `toggle:${effect.toggle}`;
  if ('add' in effect) return `add:${effect.add}`;
  if ('spawn' in effect) return `spawn:${effect.spawn}`;
  return 'wake' in effect ? 'wake' : 'sleep' in effect ? 'sleep' : 'destroy';
}
