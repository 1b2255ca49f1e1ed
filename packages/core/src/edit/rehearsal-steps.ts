import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import type { Step } from '../project/types.js';
import type { Change } from './change.js';
import { assetAtPath } from './wiring.js';

/** The address that a step speaks of; null for one that speaks of none. */
export function addressOf(step: Step): string | null {
  if ('raise' in step) return step.raise.at;
  return 'expect' in step ? step.expect.at : null;
}
export function withAddress(step: Step, at: string): Step {
  if ('raise' in step) return { ...step, raise: { ...step.raise, at } };
  return 'expect' in step ? { ...step, expect: { ...step.expect, at } } : step;
}

/** The asset at an address of a rehearsal, in which copies may carry numbers; null if there is none. */
export function assetAtAddress(index: ProjectIndex, address: string): AssetIndex | null {
  const colon = address.indexOf(':');
  const scene = index.assets[index.assetAt.get(address.slice(0, Math.max(0, colon))) ?? -1] as
    AssetIndex | undefined;
  return scene ? assetAtPath(index, scene, address.replace(/(~[^/#]+)#\d+/g, '$1')) : null;
}

/** The change that puts other steps into the rehearsals; none if all stay. Cost: their steps. */
export function rehearsalsWith(index: ProjectIndex, change: (step: Step) => Step): Change[] {
  const before = index.project.rehearsals ?? [];
  const value = before.map((r) => {
    const steps = r.steps.map((step) => {
      const next = change(step);
      return JSON.stringify(next) === JSON.stringify(step) ? step : next;
    });
    return steps.some((s, i) => s !== r.steps[i]) ? { ...r, steps } : r;
  });
  if (value.every((r, i) => r === before[i])) return [];
  return [{ op: 'set', part: 'rehearsals', value }];
}
