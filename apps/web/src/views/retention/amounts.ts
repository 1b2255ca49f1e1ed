import type { ProjectAmounts } from '../../api/retention.js';
import { countText } from '../../format.js';

type Amounts = Pick<ProjectAmounts, 'history' | 'builds'>;

/** All projects together. */
export function totalOf(projects: readonly ProjectAmounts[]): Amounts {
  const sum = (part: 'history' | 'builds'): ProjectAmounts['history'] => ({
    all: projects.reduce((n, p) => n + p[part].all, 0),
    going: projects.reduce((n, p) => n + p[part].going, 0),
    bytes: projects.reduce((n, p) => n + p[part].bytes, 0),
  });
  return { history: sum('history'), builds: sum('builds') };
}

/** `4,210 edits and 3 builds` */
export function amountText({ history, builds }: Amounts): string {
  const parts = [
    history.going > 0 ? countText(history.going, 'edit') : '',
    builds.going > 0 ? countText(builds.going, 'build') : '',
  ].filter((p) => p !== '');
  return parts.length === 0 ? 'Nothing' : parts.join(' and ');
}
