import type { AuditResult, Finding } from '../audit/finding.js';
import type { FindingChange } from '../audit/compare.js';
import { oneLine } from './one-line.js';
import { ruleName } from './rule-name.js';
import { canonicalJson } from '../project/canonical.js';

/** The audit as text for a terminal: the gate, what it found (what is new since a baseline is marked), the measures. */
export function auditText(result: AuditResult, since?: FindingChange): string {
  const { summary: s, metrics: m } = result;
  const added = since && new Set(since.added);
  const lines = [
    `${result.project}: gate ${result.gate === 'stop' ? 'STOPPED' : 'passed'}`,
    `${count(s.error, 'error')}, ${count(s.warning, 'warning')}, ${count(s.info, 'note')}, ${s.waived} waived`,
    ...rehearsalLines(result),
    '',
    ...(since ? [`since the baseline: ${since.added.length} new, ${since.gone.length} gone`, ''] : []),
    ...result.findings.flatMap((f) => findingLines(f, added?.has(f) ? ' [new]' : '')),
    ...(result.findings.length > 0 ? [''] : []),
    `${count(m.assets, 'asset')}, ${count(m.instances, 'instance')}, ${count(m.bindings, 'binding')} ` +
      `(${m.expandedBindings} expanded), longest chain ${m.longestChain}, widest fan-out ${m.widestFanOut}, ` +
      count(m.cycles, 'cycle'),
  ];
  return lines.map(oneLine).join('\n') + '\n';
}

function rehearsalLines({ rehearsals }: AuditResult): string[] {
  if (!rehearsals) return [];
  const { run, failed } = rehearsals;
  if (failed.length === 0) return [`${count(run, 'rehearsal')} passed`];
  return [`${failed.length} of ${count(run, 'rehearsal')} failed: ${failed.join(', ')}`];
}

function findingLines(f: Finding, mark: string): string[] {
  const rule = ruleName(f);
  const level = f.severity === 'info' ? 'note' : f.severity;
  const places = f.occurrences.length > 1 ? ` (${f.occurrences.length} places)` : '';
  const waived = f.waived ? ' [waived]' : '';
  return [
    `${level.padEnd(8)}${rule}${mark}${waived}: ${f.message}${places}`,
    `        ${f.fingerprint} ${canonicalJson(f.subject)}`,
  ];
}
function count(n: number, what: string): string {
  return `${n} ${what}${n === 1 ? '' : 's'}`;
}
