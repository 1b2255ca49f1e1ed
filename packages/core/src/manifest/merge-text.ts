import type { FindingChange } from '../audit/compare.js';
import { changesBetween } from '../compare/changes.js';
import { compareProjects } from '../compare/compare.js';
import { differenceText } from '../export/difference.js';
import type { Project } from '../project/types.js';
import { withoutMarks } from './marks.js';
import type { Merged } from './merge.js';

/** What a merge does, in sentences: what comes, goes and changes, what is kept, and what would be found that was not before. */
export function mergeText(before: Project, { project, kept }: Merged, change: FindingChange): string {
  // Where things are declared is no difference that anybody reads line by line.
  const difference = compareProjects(withoutMarks(before), withoutMarks(project));
  const isSame = difference.groups.length === 0;
  const isMarked = isSame && changesBetween(before, project).length > 0;
  const same = isMarked ? 'Only the places where the game declares it differ.\n' : 'Nothing differs.\n';
  const lines = [isSame ? same : differenceText(difference)];
  for (const id of kept)
    lines.push(`${id} is gone from the game; it is kept, because it contains items that were made here.\n`);
  const { added, gone } = change;
  if (added.length > 0) {
    lines.push(`\n${added.length} new ${added.length === 1 ? 'finding' : 'findings'}:\n`);
    for (const f of added) lines.push(`  ${f.severity} ${f.rule}: ${f.message}\n`);
  }
  if (gone.length > 0) lines.push(`${gone.length} ${gone.length === 1 ? 'finding' : 'findings'} gone.\n`);
  return lines.join('');
}

/** Those that say that something names what is not there. */
export function dangling(change: FindingChange): FindingChange['added'] {
  return change.added.filter((f) => f.rule.startsWith('dangling-') || f.rule === 'unknown-asset');
}
