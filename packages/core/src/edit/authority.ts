import type { Change } from './change.js';

/**
 * Whether a change is of what decides if a build passes: the policy or the waivers. In a team it takes somebody who answers
 * for the build.
 */
export function changesGate(change: Change): boolean {
  return (
    change.op === 'set' &&
    change.asset === undefined &&
    (change.part === 'policy' || change.part === 'waivers')
  );
}
