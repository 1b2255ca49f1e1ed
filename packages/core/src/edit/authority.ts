import type { Project, Waiver } from '../project/types.js';
import type { Change } from './change.js';

/**
 * Whether a change is of what decides if a build passes: the policy, or waivers that count; proposals of waivers do not. In a
 * team it takes somebody who answers for the build. Cost: the waivers, where they are changed.
 */
export function changesGate(project: Project, change: Change): boolean {
  if (change.op !== 'set' || change.asset !== undefined) return false;
  if (change.part === 'policy') return true;
  if (change.part !== 'waivers') return false;
  const after = Array.isArray(change.value) ? change.value : [];
  return counting(project.waivers ?? []) !== counting(after);
}
function counting(waivers: readonly Waiver[]): string {
  return JSON.stringify(waivers.filter((w) => (w as Waiver | null)?.proposed !== true));
}
