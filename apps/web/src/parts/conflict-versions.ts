import { conflictVersions, type ConflictVersion } from '@oquel/core';
import type { Conflict } from '../session/session-state.js';

/** Both sides of a conflict, thing by thing; none where this window's edit can no longer be applied. Cost: a comparison. */
export function conflictVersionsOf({ theirProject, ownProject, names }: Conflict): ConflictVersion[] {
  return ownProject ? conflictVersions(theirProject, ownProject, names) : [];
}
