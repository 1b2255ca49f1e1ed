import { sidesOf, type Side } from '@oquel/core';
import type { Conflict } from '../session/session-state.js';

/** Both sides of a conflict, thing by thing; none where this window's edit can no longer be applied. Cost: a comparison. */
export function conflictSides({ theirProject, ownProject, names }: Conflict): Side[] {
  return ownProject ? sidesOf(theirProject, ownProject, names) : [];
}
