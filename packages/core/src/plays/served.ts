import { assetAtAddress } from '../edit/wiring.js';
import type { ServedCounts } from '../export/coverage.js';
import type { ProjectIndex } from '../project/index-project.js';
import type { PlayReport } from './play-report.js';

/** How often each authored binding has served in plays: an expanded one counts for it. Linear in the report. */
export function servedInPlays(index: ProjectIndex, report: PlayReport): ServedCounts {
  const served = new Map<string, number>();
  for (const { owner, binding, count } of report.coverage.bindings) {
    const asset = assetAtAddress(index, owner);
    if (!asset) continue;
    const key = `${asset.decl.id}/${binding}`;
    served.set(key, (served.get(key) ?? 0) + count);
  }
  return served;
}
