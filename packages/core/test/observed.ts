import {
  compileWiring,
  expand,
  indexProject,
  PlayObserver,
  type CompiledWiring,
  type PlayReport,
  type Project,
} from '../src/index.js';

export function compiledOf(project: Project): CompiledWiring {
  return compileWiring(expand(indexProject(project)));
}
export function observed(compiled: CompiledWiring, lines: readonly string[]): PlayReport {
  const observer = new PlayObserver(compiled);
  lines.forEach((line, i) => observer.take(line, 'play', i + 1));
  observer.end();
  return observer.report();
}
/** All that is reported, without how often and where. */
export function reported({ unknown, unexplained, missing, doubled, order, despite }: PlayReport): object {
  const bare = (list: readonly object[]): object[] =>
    list.map((entry) => {
      const { count: _c, sessions: _s, first: _f, ...what } = entry as Record<string, unknown>;
      return what;
    });
  return {
    unknown: bare(unknown),
    unexplained: bare(unexplained),
    missing: bare(missing),
    doubled: bare(doubled),
    order: bare(order),
    despite: bare(despite),
  };
}
export const NOTHING = { unknown: [], unexplained: [], missing: [], doubled: [], order: [], despite: [] };
