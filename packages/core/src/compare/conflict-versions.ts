import type { Project } from '../project/types.js';
import { compareProjects, type DifferenceLine } from './compare.js';

/** One thing that two people changed: as it is with them, and as it would be with you. */
export interface ConflictVersion {
  asset: string;
  id: string;
  theirs: string | null;
  yours: string | null;
}

/**
 * What two states of a project have otherwise among the names that both touched (as `overlap` gives them). Cost: a
 * comparison of the two.
 */
export function conflictVersions(
  theirs: Project,
  yours: Project,
  names: readonly string[],
): ConflictVersion[] {
  const sides: ConflictVersion[] = [];
  for (const { asset, lines } of compareProjects(theirs, yours).groups) {
    for (const line of lines) {
      if (!names.some((name) => isNamed(name, asset, line))) continue;
      const [was, is] = [line.was ?? null, line.text];
      const both = { asset, id: line.id };
      if (line.how === 'added') sides.push({ ...both, theirs: null, yours: is });
      else if (line.how === 'removed') sides.push({ ...both, theirs: is, yours: null });
      else sides.push({ ...both, theirs: was ?? placeText(line, 0), yours: was ? is : placeText(line, 1) });
    }
  }
  return sides;
}
function placeText({ text, place }: DifferenceLine, which: 0 | 1): string {
  return place ? `${text}, as number ${place[which]}` : which === 0 ? '' : text;
}

/** Names are `bindings/pylon-ridge/gust-1`, `events/WindMast`, `asset/WindMast` or `policy`. */
function isNamed(name: string, asset: string, { of, id }: DifferenceLine): boolean {
  const [what, where, item] = name.split('/');
  if (what === 'asset') return asset === where || (asset === '' && id === where);
  if (what === 'bindings' || what === 'placements') {
    return asset === where && `${of}s` === what && id === item;
  }
  return of === 'declaration' && asset === (where ?? '');
}
