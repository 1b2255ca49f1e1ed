import type { ProjectLine } from '../../api/client.js';

export const SORTS = { changed: 'last changed', name: 'name', gate: 'needs work first' } as const;
export type Sort = keyof typeof SORTS;

/** The projects of one state whose name has all the words, in order. */
export function sortProjects(
  projects: readonly ProjectLine[],
  state: ProjectLine['state'],
  text: string,
  sort: Sort,
): ProjectLine[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const shown = projects.filter(
    (p) => p.state === state && words.every((w) => p.name.toLowerCase().includes(w)),
  );
  if (sort === 'name') shown.sort((a, b) => a.name.localeCompare(b.name, 'en'));
  if (sort === 'gate') shown.sort((a, b) => work(b) - work(a));
  return shown;
}
/** What stops the gate weighs most, then errors, then warnings. */
function work({ gate }: ProjectLine): number {
  if (!gate) return 0;
  return (gate.gate === 'stop' ? 1e12 : 0) + gate.error * 1e6 + gate.warning;
}
