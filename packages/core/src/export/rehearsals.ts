import { XMLBuilder } from 'fast-xml-parser';
import type { TraceRecord, Verdict, NotRun } from '../rehearse/records.js';
import type { Coverage, TraceLine } from '../rehearse/rehearse.js';
import { failsRehearsal, recordText, secondsText, verdictText } from '../rehearse/words.js';
import { oneLine } from './one-line.js';
import { xmlText } from './junit.js';

/** One rehearsal with the records for which it fails. */
export interface RehearsalReport {
  verdict: Verdict | NotRun;
  failures: TraceRecord[];
}

/** Gathers the lines of a trace into what reports tell. Holds verdicts and failing records alone. */
export class RehearsalReports {
  readonly reports: RehearsalReport[] = [];
  coverage: Coverage | null = null;
  private failures: TraceRecord[] = [];

  readonly take = (line: TraceLine): void => {
    if (line.kind === 'rehearsal') this.failures = [];
    else if (line.kind === 'verdict') {
      this.reports.push({ verdict: line, failures: this.failures });
      this.failures = [];
    } else if (line.kind === 'coverage') this.coverage = line;
    else if (failsRehearsal(line)) this.failures.push(line);
  };
}

/** Rehearsals for a terminal: a line each, and why those fail that do; then what no rehearsal has served. */
export function rehearsalsText(reports: readonly RehearsalReport[], coverage: Coverage | null): string {
  const lines = reports.flatMap(({ verdict, failures }) => [
    verdictText(verdict),
    ...failures.map((r) => `    ${recordLine(r)}`),
  ]);
  if (reports.length === 0) lines.push('the project has no rehearsals');
  if (coverage) {
    lines.push('', `${coverage.served} of ${coverage.total} expanded bindings served a raise`);
    for (const { owner, binding } of coverage.unserved.slice(0, MOST))
      lines.push(`    not ${binding} of ${owner}`);
    const more = coverage.unserved.length - MOST;
    if (more > 0) lines.push(`    and ${more} more`);
  }
  return `${lines.map(oneLine).join('\n')}\n`;
}
const MOST = 50;

/** A record with its time and number, for a log. */
export function recordLine(r: TraceRecord): string {
  return `${secondsText(r.t).padStart(10)}  ${String(r.n).padStart(5)}  ${recordText(r)}`;
}

/** Rehearsals as JUnit XML: one suite, one case for each rehearsal. */
export function rehearsalsJunit(project: string, reports: readonly RehearsalReport[]): string {
  const cases = reports.map(({ verdict, failures }) => ({
    '@_classname': 'oquel.rehearse',
    '@_name': xmlText(verdict.name),
    ...(verdict.pass
      ? {}
      : {
          failure: {
            '@_message': xmlText(failures.length > 0 ? recordText(failures[0]) : verdictText(verdict)),
            '@_type': 'rehearsal',
            '#text': xmlText(failures.map(recordLine).join('\n')),
          },
        }),
    'system-out': xmlText(verdictText(verdict)),
  }));
  const counts = {
    '@_tests': cases.length,
    '@_failures': cases.filter((c) => 'failure' in c).length,
    '@_errors': 0,
  };
  const suite = { '@_name': xmlText(project), ...counts, '@_skipped': 0, testcase: cases };
  return new XMLBuilder({ ignoreAttributes: false, format: true, suppressEmptyNode: true }).build({
    '?xml': { '@_version': '1.0', '@_encoding': 'UTF-8' },
    testsuites: { ...counts, testsuite: suite },
  });
}
