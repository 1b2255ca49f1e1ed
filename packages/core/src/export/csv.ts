import { stringify } from 'csv-stringify/browser/esm/sync';
import type { AuditResult } from '../audit/finding.js';
import { guardCell } from '../exchange/guard.js';
import { canonicalJson } from '../project/canonical.js';
import { edgeTable } from './graph-table.js';
import type { Graph } from '../graph/graph.js';

/** What stands between cells: a comma in files, a tab for pasting into a spreadsheet. */
export type Delimiter = ',' | '\t';

/** RFC 4180: quotes where needed (also for blanks at an end), CRLF. Cells that begin like a formula are guarded. */
export function csvText(rows: Iterable<readonly (string | number)[]>, delimiter: Delimiter = ','): string {
  const guarded = Array.from(rows, (row) =>
    row.map((cell) => (typeof cell === 'string' ? guardCell(cell) : cell)),
  );
  return stringify(guarded, { delimiter, record_delimiter: 'windows', quoted_match: /^\s|\s$/ });
}

/** The findings as CSV, one a line; occurrences in one field, separated by blanks. */
export function auditCsv(result: AuditResult): string {
  const header = ['severity', 'rule', 'class', 'message', 'subject', 'occurrences', 'fingerprint', 'waived'];
  return csvText([
    header,
    ...result.findings.map((f) => [
      f.severity,
      f.rule,
      f.class ?? '',
      f.message,
      canonicalJson(f.subject),
      f.occurrences.join(' '),
      f.fingerprint,
      f.waived ? 'yes' : 'no',
    ]),
  ]);
}

/** The edges of the expanded graph as CSV, one a line. */
export function graphCsv(g: Graph): string {
  const header = ['from', 'to', 'kind', 'class', 'delay', 'by'];
  return csvText([header, ...edgeTable(g).map((e) => [e.from, e.to, e.kind, e.class, e.delay, e.by])]);
}
